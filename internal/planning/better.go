package planning

import (
	"fmt"
	"math"

	"github.com/shopspring/decimal"

	"tidykiln/core/calendar"
	"tidykiln/core/measure"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/orders"
	"tidykiln/internal/products"
	"tidykiln/internal/selling"
)

// Better is what would go better than what is asked for, with why and what is gained.
type Better struct {
	// Line is the line it speaks of, from 0; Quantity is what that would be, 0 where it stays.
	Line     int `json:"line"`
	Quantity int `json:"quantity"`
	// DueOn is a later day that would go better; left out where the day stays.
	DueOn calendar.Date `json:"dueOn,omitempty" format:"date"`
	Text  string        `json:"text"`
	// Gain is what is saved in all.
	Gain decimal.Decimal `json:"gain"`
}

// better says what would go better than an ask, of what the shelf does not give. A name
// cannot be added to fill a sheet: lettered lines are left as they are.
func (a asked) better(s *Schedule, ask Ask) (list []Better, err error) {
	list = []Better{}
	for i, l := range ask.Lines {
		p, made := a.products[i], l.Quantity-a.shelf[i]
		if made < 1 {
			continue
		}
		if !p.Distinct() {
			b, err := fullSheet(a.counter, p, made)
			if err != nil {
				return nil, err
			}
			if b != nil && b.Quantity+a.shelf[i] <= mostOfOne {
				b.Line, b.Quantity = i, b.Quantity+a.shelf[i]
				list = append(list, *b)
			}
		}
		if b := s.laterTogether(ask.DueOn, p, made); b != nil {
			b.Line = i
			list = append(list, *b)
		}
		b, err := lightBase(a.counter, p, made)
		if err != nil {
			return nil, err
		}
		if b != nil {
			b.Line = i
			list = append(list, *b)
		}
	}
	return list, nil
}

// aFewMore is how many pieces more are worth a word, as a share of what is asked for.
const aFewMore = 0.25

// fullSheet is that some more pieces would fill the last sheet of prints.
func fullSheet(counter selling.Counter, p products.Product, quantity int) (*Better, error) {
	every := int(fulfilment.OnSheet(counter.Basis, p))
	if every < 2 || quantity%every == 0 {
		return nil, nil
	}
	full := (quantity/every + 1) * every
	if more := full - quantity; more > int(math.Max(2, aFewMore*float64(quantity))) {
		return nil, nil
	}
	now, err := counter.Cost(p, quantity)
	if err != nil {
		return nil, err
	}
	then, err := counter.Cost(p, full)
	if err != nil {
		return nil, err
	}
	less := now.Total().Sub(then.Total())
	if less.LessThan(aCent) {
		return nil, nil
	}
	w := counter.Workshop
	return &Better{Quantity: full, Gain: less.Mul(decimal.NewFromInt(int64(quantity))).Round(2),
		Text: fmt.Sprintf("%d more fill the sheet: each %s costs %s less.", full-quantity, p.Name, w.Money(less.Round(2)))}, nil
}

// mostOfOne is how many pieces one line of an order can be for.
const mostOfOne = 500

var aCent = decimal.New(1, -2)

// What a later day is worth a word for: at most so many days, at least so many minutes.
const (
	aFewDays    = 3
	worthASetup = 5
)

// laterTogether is that on a day soon after the one asked for it would be made together with
// like work that is not begun (as batches are suggested, suggest.go), and its set-ups paid once.
func (s *Schedule) laterTogether(due calendar.Date, p products.Product, quantity int) (best *Better) {
	if due == "" {
		return nil
	}
	w := s.Basis.Workshop
	mine := wantedProduct{Demand: fulfilment.Demand{Wants: make([]orders.OpenWant, quantity)}, product: p, recipe: p.Bench()}
	for i, d := range fulfilment.Proposals(w, s.Logbook, s.Products, s.Wants) {
		other := wantedProduct{Demand: d, product: s.Products[i], recipe: s.Products[i].Bench()}
		if other.product.ID == p.ID || len(d.Wants) == 0 || other.made() != mine.made() {
			continue
		}
		day := other.dueOn().Add(-likeWithin)
		if day <= due {
			return nil // it goes together with that as it is
		}
		saved := savedTogether([]wantedProduct{mine, other})
		if day > due.Add(aFewDays) || saved < worthASetup || best != nil && best.DueOn <= day {
			continue
		}
		best = &Better{DueOn: day, Gain: w.LabourPerHour.Mul(decimal.NewFromInt(int64(saved))).Div(decimal.NewFromInt(60)).Round(2),
			Text: fmt.Sprintf("Due %s instead it is made together with %s: %s of setting up are paid once.", w.Habit.Date(day.At(0, w.Location())), d.ProductName, measure.Duration(saved))}
	}
	return best
}

// lightBase is that a light base would spare the solvent way.
func lightBase(counter selling.Counter, p products.Product, quantity int) (*Better, error) {
	l, is, err := counter.Lighter(p, quantity)
	if err != nil || !is {
		return nil, err
	}
	w, gained := counter.Workshop, ""
	if l.Cost.GreaterThanOrEqual(aCent) {
		gained = w.Money(l.Cost.Round(2)) + " less"
	}
	if l.Minutes.GreaterThanOrEqual(decimal.NewFromInt(1)) {
		if gained != "" {
			gained += " and "
		}
		gained += l.Minutes.Round(0).String() + " min of hands less"
	}
	if gained == "" {
		gained = "no dearer"
	}
	return &Better{Gain: decimal.Max(decimal.Zero, l.Cost).Mul(decimal.NewFromInt(int64(quantity))).Round(2),
		Text: fmt.Sprintf("On a light base %s would need no spray and no solvent (%s): a piece is %s. Ask whether light will do.", p.Name, l.Method, gained)}, nil
}
