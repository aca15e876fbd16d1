package craft

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"tidykiln/core/fault"
	"tidykiln/core/measure"
	"tidykiln/core/shape"
)

// Edit is a change to a recipe: to the steps that it names, or a building
// block that it brings in. The choices where practitioners differ, the offers
// of the troubles guide and the strip all say what they do in it.
type Edit struct {
	// Step names one step by its ID, Do every step of a kind (with Last only the
	// last of them); neither, every step.
	Step string `json:"step,omitempty" maxLength:"60"`
	Do   Do     `json:"do,omitempty"`
	Last bool   `json:"last,omitempty"`
	// Check is added to the checklist.
	Check string `json:"check,omitempty" maxLength:"200"`
	// ToFloor rests only as long as the floor, UsualMinutes at least so long,
	// Lengthen so many times as long, to the quarter of an hour; none beyond the ceiling.
	ToFloor      bool    `json:"toFloor,omitempty"`
	UsualMinutes int     `json:"usualMinutes,omitempty" minimum:"0" maximum:"100000"`
	Lengthen     float64 `json:"lengthen,omitempty" minimum:"0" maximum:"10"`
	// With is what seal coats are made with instead, Material what they then
	// take (left out: the medium of the lay).
	With     With   `json:"with,omitempty"`
	Material string `json:"material,omitempty" maxLength:"60"`
	// MarginMm is left round the picture, and takes its medium too.
	MarginMm float64 `json:"marginMm,omitempty" minimum:"0" maximum:"100"`
	// Drop takes the steps out; Instead names the blocks that come in their place.
	Drop    bool     `json:"drop,omitempty"`
	Instead []string `json:"instead,omitempty" maxItems:"10"`
	// Move puts the step a place earlier (-1) or later (1), with what is done inside its rest.
	Move int `json:"move,omitempty" minimum:"-1" maximum:"1"`
	// Add names a block put after the Step, before the first step of a kind,
	// after the last of one, or between any two of one, where it is not there yet;
	// with none of these, before the last step.
	Add     string `json:"add,omitempty" maxLength:"60"`
	Before  Do     `json:"before,omitempty"`
	After   Do     `json:"after,omitempty"`
	Between Do     `json:"between,omitempty"`
	// On are the surfaces that it is added on (none are all), Unless the kind of
	// step that stands in its stead.
	On     []Surface `json:"on,omitempty" maxItems:"40"`
	Unless Do        `json:"unless,omitempty"`
}

// Edited is the recipe with an edit made, and what has changed in words; no
// words where the recipe has no step that would change, or has it already. The
// recipe is not validated. Refuses a step or a block that is not known, and to
// leave no step.
func (r Recipe) Edited(e Edit, ask Ask) (Recipe, []string, error) {
	r.Steps = slices.Clone(r.Steps)
	if e.Step != "" && r.index(e.Step) < 0 {
		return r, nil, fault.At("step", "%q is not a step of this recipe", e.Step)
	}
	for _, key := range append(slices.Clone(e.Instead), e.Add) {
		if _, known := BlockByKey(key); key != "" && !known {
			return r, nil, fault.At("add", "%q is not a building block known here", key)
		}
	}
	switch {
	case e.Add != "":
		return r, r.bringIn(e, ask), nil
	case e.Drop && len(e.Instead) == 0 && len(e.steps(r)) == len(r.Steps):
		return r, nil, fault.At("step", "a recipe keeps one step: add another first")
	case e.Drop:
		return r, r.drop(e, ask), nil
	case e.Move != 0:
		return r, r.move(e), nil
	}
	return r, r.alter(e, ask), nil
}

func (r Recipe) index(id string) int {
	return slices.IndexFunc(r.Steps, func(s Step) bool { return s.ID == id })
}

// steps are the places of the steps that the edit names.
func (e Edit) steps(r Recipe) (at []int) {
	for i, s := range r.Steps {
		if (e.Step == "" || s.ID == e.Step) && (e.Do == "" || s.Do == e.Do) {
			at = append(at, i)
		}
	}
	if e.Last && len(at) > 0 {
		return at[len(at)-1:]
	}
	return at
}

func (r *Recipe) alter(e Edit, ask Ask) (words []string) {
	medium := r.layMedium()
	for _, i := range e.steps(*r) {
		s := &r.Steps[i]
		s.Uses = slices.Clone(s.Uses)
		if e.Check != "" && !slices.Contains(s.Checklist, e.Check) {
			s.Checklist = append(slices.Clone(s.Checklist), e.Check)
			words = append(words, fmt.Sprintf("“%s” gets a point on its checklist: %s", s.Name, e.Check))
		}
		if e.With != "" {
			if s.With != e.With {
				words = append(words, fmt.Sprintf("“%s” is done with %s", s.Name, strings.ReplaceAll(string(e.With), "-", " ")))
			}
			s.sealWith(e.With, cmp.Or(e.Material, medium), ask)
		}
		if s.leaveMargin(measure.Length(e.MarginMm)) {
			words = append(words, fmt.Sprintf("“%s” takes a margin of %g mm round the picture", s.Name, e.MarginMm))
		}
		if was, changed := s.restAs(e); changed {
			words = append(words, fmt.Sprintf("the usual rest after “%s” goes from %s to %s", s.Name, measure.Duration(was), measure.Duration(s.Rest.Usual)))
		}
	}
	return words
}

func (s *Step) leaveMargin(margin measure.Length) (changed bool) {
	for k, u := range s.Uses {
		round := u.Per == PerSheet || u.Per == PerCoat && slices.Contains(u.Faces, shape.Picture)
		if margin > 0 && round && u.Margin != margin {
			s.Uses[k].Margin = margin
			changed = true
		}
	}
	return changed
}

