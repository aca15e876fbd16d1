package papers

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"strings"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/bill"
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

// PaperForm asks for a paper of an order.
type PaperForm struct {
	Kind Kind `json:"kind" enum:"invoice,receipt,packing_slip,order_sheet,care_card"`
	// To is whom it is for, as on a label; the customer with their first address where left out.
	To string `json:"to,omitempty" maxLength:"600"`
	// PaymentID is the payment that a receipt is for.
	PaymentID uint64 `json:"paymentId,omitempty"`
	Note      string `json:"note,omitempty" maxLength:"1000" doc:"said under it"`
}

// CreditForm asks for a credit note on an invoice.
type CreditForm struct {
	// Whole takes all of it off that is left; otherwise what was let off since.
	Whole  bool   `json:"whole,omitempty"`
	Reason string `json:"reason" minLength:"1" maxLength:"400"`
}

// OrderPapers are the papers of an order, and which can be issued.
type OrderPapers struct {
	Papers []IssuedPaper `json:"papers" nullable:"false" doc:"the newest first"`
	// To is whom an invoice would be for.
	To string `json:"to"`
	// MayInvoice says that no invoice stands and something is asked.
	MayInvoice bool `json:"mayInvoice"`
	// StandsID is the invoice that stands; 0 where none does. Left is what of it was not
	// credited, Changed that the order asks something else by now, ToCredit what was let off
	// of it since.
	StandsID uint64          `json:"standsId,omitempty"`
	Left     decimal.Decimal `json:"left"`
	Changed  bool            `json:"changed"`
	ToCredit decimal.Decimal `json:"toCredit"`
}

// subject is all that a paper of an order is written from.
type subject struct {
	order    orders.Order
	customer customers.Customer
	money    trade.OrderMoney
	workshop workshop.Workshop
	head     Letterhead
	today    calendar.Date
	papers   []IssuedPaper
}

func (a *Area) subject(tx *gorm.DB, id uint64, read func(*gorm.DB, uint64) (orders.Order, error)) (s subject, err error) {
	if s.order, err = read(tx, id); err != nil {
		return s, err
	}
	if s.customer, err = customers.Load(tx, s.order.CustomerID); err != nil {
		return s, err
	}
	if s.money, err = a.trade.MoneyOf(tx, s.order); err != nil {
		return s, err
	}
	if s.workshop, err = workshop.LoadAlone(tx); err != nil {
		return s, err
	}
	s.today = calendar.DateOf(a.now(), s.workshop.Location())
	s.papers, err = ofOrder(tx, id)
	return s, err
}

// standing is the invoice that stands, what of it was not credited, and what was credited
// of the order in all; nil where none stands.
func (s subject) standing() (invoice *IssuedPaper, left, credited decimal.Decimal) {
	for i, p := range s.papers {
		if p.Kind == CreditNote {
			credited = credited.Add(p.Gross)
		}
		if p.Kind != Invoice || invoice != nil {
			continue
		}
		rest := p.Gross
		for _, c := range s.papers {
			if c.CreditsID != nil && *c.CreditsID == p.ID {
				rest = rest.Sub(c.Gross)
			}
		}
		if rest.IsPositive() {
			invoice, left = &s.papers[i], rest
		}
	}
	return invoice, left, credited
}

// to is whom a paper is for.
func (s subject) to() string {
	if len(s.customer.Addresses) == 0 {
		return s.order.Customer.Name
	}
	lines := s.customer.Addresses[0].Lines
	if first, _, _ := strings.Cut(lines, "\n"); strings.EqualFold(first, s.order.Customer.Name) {
		return lines
	}
	return s.order.Customer.Name + "\n" + lines
}

// asked is what an order asks by now.
func (s subject) asked() decimal.Decimal { return s.money.Gross.Sub(s.money.LetOff) }

