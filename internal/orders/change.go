package orders

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/customers"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

// OrderChange is what can be changed of an order that is open. A customer or
// lines that are left out stay as they are.
type OrderChange struct {
	Customer string        `json:"customer,omitempty" maxLength:"120"`
	DueOn    calendar.Date `json:"dueOn" format:"date"`
	// DaysOnTheWay stay as they are where they are left out.
	DaysOnTheWay *int   `json:"daysOnTheWay,omitempty" minimum:"0" maximum:"60"`
	Note         string `json:"note,omitempty" maxLength:"2000"`
	// KeepRests keeps the usual rests even where that makes the order late.
	KeepRests bool         `json:"keepRests,omitempty"`
	Lines     []LineChange `json:"lines,omitempty" maxItems:"20" nullable:"false"`
	Version   int          `json:"version" minimum:"1"`
}

// LineChange is a line as it is to be. Wants of the line that are not named are
// wanted no longer.
type LineChange struct {
	LineID    uint64       `json:"lineId"`
	UnitPrice string       `json:"unitPrice" pattern:"^\\d{1,7}(\\.\\d{1,4})?$" patternDescription:"an amount such as 15.50"`
	Wants     []WantChange `json:"wants" minItems:"1" maxItems:"500" nullable:"false"`
}

// WantChange is a piece of a line as it is to be; WantID 0 is another one.
type WantChange struct {
	WantID    uint64 `json:"wantId,omitempty"`
	Lettering string `json:"lettering,omitempty" maxLength:"120"`
}

// LineEdit is what a change comes to on one line of an order.
type LineEdit struct {
	Line                    Line
	Added, Renamed, Removed []Want
	// At is where each renamed want stands in the request, WantsAt where they all do.
	At      map[uint64]string
	WantsAt string
	// price is the one before, nil when it stays; was are the names before, by want.
	price *decimal.Decimal
	was   map[uint64]string
}

// Edits reads what lines are to be, without changing the order. Each edit's
// Line is as it will be.
func (o Order) Edits(lines []LineChange) (edits []LineEdit, err error) {
	seen := map[uint64]bool{}
	for i, c := range lines {
		at := fmt.Sprintf("lines[%d]", i)
		k := slices.IndexFunc(o.Lines, func(l Line) bool { return l.ID == c.LineID })
		if k < 0 || seen[c.LineID] {
			return nil, problem.Invalid(at+".lineId", "this line is not of the order, or is named twice")
		}
		seen[c.LineID] = true
		edit, err := o.Lines[k].edit(c, at)
		if err != nil {
			return nil, err
		}
		edits = append(edits, edit)
	}
	return edits, nil
}

func (l Line) edit(c LineChange, at string) (e LineEdit, err error) {
	e = LineEdit{Line: l, At: map[uint64]string{}, WantsAt: at + ".wants", was: map[uint64]string{}}
	price, err := decimal.NewFromString(c.UnitPrice)
	if err != nil {
		return e, problem.Invalid(at+".unitPrice", "write an amount, such as 15.50")
	}
	if !price.Equal(l.UnitPrice) {
		e.price, e.Line.UnitPrice = &l.UnitPrice, price
	}
	if len(c.Wants) < 1 || len(c.Wants) > craft.MostPieces {
		return e, problem.Invalid(at+".wants", "from 1 to %d pieces", craft.MostPieces)
	}
	was := map[uint64]Want{}
	last := 0
	for _, w := range l.Wants {
		was[w.ID] = w
		last = max(last, w.Position)
	}
	e.Line.Wants = nil
	for k, c := range c.Wants {
		field := fmt.Sprintf("%s.wants[%d]", at, k)
		lettering, err := l.lettering(c.Lettering, field)
		if err != nil {
			return e, err
		}
		w := Want{OrderLineID: l.ID, Position: last + 1, Lettering: lettering}
		if c.WantID == 0 {
			last++
			e.Added = append(e.Added, w)
			continue
		}
		old, known := was[c.WantID]
		if !known {
			return e, problem.Invalid(field+".wantId", "this piece is not of the line, or is named twice")
		}
		delete(was, c.WantID)
		if w = old; w.Lettering != lettering {
			w.Lettering, e.was[w.ID] = lettering, old.Lettering
			e.Renamed = append(e.Renamed, w)
			e.At[w.ID] = field + ".lettering"
		}
		e.Line.Wants = append(e.Line.Wants, w)
	}
	for _, w := range l.Wants {
		if _, gone := was[w.ID]; gone {
			e.Removed = append(e.Removed, w)
		}
	}
	e.Line.Wants = append(e.Line.Wants, e.Added...)
	e.Line.Quantity = len(e.Line.Wants)
	return e, nil
}

