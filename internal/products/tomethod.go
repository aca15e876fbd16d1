package products

import (
	"context"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/internal/library"
	"tidykiln/internal/problem"
	"tidykiln/internal/stores"
)

// MethodFromRecipe makes a method of the owner's own from a product's recipe.
func (a *Area) MethodFromRecipe(ctx context.Context, productID uint64, in library.MethodName) (e library.MethodEntry, err error) {
	var m craft.Method
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		p, basis, err := a.load(tx, productID)
		if err != nil {
			return err
		}
		known := false
		if m, known = basis.Methods[p.Method]; !known {
			return problem.Conflict(problem.Moved, "The method of this product is no longer in the library.")
		}
		m.Steps = p.Recipe.Document.MethodSteps(m, p.Blank, func(key string) bool { return basis.Materials[key].Kind == stores.Blank })
		return nil
	})
	if err != nil {
		return e, err
	}
	return a.library.Keep(ctx, m, in)
}
