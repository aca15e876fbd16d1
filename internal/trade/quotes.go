package trade

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/bill"
	"tidykiln/core/calendar"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/planning"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

// QuoteState is where a quote is.
type QuoteState string

const (
	QuoteOpen      QuoteState = "open"
	QuoteAccepted  QuoteState = "accepted"
	QuoteDeclined  QuoteState = "declined"
	QuoteWithdrawn QuoteState = "withdrawn"
	// QuoteLapsed is one that stood too long; no row says so.
	QuoteLapsed QuoteState = "lapsed"
)

// Quote is what is offered to somebody, at a price, for a day, for as long as it stands.
type Quote struct {
	ID         uint64          `json:"id"`
	Number     int             `json:"number"`
	CustomerID uint64          `json:"-"`
	Customer   customers.Named `json:"customer"`
	OutletName string          `json:"outletName"`
	TaxPercent decimal.Decimal `json:"taxPercent"`
	TaxInPrice bool            `json:"taxInPrice"`
	TaxNote    string          `json:"taxNote,omitempty"`
	DueOn      calendar.Date   `json:"dueOn" format:"date"`
	// DaysOnTheWay is how many days after its hand-over it is at the customer's.
	DaysOnTheWay int           `json:"daysOnTheWay"`
	StandsUntil  calendar.Date `json:"standsUntil" format:"date"`
	Note         string        `json:"note"`
	State        QuoteState    `json:"state" enum:"open,accepted,declined,withdrawn,lapsed"`
	MadeAt       time.Time     `json:"madeAt"`
	AnsweredAt   *time.Time    `json:"answeredAt,omitempty"`
	// OrderID is the order it became; nil where it was accepted and the order is still to be taken.
	OrderID *uint64     `json:"orderId,omitempty"`
	Version int         `json:"version"`
	Lines   []QuoteLine `json:"lines" nullable:"false"`
	// Net and Tax together are Gross; Deposit is what is asked ahead of it.
	Net     decimal.Decimal `json:"net" gorm:"-"`
	Tax     decimal.Decimal `json:"tax" gorm:"-"`
	Gross   decimal.Decimal `json:"gross" gorm:"-"`
	Deposit decimal.Decimal `json:"deposit" gorm:"-"`
}

// QuoteLine is a number of one product at a price.
type QuoteLine struct {
	ID          uint64          `json:"id"`
	QuoteID     uint64          `json:"-"`
	Position    int             `json:"-"`
	ProductID   uint64          `json:"productId"`
	ProductName string          `json:"productName"`
	Quantity    int             `json:"quantity"`
	UnitPrice   decimal.Decimal `json:"unitPrice"`
	// Lettering holds the names known so far.
	Lettering []string `json:"lettering" gorm:"serializer:json" nullable:"false"`
	// Lettered says that each piece carries words of its own; Thumb is the picture on it.
	Lettered bool   `json:"lettered" gorm:"-"`
	Thumb    string `json:"thumb,omitempty" gorm:"-"`
}

// NewQuote is a quote being made.
type NewQuote struct {
	Customer string        `json:"customer" minLength:"1" maxLength:"120"`
	OutletID uint64        `json:"outletId,omitempty" doc:"the way of selling; the main one when left out"`
	DueOn    calendar.Date `json:"dueOn" format:"date"`
	// DaysOnTheWay is how many days after its hand-over it is at the customer's.
	DaysOnTheWay int            `json:"daysOnTheWay,omitempty" minimum:"0" maximum:"60"`
	StandsUntil  calendar.Date  `json:"standsUntil,omitempty" format:"date" doc:"as long as the terms say when left out"`
	Note         string         `json:"note,omitempty" maxLength:"2000"`
	Lines        []NewQuoteLine `json:"lines" minItems:"1" maxItems:"20" nullable:"false"`
}

// NewQuoteLine is a line being quoted.
type NewQuoteLine struct {
	ProductID uint64 `json:"productId"`
	Quantity  int    `json:"quantity" minimum:"1" maximum:"500"`
	// UnitPrice is the price of one; today's when left out.
	UnitPrice string   `json:"unitPrice,omitempty" pattern:"^(\\d{1,7}(\\.\\d{1,4})?)?$" patternDescription:"an amount such as 15.50"`
	Lettering []string `json:"lettering,omitempty" maxItems:"500" nullable:"false"`
}

// Acceptance is a quote being accepted.
type Acceptance struct {
	// Lettering holds the names of the pieces, a list a line; those of the quote where left out.
	Lettering [][]string `json:"lettering,omitempty" maxItems:"20" nullable:"false"`
	// DueOn is another day than the quote's, where that cannot be held any more.
	DueOn calendar.Date `json:"dueOn,omitempty" format:"date"`
	planning.Agreed
}

// longestStanding is how many days ahead a quote can stand.
const longestStanding = 366