// lettering checks what is to stand on a piece; a line's pieces all carry some, or none does.
func (l Line) lettering(text, field string) (string, error) {
	text = strings.TrimSpace(text)
	lettered := slices.ContainsFunc(l.Wants, func(w Want) bool { return w.Lettering != "" })
	switch {
	case lettered && text == "":
		return "", problem.Invalid(field+".lettering", "say what is to stand on it")
	case !lettered && text != "":
		return "", problem.Invalid(field+".lettering", "%s carries no lettering", l.ProductName)
	}
	return text, nil
}

// Change saves what is changed of an order. What is changed of its pieces must
// have been allowed.
func Change(tx *gorm.DB, o Order, c OrderChange, edits []LineEdit, now time.Time) error {
	w, err := workshop.Load(tx)
	if err != nil {
		return err
	}
	if c.DueOn != o.DueOn {
		if err := CheckDue("dueOn", c.DueOn, w, now); err != nil {
			return err
		}
		if err := AddEvent(tx, o.ID, now, "Due date moved from %s to %s", o.DueOn, c.DueOn); err != nil {
			return err
		}
	}
	changes := map[string]any{"due_on": c.DueOn, "note": strings.TrimSpace(c.Note), "keep_rests": c.KeepRests}
	if days := c.DaysOnTheWay; days != nil && *days != o.DaysOnTheWay {
		changes["days_on_the_way"] = *days
		if err := AddEvent(tx, o.ID, now, "%s on the way now, not %d", measure.Count(*days, "day"), o.DaysOnTheWay); err != nil {
			return err
		}
	}
	if name := strings.TrimSpace(c.Customer); name != "" && name != o.Customer.Name {
		customer, err := customers.Called(tx, name)
		if err != nil {
			return err
		}
		changes["customer_id"] = customer.ID
		if err := AddEvent(tx, o.ID, now, "For %s now, not %s", name, o.Customer.Name); err != nil {
			return err
		}
	}
	for _, e := range edits {
		if err := e.save(tx, o.ID, now); err != nil {
			return err
		}
	}
	return saveOrder(tx, o, changes)
}

func (e LineEdit) save(tx *gorm.DB, orderID uint64, now time.Time) error {
	if err := saveWants(tx, e); err != nil {
		return err
	}
	w, err := workshop.LoadAlone(tx)
	if err != nil {
		return err
	}
	for _, text := range e.events(w) {
		if err := AddEvent(tx, orderID, now, "%s", text); err != nil {
			return err
		}
	}
	return nil
}

// events tells what was changed, in words.
func (e LineEdit) events(w workshop.Workshop) (texts []string) {
	if e.price != nil {
		texts = append(texts, fmt.Sprintf("%s at %s each now, not %s", e.Line.ProductName, w.Money(e.Line.UnitPrice), w.Money(*e.price)))
	}
	for _, w := range e.Renamed {
		texts = append(texts, fmt.Sprintf("“%s” is “%s” now", e.was[w.ID], w.Lettering))
	}
	if n := len(e.Added); n > 0 {
		texts = append(texts, fmt.Sprintf("%d more of %s", n, e.Line.ProductName))
	}
	if n := len(e.Removed); n > 0 {
		texts = append(texts, fmt.Sprintf("%d fewer of %s", n, e.Line.ProductName))
	}
	return texts
}
