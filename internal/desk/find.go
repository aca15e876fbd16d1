package desk

import (
	"context"
	"slices"
	"strings"

	"gorm.io/gorm"

	"tidykiln/internal/batches"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/products"
	"tidykiln/internal/wire"
)

// mostFound bounds what each kind contributes to a search.
const mostFound = 8

// Find looks for a text in orders (number, customer, lettering), customers, open lots, past batches and products.
func (a *Area) Find(ctx context.Context, text string) ([]wire.Found, error) {
	text = strings.TrimSpace(text)
	if text == "" {
		return []wire.Found{}, nil
	}
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]wire.Found, error) {
		found := []wire.Found{}
		for _, find := range []func(*gorm.DB, string, int) ([]wire.Found, error){orders.Find, customers.Find, batches.Find, products.Find} {
			some, err := find(tx, text, mostFound)
			if err != nil {
				return nil, err
			}
			found = slices.Concat(found, some)
		}
		return found, nil
	})
}
