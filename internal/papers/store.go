package papers

import (
	"fmt"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"tidykiln/core/calendar"
	"tidykiln/internal/problem"
)

func loadLetterhead(tx *gorm.DB) (h Letterhead, err error) {
	if err := tx.Take(&h).Error; err != nil {
		return h, fmt.Errorf("reading the letterhead: %w", err)
	}
	return h, nil
}

// holdLetterhead reads the letterhead, and holds it until the transaction ends: papers are
// numbered one after another.
func holdLetterhead(tx *gorm.DB) (Letterhead, error) {
	return loadLetterhead(tx.Clauses(clause.Locking{Strength: "UPDATE"}))
}

func load(tx *gorm.DB, id uint64) (p IssuedPaper, err error) {
	err = tx.First(&p, id).Error
	return p, problem.OrNotFound(err, "paper")
}

// ofOrder are the papers of an order, the newest first.
func ofOrder(tx *gorm.DB, order uint64) ([]IssuedPaper, error) {
	list := []IssuedPaper{}
	if err := tx.Where("order_id = ?", order).Order("id DESC").Find(&list).Error; err != nil {
		return nil, fmt.Errorf("reading the papers of an order: %w", err)
	}
	return list, nil
}

func nextNumber(tx *gorm.DB, kind Kind, first int) (number int, err error) {
	if err := tx.Model(&IssuedPaper{}).Where("kind = ?", kind).Select("COALESCE(MAX(number) + 1, ?)", first).Scan(&number).Error; err != nil {
		return 0, fmt.Errorf("numbering a paper: %w", err)
	}
	return number, nil
}

func create(tx *gorm.DB, p *IssuedPaper) error {
	if err := tx.Create(p).Error; err != nil {
		return fmt.Errorf("keeping a paper: %w", err)
	}
	return nil
}

// Credited is what credit notes were issued for, of an order.
func Credited(tx *gorm.DB, order uint64) (sum decimal.Decimal, err error) {
	if err := tx.Model(&IssuedPaper{}).Where("order_id = ? AND kind = ?", order, CreditNote).Select("COALESCE(SUM(gross), 0)").Scan(&sum).Error; err != nil {
		return sum, fmt.Errorf("adding credit notes up: %w", err)
	}
	return sum, nil
}

// HeldFiles are those of files that papers are kept in.
func HeldFiles(tx *gorm.DB, hashes []string) (held []string, err error) {
	if err := tx.Model(&IssuedPaper{}).Where("file IN ?", hashes).Distinct().Pluck("file", &held).Error; err != nil {
		return nil, fmt.Errorf("reading which files papers are kept in: %w", err)
	}
	return held, nil
}

// issuedBetween are the papers of money of a period, day by day.
func issuedBetween(tx *gorm.DB, from, to calendar.Date, most int) (list []IssuedPaper, err error) {
	q := tx.Where("kind IN ? AND issued_on BETWEEN ? AND ?", []Kind{Invoice, CreditNote, Receipt}, from, to)
	if err := q.Order("issued_on DESC, id DESC").Limit(most).Find(&list).Error; err != nil {
		return nil, fmt.Errorf("reading the papers of a period: %w", err)
	}
	return list, nil
}
