package trade

import (
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

func wholeQuotes(tx *gorm.DB) *gorm.DB {
	return tx.Joins("Customer").Preload("Lines", func(tx *gorm.DB) *gorm.DB { return tx.Order("position") })
}

// withProducts says of the lines of quotes what their products are now.
func withProducts(tx *gorm.DB, list []Quote) error {
	var ids []uint64
	for _, q := range list {
		for _, l := range q.Lines {
			ids = append(ids, l.ProductID)
		}
	}
	looks, err := products.Looks(tx, ids)
	if err != nil {
		return err
	}
	for i := range list {
		for k, l := range list[i].Lines {
			list[i].Lines[k].Lettered, list[i].Lines[k].Thumb = looks[l.ProductID].Lettered, looks[l.ProductID].Thumb
		}
	}
	return nil
}

func createQuote(tx *gorm.DB, q *Quote) error {
	if err := tx.Model(&Quote{}).Select("COALESCE(MAX(number), 100) + 1").Scan(&q.Number).Error; err != nil {
		return fmt.Errorf("numbering the quote: %w", err)
	}
	q.CustomerID = q.Customer.ID
	if err := tx.Omit("Customer").Create(q).Error; err != nil {
		return fmt.Errorf("adding the quote: %w", err)
	}
	return nil
}

func saveQuote(tx *gorm.DB, q Quote, changes map[string]any) error {
	changes["version"] = q.Version + 1
	if err := tx.Model(&Quote{}).Where("id = ?", q.ID).Updates(changes).Error; err != nil {
		return fmt.Errorf("saving quote %d: %w", q.Number, err)
	}
	return nil
}

// becomeOrder notes which order a quote has become, unless another or an end came first.
func becomeOrder(tx *gorm.DB, id uint64, o orders.Order, at time.Time) error {
	var q Quote
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&q, id).Error; err != nil {
		return problem.OrNotFound(err, "quote")
	}
	if q.OrderID != nil || q.State == QuoteDeclined || q.State == QuoteWithdrawn {
		return errTwice
	}
	changes := map[string]any{"state": QuoteAccepted, "order_id": o.ID}
	if q.AnsweredAt == nil {
		changes["answered_at"] = at
	}
	if err := saveQuote(tx, q, changes); err != nil {
		return err
	}
	return orders.AddEvent(tx, o.ID, at, "Taken by quote %d", q.Number)
}

func saveLettering(tx *gorm.DB, line uint64, names []string) error {
	if err := tx.Model(&QuoteLine{}).Where("id = ?", line).Update("lettering", gorm.Expr("?", database.JSON(names))).Error; err != nil {
		return fmt.Errorf("keeping the names of a line: %w", err)
	}
	return nil
}

// Holding moves quotes from a customer to another.
var Holding = customers.Holding{Called: "quotes", Move: func(tx *gorm.DB, from, into uint64, only []uint64) (ids []uint64, err error) {
	q := tx.Model(&Quote{}).Where("customer_id = ?", from)
	if only != nil {
		q = q.Where("id IN ?", only)
	}
	if err := q.Order("id").Pluck("id", &ids).Error; err != nil || len(ids) == 0 {
		return ids, err
	}
	err = tx.Model(&Quote{}).Where("id IN ?", ids).Updates(map[string]any{"customer_id": into, "version": gorm.Expr("version + 1")}).Error
	if err != nil {
		return nil, fmt.Errorf("giving quotes to another customer: %w", err)
	}
	return ids, nil
}}

// ForgetQuotes takes what tells of a person out of the quotes of a customer.
func ForgetQuotes(tx *gorm.DB, customer uint64) error {
	var ids []uint64
	if err := tx.Model(&Quote{}).Where("customer_id = ?", customer).Pluck("id", &ids).Error; err != nil {
		return fmt.Errorf("reading whose quotes are to be forgotten: %w", err)
	}
	if err := tx.Model(&Quote{}).Where("id IN ?", ids).Updates(map[string]any{"note": "", "version": gorm.Expr("version + 1")}).Error; err != nil {
		return fmt.Errorf("forgetting a person's quotes: %w", err)
	}
	if err := tx.Model(&QuoteLine{}).Where("quote_id IN ?", ids).Update("lettering", gorm.Expr("JSON_ARRAY()")).Error; err != nil {
		return fmt.Errorf("forgetting the names in quotes: %w", err)
	}
	return database.Redact(tx, "quotes", ids, "", "note", "lettering")
}
