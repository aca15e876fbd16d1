package papers

import (
	"bytes"
	"context"
	"fmt"
	"slices"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/document"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/trade"
	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

// Period is from one day to another, both within it.
type Period struct {
	From calendar.Date `query:"from" format:"date" doc:"the first of this year when left out"`
	To   calendar.Date `query:"to" format:"date" doc:"today when left out"`
}

// longestPeriod is how many days figures are given of.
const longestPeriod = 5 * 366

// whole is the period with the days that were left out.
func (a *Area) whole(tx *gorm.DB, p Period) (Period, error) {
	w, err := workshop.LoadAlone(tx)
	if err != nil {
		return p, err
	}
	if p.To == "" {
		p.To = calendar.DateOf(a.now(), w.Location())
	}
	if p.From == "" {
		p.From = calendar.Date(string(p.To)[:4] + "-01-01")
	}
	return p, p.check()
}

func (p Period) check() error {
	switch {
	case p.To < p.From:
		return problem.Invalid("to", "ends before it begins")
	case p.To > p.From.Add(longestPeriod):
		return problem.Invalid("to", "at most five years at once")
	}
	return nil
}

// PaperRow is an invoice, credit note or receipt in a list.
type PaperRow struct {
	IssuedPaper
	OrderNumber int             `json:"orderNumber"`
	Customer    customers.Named `json:"customer"`
}

// TaxFigure is what invoices come to at a rate of tax, less what was credited.
type TaxFigure struct {
	TaxPercent decimal.Decimal `json:"taxPercent"`
	Net        decimal.Decimal `json:"net"`
	Tax        decimal.Decimal `json:"tax"`
	Gross      decimal.Decimal `json:"gross"`
}

// PaperList are the papers of money of a period, and what they come to.
type PaperList struct {
	// From and To are the days it is of.
	From calendar.Date `json:"from" format:"date"`
	To   calendar.Date `json:"to" format:"date"`
	// Rows are the newest 500.
	Rows    []PaperRow      `json:"rows" nullable:"false"`
	Figures []TaxFigure     `json:"figures" nullable:"false"`
	Came    decimal.Decimal `json:"came" doc:"payments in the period, less what was given back"`
}

// mostRows bounds the list on the page; the table has all.
const mostRows = 500

// List are the papers of a period.
func (a *Area) List(ctx context.Context, asked *Period) (PaperList, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (l PaperList, err error) {
		p, err := a.whole(tx, *asked)
		if err != nil {
			return l, err
		}
		l.From, l.To = p.From, p.To
		if l.Rows, err = rowsOf(tx, p, mostRows); err != nil {
			return l, err
		}
		l.Figures = []TaxFigure{}
		figures := tx.Model(&IssuedPaper{}).Select("tax_percent, SUM(IF(kind = 'credit_note', -net, net)) AS net, SUM(IF(kind = 'credit_note', -tax, tax)) AS tax, SUM(IF(kind = 'credit_note', -gross, gross)) AS gross").
			Where("kind IN ? AND issued_on BETWEEN ? AND ?", []Kind{Invoice, CreditNote}, p.From, p.To).Group("tax_percent").Order("tax_percent").Find(&l.Figures)
		if figures.Error != nil {
			return l, fmt.Errorf("adding papers up: %w", figures.Error)
		}
		came, err := trade.CameBetween(tx, p.From, p.To, mostInTable)
		for _, m := range came {
			l.Came = l.Came.Add(m.Counts())
		}
		return l, err
	})
}

func rowsOf(tx *gorm.DB, p Period, most int) ([]PaperRow, error) {
	list, err := issuedBetween(tx, p.From, p.To, most)
	if err != nil {
		return nil, err
	}
	heads, err := headsOf(tx, database.IDs(list, func(p IssuedPaper) uint64 { return p.OrderID }))
	if err != nil {
		return nil, err
	}
	rows := []PaperRow{}
	for _, p := range list {
		head := heads[p.OrderID]
		rows = append(rows, PaperRow{p, head.Number, head.Customer})
	}
	return rows, nil
}

// headsOf are orders without their lines.
func headsOf(tx *gorm.DB, ids []uint64) (map[uint64]orders.Order, error) {
	list, err := orders.Heads(tx, ids)
	heads := map[uint64]orders.Order{}
	for _, o := range list {
		heads[o.ID] = o
	}
	return heads, err
}

