package planning

import (
	"context"
	"fmt"

	"gorm.io/gorm"
)

// FirstSteps is how far a new owner has come on the way to a first planned batch.
type FirstSteps struct {
	Hours   bool `json:"hours" doc:"somebody works here at some hours"`
	Product bool `json:"product" doc:"something is made here"`
	Order   bool `json:"order" doc:"an order was taken"`
	Batch   bool `json:"batch" doc:"a batch was made up"`
}

// FirstSteps says which of the first steps were ever taken.
func (a *Area) FirstSteps(ctx context.Context) (s FirstSteps, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		err := tx.Raw(`SELECT EXISTS (SELECT 1 FROM person_hours JOIN people ON people.id = person_id AND archived_at IS NULL) AS hours,
			EXISTS (SELECT 1 FROM products WHERE archived_at IS NULL) AS product, EXISTS (SELECT 1 FROM orders) AS ` + "`order`" + `, EXISTS (SELECT 1 FROM batches) AS batch`).Scan(&s).Error
		if err != nil {
			return fmt.Errorf("reading how far the studio has come: %w", err)
		}
		return nil
	})
	return s, err
}
