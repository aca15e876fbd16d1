package desk

import (
	"context"
	"fmt"

	"gorm.io/gorm"

	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

// FirstSteps is how far a new owner has come on the way to a first planned batch.
type FirstSteps struct {
	Hours   bool `json:"hours" doc:"somebody works here at some hours"`
	Product bool `json:"product" doc:"something is made here"`
	Order   bool `json:"order" doc:"an order was taken"`
	Batch   bool `json:"batch" doc:"a batch was made up"`
}

// FirstSteps says which of the first steps were ever taken.
func (a *Area) FirstSteps(ctx context.Context) (FirstSteps, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (s FirstSteps, err error) {
		err = tx.Raw("SELECT EXISTS (?) AS hours, EXISTS (?) AS product, EXISTS (?) AS `order`, EXISTS (?) AS batch",
			workshop.WorkingHours(tx), products.Made(tx), orders.Taken(tx), batches.MadeUp(tx)).Scan(&s).Error
		if err != nil {
			return s, fmt.Errorf("reading how far the studio has come: %w", err)
		}
		return s, nil
	})
}
