package papers

import (
	"context"
	"fmt"

	"gorm.io/gorm"

	"tidykiln/internal/database"
)

// Sheets are the papers, to be taken out.
func Sheets(tx *gorm.DB) ([]database.Sheet, error) { return sheets(tx, "TRUE") }

// SheetsOf are the papers of orders, to be given to whose they are.
func SheetsOf(tx *gorm.DB, orders []uint64) ([]database.Sheet, error) {
	return sheets(tx, "p.order_id IN ("+database.Numbers(orders)+")")
}

func sheets(tx *gorm.DB, which string) ([]database.Sheet, error) {
	return database.SheetsOf(tx, [][2]string{
		{"issued_papers", `SELECT p.id, p.kind, p.number, p.order_id, i.number AS on_invoice, p.payment_id, p.issued_at, p.issued_on, p.net, p.tax_percent, p.tax, p.gross
			FROM issued_papers p LEFT JOIN issued_papers i ON i.id = p.credits_id WHERE ` + which + " ORDER BY p.id"},
	})
}

// FilesOf are the papers of orders as they were issued, by what they are called.
func (a *Area) FilesOf(ctx context.Context, tx *gorm.DB, orders []uint64) (map[string][]byte, error) {
	var list []IssuedPaper
	if err := tx.Where("order_id IN ?", orders).Order("id").Find(&list).Error; err != nil {
		return nil, fmt.Errorf("reading the papers of orders: %w", err)
	}
	files := map[string][]byte{}
	for _, p := range list {
		content, _, err := a.artwork.FileOf(ctx, p.File)
		if err != nil {
			return nil, err
		}
		files[p.called()] = content
	}
	return files, nil
}
