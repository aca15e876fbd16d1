package craft

import (
	"cmp"
	"math"
	"slices"

	"tidykiln/core/measure"
)

// Label are the figures of a material that its own label gives, in minutes, and
// the film its owner lays of it. What is nil or zero is as the library has it.
type Label struct {
	// Floor is the shortest rest after a print is laid in it or a coat of it is on.
	Floor *int
	// RecoatFrom and RecoatTo are when another coat of it may, and must, follow.
	RecoatFrom, RecoatTo *int
	// Cure is how long it takes from the last coat to be cured through.
	Cure *int
	// Film is the wet film the owner lays: of a medium where a print is laid in
	// it, of anything else as a coat.
	Film   measure.Length
	Medium bool
}

// Labels are what is known by the keys of materials.
type Labels map[string]Label

// coated is the material that the step's rest waits for: what it lays or
// coats with; empty when the rest is no matter of a label. A base that has to
// cure before cream waits for the cream's sake.
func (s Step) coated() string {
	coats := []Do{Lay, Seal, PaintBase, InkBack, SprayGround, SpraySealPrint}
	if !slices.Contains(coats, s.Do) || s.Rest == nil || s.Do == PaintBase && s.Rest.Kind == Cure {
		return ""
	}
	for _, u := range s.Uses {
		if u.Per == PerCoat {
			return u.Material
		}
	}
	if s.Do == Seal || s.Do == SprayGround || s.Do == SpraySealPrint {
		for _, u := range s.Uses {
			return u.Material
		}
	}
	return ""
}

// Coats lists the materials of the recipe whose labels its rests go by, in the
// order they are first laid.
func (r Recipe) Coats() (keys []string) {
	for _, s := range r.Steps {
		if key := s.coated(); key != "" && !slices.Contains(keys, key) {
			keys = append(keys, key)
		}
	}
	return keys
}

// AsLabelled is the recipe with the rests that the labels of its materials give:
// floors after coats, recoat windows between coats of the same material, and the
// final cure. A usual rest stays unless it was the floor itself or is outside
// the label's window. The films stay. Done twice it changes nothing.
func (r Recipe) AsLabelled(labels Labels) Recipe {
	r.Steps = slices.Clone(r.Steps)
	for i := range r.Steps {
		s := &r.Steps[i]
		label, known := labels[s.coated()]
		switch {
		case s.Do == FinalCure && s.Rest != nil:
			s.Rest = s.Rest.from(r.cureLeft(i, labels))
		case !known:
		case r.coatFollows(i):
			s.Rest = s.Rest.from(cmp.Or(label.RecoatFrom, label.Floor)).to(label.RecoatTo)
		default:
			s.Rest = s.Rest.from(label.Floor)
		}
	}
	return r
}

// For is the block for one blank, its rest as the label of its material has it.
func (b Block) For(ask Ask) Step {
	return Recipe{Steps: []Step{b.MethodStep.For(ask)}}.AsLabelled(ask.Labels).Steps[0]
}

// coatFollows tells whether the next coat after step i is of the same material
// and the same kind of work.
func (r Recipe) coatFollows(i int) bool {
	for _, next := range r.Steps[i+1:] {
		if key := next.coated(); key != "" {
			return key == r.Steps[i].coated() && next.Do == r.Steps[i].Do && next.Do != Lay
		}
	}
	return false
}

// cureLeft is what the final cure at step i has to last by the labels of the
// coats before it, the rests since each of them taken off; nil when no label
// says. Where that of the last coat does not, it is only ever longer.
func (r Recipe) cureLeft(i int, labels Labels) *int {
	var left *int
	rested, last := 0, ""
	for k := i - 1; k >= 0; k-- {
		s := r.Steps[k]
		if s.Rest != nil && s.Inside == "" {
			rested += s.Rest.Floor
		}
		key := s.coated()
		if last == "" {
			last = key
		}
		if cure := labels[key].Cure; key != "" && cure != nil {
			more := max(0, *cure-rested)
			if left != nil {
				more = max(more, *left)
			}
			left = &more
		}
	}
	if left != nil && labels[last].Cure == nil && *left < r.Steps[i].Rest.Floor {
		return nil
	}
	return left
}

// from is the rest with a floor; without one it is the rest as it is.
func (r *Rest) from(floor *int) *Rest {
	if floor == nil || *floor == r.Floor {
		return r
	}
	rest := *r
	if rest.Usual == rest.Floor {
		rest.Usual = *floor
	}
	rest.Floor, rest.Usual = *floor, max(rest.Usual, *floor)
	if rest.Ceiling != nil && *rest.Ceiling < rest.Usual {
		rest.Ceiling = &rest.Usual
	}
	return &rest
}

// to is the rest with a ceiling; without one it is the rest as it is.
func (r *Rest) to(ceiling *int) *Rest {
	if ceiling == nil {
		return r
	}
	rest := *r
	most := max(*ceiling, rest.Floor)
	rest.Ceiling, rest.Usual = &most, min(rest.Usual, most)
	return &rest
}

// filmOf is the film of a coat that the library lays so thick, as the owner
// lays it: thicker or thinner in everything by as much as in its main work.
func (l Labels) filmOf(material string, film measure.Length) measure.Length {
	label := l[material]
	usual := library.coatFilms[material]
	if label.Medium {
		usual = library.layFilms[material]
	}
	if label.Film <= 0 || usual <= 0 || label.Film == usual {
		return film
	}
	own := measure.Length(math.Round(float64(film*label.Film/usual)*1e4) / 1e4)
	return max(thinnestFilm, min(thickestFilm, own))
}

// usualFilms are the thickest films the library lays of its materials, where a
// print is laid in them and as coats.
func usualFilms(data libraryData) (lay, coat map[string]measure.Length) {
	lay, coat = map[string]measure.Length{}, map[string]measure.Length{}
	note := func(s Step) {
		films := coat
		if s.Do == Lay {
			films = lay
		}
		for _, u := range s.Uses {
			films[u.Material] = max(films[u.Material], u.Film)
		}
	}
	for _, b := range data.blocks {
		note(b.Step)
	}
	for _, m := range data.methods {
		for _, s := range m.Steps {
			note(s.Step)
		}
	}
	return lay, coat
}
