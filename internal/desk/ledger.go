package desk

import (
	"context"
	"slices"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/habit"
	"tidykiln/internal/artwork"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/planning"
)

// PieceMark is a piece in the strip of an order.
type PieceMark string

const (
	MarkNotStarted PieceMark = "notStarted"
	MarkInHand     PieceMark = "inHand"
	MarkResting    PieceMark = "resting"
	MarkReady      PieceMark = "ready"
	MarkFinished   PieceMark = "finished"
	MarkHandedOver PieceMark = "handedOver"
)

// LedgerRow is an order in the ledger.
type LedgerRow struct {
	ID       uint64 `json:"id"`
	Number   int    `json:"number"`
	Customer string `json:"customer"`
	// CustomerID is the number of the customer.
	CustomerID uint64             `json:"customerId"`
	Products   []string           `json:"products" nullable:"false"`
	DueOn      calendar.Date      `json:"dueOn" format:"date"`
	State      orders.State       `json:"state" enum:"open,handed_over,cancelled"`
	Readiness  planning.Readiness `json:"readiness"`
	Marks      []PieceMark        `json:"marks" nullable:"false"`
	Version    int                `json:"version"`
}

// OrderPage is an order with all that its page shows.
type OrderPage struct {
	LedgerRow
	Note string `json:"note"`
	// DaysOnTheWay is how many days after its hand-over it is at the customer's.
	DaysOnTheWay int             `json:"daysOnTheWay"`
	Outlet       string          `json:"outlet" doc:"the way of selling it was taken at"`
	TakenAt      time.Time       `json:"takenAt"`
	Lines        []OrderLine     `json:"lines" nullable:"false"`
	Total        decimal.Decimal `json:"total"`
	Events       []Event         `json:"events" nullable:"false"`
	// ShortRests are the rests that are cut under their usual length for it, unless it keeps them.
	ShortRests []planning.ShortRest `json:"shortRests" nullable:"false"`
	KeepRests  bool                 `json:"keepRests"`
}

// OrderLine is a line with where each of its pieces is.
type OrderLine struct {
	LineID    uint64          `json:"lineId"`
	ProductID uint64          `json:"productId"`
	Product   string          `json:"product"`
	Quantity  int             `json:"quantity"`
	UnitPrice decimal.Decimal `json:"unitPrice"`
	Pieces    []OrderPiece    `json:"pieces" nullable:"false"`
	// OwnPictures: each piece has its customer's picture.
	OwnPictures bool `json:"ownPictures"`
}

// OrderPiece is one wanted piece.
type OrderPiece struct {
	WantID    uint64    `json:"wantId"`
	Lettering string    `json:"lettering"`
	Mark      PieceMark `json:"mark" enum:"notStarted,inHand,resting,ready,finished,handedOver"`
	LotID     uint64    `json:"lotId" doc:"0 when not started, and when it was found on the shelf"`
	// Artwork is its customer's picture; left out where none has come.
	Artwork *artwork.Artwork `json:"artwork,omitempty"`
}

// Event is something that happened.
type Event struct {
	At   time.Time `json:"at"`
	Text string    `json:"text"`
}

// Ledger lists open orders and those closed lately, soonest due first.
func (a *Area) Ledger(ctx context.Context) ([]LedgerRow, error) {
	s, err := a.current(ctx)
	if err != nil {
		return nil, err
	}
	rows := make([]LedgerRow, 0, len(s.Orders))
	for _, o := range s.Orders {
		rows = append(rows, s.row(o))
	}
	return rows, nil
}

// told is an order with what happened to it.
type told struct {
	orders.Order
	own      []orders.Event
	work     []batches.Event
	pictures map[uint64]artwork.Artwork
}