// OfOrder are the papers of an order, and which can be issued.
func (a *Area) OfOrder(ctx context.Context, id uint64) (OrderPapers, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (o OrderPapers, err error) {
		s, err := a.subject(tx, id, orders.Load)
		if err != nil {
			return o, err
		}
		o = OrderPapers{Papers: s.papers, To: s.to()}
		invoice, left, _ := s.standing()
		if invoice == nil {
			o.MayInvoice = s.order.State != orders.Cancelled && s.asked().IsPositive()
			return o, nil
		}
		o.StandsID, o.Left = invoice.ID, left
		o.ToCredit = s.toCredit(left)
		o.Changed = s.order.State == orders.Cancelled || !s.asked().Equal(left.Sub(o.ToCredit))
		return o, nil
	})
}

// toCredit is what was let off since the invoice, of what is left of it.
func (s subject) toCredit(left decimal.Decimal) decimal.Decimal {
	over := left.Sub(s.asked())
	return decimal.Max(decimal.Zero, decimal.Min(over, decimal.Min(left, s.money.LetOff)))
}

// Issue issues a paper of an order, and keeps it. Those that speak of no money are issued
// again only where something on them has changed.
func (a *Area) Issue(ctx context.Context, id uint64, in PaperForm) (IssuedPaper, error) {
	return database.Answer(ctx, a.db, database.Orders, func(tx *gorm.DB) (p IssuedPaper, err error) {
		head, err := holdLetterhead(tx)
		if err != nil {
			return p, err
		}
		s, err := a.subject(tx, id, orders.LoadAlone)
		if err != nil {
			return p, err
		}
		s.head = head
		in.To, in.Note = customers.TidyLines(in.To), strings.TrimSpace(in.Note)
		if in.To == "" {
			in.To = s.to()
		}
		if strings.Count(in.To, "\n") >= mostSellerLines {
			return p, problem.Invalid("to", "at most %d lines", mostSellerLines)
		}
		p = IssuedPaper{Kind: in.Kind, OrderID: id, Content: content{Note: in.Note}}
		switch in.Kind {
		case Invoice:
			err = s.invoice(&p, in)
		case Receipt:
			err = s.receipt(&p, in)
		case CareCard:
			p.Content.Cards, err = careCards(tx, s)
		case PackingSlip:
			p.Content.Paper = s.packingSlip(in)
		case OrderSheet:
			p.Content.Paper, err = a.orderSheet(ctx, tx, s, in)
		default:
			err = problem.Invalid("kind", "this cannot be issued by itself")
		}
		if err != nil {
			return p, err
		}
		if same := s.asIssued(p); same != nil {
			return *same, nil
		}
		return p, a.keep(ctx, tx, &p, s)
	})
}

// asIssued is the last paper of a kind that speaks of no money, where it says the same.
func (s subject) asIssued(p IssuedPaper) *IssuedPaper {
	if p.Kind.OfMoney() {
		return nil
	}
	for i, old := range s.papers {
		if old.Kind == p.Kind {
			before, _ := json.Marshal(old.Content) // of plain texts: it has no error
			now, _ := json.Marshal(p.Content)
			if bytes.Equal(before, now) {
				return &s.papers[i]
			}
			return nil
		}
	}
	return nil
}

// keep numbers a paper, writes it, and keeps it as it is.
func (a *Area) keep(ctx context.Context, tx *gorm.DB, p *IssuedPaper, s subject) (err error) {
	first := 1
	if p.Kind.OfMoney() {
		first = s.head.FirstNumber
	}
	if p.Number, err = nextNumber(tx, p.Kind, first); err != nil {
		return err
	}
	p.IssuedAt, p.IssuedOn = a.now(), s.today
	if s.customer.ErasedAt != nil { // a credit note bears the name of its invoice
		p.NameUntil = new(s.head.nameUntil(s.today))
	}
	if p.Content.Paper != nil && p.Kind.OfMoney() {
		p.Content.Paper.Title = fmt.Sprintf("%s %d", kindNames[p.Kind], p.Number)
	}
	pdf, err := p.pdf()
	if err != nil {
		return err
	}
	if p.File, err = a.artwork.KeepFile(ctx, pdf); err != nil {
		return err
	}
	if err := create(tx, p); err != nil {
		return err
	}
	return orders.AddEvent(tx, p.OrderID, p.IssuedAt, "%s %d issued", kindNames[p.Kind], p.Number)
}

