package products

import (
	"context"

	"gorm.io/gorm"

	"tidykiln/core/check"
	"tidykiln/core/craft"
	"tidykiln/internal/problem"
)

// TroubleFor is a trouble of the guide, and what it would change in a product's recipe.
type TroubleFor struct {
	craft.Trouble
	// Offer says what the recipe would do differently; empty without a product,
	// or when the recipe has nothing to change.
	Offer string `json:"offer"`
}

// Troubles is the guide; with a product it says what its recipe would change.
func (a *Area) Troubles(ctx context.Context, productID uint64) (list []TroubleFor, err error) {
	if productID == 0 {
		for _, t := range craft.Troubles() {
			list = append(list, TroubleFor{Trouble: t})
		}
		return list, nil
	}
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		p, b, err := a.load(tx, productID)
		if err != nil {
			return err
		}
		for _, t := range craft.Troubles() {
			_, words := check.Offer(t, b.checked(p), b.askOf(p))
			list = append(list, TroubleFor{t, b.Workshop.Habit.Sentence(words)})
		}
		return nil
	})
	return list, err
}

// TakeOffer changes a product's recipe as the guide offers, as a new version.
func (a *Area) TakeOffer(ctx context.Context, id uint64, key string, version int) (Detail, error) {
	trouble, known := craft.TroubleByKey(key)
	if !known {
		return Detail{}, problem.NotFound("trouble in the guide")
	}
	return a.changeRecipe(ctx, id, version, func(p Product, b Basis) (craft.Recipe, error) {
		r, words := check.Offer(trouble, b.checked(p), b.askOf(p))
		if words == "" {
			return r, problem.Conflict(problem.Unfit, "This recipe has nothing to change for that, or does it already.")
		}
		return r, nil
	})
}
