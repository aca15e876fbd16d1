package batches

import (
	"context"
	"math"
	"slices"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/stores"
)

// Recalibration lays a material in the product's recipe as a batch really laid it.
type Recalibration struct {
	Material string `json:"material" minLength:"1" maxLength:"60" doc:"key"`
	Version  int    `json:"version" minimum:"1" doc:"of the product, as the account was read with it"`
}

// Recalibrate makes the films of a material in the product's recipe those of
// the batch's recipe, times what the batch really took over what it was to
// take. Done twice it changes nothing the second time.
func (a *Area) Recalibrate(ctx context.Context, id uint64, in Recalibration) (d products.Detail, err error) {
	return database.Answer(ctx, a.db, database.Products, func(tx *gorm.DB) (d products.Detail, err error) {
		b, err := loadBatch(tx, id)
		if err != nil {
			return d, err
		}
		acc, err := a.account(tx, id)
		if err != nil {
			return d, err
		}
		i := slices.IndexFunc(acc.Materials, func(m AccountMaterial) bool { return m.MaterialKey == in.Material && m.Pieces > 0 })
		if i < 0 || !acc.Materials[i].Planned.IsPositive() || !acc.Materials[i].Real.IsPositive() {
			return d, problem.Invalid("material", "this batch has laid no coat of it yet")
		}
		ratio := acc.Materials[i].Real.InexactFloat64() / acc.Materials[i].Planned.InexactFloat64()
		d, err = a.products.SetFilms(tx, b.ProductID, in.Material, b.films(in.Material, ratio), in.Version)
		return d, err
	})
}

// films are the coats of a material by step, times a ratio, to a ten-thousandth of a millimetre.
func (b Batch) films(material string, ratio float64) map[string]measure.Length {
	films := map[string]measure.Length{}
	for _, s := range b.Recipe.Steps {
		for _, u := range s.Uses {
			if u.Material != material || u.Per != craft.PerCoat {
				continue
			}
			film := measure.Length(math.Round(float64(u.Film)*ratio*1e4) / 1e4)
			films[s.ID] = film
			for _, p := range s.Parts {
				films[p.ID] = film
			}
		}
	}
	return films
}

// ReverseMovement takes a movement of stock back. What a closed batch's pieces
// cost is noted anew when the movement was of it.
func (a *Area) ReverseMovement(ctx context.Context, id uint64) (m stores.Material, err error) {
	return database.Answer(ctx, a.db, database.Batches|database.Stores, func(tx *gorm.DB) (m stores.Material, err error) {
		var batchID *uint64
		if m, batchID, err = a.stores.Reverse(tx, id); err != nil || batchID == nil {
			return m, err
		}
		b, err := loadBatch(tx, *batchID)
		if err != nil || b.State == Open {
			return m, err
		}
		return m, a.freezeCost(tx, b.ID)
	})
}
