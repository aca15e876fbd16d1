package papers

import (
	"context"
	"fmt"
	"slices"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/workshop"
)

// Forget takes papers of orders out whose customer's data is erased. Those of money stay as
// issued for as long as the law asks, and lose the name then.
func Forget(tx *gorm.DB, orders []uint64) error {
	if err := tx.Where("order_id IN ? AND kind NOT IN ?", orders, []Kind{Invoice, CreditNote, Receipt}).Delete(&IssuedPaper{}).Error; err != nil {
		return fmt.Errorf("taking papers out: %w", err)
	}
	head, err := loadLetterhead(tx)
	if err != nil {
		return err
	}
	until := tx.Model(&IssuedPaper{}).Where("order_id IN ? AND name_until IS NULL", orders).
		Update("name_until", gorm.Expr("MAKEDATE(YEAR(issued_on) + 1 + ?, 1)", head.YearsKept))
	if until.Error != nil {
		return fmt.Errorf("noting until when papers keep a name: %w", until.Error)
	}
	return nil
}

// never is the day on which a paper keeps a name no longer: it has lost it.
const never = calendar.Date("9999-12-31")

// LoseNames takes the names out of papers of money whose time is over: they are written
// again with the customer's number in its place. It tells how many
// they were.
func (a *Area) LoseNames(ctx context.Context) (int, error) {
	due, err := database.Look(ctx, a.db, a.losing)
	if err != nil || len(due) == 0 {
		return 0, err
	}
	err = a.db.Write(ctx, database.Orders, func(tx *gorm.DB) error {
		for _, p := range due {
			if err := a.loseName(ctx, tx, p); err != nil {
				return err
			}
		}
		return nil
	})
	return len(due), err
}

// losing are papers whose time is over.
func (a *Area) losing(tx *gorm.DB) (due []IssuedPaper, err error) {
	w, err := workshop.LoadAlone(tx)
	if err != nil {
		return nil, err
	}
	if err := tx.Where("name_until <= ?", calendar.DateOf(a.now(), w.Location())).Order("id").Limit(100).Find(&due).Error; err != nil {
		return nil, fmt.Errorf("reading which papers lose a name: %w", err)
	}
	return due, nil
}

func (a *Area) loseName(ctx context.Context, tx *gorm.DB, p IssuedPaper) error {
	heads, err := headsOf(tx, []uint64{p.OrderID})
	if err != nil {
		return err
	}
	p.Content.Paper.To = customers.Under(heads[p.OrderID].CustomerID)
	for i := range p.Content.Paper.Lines {
		if p.Kind == CreditNote { // why is in free words
			p.Content.Paper.Lines[i].About = ""
		}
	}
	p.Content.Paper.Words = slices.DeleteFunc(p.Content.Paper.Words, func(w string) bool { return w == p.Content.Note })
	p.Content.Note = ""
	pdf, err := p.pdf()
	if err != nil {
		return err
	}
	if p.File, err = a.artwork.KeepFile(ctx, pdf); err != nil {
		return err
	}
	p.NameUntil = new(never)
	if err := tx.Model(&IssuedPaper{}).Where("id = ?", p.ID).Select("Content", "File", "NameUntil").Updates(&p).Error; err != nil {
		return fmt.Errorf("taking the name out of a paper: %w", err)
	}
	return nil
}

// looksEvery is how often it is looked for papers that lose their names.
const looksEvery = 6 * time.Hour

// KeepLosingNames does so until ctx ends.
func (a *Area) KeepLosingNames(ctx context.Context, report func(error)) {
	for wait := time.Minute; ; wait = looksEvery {
		select {
		case <-ctx.Done():
			return
		case <-time.After(wait):
		}
		for {
			lost, err := a.LoseNames(ctx)
			if err != nil {
				report(err)
			}
			if err != nil || lost == 0 {
				break
			}
		}
	}
}
