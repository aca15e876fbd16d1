package stores

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/stock"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

var utc = time.UTC

// Supplier is whom materials are bought from.
type Supplier struct {
	ID   uint64 `json:"id"`
	Name string `json:"name"`
}

// Receipt is what was bought at once. Shipping, and tax where it is a cost, are
// shared over its purchases by value.
type Receipt struct {
	ID         uint64
	SupplierID uint64
	ReceivedOn calendar.Date
	Shipping   decimal.Decimal
	Tax        decimal.Decimal
	TaxIsCost  bool
	Note       string
	RecordedAt time.Time
	ReversedAt *time.Time
}

// Purchase is what was bought of one material, and what is left of it. Quantity
// is what was good; rejects came on top and were paid for with it.
type Purchase struct {
	ID           uint64
	ReceiptID    *uint64
	MaterialID   uint64
	ReceivedOn   calendar.Date
	Packs        int
	Pack         string
	PackQuantity decimal.Decimal
	Quantity     decimal.Decimal
	Rejects      decimal.Decimal
	Price        decimal.Decimal
	Extra        decimal.Decimal
	Left         decimal.Decimal `gorm:"column:left_quantity"`
	OpenedAt     *time.Time
}

// NewReceipt is a receipt being entered.
type NewReceipt struct {
	Supplier   string        `json:"supplier" minLength:"1" maxLength:"120"`
	ReceivedOn calendar.Date `json:"receivedOn" format:"date"`
	Shipping   string        `json:"shipping,omitempty" pattern:"^(\\d{1,6}(\\.\\d{1,4})?)?$" patternDescription:"an amount such as 4.90"`
	Tax        string        `json:"tax,omitempty" pattern:"^(\\d{1,6}(\\.\\d{1,4})?)?$" patternDescription:"an amount such as 3.20"`
	Note       string        `json:"note,omitempty" maxLength:"500"`
	Lines      []NewPurchase `json:"lines" minItems:"1" maxItems:"60" nullable:"false"`
}

// NewPurchase is a line of a receipt.
type NewPurchase struct {
	MaterialID uint64 `json:"materialId"`
	Packs      int    `json:"packs" minimum:"1" maximum:"10000"`
	// Pack is its size as people write it: "473 ml", "A4 ream", "50".
	Pack string `json:"pack" minLength:"1" maxLength:"60"`
	// Price is of all the packs together, or of each, without tax where tax is given.
	Price     string `json:"price" pattern:"^\\d{1,6}(\\.\\d{1,4})?$" patternDescription:"an amount such as 18.90"`
	PriceEach bool   `json:"priceEach,omitempty" doc:"the price is of each pack"`
	// Rejects are blanks that were no good on arrival.
	Rejects int `json:"rejects,omitempty" minimum:"0" maximum:"100000"`
	// Sorted are the size classes that natural blanks were sorted into; the good ones all stay this material without it.
	Sorted []SortedBlanks `json:"sorted,omitempty" maxItems:"20" nullable:"false"`
}

// SortedBlanks are pieces of one size class, a material of its own.
type SortedBlanks struct {
	MaterialID uint64 `json:"materialId"`
	Pieces     int    `json:"pieces" minimum:"1" maximum:"100000"`
}

// earliest is how long ago something may have been bought.
const earliest = 10 * 366

// finder finds a material that is not archived.
type finder func(id uint64) (Material, error)

func inStores(tx *gorm.DB) finder {
	return func(id uint64) (Material, error) { return loadMaterial(tx, id) }
}

// Buy enters a receipt: its purchases come into the stores.
func (a *Area) Buy(ctx context.Context, in NewReceipt) (id uint64, err error) {
	return database.Answer(ctx, a.db, database.Stores, func(tx *gorm.DB) (id uint64, err error) {
		w, err := workshop.Load(tx)
		if err != nil {
			return id, err
		}
		d, err := in.read(w, a.now(), inStores(tx))
		if err != nil {
			return id, err
		}
		deliveries := []delivery{d}
		if err := enter(tx, deliveries, func(int) {}); err != nil {
			return id, err
		}
		id = deliveries[0].ID
		return id, nil
	})
}

// read checks a receipt and reads its lines; nothing is entered yet.
func (in NewReceipt) read(w workshop.Workshop, now time.Time, find finder) (d delivery, err error) {
	d = delivery{Receipt: Receipt{ReceivedOn: in.ReceivedOn, TaxIsCost: w.TaxIsCost, Note: strings.TrimSpace(in.Note), RecordedAt: now}, supplier: strings.TrimSpace(in.Supplier)}
	if d.supplier == "" {
		return d, problem.Invalid("supplier", "say whom it was bought from")
	}
	day := calendar.DateOf(now, w.Location())
	if in.ReceivedOn > day || in.ReceivedOn < day.Add(-earliest) {
		return d, problem.Invalid("receivedOn", "the day it came, today or before")
	}
	if d.Shipping, err = money("shipping", in.Shipping); err != nil {
		return d, err
	}
	if d.Tax, err = money("tax", in.Tax); err != nil {
		return d, err
	}
	if d.purchases, err = in.purchases(find); err != nil {
		return d, err
	}
	shareExtra(d.Receipt, d.purchases)
	return d, nil
}

func money(field, text string) (decimal.Decimal, error) {
	if text == "" {
		return decimal.Zero, nil
	}
	d, err := decimal.NewFromString(text)
	if err != nil || d.IsNegative() {
		return d, problem.Invalid(field, "an amount such as 4.90")
	}
	return d, nil
}

