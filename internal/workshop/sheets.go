package workshop

import (
	"gorm.io/gorm"

	"tidykiln/internal/database"
)

// Sheets are the people, to be taken out.
func Sheets(tx *gorm.DB) ([]database.Sheet, error) {
	return database.SheetsOf(tx, [][2]string{
		{"people", "SELECT id, name, archived_at FROM people ORDER BY id"},
	})
}
