package trade_test

import (
	"bytes"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/calendar"
	"tidykiln/internal/access"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/trade"
)

// quotes offers two lamps at a price; empty for today's.
func (b *till) quotes(price string) trade.Quote {
	b.Helper()
	q, err := b.Trade.MakeQuote(b.Ctx, trade.NewQuote{Customer: "Reed Club", DueOn: b.today().Add(21), Note: "by the gate", Lines: []trade.NewQuoteLine{{ProductID: b.lamp.ID, Quantity: 2, UnitPrice: price}}})
	require.NoError(b, err)
	return q
}

func (b *till) quoteNow(id uint64) trade.Quote {
	b.Helper()
	q, err := b.Trade.Quote(b.Ctx, id)
	require.NoError(b, err)
	return q
}

// token is what opens a quote.
func (b *till) token(id uint64) string {
	b.Helper()
	at, err := b.Trade.RenewQuoteAddress(b.Ctx, id)
	require.NoError(b, err)
	return strings.TrimPrefix(at.Path, "/quote/")
}

func TestAQuoteBecomesAnOrderAtTheQuotedPrice(t *testing.T) {
	b := newTill(t, "30", "spent")
	q := b.quotes("14.20")
	assert.Equal(t, []string{"28.40", "8.52"}, []string{q.Gross.StringFixed(2), q.Deposit.StringFixed(2)})
	assert.Equal(t, b.today().Add(14), q.StandsUntil)
	_, err := b.Products.Change(b.Ctx, b.lamp.ID, products.ProductChange{Name: "Dearer", Price: money("99"), Version: 1})
	require.NoError(t, err)

	made, err := b.Trade.AcceptQuote(b.Ctx, q.ID, trade.Acceptance{})
	require.NoError(t, err)
	o := b.OrderNow(made.ID)
	assert.Equal(t, "14.20", o.Lines[0].UnitPrice.StringFixed(2))
	assert.Equal(t, []string{"Reed Club", "by the gate"}, []string{o.Customer.Name, o.Note})
	assert.Equal(t, q.DueOn, o.DueOn)
	assert.Contains(t, b.HappenedTo(o.ID), "Taken by quote 101")
	again, err := b.Trade.AcceptQuote(b.Ctx, q.ID, trade.Acceptance{})
	require.NoError(t, err)
	assert.Equal(t, made, again, "twice is once")
	assert.Equal(t, trade.QuoteAccepted, b.quoteNow(q.ID).State)
	err = b.Trade.WithdrawQuote(b.Ctx, q.ID, b.quoteNow(q.ID).Version)
	housetest.RefusedAs(t, err, problem.Closed)
}

func TestAQuoteAcceptedByManyAtOnceIsOneOrder(t *testing.T) {
	b := newTill(t, "0", "spent")
	q := b.quotes("")
	made := make([]uint64, 4)
	var wait sync.WaitGroup
	for i := range made {
		wait.Go(func() {
			m, err := b.Trade.AcceptQuote(b.Ctx, q.ID, trade.Acceptance{})
			assert.NoError(t, err)
			made[i] = m.ID
		})
	}
	wait.Wait()
	for _, id := range made {
		assert.Equal(t, made[0], id)
	}
	had, err := b.Orders.Had(b.Ctx, q.Customer.ID)
	require.NoError(t, err)
	assert.Len(t, had, 1)
}

func TestAQuoteLapsesByItself(t *testing.T) {
	b := newTill(t, "0", "spent")
	q := b.quotes("")
	b.Later(15 * 24 * time.Hour)
	assert.Equal(t, trade.QuoteLapsed, b.quoteNow(q.ID).State)
	_, err := b.Trade.AcceptQuote(b.Ctx, q.ID, trade.Acceptance{})
	housetest.RefusedAs(t, err, problem.Closed)
	require.NoError(t, b.Trade.WithdrawQuote(b.Ctx, q.ID, q.Version), "it can be put away")
}