// shareExtra shares what was paid on top over the purchases, by value.
func shareExtra(r Receipt, purchases []Purchase) {
	extra := r.Shipping
	if r.TaxIsCost {
		extra = extra.Add(r.Tax)
	}
	values := make([]decimal.Decimal, len(purchases))
	for i, p := range purchases {
		values[i] = p.Price
	}
	for i, share := range stock.Share(extra, values) {
		purchases[i].Extra = share
	}
}

// purchases reads the lines; a sorted line is a purchase of each class.
func (in NewReceipt) purchases(find finder) (all []Purchase, err error) {
	for i, l := range in.Lines {
		at := fmt.Sprintf("lines[%d].", i)
		m, err := find(l.MaterialID)
		if err != nil {
			return nil, problem.OrInvalid(err, at+"materialId", "this material is not in the stores")
		}
		line, err := l.read(m, at)
		if err != nil {
			return nil, err
		}
		if len(l.Sorted) == 0 {
			all = append(all, line)
			continue
		}
		classes, err := l.classes(find, m, line, at)
		if err != nil {
			return nil, err
		}
		all = append(all, classes...)
	}
	return all, nil
}

// read is the line as one purchase of its own material.
func (l NewPurchase) read(m Material, at string) (p Purchase, err error) {
	if l.Packs < 1 {
		return p, problem.Invalid(at+"packs", "at least one")
	}
	p = Purchase{MaterialID: m.ID, Packs: l.Packs, Pack: strings.TrimSpace(l.Pack)}
	if p.PackQuantity, err = m.pack(at+"pack", l.Pack); err != nil {
		return p, err
	}
	if p.Price, err = money(at+"price", l.Price); err != nil {
		return p, err
	}
	if l.PriceEach {
		if p.Price = p.Price.Mul(decimal.NewFromInt(int64(l.Packs))); p.Price.GreaterThan(mostMoney) {
			return p, problem.Invalid(at+"price", "all of them together would cost more than the books can hold")
		}
	}
	came := p.PackQuantity.Mul(decimal.NewFromInt(int64(l.Packs)))
	p.Rejects = decimal.NewFromInt(int64(l.Rejects))
	p.Quantity = came.Sub(p.Rejects)
	p.Left = p.Quantity
	switch {
	case came.GreaterThan(decimal.NewFromInt(mostBought)):
		return p, problem.Invalid(at+"packs", "at most %s", quantity(decimal.NewFromInt(mostBought), m.Unit))
	case l.Rejects != 0 && m.Kind != Blank:
		return p, problem.Invalid(at+"rejects", "only blanks are looked over on arrival")
	case l.Rejects < 0 || !p.Quantity.IsPositive():
		return p, problem.Invalid(at+"rejects", "%s came; at least one of them must be good", quantity(came, m.Unit))
	}
	return p, nil
}

// mostBought is the most of one material on a line, in its unit.
const mostBought = 10_000_000

// classes splits a line over the size classes it was sorted into, its cost by pieces.
func (l NewPurchase) classes(find finder, m Material, line Purchase, at string) (classes []Purchase, err error) {
	var pieces []decimal.Decimal
	sorted := decimal.Zero
	for k, s := range l.Sorted {
		here := fmt.Sprintf("%ssorted[%d].", at, k)
		class, err := find(s.MaterialID)
		switch {
		case err != nil:
			return nil, problem.OrInvalid(err, here+"materialId", "this material is not in the stores")
		case m.Sort == "" || class.Sort != m.Sort:
			return nil, problem.Invalid(here+"materialId", "%s is no size class of what %s is", class.Name, m.Name)
		case s.Pieces < 1:
			return nil, problem.Invalid(here+"pieces", "at least one")
		}
		n := decimal.NewFromInt(int64(s.Pieces))
		pieces, sorted = append(pieces, n), sorted.Add(n)
		classes = append(classes, Purchase{MaterialID: class.ID, Packs: 1, Pack: line.Pack + ", sorted", PackQuantity: n, Quantity: n, Left: n})
	}
	if !sorted.Equal(line.Quantity) {
		return nil, problem.Invalid(at+"sorted", "%s good came, and %s are sorted", quantity(line.Quantity, m.Unit), sorted)
	}
	for k, share := range stock.Share(line.Price, pieces) {
		classes[k].Price = share
	}
	classes[0].Rejects = line.Rejects
	return classes, nil
}

// TakeBack takes a receipt back, as if nothing of it had been bought.
func (a *Area) TakeBack(ctx context.Context, id uint64) error {
	return a.db.Write(ctx, database.Stores, func(tx *gorm.DB) error {
		var r Receipt
		if err := tx.First(&r, id).Error; err != nil {
			return problem.OrNotFound(err, "receipt")
		}
		if r.ReversedAt != nil {
			return problem.Conflict(problem.TakenBack, "This receipt has been taken back already.")
		}
		if err := tx.Model(&r).Update("reversed_at", a.now()).Error; err != nil {
			return fmt.Errorf("taking a receipt back: %w", err)
		}
		var moves []Movement
		// The latest first: what was found no good since is good again before all of it goes.
		standing := tx.Where("receipt_id = ? AND reverses IS NULL", id).Where("id NOT IN (?)", tx.Model(&Movement{}).Select("reverses").Where("receipt_id = ? AND reverses IS NOT NULL", id))
		if err := standing.Order("id DESC").Find(&moves).Error; err != nil {
			return fmt.Errorf("reading what was bought: %w", err)
		}
		for _, m := range moves {
			if err := reverse(tx, m, a.now()); err != nil {
				return err
			}
		}
		return nil
	})
}