// issuedColumns and cameColumns are the headers of the tables for whoever does the books
// (docs/formats.md); amounts in the studio's currency.
var (
	issuedColumns = []string{"issued_on", "paper", "number", "on_invoice", "order_number", "customer", "net", "tax_percent", "tax", "gross", "currency"}
	cameColumns   = []string{"paid_on", "kind", "way", "order_number", "customer", "amount", "receipt", "currency"}
)

// mostInTable bounds a table of a period.
const mostInTable = 20_000

// IssuedCSV are the invoices and credit notes of a period as a table; credit notes are under 0.
func (a *Area) IssuedCSV(ctx context.Context, asked *Period) (*wire.File, error) {
	return a.table(ctx, *asked, "papers", issuedColumns, func(tx *gorm.DB, p Period, currency string) (table [][]string, err error) {
		rows, err := rowsOf(tx, p, mostInTable)
		if err != nil {
			return nil, err
		}
		numbers := map[uint64]int{}
		if err := invoiceNumbers(tx, rows, numbers); err != nil {
			return nil, err
		}
		slices.Reverse(rows)
		for _, r := range rows {
			if r.Kind == Receipt {
				continue
			}
			on := ""
			if r.CreditsID != nil {
				on = fmt.Sprint(numbers[*r.CreditsID])
			}
			table = append(table, []string{string(r.IssuedOn), string(r.Kind), fmt.Sprint(r.Number), on, fmt.Sprint(r.OrderNumber), r.Customer.Name,
				r.signed(r.Net), r.TaxPercent.String(), r.signed(r.Tax), r.signed(r.Gross), currency})
		}
		return table, nil
	})
}

// signed is an amount as it counts in the books.
func (p IssuedPaper) signed(amount decimal.Decimal) string {
	if p.Kind == CreditNote {
		amount = amount.Neg()
	}
	return amount.StringFixed(2)
}

// invoiceNumbers are the numbers of the invoices that credit notes are for.
func invoiceNumbers(tx *gorm.DB, rows []PaperRow, numbers map[uint64]int) error {
	var ids []uint64
	for _, r := range rows {
		if r.CreditsID != nil {
			ids = append(ids, *r.CreditsID)
		}
	}
	var invoices []IssuedPaper
	if err := tx.Select("id", "number").Where("id IN ?", ids).Find(&invoices).Error; err != nil {
		return fmt.Errorf("reading the invoices of credit notes: %w", err)
	}
	for _, i := range invoices {
		numbers[i.ID] = i.Number
	}
	return nil
}

// CameCSV are the payments of a period as a table; what was given back is under 0.
func (a *Area) CameCSV(ctx context.Context, asked *Period) (*wire.File, error) {
	return a.table(ctx, *asked, "payments", cameColumns, func(tx *gorm.DB, p Period, currency string) (table [][]string, err error) {
		came, err := trade.CameBetween(tx, p.From, p.To, mostInTable)
		if err != nil {
			return nil, err
		}
		heads, err := headsOf(tx, database.IDs(came, func(m trade.Payment) uint64 { return m.OrderID }))
		if err != nil {
			return nil, err
		}
		var receipts []IssuedPaper
		if err := tx.Select("payment_id", "number").Where("payment_id IN ?", database.IDs(came, func(m trade.Payment) uint64 { return m.ID })).Find(&receipts).Error; err != nil {
			return nil, fmt.Errorf("reading the receipts of payments: %w", err)
		}
		numbers := map[uint64]string{}
		for _, r := range receipts {
			numbers[*r.PaymentID] = fmt.Sprint(r.Number)
		}
		for _, m := range came {
			head := heads[m.OrderID]
			table = append(table, []string{string(m.PaidOn), string(m.Kind), m.Way, fmt.Sprint(head.Number), head.Customer.Name, m.Counts().StringFixed(2), numbers[m.ID], currency})
		}
		return table, nil
	})
}

func (a *Area) table(ctx context.Context, p Period, name string, columns []string, rows func(tx *gorm.DB, p Period, currency string) ([][]string, error)) (*wire.File, error) {
	table, err := database.Look(ctx, a.db, func(tx *gorm.DB) ([][]string, error) {
		w, err := workshop.LoadAlone(tx)
		if err != nil {
			return nil, err
		}
		if p, err = a.whole(tx, p); err != nil {
			return nil, err
		}
		return rows(tx, p, w.Currency)
	})
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	if err := document.WriteCSV(&out, columns, table); err != nil {
		return nil, err
	}
	return wire.NewFile("text/csv; charset=utf-8", fmt.Sprintf("%s-%s-%s.csv", name, p.From, p.To), out.Bytes()), nil
}