// Order shows one order, its pieces and what happened when.
func (a *Area) Order(ctx context.Context, id uint64) (page OrderPage, err error) {
	o, err := database.Look(ctx, a.db, func(tx *gorm.DB) (told, error) {
		o, err := orders.Load(tx, id)
		if err != nil {
			return told{}, err
		}
		own, err := orders.Events(tx, o.ID)
		if err != nil {
			return told{}, err
		}
		work, err := batches.EventsForWants(tx, o.WantIDs())
		if err != nil {
			return told{}, err
		}
		pictures, err := artwork.ByID(tx, o.ArtworkIDs())
		return told{o, own, work, pictures}, err
	})
	if err != nil {
		return page, err
	}
	// Read after the order, so that it cannot be older than the order is.
	s, err := a.current(ctx)
	if err != nil {
		return page, err
	}
	page = OrderPage{LedgerRow: s.row(o.Order), Note: o.Note, DaysOnTheWay: o.DaysOnTheWay, Outlet: o.OutletName, TakenAt: o.TakenAt, Lines: []OrderLine{}, Events: o.events(s.Basis.Workshop.Habit), ShortRests: s.ShortRestsOf(o.Order), KeepRests: o.KeepRests}
	for _, l := range o.Lines {
		line := OrderLine{LineID: l.ID, ProductID: l.ProductID, Product: l.ProductName, Quantity: l.Quantity, UnitPrice: l.UnitPrice, Pieces: []OrderPiece{}, OwnPictures: s.ownPictures(l.ProductID)}
		for _, w := range l.Wants {
			piece := OrderPiece{WantID: w.ID, Lettering: w.Lettering, Mark: s.mark(o.Order, w)}
			if w.ArtworkID != nil {
				if pic, there := o.pictures[*w.ArtworkID]; there {
					piece.Artwork = &pic
				}
			}
			if lot := s.ByWant[w.ID].LotID; lot != nil {
				piece.LotID = *lot
			}
			line.Pieces = append(line.Pieces, piece)
		}
		page.Total = page.Total.Add(l.UnitPrice.Mul(decimal.NewFromInt(int64(l.Quantity))))
		page.Lines = append(page.Lines, line)
	}
	return page, nil
}

// events is what happened to an order and its pieces, in its order.
func (t told) events(h habit.Habit) []Event {
	all := []Event{}
	for _, e := range t.own {
		all = append(all, Event{e.At, h.Days(e.Text)})
	}
	for _, e := range t.work {
		all = append(all, Event{e.At, e.Text})
	}
	slices.SortStableFunc(all, func(a, b Event) int { return a.At.Compare(b.At) })
	return all
}

func (s view) row(o orders.Order) LedgerRow {
	r := LedgerRow{ID: o.ID, Number: o.Number, Customer: o.Customer.Name, CustomerID: o.Customer.ID, Products: []string{}, DueOn: o.DueOn, State: o.State, Readiness: s.Readiness(o), Marks: []PieceMark{}, Version: o.Version}
	for _, l := range o.Lines {
		if !slices.Contains(r.Products, l.ProductName) {
			r.Products = append(r.Products, l.ProductName)
		}
		for _, w := range l.Wants {
			r.Marks = append(r.Marks, s.mark(o, w))
		}
	}
	order := []PieceMark{MarkHandedOver, MarkFinished, MarkReady, MarkInHand, MarkResting, MarkNotStarted}
	slices.SortStableFunc(r.Marks, func(a, b PieceMark) int { return slices.Index(order, a) - slices.Index(order, b) })
	return r
}

func (s view) mark(o orders.Order, w orders.Want) PieceMark {
	p, made := s.ByWant[w.ID]
	switch {
	case o.State == orders.HandedOver:
		return MarkHandedOver
	case !made:
		return MarkNotStarted
	case p.State == batches.PieceFinished:
		return MarkFinished
	}
	if p.LotID == nil || s.Bench.Lot(*p.LotID) == nil {
		return MarkNotStarted
	}
	lot := *s.Bench.Lot(*p.LotID)
	if s.Bench.OpenRun(lot.ID) != nil {
		return MarkInHand
	}
	last := s.Bench.LastRun(lot)
	if last == nil {
		return MarkNotStarted
	}
	if rest := s.Bench.Batches[lot.BatchID].Recipe.Steps[last.Step].Rest; rest != nil && last.EndedAt.Add(time.Duration(rest.Floor)*time.Minute).After(s.Now) {
		return MarkResting
	}
	return MarkReady
}
