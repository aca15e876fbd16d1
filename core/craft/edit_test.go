package craft_test

import (
	"strings"
	"testing"

	"tidykiln/core/fault"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/craft"
)

// stripOf is a recipe of steps by their IDs; "sides<lay" is done inside the rest after lay.
func stripOf(steps string) (r craft.Recipe) {
	for _, s := range strings.Fields(steps) {
		id, inside, _ := strings.Cut(s, "<")
		r.Steps = append(r.Steps, craft.Step{ID: id, Name: id, Inside: inside})
	}
	return r
}

func stripped(r craft.Recipe) string {
	var ids []string
	for _, s := range r.Steps {
		if s.Inside != "" {
			s.ID += "<" + s.Inside
		}
		ids = append(ids, s.ID)
	}
	return strings.Join(ids, " ")
}

func TestTheStripIsEdited(t *testing.T) {
	const whole = "sand lay sides<lay feet<lay pack"
	for name, c := range map[string]struct {
		edit  craft.Edit
		is    string
		words []string
	}{
		"later, with what is inside its rest":   {craft.Edit{Step: "lay", Move: 1}, "sand pack lay sides<lay feet<lay", []string{"“lay” comes later"}},
		"earlier, with what is inside its rest": {craft.Edit{Step: "lay", Move: -1}, "lay sides<lay feet<lay sand pack", []string{"“lay” comes earlier"}},
		"around a step with others inside":      {craft.Edit{Step: "pack", Move: -1}, "sand pack lay sides<lay feet<lay", []string{"“pack” comes earlier"}},
		"an inside step stays inside":           {craft.Edit{Step: "feet", Move: -1}, "sand lay feet<lay sides<lay pack", []string{"“feet” comes earlier"}},
		"not out of its rest at the front":      {craft.Edit{Step: "sides", Move: -1}, whole, nil},
		"not out of its rest at the back":       {craft.Edit{Step: "feet", Move: 1}, whole, nil},
		"not before the first":                  {craft.Edit{Step: "sand", Move: -1}, whole, nil},
		"not after the last":                    {craft.Edit{Step: "pack", Move: 1}, whole, nil},
		"out, and what was inside follows":      {craft.Edit{Step: "lay", Drop: true}, "sand sides feet pack", []string{"“lay” is left out"}},
		"a block after a step":                  {craft.Edit{Step: "sand", Add: "base"}, "sand base lay sides<lay feet<lay pack", []string{"a step “Base coat” comes after “sand”"}},
		"a block before the last step":          {craft.Edit{Add: "base"}, "sand lay sides<lay feet<lay base pack", []string{"a step “Base coat” comes after “feet”"}},
		"a block has an ID of its own":          {craft.Edit{Step: "pack", Add: "pack"}, whole + " pack-2", []string{"a step “Pack” comes after “pack”"}},
	} {
		t.Run(name, func(t *testing.T) {
			before := stripOf(whole)
			after, words, err := before.Edited(c.edit, craft.Ask{Blank: slice, Material: "x"})
			require.NoError(t, err)
			assert.Equal(t, c.is, stripped(after))
			assert.Equal(t, c.words, words)
			assert.Equal(t, whole, stripped(before), "what was there is left as it was")
		})
	}
}

func TestAnEditThatCannotBeMadeIsRefused(t *testing.T) {
	for _, c := range []struct {
		edit craft.Edit
		at   string
	}{
		{craft.Edit{Step: "glaze", Drop: true}, "step"},
		{craft.Edit{Add: "mud"}, "add"},
		{craft.Edit{Drop: true}, "step"},
	} {
		_, _, err := stripOf("sand lay").Edited(c.edit, craft.Ask{Blank: slice})
		assert.Equal(t, c.at, fault.Of(err).Path)
	}
	_, _, err := stripOf("sand").Edited(craft.Edit{Step: "sand", Drop: true}, craft.Ask{Blank: slice})
	assert.ErrorContains(t, err, "a recipe keeps one step")
}
