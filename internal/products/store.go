package products

import (
	"fmt"

	"gorm.io/gorm"

	"tidykiln/internal/problem"
)

// LoadAll reads the products that are made, each with its current recipe.
func LoadAll(tx *gorm.DB) ([]Product, error) {
	var products []Product
	if err := tx.Where("archived_at IS NULL").Order("name, id").Find(&products).Error; err != nil {
		return nil, fmt.Errorf("reading the products: %w", err)
	}
	ids := make([]uint64, 0, len(products))
	for _, p := range products {
		if p.RecipeID != nil {
			ids = append(ids, *p.RecipeID)
		}
	}
	var recipes []Recipe
	if err := tx.Where("id IN ?", ids).Find(&recipes).Error; err != nil {
		return nil, fmt.Errorf("reading the recipes: %w", err)
	}
	byProduct := make(map[uint64]Recipe, len(recipes))
	for _, r := range recipes {
		byProduct[r.ProductID] = r
	}
	for i := range products {
		products[i].Recipe = byProduct[products[i].ID]
	}
	return products, nil
}

// Load reads one product that is made, with its current recipe.
func Load(tx *gorm.DB, id uint64) (p Product, err error) {
	if err := tx.Where("archived_at IS NULL").First(&p, id).Error; err != nil {
		return p, problem.OrNotFound(err, "product")
	}
	if err := tx.First(&p.Recipe, p.RecipeID).Error; err != nil {
		return p, fmt.Errorf("reading the recipe: %w", err)
	}
	return p, nil
}

func load(tx *gorm.DB) ([]Product, Basis, error) {
	basis, err := LoadBasis(tx)
	if err != nil {
		return nil, basis, err
	}
	products, err := LoadAll(tx)
	return products, basis, err
}

func create(tx *gorm.DB, p *Product) error {
	if err := tx.Create(p).Error; err != nil {
		return fmt.Errorf("adding a product: %w", err)
	}
	p.Recipe.ProductID = p.ID
	if err := tx.Create(&p.Recipe).Error; err != nil {
		return fmt.Errorf("adding a recipe: %w", err)
	}
	if err := tx.Model(p).Update("recipe_id", p.Recipe.ID).Error; err != nil {
		return fmt.Errorf("setting the current recipe: %w", err)
	}
	return nil
}

func update(tx *gorm.DB, id uint64, c ProductChange) error {
	done := tx.Model(&Product{}).Where("id = ? AND version = ? AND archived_at IS NULL", id, c.Version).
		Updates(map[string]any{"name": c.Name, "price": c.Price, "version": c.Version + 1})
	if done.Error != nil {
		return fmt.Errorf("saving a product: %w", done.Error)
	}
	if done.RowsAffected == 1 {
		return nil
	}
	p, err := Load(tx, id)
	if err != nil {
		return err
	}
	return problem.Conflict(problem.Stale, "This product was changed by someone since you opened it: it is now %q at %s.", p.Name, p.Price.StringFixed(2))
}
