package craft

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"tidykiln/core/measure"
)

// Trouble is a sign that something went wrong, with its likely cause, what to
// do now, and what to do next time.
type Trouble struct {
	Key    string        `json:"key"`
	Sign   string        `json:"sign"`
	Cause  string        `json:"cause"`
	Now    string        `json:"now"`
	Next   string        `json:"next"`
	Change TroubleChange `json:"change"`
}

// TroubleChange is what a recipe does differently next time.
type TroubleChange struct {
	// Do names the steps that change: all of them, or only the last.
	Do   Do   `json:"do,omitempty"`
	Last bool `json:"last,omitempty"`
	// Lengthen multiplies the usual rest, Check is added to the checklist, With
	// and Material replace what a seal coat is made with.
	Lengthen float64 `json:"lengthen,omitempty"`
	Check    string  `json:"check,omitempty"`
	With     With    `json:"with,omitempty"`
	Material string  `json:"material,omitempty"`
	// Add names a building block put Before, After or Between steps of a kind,
	// where it is not there yet.
	Add     string `json:"add,omitempty"`
	Before  Do     `json:"before,omitempty"`
	After   Do     `json:"after,omitempty"`
	Between Do     `json:"between,omitempty"`
	// On are the surfaces that it can be added on; none are all.
	On []Surface `json:"on,omitempty"`
}

// Troubles lists the signs in the order of the guide.
func Troubles() []Trouble { return slices.Clone(library.troubles) }

// TroubleByKey finds a sign.
func TroubleByKey(key string) (Trouble, bool) {
	i := slices.IndexFunc(library.troubles, func(t Trouble) bool { return t.Key == key })
	if i < 0 {
		return Trouble{}, false
	}
	return library.troubles[i], true
}

// Offer is the recipe as it would be next time, and what changes in words;
// empty words when the recipe has no step that would change, or has it already.
func (t Trouble) Offer(r Recipe, ask Ask) (Recipe, string) {
	changed := r
	changed.Steps = slices.Clone(r.Steps)
	var words []string
	if t.Change.Add != "" {
		if said := t.Change.add(&changed, ask); said != "" {
			return changed, said
		}
	}
	if t.Change.Do == "" {
		return r, ""
	}
	steps := t.Change.steps(changed)
	for _, i := range steps {
		if said := t.Change.alter(&changed.Steps[i], ask); said != "" {
			words = append(words, said)
		}
	}
	if len(words) == 0 || changed.Validate() != nil {
		return r, ""
	}
	return changed, strings.Join(words, "; ")
}

func (c TroubleChange) steps(r Recipe) (at []int) {
	for i, s := range r.Steps {
		if s.Do == c.Do {
			at = append(at, i)
		}
	}
	if c.Last && len(at) > 0 {
		return at[len(at)-1:]
	}
	return at
}

func (c TroubleChange) alter(s *Step, ask Ask) string {
	switch {
	case c.Lengthen > 0 && s.Rest != nil:
		rest := *s.Rest
		rest.Usual = int(math.Ceil(float64(rest.Usual)*c.Lengthen/15)) * 15
		if rest.Ceiling != nil {
			rest.Usual = min(rest.Usual, *rest.Ceiling)
		}
		if rest.Usual == s.Rest.Usual {
			return ""
		}
		was := s.Rest.Usual
		s.Rest = &rest
		return fmt.Sprintf("the usual rest after “%s” goes from %s to %s", s.Name, measure.Duration(was), measure.Duration(rest.Usual))
	case c.Check != "" && !slices.Contains(s.Checklist, c.Check):
		s.Checklist = append(slices.Clone(s.Checklist), c.Check)
		return fmt.Sprintf("“%s” gets a point on its checklist: %s", s.Name, c.Check)
	case c.With != "" && s.With != c.With:
		s.Uses = slices.Clone(s.Uses)
		s.sealWith(c.With, c.Material, ask)
		return fmt.Sprintf("“%s” is done with %s", s.Name, strings.ReplaceAll(string(c.With), "-", " "))
	}
	return ""
}

// add puts the block in its place, unless the recipe has such a step there.
func (c TroubleChange) add(r *Recipe, ask Ask) string {
	block, _ := BlockByKey(c.Add)
	at := c.place(*r, block.Do)
	if at < 0 || len(c.On) > 0 && !slices.Contains(c.On, ask.Blank.Surface) || slices.ContainsFunc(r.Steps, func(s Step) bool { return block.Do == PaintBase && s.Do == SprayGround }) {
		return ""
	}
	step := block.For(ask)
	step.ID = r.FreeID(step.ID)
	r.Steps = slices.Insert(r.Steps, at, step)
	if r.Validate() != nil {
		return ""
	}
	where := "before the first step"
	if at > 0 {
		where = fmt.Sprintf("after “%s”", r.Steps[at-1].Name)
	}
	return fmt.Sprintf("a step “%s” comes %s", step.Name, where)
}

func (c TroubleChange) place(r Recipe, added Do) int {
	is := func(d Do) func(Step) bool { return func(s Step) bool { return s.Do == d } }
	switch {
	case c.Between != "":
		for i := 1; i < len(r.Steps); i++ {
			if r.Steps[i-1].Do == c.Between && r.Steps[i].Do == c.Between {
				return i
			}
		}
	case c.After != "":
		for i := len(r.Steps) - 1; i >= 0; i-- {
			if r.Steps[i].Do == c.After {
				if slices.ContainsFunc(r.Steps[i:], is(added)) {
					return -1
				}
				return i + 1
			}
		}
	case added == InkBack:
		// One more coat after those that are there.
		for i := len(r.Steps) - 1; i >= 0; i-- {
			if r.Steps[i].Do == added {
				return i + 1
			}
		}
	case !slices.ContainsFunc(r.Steps, is(added)):
		return slices.IndexFunc(r.Steps, is(c.Before))
	}
	return -1
}

// FreeID is an ID that no step of the recipe has, made from a wish.
func (r Recipe) FreeID(wish string) string {
	taken := func(id string) bool { return slices.ContainsFunc(r.Steps, func(s Step) bool { return s.ID == id }) }
	id := wish
	for n := 2; taken(id); n++ {
		id = fmt.Sprintf("%s-%d", wish, n)
	}
	return id
}
