package trade

import (
	"bytes"
	"context"
	"fmt"
	"strings"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/bill"
	"tidykiln/core/calendar"
	"tidykiln/internal/database"
	"tidykiln/internal/document"
	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

// QuotePDF is a quote on paper.
func (a *Area) QuotePDF(ctx context.Context, id uint64) (*wire.File, error) {
	var w workshop.Workshop
	q, err := database.Look(ctx, a.db, func(tx *gorm.DB) (q Quote, err error) {
		if w, err = workshop.LoadAlone(tx); err != nil {
			return q, err
		}
		return a.quote(tx, id)
	})
	if err != nil {
		return nil, err
	}
	return a.quotePDF(ctx, q, w)
}

func (a *Area) quotePDF(ctx context.Context, q Quote, w workshop.Workshop) (*wire.File, error) {
	paper, err := a.quotePaper(ctx, q, w)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	if err := document.WritePaper(&out, paper); err != nil {
		return nil, err
	}
	return wire.NewFile("application/pdf", fmt.Sprintf("quote-%d.pdf", q.Number), out.Bytes()), nil
}

func (a *Area) quotePaper(ctx context.Context, q Quote, w workshop.Workshop) (p document.Paper, err error) {
	p = document.Paper{Title: fmt.Sprintf("Quote %d", q.Number), From: w.Name, Foot: w.Name, To: q.Customer.Name, About: "Of " + w.Habit.DateAndYear(q.MadeAt.In(w.Location())), Sums: q.sums(w), Words: q.inWords(w)}
	for _, l := range q.Lines {
		line := document.PaperLine{Name: l.ProductName, About: strings.Join(l.Lettering, ", "), Quantity: fmt.Sprint(l.Quantity), Each: w.Money(l.UnitPrice), Amount: w.Money(l.amount())}
		if l.Thumb != "" {
			if line.Picture, _, err = a.artwork.FileOf(ctx, l.Thumb); err != nil {
				return p, err
			}
		}
		p.Lines = append(p.Lines, line)
	}
	if q.Deposit.IsPositive() {
		p.Words = append(p.Words, w.Money(q.Deposit)+" of it is asked for ahead.")
	}
	if q.Note != "" {
		p.Words = append(p.Words, q.Note)
	}
	return p, nil
}

// amount is what a line comes to.
func (l QuoteLine) amount() decimal.Decimal {
	return l.UnitPrice.Mul(decimal.NewFromInt(int64(l.Quantity))).Round(2)
}

// inWords says when it is ready, and how long the quote stands.
func (q Quote) inWords(w workshop.Workshop) []string {
	day := func(d calendar.Date) string { return w.Habit.DateAndYear(d.At(0, w.Location())) }
	ready := "Ready " + day(q.DueOn)
	if q.DaysOnTheWay > 0 {
		ready += ", and with you by " + day(q.DueOn.Add(q.DaysOnTheWay))
	}
	return []string{ready + ", if nothing has come in between until you accept; you are told if that changes.", "This quote stands until " + day(q.StandsUntil) + "."}
}

// sums are the lines at the foot of a quote.
func (q Quote) sums(w workshop.Workshop) []document.PaperSum {
	return Sums(w, bill.Sum{Net: q.Net, Tax: q.Tax, Gross: q.Gross}, bill.Tax{Percent: q.TaxPercent, InPrice: q.TaxInPrice}, "To be paid")
}

// Sums are the lines at the foot of a paper: what it comes to, and the tax.
func Sums(w workshop.Workshop, s bill.Sum, tax bill.Tax, called string) []document.PaperSum {
	rate := w.Habit.Written(tax.Percent.String()) + " %"
	paid := document.PaperSum{Name: called, Amount: w.Money(s.Gross), Main: true}
	switch {
	case s.Tax.IsZero():
		return []document.PaperSum{paid}
	case tax.InPrice:
		return []document.PaperSum{paid, {Name: "tax in it, " + rate, Amount: w.Money(s.Tax)}}
	}
	return []document.PaperSum{{Name: "Sum", Amount: w.Money(s.Net)}, {Name: "tax, " + rate, Amount: w.Money(s.Tax)}, paid}
}