// Quotes are the latest 200, the newest first.
func (a *Area) Quotes(ctx context.Context) ([]Quote, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]Quote, error) {
		list := []Quote{}
		if err := wholeQuotes(tx).Order("quotes.id DESC").Limit(200).Find(&list).Error; err != nil {
			return nil, fmt.Errorf("reading the quotes: %w", err)
		}
		return list, a.complete(tx, list)
	})
}

// Quote reads one.
func (a *Area) Quote(ctx context.Context, id uint64) (Quote, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (Quote, error) { return a.quote(tx, id) })
}

func (a *Area) quote(tx *gorm.DB, id uint64) (Quote, error) {
	list := make([]Quote, 1)
	if err := wholeQuotes(tx).First(&list[0], id).Error; err != nil {
		return Quote{}, problem.OrNotFound(err, "quote")
	}
	return list[0], a.complete(tx, list)
}

// complete adds up quotes, and says of each whether it has lapsed.
func (a *Area) complete(tx *gorm.DB, list []Quote) error {
	w, err := workshop.LoadAlone(tx)
	if err != nil {
		return err
	}
	terms, err := loadTerms(tx)
	if err != nil {
		return err
	}
	today := calendar.DateOf(a.now(), w.Location())
	for i := range list {
		if err := list[i].add(terms); err != nil {
			return err
		}
		if list[i].State == QuoteOpen && list[i].StandsUntil < today {
			list[i].State = QuoteLapsed
		}
	}
	return withProducts(tx, list)
}

func (q *Quote) add(terms Terms) error {
	var lines []bill.Line
	for _, l := range q.Lines {
		lines = append(lines, bill.Line{Quantity: l.Quantity, Each: l.UnitPrice})
	}
	sum, err := bill.Add(lines, decimal.Zero, bill.Tax{Percent: q.TaxPercent, InPrice: q.TaxInPrice})
	if err != nil {
		return fmt.Errorf("adding quote %d up: %w", q.Number, err)
	}
	q.Net, q.Tax, q.Gross = sum.Net, sum.Tax, sum.Gross
	q.Deposit, err = bill.Deposit(sum.Gross, terms.DepositPercent)
	return err
}

// MakeQuote offers something to somebody.
func (a *Area) MakeQuote(ctx context.Context, in NewQuote) (Quote, error) {
	return database.Answer(ctx, a.db, database.Orders, func(tx *gorm.DB) (q Quote, err error) {
		basis, err := a.products.Basis(tx, a.now())
		if err != nil {
			return q, err
		}
		if err := orders.CheckCustomer(in.Customer); err != nil {
			return q, err
		}
		if err := orders.CheckDue("dueOn", in.DueOn, basis.Workshop, a.now()); err != nil {
			return q, err
		}
		if q, err = a.offered(tx, in, basis); err != nil {
			return q, err
		}
		if q.Customer, err = customers.Called(tx, strings.TrimSpace(in.Customer)); err != nil {
			return q, err
		}
		if err := createQuote(tx, &q); err != nil {
			return q, err
		}
		return a.quote(tx, q.ID)
	})
}

// offered is the quote with its prices and how long it stands.
func (a *Area) offered(tx *gorm.DB, in NewQuote, basis products.Basis) (q Quote, err error) {
	terms, err := loadTerms(tx)
	if err != nil {
		return q, err
	}
	today := calendar.DateOf(a.now(), basis.Workshop.Location())
	until := in.StandsUntil
	switch {
	case until == "":
		until = today.Add(terms.QuoteDays)
	case until < today:
		return q, problem.Invalid("standsUntil", "this day is past")
	case until > today.Add(longestStanding):
		return q, problem.Invalid("standsUntil", "this is more than a year ahead")
	}
	counter, err := a.selling.Counter(tx, basis)
	if err != nil {
		return q, err
	}
	outlet, err := counter.Outlet(in.OutletID)
	if err != nil {
		return q, err
	}
	q = Quote{OutletName: outlet.Name, TaxPercent: outlet.TaxPercent, TaxInPrice: outlet.TaxInPrice, TaxNote: outlet.TaxNote, DueOn: in.DueOn, DaysOnTheWay: in.DaysOnTheWay,
		StandsUntil: until, Note: strings.TrimSpace(in.Note), State: QuoteOpen, MadeAt: a.now(), Version: 1}
	for i, l := range in.Lines {
		p, err := products.Load(tx, l.ProductID)
		if err != nil {
			return q, problem.OrInvalid(err, fmt.Sprintf("lines[%d].productId", i), "this product is not made here")
		}
		line := QuoteLine{Position: i, ProductID: p.ID, ProductName: p.Name, Quantity: l.Quantity}
		if line.UnitPrice, err = counter.Asked(p, outlet); err != nil {
			return q, err
		}
		if l.UnitPrice != "" {
			if line.UnitPrice, err = decimal.NewFromString(l.UnitPrice); err != nil {
				return q, problem.Invalid(fmt.Sprintf("lines[%d].unitPrice", i), "an amount such as 15.50")
			}
		}
		if line.Lettering, err = known(p.Lettered, l, i); err != nil {
			return q, err
		}
		q.Lines = append(q.Lines, line)
	}
	return q, nil
}

