package craft

import (
	"fmt"
	"reflect"
	"slices"
	"strconv"

	"tidykiln/core/measure"
)

// DiffersFrom says in words what is other in a recipe than in the one before
// it: steps added, left out and changed with their figures, then the whole.
func (r Recipe) DiffersFrom(before Recipe) (texts []string) {
	was := map[string]Step{}
	for _, s := range before.Steps {
		was[s.ID] = s
	}
	var kept []string
	for _, s := range r.Steps {
		old, known := was[s.ID]
		if !known {
			texts = append(texts, s.Name+" added")
			continue
		}
		kept = append(kept, s.ID)
		for _, change := range s.changesFrom(old) {
			texts = append(texts, s.Name+": "+change)
		}
	}
	var common []string
	for _, s := range before.Steps {
		if slices.Contains(kept, s.ID) {
			common = append(common, s.ID)
		} else {
			texts = append(texts, s.Name+" left out")
		}
	}
	if !slices.Equal(kept, common) {
		texts = append(texts, "the order of the steps")
	}
	if r.Look != before.Look {
		texts = append(texts, fmt.Sprintf("look %s, was %s", r.Look, before.Look))
	}
	if r.Sheen != before.Sheen {
		texts = append(texts, "how it is to shine")
	}
	if !reflect.DeepEqual(r.Choices, before.Choices) && len(r.Choices)+len(before.Choices) > 0 {
		texts = append(texts, "choices of method")
	}
	return texts
}

func (s Step) changesFrom(old Step) (changes []string) {
	figure := func(what string, now, was float64, unit string) {
		if now != was {
			changes = append(changes, fmt.Sprintf("%s %s%s, was %s", what, plain(now), unit, plain(was)))
		}
	}
	other := func(what string, now, was any) {
		if !same(now, was) {
			changes = append(changes, what)
		}
	}
	if s.Name != old.Name {
		changes = append(changes, "was called "+old.Name)
	}
	other("what it is done with", s.With, old.With)
	figure("set-up", s.SetupMinutes, old.SetupMinutes, " min")
	figure("a piece", s.MinutesPerPiece, old.MinutesPerPiece, " min")
	figure("come through", 100*s.Yield, 100*old.Yield, " %")
	changes = append(changes, restChanges(s.Rest, old.Rest)...)
	other("while what it is done", s.Inside, old.Inside)
	changes = append(changes, usesChanges(s.Uses, old.Uses)...)
	other("work bought in", s.Outside, old.Outside)
	other("what it has to itself", s.Holds, old.Holds)
	other("how pieces can come out", s.Outcomes, old.Outcomes)
	other("checklist", s.Checklist, old.Checklist)
	other("cautions", s.Cautions, old.Cautions)
	other("what the coat is", []any{s.Tone, s.CoversEdges, s.FoodSafe, s.Sheen}, []any{old.Tone, old.CoversEdges, old.FoodSafe, old.Sheen})
	return changes
}

// usesChanges says how thick coats are now where nothing else is other.
func usesChanges(now, was []Use) (films []string) {
	if same(now, was) {
		return nil
	}
	if len(now) != len(was) {
		return []string{"what it uses"}
	}
	for i, u := range now {
		if u.Film != was[i].Film {
			films = append(films, fmt.Sprintf("film %g mm, was %g", float64(u.Film), float64(was[i].Film)))
		}
		u.Film = was[i].Film
		if !same(u, was[i]) {
			return []string{"what it uses"}
		}
	}
	return films
}

// same tells whether two values are equal; a list that is empty is one that is not there.
func same(a, b any) bool {
	x, y := reflect.ValueOf(a), reflect.ValueOf(b)
	return x.Kind() == reflect.Slice && x.Len() == 0 && y.Len() == 0 || reflect.DeepEqual(a, b)
}

func restChanges(now, was *Rest) (changes []string) {
	switch {
	case now == nil && was == nil:
		return nil
	case now == nil:
		return []string{"no rest after it"}
	case was == nil:
		return []string{"a rest after it, usually " + measure.Duration(now.Usual)}
	}
	if now.Usual != was.Usual {
		changes = append(changes, fmt.Sprintf("rests %s, was %s", measure.Duration(now.Usual), measure.Duration(was.Usual)))
	}
	if now.Floor != was.Floor {
		changes = append(changes, fmt.Sprintf("at least %s, was %s", measure.Duration(now.Floor), measure.Duration(was.Floor)))
	}
	if !reflect.DeepEqual(now.Ceiling, was.Ceiling) {
		changes = append(changes, "its ceiling")
	}
	if now.Kind != was.Kind || now.Rack != was.Rack || now.Turner != was.Turner {
		changes = append(changes, "how it rests")
	}
	return changes
}

// plain writes a figure with at most two decimals.
func plain(v float64) string {
	return strconv.FormatFloat(float64(int64(v*100+0.5))/100, 'f', -1, 64)
}
