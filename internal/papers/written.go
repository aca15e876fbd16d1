package papers

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/bill"
	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/internal/document"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/trade"
)

func (s subject) day(d calendar.Date) string {
	return s.workshop.Habit.DayAndYear(d.At(0, s.workshop.Location()))
}

// from is who sells, as at the head of a paper.
func (s subject) from() string {
	if s.head.Seller != "" {
		return s.head.Seller
	}
	return s.workshop.Name
}

// paper begins one: its number is put over it when it is issued.
func (s subject) paper(kind Kind, to, about string) *document.Paper {
	return &document.Paper{Title: fmt.Sprintf("%s, order %d", kindNames[kind], s.order.Number), From: s.from(), To: to, About: about, Foot: s.workshop.Name}
}

// ofOrder says of which order a paper is, and when that was handed over.
func (s subject) ofOrder() string {
	text := fmt.Sprintf("Order %d of %s", s.order.Number, s.day(calendar.DateOf(s.order.TakenAt, s.workshop.Location())))
	if s.order.State == orders.HandedOver && s.order.ClosedAt != nil {
		text += ", handed over " + s.day(calendar.DateOf(*s.order.ClosedAt, s.workshop.Location()))
	}
	return text
}

func (s subject) tax() bill.Tax {
	return bill.Tax{Percent: s.order.TaxPercent, InPrice: s.order.TaxInPrice}
}

// taxWords is what has to be said of the tax.
func (s subject) taxWords() []string {
	if s.order.TaxNote == "" {
		return nil
	}
	return []string{s.order.TaxNote}
}

func noted(words ...string) (kept []string) {
	for _, w := range words {
		if w != "" {
			kept = append(kept, w)
		}
	}
	return kept
}

func (s subject) invoice(p *IssuedPaper, in PaperForm) error {
	if stands, _, _ := s.standing(); stands != nil {
		return problem.Conflict(problem.InUse, "Invoice %d stands for this order. Credit it before you issue another.", stands.Number)
	}
	if s.order.State == orders.Cancelled || !s.asked().IsPositive() {
		return problem.Conflict(problem.Unfit, "Nothing is asked for order %d.", s.order.Number)
	}
	paper := s.paper(Invoice, in.To, "Of "+s.day(s.today)+"\n"+s.ofOrder())
	var lines []bill.Line
	for _, l := range s.order.Lines {
		lines = append(lines, bill.Line{Quantity: l.Quantity, Each: l.UnitPrice})
		amount := l.UnitPrice.Mul(decimal.NewFromInt(int64(l.Quantity))).Round(2)
		paper.Lines = append(paper.Lines, document.PaperLine{Name: l.ProductName, Quantity: fmt.Sprint(l.Quantity), Each: s.workshop.Money(l.UnitPrice), Amount: s.workshop.Money(amount)})
	}
	// What was let off before there was an invoice is not asked on it; tax falls on the rest.
	sum, err := bill.Add(lines, s.lessOf(), s.tax())
	if err != nil {
		return fmt.Errorf("adding an invoice up: %w", err)
	}
	// A tax on top of a rounded rest can be a cent off what is asked.
	sum.Gross, sum.Tax = s.asked(), s.asked().Sub(sum.Net)
	if sum.Less.IsPositive() {
		paper.Sums = append(paper.Sums, document.PaperSum{Name: "let off", Amount: "−" + s.workshop.Money(sum.Less)})
	}
	paper.Sums = append(paper.Sums, trade.Sums(s.workshop, sum, s.tax(), "To be paid")...)
	if s.money.Paid.IsPositive() {
		paper.Sums = append(paper.Sums, document.PaperSum{Name: "paid already", Amount: s.workshop.Money(s.money.Paid)},
			document.PaperSum{Name: "still open", Amount: s.workshop.Money(decimal.Max(decimal.Zero, sum.Gross.Sub(s.money.Paid))), Main: true})
	}
	paper.Words = noted(append(s.taxWords(), s.toPay(sum.Gross), in.Note, s.head.Foot)...)
	p.Net, p.Tax, p.Gross, p.TaxPercent, p.Content.Paper = sum.Net, sum.Tax, sum.Gross, s.order.TaxPercent, paper
	return nil
}

// lessOf is what was let off, before a tax that comes on top.
func (s subject) lessOf() decimal.Decimal {
	if s.order.TaxInPrice || s.money.Gross.IsZero() {
		return s.money.LetOff
	}
	return s.money.LetOff.Mul(s.money.Net).Div(s.money.Gross).Round(2)
}

func (s subject) toPay(gross decimal.Decimal) string {
	if !gross.GreaterThan(s.money.Paid) {
		return "Paid in full, with thanks."
	}
	return "Please pay by " + s.day(s.today.Add(s.head.DaysToPay)) + "."
}

var wayWords = map[string]string{"cash": "in cash", "card": "by card", "transfer": "by transfer", "voucher": "with a voucher", "other": ""}