func TestWhatCannotBeQuotedIsRefusedBesideItsField(t *testing.T) {
	b := newTill(t, "0", "spent")
	line := trade.NewQuoteLine{ProductID: b.lamp.ID, Quantity: 1}
	crew := trade.NewQuoteLine{ProductID: b.crew.ID, Quantity: 1, Lettering: []string{"Ada", "Bea"}}
	due := b.today().Add(20)
	for field, q := range map[string]trade.NewQuote{
		"customer":            {Customer: " ", DueOn: due, Lines: []trade.NewQuoteLine{line}},
		"dueOn":               {Customer: "A", DueOn: b.today().Add(-1), Lines: []trade.NewQuoteLine{line}},
		"standsUntil":         {Customer: "A", DueOn: due, StandsUntil: b.today().Add(-1), Lines: []trade.NewQuoteLine{line}},
		"standsUntil ":        {Customer: "A", DueOn: due, StandsUntil: b.today().Add(400), Lines: []trade.NewQuoteLine{line}},
		"outletId":            {Customer: "A", DueOn: due, OutletID: 99, Lines: []trade.NewQuoteLine{line}},
		"lines[0].productId":  {Customer: "A", DueOn: due, Lines: []trade.NewQuoteLine{{ProductID: 99, Quantity: 1}}},
		"lines[1].lettering":  {Customer: "A", DueOn: due, Lines: []trade.NewQuoteLine{line, crew}},
		"lines[0].lettering ": {Customer: "A", DueOn: due, Lines: []trade.NewQuoteLine{{ProductID: b.lamp.ID, Quantity: 1, Lettering: []string{"Ada"}}}},
	} {
		_, err := b.Trade.MakeQuote(b.Ctx, q)
		assert.Equal(t, strings.TrimSpace(field), housetest.AtFault(t, err), field)
	}
	list, err := b.Trade.Quotes(b.Ctx)
	require.NoError(t, err)
	assert.Empty(t, list)
}

func TestWhoKnowsTheAddressAnswersAndGivesTheNames(t *testing.T) {
	b := newTill(t, "0", "spent")
	q, err := b.Trade.MakeQuote(b.Ctx, trade.NewQuote{Customer: "Reed Club", DueOn: b.today().Add(21), Lines: []trade.NewQuoteLine{{ProductID: b.crew.ID, Quantity: 2}}})
	require.NoError(t, err)
	token := b.token(q.ID)
	shown, err := b.Trade.ShownQuote(b.Ctx, &access.ByToken{Token: token})
	require.NoError(t, err)
	assert.True(t, shown.Lines[0].Lettered)

	assert.Equal(t, "lines[0].lettering", housetest.AtFault(t, b.answers(token, true)))
	require.NoError(t, b.answers(token, true, "Ada", "Bea"))
	now := b.quoteNow(q.ID)
	require.NotNil(t, now.OrderID)
	assert.Equal(t, "Bea", b.OrderNow(*now.OrderID).Lines[0].Wants[1].Lettering)
	require.NoError(t, b.answers(token, true), "saying it again is saying it once")

	other := b.quotes("")
	token = b.token(other.ID)
	require.NoError(t, b.answers(token, false))
	assert.Equal(t, trade.QuoteDeclined, b.quoteNow(other.ID).State)
	housetest.RefusedAs(t, b.answers(token, true), problem.Closed)
	b.token(other.ID)
	_, err = b.Trade.ShownQuote(b.Ctx, &access.ByToken{Token: token})
	housetest.Missing(t, err)
}

// answers says yes or no to a quote by its address, with the names of its first line.
func (b *till) answers(token string, accept bool, names ...string) error {
	b.Helper()
	answer := trade.QuoteAnswer{Accept: accept}
	if len(names) > 0 {
		answer.Lettering = [][]string{names}
	}
	return b.Trade.Answer(b.Ctx, token, answer)
}

// What cannot be promised any more is the studio's to say, not the customer's to hear.
func TestAnAcceptedQuoteWhoseDayHasPassedWaitsForTheStudio(t *testing.T) {
	b := newTill(t, "0", "spent")
	q, err := b.Trade.MakeQuote(b.Ctx, trade.NewQuote{Customer: "Reed Club", DueOn: b.today().Add(1), StandsUntil: b.today().Add(30), Lines: []trade.NewQuoteLine{{ProductID: b.crew.ID, Quantity: 1}}})
	require.NoError(t, err)
	token := b.token(q.ID)
	b.Later(3 * 24 * time.Hour)
	require.NoError(t, b.answers(token, true, "Ada"))
	now := b.quoteNow(q.ID)
	assert.Equal(t, trade.QuoteAccepted, now.State)
	assert.Nil(t, now.OrderID)
	assert.Equal(t, []string{"Ada"}, now.Lines[0].Lettering)
	_, err = b.Trade.AcceptQuote(b.Ctx, q.ID, trade.Acceptance{})
	assert.Equal(t, "dueOn", housetest.AtFault(t, err))
	made, err := b.Trade.AcceptQuote(b.Ctx, q.ID, trade.Acceptance{DueOn: calendar.Date("2027-04-20")})
	require.NoError(t, err)
	assert.Equal(t, orders.Open, b.OrderNow(made.ID).State)
}

func TestAQuoteIsGivenOnPaper(t *testing.T) {
	b := newTill(t, "30", "spent")
	q := b.quotes("14.20")
	file, err := b.Trade.QuotePDF(b.Ctx, q.ID)
	require.NoError(t, err)
	assert.True(t, bytes.HasPrefix(file.Body, []byte("%PDF-")))
	assert.Contains(t, file.Disposition, "quote-101.pdf")
	_, err = b.Trade.QuotePDF(b.Ctx, 999)
	housetest.Missing(t, err)
}
