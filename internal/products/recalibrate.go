package products

import (
	"slices"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/problem"
)

// SetFilms saves a recipe in which coats of a material are so thick, by the ID
// of their step.
func (a *Area) SetFilms(tx *gorm.DB, id uint64, material string, films map[string]measure.Length, version int) (Detail, error) {
	return a.saveRecipe(tx, id, version, func(p Product, _ Basis) (craft.Recipe, error) {
		r := p.Recipe.Document
		r.Steps = slices.Clone(r.Steps)
		found, changed := false, false
		for i := range r.Steps {
			s := &r.Steps[i]
			s.Uses = slices.Clone(s.Uses)
			for k, u := range s.Uses {
				film, known := films[s.ID]
				if u.Material != material || u.Per != craft.PerCoat || !known {
					continue
				}
				found, changed = true, changed || u.Film != film
				s.Uses[k].Film = film
			}
		}
		switch {
		case !found:
			return r, problem.Invalid("material", "no step of this recipe lays it as a coat")
		case !changed:
			return r, problem.Conflict(problem.Unfit, "The recipe lays it so already.")
		}
		return r, nil
	})
}
