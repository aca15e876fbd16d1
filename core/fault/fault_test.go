package fault_test

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"

	"tidykiln/core/fault"
)

func TestAPathGrowsAsStructuresAreJoined(t *testing.T) {
	rest := fault.At("usual", "must not be under %s: it is said so", "8 h")
	step := fault.Under("rest", rest)
	recipe := fault.Under("steps[2]", step)
	assert.Equal(t, &fault.Fault{Path: "steps[2].rest.usual", Message: "must not be under 8 h: it is said so"}, fault.Of(recipe))
	assert.EqualError(t, recipe, "steps[2].rest.usual: must not be under 8 h: it is said so")
	assert.Equal(t, "lots[1]", fault.Of(fault.Under("lots", fault.At("[1]", "too many"))).Path)
	assert.Equal(t, "lots", fault.Of(fault.Under("lots", fault.At("", "none"))).Path)
}

func TestWhatIsNoFaultIsOneOfTheWhole(t *testing.T) {
	assert.NoError(t, fault.Under("blank", nil))
	assert.NoError(t, fault.Renamed(nil, nil))
	whole := fault.Of(fault.Under("text", errors.New("field: is not what it seems")))
	assert.Equal(t, &fault.Fault{Path: "text", Message: "field: is not what it seems"}, whole, "nothing is read out of its text")
	assert.EqualError(t, fault.At("", "it is empty"), "it is empty")
}

func TestAFormNamesThingsItsOwnWay(t *testing.T) {
	names := map[string]string{"shape.widthMm": "width"}
	assert.Equal(t, "width", fault.Of(fault.Renamed(fault.At("shape.widthMm", "too wide"), names)).Path)
	assert.Equal(t, "tone", fault.Of(fault.Renamed(fault.At("tone", "which?"), names)).Path)
}