func (p IssuedPaper) pdf() ([]byte, error) {
	var out bytes.Buffer
	if p.Content.Paper != nil {
		err := document.WritePaper(&out, *p.Content.Paper)
		return out.Bytes(), err
	}
	err := document.WriteCareCards(&out, fmt.Sprintf("%s %d", kindNames[p.Kind], p.Number), p.Content.Cards)
	return out.Bytes(), err
}

// PDF is a paper as it was issued.
func (a *Area) PDF(ctx context.Context, id uint64) (*wire.File, error) {
	p, err := database.Look(ctx, a.db, func(tx *gorm.DB) (IssuedPaper, error) { return load(tx, id) })
	if err != nil {
		return nil, err
	}
	content, _, err := a.artwork.FileOf(ctx, p.File)
	if err != nil {
		return nil, err
	}
	return wire.NewFile("application/pdf", p.called(), content), nil
}

// called is the name of its file.
func (p IssuedPaper) called() string {
	return fmt.Sprintf("%s-%d.pdf", strings.ReplaceAll(string(p.Kind), "_", "-"), p.Number)
}

// Credit issues a credit note on an invoice.
func (a *Area) Credit(ctx context.Context, id uint64, in CreditForm) (IssuedPaper, error) {
	in.Reason = strings.TrimSpace(in.Reason)
	if in.Reason == "" {
		return IssuedPaper{}, problem.Invalid("reason", "say why")
	}
	return database.Answer(ctx, a.db, database.Orders, func(tx *gorm.DB) (p IssuedPaper, err error) {
		head, err := holdLetterhead(tx)
		if err != nil {
			return p, err
		}
		invoice, err := load(tx, id)
		if err != nil {
			return p, err
		}
		if invoice.Kind != Invoice {
			return p, problem.Conflict(problem.Unfit, "Only an invoice can be credited.")
		}
		s, err := a.subject(tx, invoice.OrderID, orders.LoadAlone)
		if err != nil {
			return p, err
		}
		s.head = head
		stands, left, _ := s.standing()
		if stands == nil || stands.ID != id {
			return p, problem.Conflict(problem.Closed, "Invoice %d was credited in full already.", invoice.Number)
		}
		amount := left
		if !in.Whole {
			if amount = s.toCredit(left); !amount.IsPositive() {
				return p, problem.Conflict(problem.Unfit, "Nothing was let off since invoice %d. Note what came back first, or credit all of it.", invoice.Number)
			}
		}
		p = IssuedPaper{Kind: CreditNote, OrderID: invoice.OrderID, CreditsID: &id, TaxPercent: invoice.TaxPercent, Gross: amount}
		if p.Net, p.Tax, err = s.shareOf(*stands, amount, left); err != nil {
			return p, err
		}
		p.Content.Paper = s.creditNote(*stands, p, in.Reason)
		return p, a.keep(ctx, tx, &p, s)
	})
}

// shareOf splits what is credited into net and tax; the last credit takes what the others
// left, so that they are the whole.
func (s subject) shareOf(invoice IssuedPaper, amount, left decimal.Decimal) (net, tax decimal.Decimal, err error) {
	if amount.Equal(left) {
		tax = invoice.Tax
		for _, c := range s.papers {
			if c.CreditsID != nil && *c.CreditsID == invoice.ID {
				tax = tax.Sub(c.Tax)
			}
		}
		return amount.Sub(tax), tax, nil
	}
	sum, err := bill.Add([]bill.Line{{Quantity: 1, Each: amount}}, decimal.Zero, bill.Tax{Percent: invoice.TaxPercent, InPrice: true})
	if err != nil {
		return net, tax, fmt.Errorf("splitting a credit: %w", err)
	}
	return sum.Net, sum.Tax, nil
}
