package products

import (
	"gorm.io/gorm"

	"tidykiln/internal/database"
)

// Sheets are the products with their recipes, to be taken out.
func Sheets(tx *gorm.DB) ([]database.Sheet, error) {
	return database.SheetsOf(tx, [][2]string{
		{"products", "SELECT id, name, method, look, price, lettered, own_pictures, created_at, archived_at, blank, picture FROM products ORDER BY id"},
		{"recipes", "SELECT r.id, r.product_id, p.name AS product, r.number, r.created_at, r.document FROM recipes r JOIN products p ON p.id = r.product_id ORDER BY r.id"},
	})
}
