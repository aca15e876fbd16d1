package products

import (
	"fmt"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

// LoadAll reads the products that are made, each with its current recipe.
func LoadAll(tx *gorm.DB) ([]Product, error) {
	var products []Product
	if err := tx.Where("archived_at IS NULL").Order("name, id").Find(&products).Error; err != nil {
		return nil, fmt.Errorf("reading the products: %w", err)
	}
	return products, withRecipes(tx, products)
}

// LoadEver reads products by their ids, also those that are made no longer.
func LoadEver(tx *gorm.DB, ids []uint64) (map[uint64]Product, error) {
	var products []Product
	if err := tx.Where("id IN ?", ids).Find(&products).Error; err != nil {
		return nil, fmt.Errorf("reading the products: %w", err)
	}
	if err := withRecipes(tx, products); err != nil {
		return nil, err
	}
	byID := map[uint64]Product{}
	for _, p := range products {
		byID[p.ID] = p
	}
	return byID, nil
}

// withRecipes puts their current recipes and their pictures to products.
func withRecipes(tx *gorm.DB, products []Product) error {
	ids := make([]uint64, 0, len(products))
	for _, p := range products {
		if p.RecipeID != nil {
			ids = append(ids, *p.RecipeID)
		}
	}
	var recipes []Recipe
	if err := tx.Where("id IN ?", ids).Find(&recipes).Error; err != nil {
		return fmt.Errorf("reading the recipes: %w", err)
	}
	byProduct := make(map[uint64]Recipe, len(recipes))
	for _, r := range recipes {
		byProduct[r.ProductID] = r
	}
	all := make([]*Product, len(products))
	for i := range products {
		products[i].Recipe = byProduct[products[i].ID]
		all[i] = &products[i]
	}
	return withArtwork(tx, all...)
}

// Load reads one product that is made, with its current recipe.
func Load(tx *gorm.DB, id uint64) (p Product, err error) {
	if err := tx.Where("archived_at IS NULL").First(&p, id).Error; err != nil {
		return p, problem.OrNotFound(err, "product")
	}
	if err := tx.First(&p.Recipe, p.RecipeID).Error; err != nil {
		return p, fmt.Errorf("reading the recipe: %w", err)
	}
	return p, withArtwork(tx, &p)
}

func create(tx *gorm.DB, p *Product) error {
	if err := tx.Create(p).Error; err != nil {
		return fmt.Errorf("adding a product: %w", err)
	}
	p.Recipe.ProductID = p.ID
	return setRecipe(tx, p)
}

// setRecipe adds a version of the recipe and makes it the current one.
func setRecipe(tx *gorm.DB, p *Product) error {
	if err := tx.Create(&p.Recipe).Error; err != nil {
		return fmt.Errorf("adding a recipe: %w", err)
	}
	if err := tx.Model(p).Update("recipe_id", p.Recipe.ID).Error; err != nil {
		return fmt.Errorf("setting the current recipe: %w", err)
	}
	return nil
}

// update writes columns of a product that the sender read at a version.
func update(tx *gorm.DB, p Product, version int, columns map[string]any) error {
	if err := problem.IfStale(version, p.Version, "This product was changed by someone since you opened it: it is now %q, with recipe %d.", p.Name, p.Recipe.Number); err != nil {
		return err
	}
	columns["version"] = version + 1
	if err := tx.Model(&Product{}).Where("id = ?", p.ID).Updates(columns).Error; err != nil {
		return fmt.Errorf("saving a product: %w", err)
	}
	return nil
}

// AllOverridesInForce maps products to their overrides in force.
func AllOverridesInForce(tx *gorm.DB) (map[uint64][]Override, error) {
	var rows []Override
	if err := tx.Where("withdrawn_at IS NULL").Order("id").Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading the overrides: %w", err)
	}
	of := map[uint64][]Override{}
	for _, o := range rows {
		of[o.ProductID] = append(of[o.ProductID], o)
	}
	return of, nil
}

// allOverrides are those of one product, withdrawn ones included.
func allOverrides(tx *gorm.DB, productID uint64) (rows []Override, err error) {
	if err := tx.Where("product_id = ?", productID).Order("id").Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading the overrides: %w", err)
	}
	return rows, nil
}

func versions(tx *gorm.DB, productID uint64) (list []Version, err error) {
	var recipes []Recipe
	// One more than is shown, which the oldest shown is compared with.
	err = tx.Where("product_id = ?", productID).Order("number DESC").Limit(shownVersions + 1).Find(&recipes).Error
	if err != nil {
		return nil, fmt.Errorf("reading the recipe's versions: %w", err)
	}
	w, err := workshop.LoadAlone(tx)
	if err != nil {
		return nil, err
	}
	for i, r := range recipes[:min(len(recipes), shownVersions)] {
		v := Version{Number: r.Number, CreatedAt: r.CreatedAt, Changed: []string{}}
		if i+1 < len(recipes) {
			v.Changed = append(v.Changed, w.Habit.Sentences(r.Document.DiffersFrom(recipes[i+1].Document))...)
		}
		list = append(list, v)
	}
	return list, nil
}

func loadVersion(tx *gorm.DB, productID uint64, number int) (r Recipe, err error) {
	err = tx.Where("product_id = ? AND number = ?", productID, number).First(&r).Error
	return r, problem.OrNotFound(err, "version of this recipe")
}

// CountByMethod counts, by method, the products made with it.
func CountByMethod(tx *gorm.DB) (map[string]int, error) {
	var rows []struct {
		Method string
		Count  int
	}
	if err := tx.Model(&Product{}).Select("method, COUNT(*) AS count").Where("archived_at IS NULL").Group("method").Scan(&rows).Error; err != nil {
		return nil, fmt.Errorf("counting products: %w", err)
	}
	used := map[string]int{}
	for _, r := range rows {
		used[r.Method] = r.Count
	}
	return used, nil
}

// VersionOf is the version a product is at; 0 when there is none.
func VersionOf(tx *gorm.DB, id uint64) (version int, err error) {
	if err := tx.Model(&Product{}).Where("id = ?", id).Pluck("version", &version).Error; err != nil {
		return 0, fmt.Errorf("reading the product: %w", err)
	}
	return version, nil
}

// Made is a query for all products that are made.
func Made(tx *gorm.DB) *gorm.DB { return tx.Model(&Product{}).Select("1").Where("archived_at IS NULL") }

// Find looks for a text in the products' names.
func Find(tx *gorm.DB, text string, most int) (found []wire.Found, err error) {
	err = tx.Model(&Product{}).Select("'product' AS kind, id, name AS title, method AS detail").
		Where("archived_at IS NULL AND name LIKE ?", database.Containing(text)).Order("name").Limit(most).Scan(&found).Error
	if err != nil {
		return nil, fmt.Errorf("finding products: %w", err)
	}
	return found, nil
}
