package products

import (
	"context"
	"slices"

	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/problem"
)

// Recalibration sets the film of a material from what batches really used of it.
type Recalibration struct {
	Material string `json:"material" minLength:"1" maxLength:"60" doc:"key"`
	// Planned and Used are what a piece was to take and took, in the same unit.
	Planned float64 `json:"planned" minimum:"0.0001" maximum:"1000000"`
	Used    float64 `json:"used" minimum:"0.0001" maximum:"1000000"`
	Version int     `json:"version" minimum:"1" doc:"of the product"`
}

// Recalibrate saves a recipe in which the coats of a material are as thick as they really were.
func (a *Area) Recalibrate(ctx context.Context, id uint64, in Recalibration) (d Detail, err error) {
	return a.changeRecipe(ctx, id, in.Version, func(p Product, _ Basis) (craft.Recipe, error) {
		r := p.Recipe.Document
		r.Steps = slices.Clone(r.Steps)
		found := false
		for i := range r.Steps {
			s := &r.Steps[i]
			s.Uses = slices.Clone(s.Uses)
			for k, u := range s.Uses {
				if u.Material == in.Material && u.Per == craft.PerCoat {
					s.Uses[k].Film = measure.Length(rounded4(float64(u.Film) * in.Used / in.Planned))
					found = true
				}
			}
		}
		if !found {
			return r, problem.Invalid("material", "no step of this recipe lays it as a coat")
		}
		return r, nil
	})
}

// rounded4 keeps a film to a ten-thousandth of a millimetre.
func rounded4(mm float64) float64 { return float64(int(mm*1e4+0.5)) / 1e4 }