// known are the names that are known of a line.
func known(lettered bool, l NewQuoteLine, i int) ([]string, error) {
	names := []string{}
	for _, name := range l.Lettering {
		if name = strings.TrimSpace(name); name != "" {
			names = append(names, name)
		}
	}
	at := fmt.Sprintf("lines[%d].lettering", i)
	switch {
	case !lettered && len(names) > 0:
		return nil, problem.Invalid(at, "this product carries no lettering")
	case len(names) > l.Quantity:
		return nil, problem.Invalid(at, "%d pieces, but %d lines of lettering", l.Quantity, len(names))
	}
	return names, nil
}

// errTwice is of a quote that has become an order meanwhile.
var errTwice = errors.New("the quote has become an order meanwhile")

// AcceptQuote makes an order of a quote, at the quoted prices. A quote that is one
// already answers with that order.
func (a *Area) AcceptQuote(ctx context.Context, id uint64, in Acceptance) (wire.Made, error) {
	q, err := a.Quote(ctx, id)
	if err != nil {
		return wire.Made{}, err
	}
	if q.OrderID != nil {
		return a.became(ctx, *q.OrderID)
	}
	if err := q.mayBeTaken(); err != nil {
		return wire.Made{}, err
	}
	made, err := a.planning.TakeOrderAnd(ctx, planning.NewOrder{NewOrder: q.order(in), Agreed: in.Agreed}, func(tx *gorm.DB, o orders.Order) error {
		return becomeOrder(tx, q.ID, o, a.now())
	})
	if errors.Is(err, errTwice) {
		return a.AcceptQuote(ctx, id, in)
	}
	return made, err
}

func (a *Area) became(ctx context.Context, order uint64) (wire.Made, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (wire.Made, error) {
		o, err := orders.Load(tx, order)
		return wire.Made{ID: o.ID, Number: o.Number}, err
	})
}

// mayBeTaken refuses a quote that does not hold any more.
func (q Quote) mayBeTaken() error {
	switch q.State {
	case QuoteDeclined:
		return problem.Conflict(problem.Closed, "Quote %d was declined.", q.Number)
	case QuoteWithdrawn:
		return problem.Conflict(problem.Closed, "Quote %d was withdrawn.", q.Number)
	case QuoteLapsed:
		return problem.Conflict(problem.Closed, "Quote %d stood until %s. Make another one.", q.Number, q.StandsUntil)
	}
	return nil
}

// order is the order that the quote becomes.
func (q Quote) order(in Acceptance) orders.NewOrder {
	o := orders.NewOrder{Customer: q.Customer.Name, DueOn: q.DueOn, DaysOnTheWay: q.DaysOnTheWay, Note: q.Note,
		Quoted: &orders.Quoted{OutletName: q.OutletName, TaxPercent: q.TaxPercent, TaxInPrice: q.TaxInPrice, TaxNote: q.TaxNote}}
	if in.DueOn != "" {
		o.DueOn = in.DueOn
	}
	for i, l := range q.Lines {
		line := orders.NewLine{ProductID: l.ProductID, Quantity: l.Quantity, Lettering: l.Lettering}
		if i < len(in.Lettering) && len(in.Lettering[i]) > 0 {
			line.Lettering = in.Lettering[i]
		}
		o.Lines = append(o.Lines, line)
		o.Quoted.Prices = append(o.Quoted.Prices, l.UnitPrice)
	}
	return o
}

// DeclineQuote notes that somebody does not want it; WithdrawQuote takes it back.
func (a *Area) DeclineQuote(ctx context.Context, id uint64, version int) error {
	return a.end(ctx, id, version, QuoteDeclined)
}

// WithdrawQuote takes a quote back; its address opens nothing that could be accepted.
func (a *Area) WithdrawQuote(ctx context.Context, id uint64, version int) error {
	return a.end(ctx, id, version, QuoteWithdrawn)
}

func (a *Area) end(ctx context.Context, id uint64, version int, state QuoteState) error {
	return a.db.Write(ctx, database.Orders, func(tx *gorm.DB) error {
		q, err := a.quote(tx, id)
		if err != nil {
			return err
		}
		if q.OrderID != nil {
			return problem.Conflict(problem.Closed, "Quote %d is an order already.", q.Number)
		}
		if err := q.mayBeTaken(); err != nil && q.State != QuoteLapsed {
			return err
		}
		if err := problem.IfStale(version, q.Version, "Quote %d was changed by someone since you opened it.", q.Number); err != nil {
			return err
		}
		return saveQuote(tx, q, map[string]any{"state": state, "answered_at": a.now()})
	})
}
