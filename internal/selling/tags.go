package selling

import (
	"fmt"

	"gorm.io/gorm"

	"tidykiln/internal/products"
)

// Tag is what stands on the price label of a product.
type Tag struct{ Name, Price, Code string }

// CodeOf is the code of a product, as it stands in bars on its labels.
func CodeOf(product uint64) string { return fmt.Sprintf("P%d", product) }

// Tags are the tags of all products at a way of selling, by product; 0 is the main one.
func (a *Area) Tags(tx *gorm.DB, outletID uint64) (map[uint64]Tag, error) {
	counter, err := a.counter(tx)
	if err != nil {
		return nil, err
	}
	outlet, err := counter.Outlet(outletID)
	if err != nil {
		return nil, err
	}
	made, err := products.LoadAll(tx)
	if err != nil {
		return nil, err
	}
	tags := map[uint64]Tag{}
	for _, p := range made {
		price, err := counter.Asked(p, outlet)
		if err != nil {
			return nil, err
		}
		tags[p.ID] = Tag{p.Name, counter.Workshop.Money(price), CodeOf(p.ID)}
	}
	return tags, nil
}
