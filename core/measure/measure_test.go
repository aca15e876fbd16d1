package measure_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/measure"
)

func TestParseLengthReadsWhatPeopleType(t *testing.T) {
	for text, want := range map[string]float64{
		"9.5 cm": 95, "9,5cm": 95, "95": 95, " 95 mm ": 95, "0.5 m": 500,
		"3 3/4 in": 95.25, `3 3/4"`: 95.25, "½ in": 12.7, "3½ in": 88.9, "3/8″": 9.525, "1 ft": 304.8, "1 1/4 in": 31.75, "9.5 cm.": 95,
	} {
		got, err := measure.ParseLength(text, measure.Metric)
		require.NoError(t, err, text)
		assert.InDelta(t, want, float64(got), 1e-9, text)
	}
	got, err := measure.ParseLength("4", measure.US)
	require.NoError(t, err)
	assert.InDelta(t, 101.6, float64(got), 1e-9)
}

func TestParseLengthRefuses(t *testing.T) {
	for _, text := range []string{"", "  ", "cm", "-3 cm", "3 1/0 in", "3/4/5 in", "1 2 3 mm", "3 4 in", "9 cubits", "1e9 mm", "NaN", "1.2.3 mm", "3 ml",
		"9999999999999999999999999999999999999999999999999 m"} {
		_, err := measure.ParseLength(text, measure.Metric)
		assert.Error(t, err, text)
	}
}

func TestParseVolumeAndMass(t *testing.T) {
	v, err := measure.ParseVolume("½ fl oz", measure.Metric)
	require.NoError(t, err)
	assert.InDelta(t, 14.78676478125, float64(v), 1e-9)
	v, err = measure.ParseVolume("20 cm3", measure.Metric)
	require.NoError(t, err)
	assert.InDelta(t, 20, float64(v), 1e-9)
	v, err = measure.ParseVolume("2", measure.US)
	require.NoError(t, err)
	assert.InDelta(t, 59.147059125, float64(v), 1e-9)
	for text, want := range map[string]float64{"8 fl. oz": 8 * 29.5735295625, "8 fl oz.": 8 * 29.5735295625, "0 1/2 l": 500, "1,5 l": 1500, "2 300 ml": 2300} {
		v, err = measure.ParseVolume(text, measure.Metric)
		require.NoError(t, err, text)
		assert.InDelta(t, want, float64(v), 1e-9, text)
	}
	_, err = measure.ParseVolume("2,300 ml", measure.Metric)
	assert.ErrorContains(t, err, "could be 2300 or 2.3")
	m, err := measure.ParseMass("1 1/2 lb", measure.Metric)
	require.NoError(t, err)
	assert.InDelta(t, 680.388555, float64(m), 1e-9)
	m, err = measure.ParseMass("2", measure.US)
	require.NoError(t, err)
	assert.InDelta(t, 56.69904625, float64(m), 1e-9)
}

func TestFormat(t *testing.T) {
	assert.Equal(t, "95 mm", measure.Length(95).Format(measure.Metric))
	assert.Equal(t, "1.25 m", measure.Length(1250).Format(measure.Metric))
	assert.Equal(t, "3 3/4 in", measure.Length(95.25).Format(measure.US))
	assert.Equal(t, "4 in", measure.Length(101.6).Format(measure.US))
	assert.Equal(t, "1/2 in", measure.Length(12.7).Format(measure.US))
	assert.Equal(t, "7.2 ml", measure.Volume(7.21).Format(measure.Metric))
	assert.Equal(t, "0.5 fl oz", measure.Volume(14.786).Format(measure.US))
	assert.Equal(t, "120 g", measure.Mass(120).Format(measure.Metric))
	assert.Equal(t, "2 oz", measure.Mass(56.699).Format(measure.US))
}

func TestMetricLengthsComeBackAsWritten(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := measure.Length(float64(rapid.IntRange(1, 9999).Draw(t, "tenths")) / 10)
		back, err := measure.ParseLength(l.Format(measure.Metric), measure.Metric)
		require.NoError(t, err)
		assert.InDelta(t, float64(l), float64(back), 5, "two decimals of a metre are kept")
	})
}

func TestCoatVolumeOfATile(t *testing.T) {
	// A 101.6 mm square tile under 0.70 mm takes 7.2 ml, so half a fluid ounce does two.
	tile := measure.Area(101.6 * 101.6)
	one := measure.CoatVolume(tile, 0.70, 0)
	assert.InDelta(t, 7.2, float64(one), 0.05)
	half, err := measure.ParseVolume("1/2 fl oz", measure.Metric)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, float64(half), 2*float64(one))
	assert.InDelta(t, float64(one)*1.03, float64(measure.CoatVolume(tile, 0.70, 0.03)), 1e-9)
	assert.InDelta(t, 103.2256, tile.CM2(), 1e-9)
}

func TestInchesComeBackToTheNearestSixteenth(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := measure.Length(rapid.Float64Range(1, 2500).Draw(t, "mm"))
		back, err := measure.ParseLength(l.Format(measure.US), measure.Metric)
		require.NoError(t, err)
		assert.InDelta(t, float64(l), float64(back), 25.4/32+1e-9)
	})
}
