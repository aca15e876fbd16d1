// Package orders holds what customers asked for. Each piece a customer wants
// is a row of its own, a want, so that a name that is spoiled can be wanted again.
package orders

import (
	"fmt"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/selling"
	"tidykiln/internal/workshop"
)

// State of an order.
type State string

const (
	Open       State = "open"
	HandedOver State = "handed_over"
	Cancelled  State = "cancelled"
)

// Order is a promise to a customer.
type Order struct {
	ID         uint64          `json:"id"`
	Number     int             `json:"number"`
	CustomerID uint64          `json:"-"`
	Customer   customers.Named `json:"customer"`
	OutletName string          `json:"outletName"`
	DueOn      calendar.Date   `json:"dueOn" format:"date"`
	// DaysOnTheWay is how many days after its hand-over it is at the customer's.
	DaysOnTheWay int    `json:"daysOnTheWay"`
	Note         string `json:"note"`
	// KeepRests keeps the usual rests even where that makes the order late.
	KeepRests bool      `json:"keepRests"`
	State     State     `json:"state" enum:"open,handed_over,cancelled"`
	TakenAt   time.Time `json:"takenAt"`
	// TaxPercent, TaxInPrice and TaxNote are what the way of selling said when it was taken.
	TaxPercent decimal.Decimal `json:"-"`
	TaxInPrice bool            `json:"-"`
	TaxNote    string          `json:"-"`
	ClosedAt   *time.Time      `json:"closedAt,omitempty"`
	Version    int             `json:"version"`
	Lines      []Line          `json:"lines" nullable:"false"`
}

// Line is a number of one product, with the name, price and cost it had when taken.
type Line struct {
	ID          uint64          `json:"id"`
	OrderID     uint64          `json:"-"`
	Position    int             `json:"-"`
	ProductID   uint64          `json:"productId"`
	ProductName string          `json:"productName"`
	Quantity    int             `json:"quantity"`
	UnitPrice   decimal.Decimal `json:"unitPrice"`
	UnitCost    decimal.Decimal `json:"unitCost"`
	Wants       []Want          `json:"wants" gorm:"foreignKey:OrderLineID" nullable:"false"`
}

func (Line) TableName() string { return "order_lines" }

// Want is one piece a customer wants; Lettering is empty for a plain one.
type Want struct {
	ID          uint64 `json:"id"`
	OrderLineID uint64 `json:"-"`
	Position    int    `json:"-"`
	Lettering   string `json:"lettering"`
	// ArtworkID is the customer's picture for it; nil where none is needed or none has come.
	ArtworkID *uint64 `json:"artworkId,omitempty"`
	// ReturnedAt is when it came back after it had been handed over.
	ReturnedAt *time.Time `json:"returnedAt,omitempty"`
}

// Event is something that happened to an order.
type Event struct {
	ID      uint64    `json:"-"`
	OrderID uint64    `json:"-"`
	At      time.Time `json:"at"`
	Text    string    `json:"text"`
}

func (Event) TableName() string { return "order_events" }

// NewOrder is an order being taken.
type NewOrder struct {
	Customer string        `json:"customer" minLength:"1" maxLength:"120"`
	OutletID uint64        `json:"outletId,omitempty" doc:"the way of selling; the main one when left out"`
	DueOn    calendar.Date `json:"dueOn" format:"date" doc:"of the hand-over, to the customer or to whoever carries it"`
	// DaysOnTheWay is how many days after its hand-over it is at the customer's.
	DaysOnTheWay int    `json:"daysOnTheWay,omitempty" minimum:"0" maximum:"60"`
	Note         string `json:"note,omitempty" maxLength:"2000"`
	// KeepRests keeps the usual rests even where that makes the order late.
	KeepRests bool      `json:"keepRests,omitempty"`
	Lines     []NewLine `json:"lines" minItems:"1" maxItems:"20" nullable:"false"`
	// Quoted is what was quoted, where the order comes of a quote: it goes before the
	// prices of today, as do the prices of its lines.
	Quoted *Quoted `json:"-"`
}

// Quoted is what holds for an order that comes of a quote.
type Quoted struct {
	OutletName string
	TaxPercent decimal.Decimal
	TaxInPrice bool
	TaxNote    string
	// Prices are those of one piece, a line each.
	Prices []decimal.Decimal
}

// NewLine is a line being taken. Lettering holds one entry a piece for a lettered product and none otherwise.
type NewLine struct {
	ProductID uint64   `json:"productId"`
	Quantity  int      `json:"quantity" minimum:"1" maximum:"500"`
	Lettering []string `json:"lettering,omitempty" maxItems:"500" nullable:"false"`
}

const (
	longestLettering = 120
	// furthest is how many days ahead an order can be due.
	furthest = 3 * 366
)

// Area answers for orders.
type Area struct {
	db       *database.DB
	products *products.Area
	selling  *selling.Area
}

// New makes the area on its database.
func New(db *database.DB, products *products.Area, selling *selling.Area) *Area {
	return &Area{db, products, selling}
}

