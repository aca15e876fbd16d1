package workshop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/core/shape"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/workshop"
)

func rack(places int, upTo float64) workshop.Rack {
	r := workshop.Rack{Name: "Rack", Places: places}
	if upTo > 0 {
		r.LongestMm = new(measure.Length(upTo))
	}
	return r
}

func square(side float64) craft.Blank {
	return craft.Blank{Shape: shape.Shape{Kind: shape.Rectangle, Width: measure.Length(side), Height: measure.Length(side)}}
}

func TestARackTakesPiecesOfItsSize(t *testing.T) {
	w := workshop.Workshop{Racks: []workshop.Rack{rack(10, 0), rack(20, 100), rack(6, 200), rack(2, 100)}}
	assert.Equal(t, 38, w.RackPlaces())
	for side, places := range map[float64]int{90: 20, 100: 20, 101: 10, 200: 10, 300: 10} {
		assert.Equal(t, places, w.LargestRack(square(side)), "%g mm", side)
	}
	assert.Equal(t, []workshop.RackClass{{Over: 0, Places: 38}, {Over: 100, Places: 16}, {Over: 200, Places: 10}}, w.RackClasses())
	bottle := craft.Blank{Shape: shape.Shape{Kind: shape.Cylinder, Diameter: 80, Height: 240}}
	assert.Equal(t, 10, w.LargestRack(bottle), "what stands is as long as it is high, not as its wall is laid flat")
}

// Of every class no more than it has: then, and only then, each piece finds a
// place on a rack that takes it, the largest first.
func TestRackClassesSayWhetherPiecesFindRoom(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		sizes := rapid.SampledFrom([]float64{0, 50, 100, 150})
		var w workshop.Workshop
		for range rapid.IntRange(1, 4).Draw(t, "racks") {
			w.Racks = append(w.Racks, rack(rapid.IntRange(1, 3).Draw(t, "places"), sizes.Draw(t, "up to")))
		}
		pieces := rapid.SliceOfN(rapid.IntRange(10, 180), 0, 8).Draw(t, "pieces")
		counted := true
		for _, c := range w.RackClasses() {
			out := 0
			for _, p := range pieces {
				if measure.Length(p) > c.Over {
					out++
				}
			}
			counted = counted && out <= c.Places
		}
		assert.Equal(t, placed(w.Racks, pieces), counted)
	})
}

// placed tries every way to lay pieces on racks.
func placed(racks []workshop.Rack, pieces []int) bool {
	if len(pieces) == 0 {
		return true
	}
	for i := range racks {
		r := &racks[i]
		if r.Places == 0 || r.LongestMm != nil && measure.Length(pieces[0]) > *r.LongestMm {
			continue
		}
		r.Places--
		ok := placed(racks, pieces[1:])
		r.Places++
		if ok {
			return true
		}
	}
	return false
}

func TestALotFitsTheRacksOfItsSizeAndTheTurner(t *testing.T) {
	w := workshop.Workshop{SittingMinutes: 300, People: []workshop.Person{{Hours: []calendar.Hours{{FromMinute: 540, ToMinute: 900}}}}, Racks: []workshop.Rack{rack(10, 0), rack(20, 100)}}
	recipe := craft.Recipe{Steps: []craft.Step{{ID: "seal", Do: craft.Seal, MinutesPerPiece: 1, Rest: &craft.Rest{Floor: 60, Usual: 60, Rack: 2}}}}
	assert.Equal(t, 10, w.LotSize(recipe, square(90)), "one rack holds all of it")
	assert.Equal(t, 5, w.LotSize(recipe, square(120)))
	recipe.Steps[0].Rest.Turner = true
	assert.Equal(t, 0, w.LotSize(recipe, square(90)), "there is no turner where nobody has said so")
	w.Machines = []workshop.Machine{{Machine: craft.Turner, Count: 6}}
	assert.Equal(t, 6, w.LotSize(recipe, square(90)), "a spindle each, and no place on the rack")
	assert.Equal(t, 1, w.CountOf(craft.HeatPress))
}

func TestPeopleHaveTheirPaceAndLeaveWorkToOthers(t *testing.T) {
	spray := craft.Step{ID: "a", Do: craft.Seal, With: craft.SprayAcrylic}
	p := workshop.Person{PacePercent: 150, Leaves: []craft.Stage{craft.Spraying}}
	assert.False(t, p.Does(spray))
	assert.True(t, p.Does(craft.Step{ID: "a", Do: craft.Seal, With: craft.VarnishWater}))
	assert.False(t, p.Does(craft.Step{ID: "a", Do: craft.Trim, Parts: []craft.Part{{Do: craft.Trim}, {Do: craft.SpraySealPrint}}}), "nor where a part of it is")
	assert.Equal(t, 17, p.MinutesFor(11))
	assert.Equal(t, 11, workshop.Person{}.MinutesFor(11))
	assert.Equal(t, []craft.Stage{craft.Finishing}, craft.Step{Do: craft.Handwork}.Stages())
}

func TestRacksMachinesAndTimesAreKept(t *testing.T) {
	a, ctx := area(t), t.Context()
	w, err := a.Get(ctx)
	require.NoError(t, err)
	assert.Equal(t, 48, w.RackPlaces(), "a new studio has one rack")
	require.Len(t, w.Machines, 4)
	w.People = []workshop.Person{{Name: "Maren", PacePercent: 120, Leaves: []craft.Stage{craft.Printing}}}
	w.Racks = []workshop.Rack{rack(5, 100), rack(7, 0)}
	w.Machines[0].Hours = []calendar.Hours{{Weekday: 2, FromMinute: 540, ToMinute: 600}}
	w.Machines[3].Count = 6
	w.Preferences = []workshop.Preference{{Stage: craft.Spraying, ToMinute: 960}, {Stage: craft.Laying, LastMinutes: 120, ToMinute: 1440}}
	w.ColdNights = true
	saved, err := a.Save(ctx, w)
	require.NoError(t, err)
	again, err := a.Save(ctx, saved)
	require.NoError(t, err, "a second time as well")
	assert.Equal(t, w.Machines, again.Machines)
	assert.True(t, again.ColdNights)
	assert.Equal(t, 120, again.People[0].PacePercent)
	assert.Equal(t, []craft.Stage{craft.Printing}, again.People[0].Leaves)
	require.Len(t, again.Racks, 2)
	assert.Equal(t, w.Racks[0].LongestMm, again.Racks[0].LongestMm)
	require.Len(t, again.Preferences, 2)
	assert.Equal(t, 120, again.Preferences[1].LastMinutes)

	for at, spoil := range map[string]func(*workshop.Workshop){
		"racks":         func(w *workshop.Workshop) { w.Racks = nil },
		"racks[0].name": func(w *workshop.Workshop) { w.Racks = []workshop.Rack{{Name: " ", Places: 3}} },
		"machines[1].machine": func(w *workshop.Workshop) {
			w.Machines = []workshop.Machine{{Machine: craft.Turner}, {Machine: craft.Turner}}
		},
		"machines[0].hours[0].toMinute": func(w *workshop.Workshop) {
			w.Machines = []workshop.Machine{{Machine: craft.Turner, Hours: []calendar.Hours{{FromMinute: 60, ToMinute: 60}}}}
		},
		"preferences[0].toMinute": func(w *workshop.Workshop) {
			w.Preferences = []workshop.Preference{{Stage: craft.Spraying, FromMinute: 60, ToMinute: 60}}
		},
	} {
		bad := again
		spoil(&bad)
		_, err := a.Save(ctx, bad)
		assert.Equal(t, at, housetest.AtFault(t, err))
	}
}