// restAs gives the step the usual rest that the edit asks for, and tells what it was.
func (s *Step) restAs(e Edit) (was int, changed bool) {
	if s.Rest == nil {
		return 0, false
	}
	rest := *s.Rest
	if e.ToFloor {
		rest.Usual = rest.Floor
	}
	rest.Usual = max(rest.Usual, e.UsualMinutes)
	if e.Lengthen > 0 {
		rest.Usual = int(math.Ceil(float64(rest.Usual)*e.Lengthen/15)) * 15
	}
	if rest.Ceiling != nil && (e.ToFloor || e.UsualMinutes > 0 || e.Lengthen > 0) {
		rest.Usual = min(rest.Usual, *rest.Ceiling)
	}
	was, s.Rest = s.Rest.Usual, &rest
	return was, was != rest.Usual
}

// drop takes the steps out. What was done inside their rests comes out of them and follows on its own.
func (r *Recipe) drop(e Edit, ask Ask) (words []string) {
	at := e.steps(*r)
	if len(at) == 0 {
		return nil
	}
	for _, i := range slices.Backward(at) {
		gone := r.Steps[i]
		words = append(words, fmt.Sprintf("“%s” is left out", gone.Name))
		r.Steps = slices.Delete(r.Steps, i, i+1)
		for k := range r.Steps {
			if r.Steps[k].Inside == gone.ID {
				r.Steps[k].Inside = ""
			}
		}
	}
	for i, key := range e.Instead {
		words = append(words, r.put(key, at[0]+i, ask))
	}
	slices.Reverse(words[:len(at)])
	return words
}

// put puts a block at a place, and says so.
func (r *Recipe) put(key string, at int, ask Ask) string {
	block, _ := BlockByKey(key)
	step := block.For(ask)
	step.ID = r.FreeID(step.ID)
	r.Steps = slices.Insert(r.Steps, at, step)
	where := "before the first step"
	if at > 0 {
		where = fmt.Sprintf("after “%s”", r.Steps[at-1].Name)
	}
	return fmt.Sprintf("a step “%s” comes %s", step.Name, where)
}

func (r *Recipe) bringIn(e Edit, ask Ask) (words []string) {
	is := func(d Do) func(Step) bool { return func(s Step) bool { return s.Do == d } }
	if len(e.On) > 0 && !slices.Contains(e.On, ask.Blank.Surface) || e.Unless != "" && slices.ContainsFunc(r.Steps, is(e.Unless)) {
		return nil
	}
	for _, at := range slices.Backward(e.places(*r)) {
		words = append(words, r.put(e.Add, at, ask))
	}
	slices.Reverse(words)
	return words
}

// places are where the block comes, in the recipe's order.
func (e Edit) places(r Recipe) (at []int) {
	block, _ := BlockByKey(e.Add)
	has := func(steps []Step, d Do) bool {
		return slices.ContainsFunc(steps, func(s Step) bool { return s.Do == d })
	}
	switch {
	case e.Step != "":
		return []int{r.index(e.Step) + 1}
	case e.Between != "":
		for i := 1; i < len(r.Steps); i++ {
			if r.Steps[i-1].Do == e.Between && r.Steps[i].Do == e.Between {
				at = append(at, i)
			}
		}
	case e.After != "":
		for i, s := range slices.Backward(r.Steps) {
			if s.Do == e.After && !has(r.Steps[i+1:], block.Do) {
				return []int{i + 1}
			}
			if s.Do == e.After {
				return nil
			}
		}
	case e.Before != "":
		i := slices.IndexFunc(r.Steps, func(s Step) bool { return s.Do == e.Before })
		if i >= 0 && !has(r.Steps, block.Do) {
			return []int{i}
		}
	default:
		return []int{max(0, len(r.Steps)-1)}
	}
	return at
}

// move puts the step that the edit names a place earlier or later. Steps inside
// a rest stay among those of the same rest, and go where its step goes.
func (r *Recipe) move(e Edit) []string {
	at := r.index(e.Step)
	if at < 0 {
		return nil
	}
	moved := r.Steps[at]
	var groups [][]Step
	for _, s := range r.Steps {
		if s.Inside != "" && len(groups) > 0 {
			groups[len(groups)-1] = append(groups[len(groups)-1], s)
			continue
		}
		groups = append(groups, []Step{s})
	}
	same := func(s Step) bool { return s.ID == moved.ID }
	g := slices.IndexFunc(groups, func(group []Step) bool { return slices.ContainsFunc(group, same) })
	k := slices.IndexFunc(groups[g], same)
	switch {
	case k > 0 && k+e.Move > 0 && k+e.Move < len(groups[g]):
		groups[g][k], groups[g][k+e.Move] = groups[g][k+e.Move], groups[g][k]
	case k == 0 && g+e.Move >= 0 && g+e.Move < len(groups):
		groups[g], groups[g+e.Move] = groups[g+e.Move], groups[g]
	default:
		return nil
	}
	r.Steps = slices.Concat(groups...)
	way := "later"
	if e.Move < 0 {
		way = "earlier"
	}
	return []string{fmt.Sprintf("“%s” comes %s", moved.Name, way)}
}

// FreeID is an ID that no step of the recipe has, made from a wish.
func (r Recipe) FreeID(wish string) string {
	id := wish
	for n := 2; r.index(id) >= 0; n++ {
		id = fmt.Sprintf("%s-%d", wish, n)
	}
	return id
}
