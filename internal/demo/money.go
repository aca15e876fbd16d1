package demo

import (
	"context"

	"github.com/shopspring/decimal"

	"tidykiln/core/bill"
	"tidykiln/core/calendar"
	"tidykiln/internal/orders"
	"tidykiln/internal/papers"
	"tidykiln/internal/trade"
)

// late are customers of whom what was asked ahead has not come yet.
var late = map[string]bool{"Regatta office": true, "Single: the ferryman’s daughter": true}

// tellMoney says what is asked ahead, notes what came, and offers something.
func (s *studio) tellMoney(ctx context.Context) error {
	form := trade.TermsForm{DepositPercent: decimal.NewFromInt(30), Keeping: bill.KeepSpent, KeepingPercent: decimal.NewFromInt(50), QuoteDays: 14}
	if err := s.rooms.Trade.ChangeTerms(ctx, trade.TermsChange{TermsForm: form, Version: 1}); err != nil {
		return err
	}
	owed, err := s.rooms.Trade.Owed(ctx)
	if err != nil {
		return err
	}
	today := calendar.DateOf(s.now, s.workshop.Location())
	for i, o := range owed {
		if late[o.Customer.Name] {
			continue
		}
		payment := trade.PaymentForm{Kind: trade.Paid, Amount: o.Amount, PaidOn: min(o.Since.Add(1), today), Way: []string{"transfer", "cash", "card"}[i%3]}
		if _, err := s.rooms.Trade.Note(ctx, o.OrderID, payment); err != nil {
			return err
		}
	}
	if err := s.tellPapers(ctx, owed); err != nil {
		return err
	}
	return s.tellQuotes(ctx)
}

// tellPapers says what stands on papers, and issues a few for what was handed over.
func (s *studio) tellPapers(ctx context.Context, owed []trade.Owed) error {
	head := papers.LetterheadForm{Seller: s.workshop.Name + "\n4 Withy Lane\nTax number 12/345/67890", Foot: "To account 00 11 22 33, with the invoice’s number.", DaysToPay: 14, YearsKept: 10, FirstNumber: 41}
	if err := s.rooms.Papers.ChangeLetterhead(ctx, papers.LetterheadChange{LetterheadForm: head, Version: 1}); err != nil {
		return err
	}
	for _, o := range owed {
		kinds := []papers.Kind{papers.OrderSheet}
		if o.State == orders.HandedOver {
			kinds = []papers.Kind{papers.Invoice, papers.CareCard}
		}
		for _, kind := range kinds {
			if _, err := s.rooms.Papers.Issue(ctx, o.OrderID, papers.PaperForm{Kind: kind}); err != nil {
				return err
			}
		}
	}
	return nil
}

// tellQuotes offers two things: one quote stands, one has lapsed.
func (s *studio) tellQuotes(ctx context.Context) error {
	today := calendar.DateOf(s.now, s.workshop.Location())
	defer func() { s.at = s.now }()
	for _, q := range []struct {
		customer, product  string
		ago, ahead, pieces int
		price, note        string
	}{
		{"Oar & Anchor tea-room", slateCoaster, 24, 12, 12, "", "For the tables by the window."},
		{"Tern Boathouse", starterSign, 3, 24, 6, "36.50", "Names to follow when the crew is chosen."},
	} {
		s.at = s.now.AddDate(0, 0, -q.ago)
		lines := []trade.NewQuoteLine{{ProductID: s.products[q.product], Quantity: q.pieces, UnitPrice: q.price}}
		quote := trade.NewQuote{Customer: q.customer, DueOn: today.Add(q.ahead), Note: q.note, Lines: lines}
		if _, err := s.rooms.Trade.MakeQuote(ctx, quote); err != nil {
			return err
		}
	}
	return nil
}