func (s subject) receipt(p *IssuedPaper, in PaperForm) error {
	at := slices.IndexFunc(s.money.Payments, func(m trade.Payment) bool { return m.ID == in.PaymentID })
	if at < 0 {
		return problem.Invalid("paymentId", "this order has no such payment")
	}
	m := s.money.Payments[at]
	if m.Kind != trade.Paid || m.TakenBackAt != nil {
		return problem.Conflict(problem.Unfit, "A receipt is for money that came.")
	}
	if i := slices.IndexFunc(s.papers, func(p IssuedPaper) bool { return p.PaymentID != nil && *p.PaymentID == m.ID }); i >= 0 {
		return problem.Conflict(problem.InUse, "Receipt %d was issued for this payment.", s.papers[i].Number)
	}
	sum, err := bill.Add([]bill.Line{{Quantity: 1, Each: m.Amount}}, decimal.Zero, bill.Tax{Percent: s.order.TaxPercent, InPrice: true})
	if err != nil {
		return fmt.Errorf("splitting a payment: %w", err)
	}
	paper := s.paper(Receipt, in.To, "Of "+s.day(s.today)+"\n"+s.ofOrder())
	about := strings.TrimSpace("Received " + s.day(m.PaidOn) + " " + wayWords[m.Way])
	paper.Lines = []document.PaperLine{{Name: fmt.Sprintf("Payment for order %d", s.order.Number), About: about, Amount: s.workshop.Money(m.Amount)}}
	paper.Sums = trade.Sums(s.workshop, sum, bill.Tax{Percent: s.order.TaxPercent, InPrice: true}, "Received")
	paper.Words = noted(append(s.taxWords(), in.Note)...)
	p.PaymentID, p.Net, p.Tax, p.Gross, p.TaxPercent, p.Content.Paper = &m.ID, sum.Net, sum.Tax, sum.Gross, s.order.TaxPercent, paper
	return nil
}

func (s subject) creditNote(invoice, p IssuedPaper, reason string) *document.Paper {
	about := fmt.Sprintf("Of %s\nOn invoice %d of %s\n%s", s.day(s.today), invoice.Number, s.day(invoice.IssuedOn), s.ofOrder())
	paper := s.paper(CreditNote, invoice.Content.Paper.To, about)
	paper.Lines = []document.PaperLine{{Name: "Credited", About: reason, Amount: s.workshop.Money(p.Gross)}}
	paper.Sums = trade.Sums(s.workshop, bill.Sum{Net: p.Net, Tax: p.Tax, Gross: p.Gross}, bill.Tax{Percent: p.TaxPercent, InPrice: true}, "To your credit")
	paper.Words = s.taxWords()
	return paper
}

// names are the letterings of a line, or how many carry none.
func names(l orders.Line) string {
	var all []string
	for _, w := range l.Wants {
		if w.Lettering != "" {
			all = append(all, w.Lettering)
		}
	}
	return strings.Join(all, ", ")
}

func (s subject) packingSlip(in PaperForm) *document.Paper {
	paper := s.paper(PackingSlip, in.To, s.ofOrder())
	for _, l := range s.order.Lines {
		paper.Lines = append(paper.Lines, document.PaperLine{Name: l.ProductName, About: names(l), Quantity: fmt.Sprint(l.Quantity)})
	}
	paper.Words = noted(in.Note)
	return paper
}

// orderSheet is an order on paper, for the bench.
func (a *Area) orderSheet(ctx context.Context, tx *gorm.DB, s subject, in PaperForm) (*document.Paper, error) {
	about := s.ofOrder() + "\nTo be handed over " + s.day(s.order.DueOn)
	if s.order.DaysOnTheWay > 0 {
		about += ", there by " + s.day(s.order.DueOn.Add(s.order.DaysOnTheWay))
	}
	paper := s.paper(OrderSheet, strings.Join(noted(in.To, s.customer.Phone, s.customer.Email), "\n"), about)
	var ids []uint64
	for _, l := range s.order.Lines {
		ids = append(ids, l.ProductID)
	}
	looks, err := products.Looks(tx, ids)
	if err != nil {
		return nil, err
	}
	for _, l := range s.order.Lines {
		line := document.PaperLine{Name: l.ProductName, About: names(l), Quantity: fmt.Sprint(l.Quantity)}
		if thumb := looks[l.ProductID].Thumb; thumb != "" {
			if line.Picture, _, err = a.artwork.FileOf(ctx, thumb); err != nil {
				return nil, err
			}
		}
		paper.Lines = append(paper.Lines, line)
	}
	likes := ""
	if s.customer.Likes != "" {
		likes = "Likes: " + s.customer.Likes
	}
	paper.Words = noted(s.order.Note, likes, in.Note)
	return paper, nil
}

// careCards are one for each kind of piece in the order: thirty ornaments alike need one.
func careCards(tx *gorm.DB, s subject) (cards []document.CareCard, err error) {
	var ids []uint64
	for _, l := range s.order.Lines {
		if !slices.Contains(ids, l.ProductID) {
			ids = append(ids, l.ProductID)
		}
	}
	made, err := products.LoadEver(tx, ids)
	if err != nil {
		return nil, err
	}
	for _, id := range ids {
		cards = append(cards, careCard(made[id], s))
	}
	return cards, nil
}

func careCard(p products.Product, s subject) document.CareCard {
	words := craft.CareFor(p.Bench(), p.Blank)
	return document.CareCard{Name: p.Name, Words: append(words, "Where a label in the parcel says otherwise, follow the label."), From: s.workshop.Name}
}
