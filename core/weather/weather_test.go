package weather_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"tidykiln/core/craft"
	"tidykiln/core/weather"
)

func TestVapourPressureDeficitAgreesWithTables(t *testing.T) {
	// Saturation pressure over water: 2.338 kPa at 20 °C, 1.228 at 10 °C (steam tables).
	assert.InDelta(t, 2.338, weather.Air{Celsius: 20}.VPD(), 0.003)
	assert.InDelta(t, 1.228, weather.Air{Celsius: 10}.VPD(), 0.003)
	assert.InDelta(t, 1.2434, weather.Reference.VPD(), 0.0005)
}

func TestColdAndDampSlowWhatTheyShould(t *testing.T) {
	for _, c := range []struct {
		air    weather.Air
		kind   craft.RestKind
		factor float64
	}{
		{weather.Reference, craft.Dry, 1},
		{weather.Reference, craft.Cure, 1},
		{weather.Air{Celsius: 21, Humidity: 0.75}, craft.Dry, 2},
		{weather.Air{Celsius: 21, Humidity: 1}, craft.Dry, 4},
		{weather.Air{Celsius: 11, Humidity: 0.5}, craft.Cure, 2},
		{weather.Air{Celsius: -20, Humidity: 0.5}, craft.Cure, 4},
		{weather.Air{Celsius: 30, Humidity: 0.2}, craft.Dry, 1},
		{weather.Air{Celsius: 30, Humidity: 0.2}, craft.Cure, 1},
		{weather.Air{Celsius: 5, Humidity: 0.95}, craft.Soak, 1},
		{weather.Air{Celsius: 5, Humidity: 0.95}, craft.Cool, 1},
	} {
		assert.InDelta(t, c.factor, c.air.Slows(c.kind), 1e-9, "%v %s", c.air, c.kind)
	}
}

func TestFloorAndUsualAreLengthenedAlike(t *testing.T) {
	ceiling := 250
	damp := weather.Air{Celsius: 21, Humidity: 0.75}
	assert.Equal(t, craft.Rest{Kind: craft.Dry, Floor: 240, Usual: 360, Rack: 1}, damp.Stretch(craft.Step{Do: craft.Seal, Rest: &craft.Rest{Kind: craft.Dry, Floor: 120, Usual: 180, Rack: 1}}))
	assert.Equal(t, craft.Rest{Kind: craft.Dry, Floor: 240, Usual: 250, Ceiling: &ceiling}, damp.Stretch(craft.Step{Do: craft.Seal, Rest: &craft.Rest{Kind: craft.Dry, Floor: 120, Usual: 180, Ceiling: &ceiling}}))
}

func TestAirNeverShortensARest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		air := weather.Air{Celsius: rapid.Float64Range(-30, 60).Draw(t, "t"), Humidity: rapid.Float64Range(0, 1).Draw(t, "rh")}
		floor := rapid.IntRange(0, 5000).Draw(t, "floor")
		rest := craft.Rest{Kind: rapid.SampledFrom([]craft.RestKind{craft.Dry, craft.Cure, craft.Soak, craft.Cool}).Draw(t, "kind"), Floor: floor, Usual: floor + rapid.IntRange(0, 5000).Draw(t, "more")}
		slow := air.Stretch(craft.Step{Rest: &rest})
		assert.GreaterOrEqual(t, slow.Floor, rest.Floor)
		assert.GreaterOrEqual(t, slow.Usual, slow.Floor)
		assert.LessOrEqual(t, slow.Usual, 4*rest.Usual)
	})
}

func TestAWaterBasedFilmUnderAPrintBothDriesAndCures(t *testing.T) {
	lay := craft.Step{Do: craft.Lay, With: craft.Gel, Rest: &craft.Rest{Kind: craft.Cure, Floor: 480, Usual: 1080}}
	damp, cold := weather.Air{Celsius: 21, Humidity: 0.75}, weather.Air{Celsius: 11, Humidity: 0.1}
	assert.Equal(t, 960, damp.Stretch(lay).Floor, "damp air holds the water back, though curing does not mind")
	assert.Equal(t, 960, cold.Stretch(lay).Floor, "cold slows the curing, though dry air takes the water")
	oil := lay
	oil.With = craft.VarnishOil
	assert.Equal(t, 480, damp.Stretch(oil).Floor)
}

func TestALongRestGoesThroughTheHoursOfTheDay(t *testing.T) {
	// Twelve hours as they should be, and twelve at night that take twice as long to cure.
	day := slices.Concat(slices.Repeat([]weather.Air{weather.Reference}, 12), slices.Repeat([]weather.Air{{Celsius: 11, Humidity: 0.5}}, 12))
	cures := func(minutes int) int {
		return weather.Through(day, craft.Step{Rest: &craft.Rest{Kind: craft.Cure, Floor: minutes, Usual: minutes}}).Usual
	}
	assert.Equal(t, 2*60, cures(60), "whatever is short falls into the night")
	assert.Equal(t, 12*60, cures(6*60), "six hours take the whole of it")
	assert.Equal(t, 13*60, cures(7*60), "and then goes on by day")
	assert.Equal(t, 24*60, cures(18*60), "a day and a night do eighteen hours")
	assert.Equal(t, 3*24*60+2*60, cures(3*18*60+60), "of days, the mean, and what is over by night")
	assert.Equal(t, 300, weather.Through(nil, craft.Step{Rest: &craft.Rest{Kind: craft.Cure, Floor: 300, Usual: 300}}).Floor, "nobody has read an hour")

	ceiling := 100
	assert.Equal(t, 100, weather.Through(day, craft.Step{Rest: &craft.Rest{Kind: craft.Cure, Floor: 60, Usual: 60, Ceiling: &ceiling}}).Usual)
}

func TestADayOfOneAirIsThatAir(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		air := weather.Air{Celsius: rapid.Float64Range(-30, 60).Draw(t, "t"), Humidity: rapid.Float64Range(0, 1).Draw(t, "rh")}
		rest := craft.Rest{Kind: craft.Dry, Floor: rapid.IntRange(0, 5000).Draw(t, "floor"), Usual: 5000}
		day := slices.Repeat([]weather.Air{air}, rapid.IntRange(1, 24).Draw(t, "hours"))
		want, is := air.Stretch(craft.Step{Rest: &rest}), weather.Through(day, craft.Step{Rest: &rest})
		assert.InDelta(t, want.Floor, is.Floor, 1)
		assert.InDelta(t, want.Usual, is.Usual, 1)
	})
}