// ToChange reads an order, and refuses it where it is closed or was changed since
// somebody read it in a version.
func ToChange(tx *gorm.DB, id uint64, version int) (o Order, err error) {
	if o, err = Load(tx, id); err != nil {
		return o, err
	}
	switch {
	case o.State == HandedOver:
		return o, problem.Conflict(problem.Closed, "Order %d has been handed over.", o.Number)
	case o.State == Cancelled:
		return o, problem.Conflict(problem.Closed, "Order %d has been cancelled.", o.Number)
	case version == o.Version:
		return o, nil
	}
	w, err := workshop.LoadAlone(tx)
	if err != nil {
		return o, err
	}
	return o, problem.IfStale(version, o.Version, "Order %d was changed by someone since you opened it: it is now due %s.", o.Number, w.Habit.Date(o.DueOn.At(0, time.UTC)))
}

// CheckCustomer refuses an order that is for nobody.
func CheckCustomer(name string) error {
	if strings.TrimSpace(name) == "" {
		return problem.Invalid("customer", "say whom the order is for")
	}
	return nil
}

// Take records a new order at today's prices and costs.
func (a *Area) Take(tx *gorm.DB, in NewOrder, now time.Time) (o Order, err error) {
	basis, err := a.products.Basis(tx, now)
	if err != nil {
		return o, err
	}
	if err := CheckCustomer(in.Customer); err != nil {
		return o, err
	}
	customer := strings.TrimSpace(in.Customer)
	if err := CheckDue("dueOn", in.DueOn, basis.Workshop, now); err != nil {
		return o, err
	}
	counter, err := a.selling.Counter(tx, basis)
	if err != nil {
		return o, err
	}
	outlet, err := counter.Outlet(in.OutletID)
	if err != nil {
		return o, err
	}
	o = Order{OutletName: outlet.Name, DueOn: in.DueOn, DaysOnTheWay: in.DaysOnTheWay, Note: strings.TrimSpace(in.Note), KeepRests: in.KeepRests, State: Open, TakenAt: now, TaxPercent: outlet.TaxPercent, TaxInPrice: outlet.TaxInPrice, TaxNote: outlet.TaxNote, Version: 1}
	for i, l := range in.Lines {
		line, p, err := takeLine(tx, basis, l, i)
		if err != nil {
			return o, err
		}
		if line.UnitPrice, err = counter.Asked(p, outlet); err != nil {
			return o, err
		}
		o.Lines = append(o.Lines, line)
	}
	if q := in.Quoted; q != nil {
		o.OutletName, o.TaxPercent, o.TaxInPrice, o.TaxNote = q.OutletName, q.TaxPercent, q.TaxInPrice, q.TaxNote
		for i := range o.Lines {
			o.Lines[i].UnitPrice = q.Prices[i]
		}
	}
	if o.Customer, err = customers.Called(tx, customer); err != nil {
		return o, err
	}
	if err := createOrder(tx, &o); err != nil {
		return o, err
	}
	if o.DaysOnTheWay > 0 {
		return o, AddEvent(tx, o.ID, now, "Order taken, due %s, to be at the customer’s by %s", o.DueOn, o.DueOn.Add(o.DaysOnTheWay))
	}
	return o, AddEvent(tx, o.ID, now, "Order taken, due %s", o.DueOn)
}

func takeLine(tx *gorm.DB, basis products.Basis, in NewLine, i int) (line Line, p products.Product, err error) {
	p, err = products.Load(tx, in.ProductID)
	if err != nil {
		return line, p, problem.OrInvalid(err, fmt.Sprintf("lines[%d].productId", i), "this product is not made here")
	}
	if in.Quantity < 1 || in.Quantity > craft.MostPieces {
		return line, p, problem.Invalid(fmt.Sprintf("lines[%d].quantity", i), "from 1 to %d pieces", craft.MostPieces)
	}
	lettering, err := checkLettering(p, in, i)
	if err != nil {
		return line, p, err
	}
	costing, err := basis.Cost(p, in.Quantity)
	if err != nil {
		return line, p, err
	}
	line = Line{Position: i, ProductID: p.ID, ProductName: p.Name, Quantity: in.Quantity,
		UnitCost: costing.Total().Round(4)}
	for k := range in.Quantity {
		want := Want{Position: k}
		if p.Lettered {
			want.Lettering = lettering[k]
		}
		line.Wants = append(line.Wants, want)
	}
	return line, p, nil
}

func checkLettering(p products.Product, in NewLine, i int) ([]string, error) {
	field := fmt.Sprintf("lines[%d].lettering", i)
	if !p.Lettered {
		if len(in.Lettering) > 0 {
			return nil, problem.Invalid(field, "%s carries no lettering", p.Name)
		}
		return nil, nil
	}
	var lettering []string
	for k, text := range in.Lettering {
		text = strings.TrimSpace(text)
		if text == "" {
			return nil, problem.Invalid(fmt.Sprintf("%s[%d]", field, k), "piece %d has no lettering", k+1)
		}
		if len([]rune(text)) > longestLettering {
			return nil, problem.Invalid(fmt.Sprintf("%s[%d]", field, k), "at most %d characters on a piece", longestLettering)
		}
		lettering = append(lettering, text)
	}
	if len(lettering) != in.Quantity {
		return nil, problem.Invalid(field, "%d pieces, but %d lines of lettering", in.Quantity, len(lettering))
	}
	return lettering, nil
}

// CheckDue refuses a due that is past, or too far ahead to be meant.
func CheckDue(field string, due calendar.Date, w workshop.Workshop, now time.Time) error {
	today := calendar.DateOf(now, w.Location())
	switch {
	case due < today:
		return problem.Invalid(field, "this day is past")
	case due > today.Add(furthest):
		return problem.Invalid(field, "this is more than three years ahead")
	}
	return nil
}
