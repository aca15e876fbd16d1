package trade_test

import (
	"sync"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/bill"
	"tidykiln/core/calendar"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/selling"
	"tidykiln/internal/trade"
)

var money = decimal.RequireFromString

// till is a studio with a plain and a lettered product, and terms.
type till struct {
	*housetest.Studio
	lamp, crew products.Detail
}

func newTill(t *testing.T, deposit, keeping string) *till {
	b := &till{Studio: housetest.New(t)}
	b.Hire(9, 17, 1, 2, 3, 4, 5)
	lamp, crew := housetest.Lamp("120"), housetest.Crew()
	lamp.Price, crew.Price = "16", "15.50"
	b.lamp, b.crew = b.Make(lamp), b.Make(crew)
	terms, err := b.Trade.Terms(b.Ctx)
	require.NoError(t, err)
	form := trade.TermsForm{DepositPercent: money(deposit), Keeping: bill.Rule(keeping), KeepingPercent: money("50"), QuoteDays: 14}
	require.NoError(t, b.Trade.ChangeTerms(b.Ctx, trade.TermsChange{TermsForm: form, Version: terms.Version}))
	return b
}

// takes takes an order of two lamps, at 32.00.
func (b *till) takes() orders.Order { return b.Order(b.lamp, 2) }

func (b *till) today() calendar.Date { return calendar.DateOf(b.Now, b.Now.Location()) }

func (b *till) pays(order uint64, kind trade.Kind, amount string) (trade.OrderMoney, error) {
	return b.Trade.Note(b.Ctx, order, trade.PaymentForm{Kind: kind, Amount: money(amount), PaidOn: b.today(), Way: "cash"})
}

func (b *till) mustPay(order uint64, amount string) trade.OrderMoney {
	b.Helper()
	c, err := b.pays(order, trade.Paid, amount)
	require.NoError(b, err)
	return c
}

func (b *till) account(order uint64) trade.OrderMoney {
	b.Helper()
	c, err := b.Trade.Money(b.Ctx, order)
	require.NoError(b, err)
	return c
}

// owed are what is owed, as numbers of orders with why and how much.
func (b *till) owed() (list []string) {
	b.Helper()
	all, err := b.Trade.Owed(b.Ctx)
	require.NoError(b, err)
	for _, o := range all {
		list = append(list, o.Customer.Name+" "+o.Why+" "+o.Amount.StringFixed(2))
	}
	return list
}

func TestAnOrderIsPaidByInstalments(t *testing.T) {
	b := newTill(t, "30", "spent")
	o := b.takes()
	c := b.account(o.ID)
	assert.Equal(t, []string{"32.00", "9.60", "32.00"}, []string{c.Gross.StringFixed(2), c.Deposit.StringFixed(2), c.Open.StringFixed(2)})
	assert.Equal(t, []string{o.Customer.Name + " deposit 9.60"}, b.owed())
	c = b.mustPay(o.ID, "9.60")
	assert.Equal(t, "22.40", c.Open.StringFixed(2))
	assert.Empty(t, b.owed(), "the rest is asked for at the hand-over")
	c = b.mustPay(o.ID, "22.40")
	assert.True(t, c.Open.IsZero())
	assert.Len(t, c.Payments, 2)
	assert.Contains(t, b.HappenedTo(o.ID), "Payment noted")
	for amount, kind := range map[string]trade.Kind{"0.01": trade.Paid, "32.01": trade.Refund} {
		_, err := b.pays(o.ID, kind, amount)
		assert.Equal(t, "amount", housetest.AtFault(t, err), amount)
	}
}

func TestWhatCannotHaveBeenPaidIsRefused(t *testing.T) {
	b := newTill(t, "0", "spent")
	o := b.takes()
	for _, amount := range []string{"0", "-5", "0.001", "32.01", "999999999.99"} {
		_, err := b.pays(o.ID, trade.Paid, amount)
		assert.Equal(t, "amount", housetest.AtFault(t, err), amount)
	}
	for _, day := range []calendar.Date{b.today().Add(1), b.today().Add(-4 * 366)} {
		_, err := b.Trade.Note(b.Ctx, o.ID, trade.PaymentForm{Kind: trade.Paid, Amount: money("1"), PaidOn: day, Way: "cash"})
		assert.Equal(t, "paidOn", housetest.AtFault(t, err), day)
	}
	_, err := b.pays(999, trade.Paid, "1")
	housetest.Missing(t, err)
	assert.Empty(t, b.account(o.ID).Payments)
}

func TestTwoPaymentsAtOnceDoNotCoverMoreThanIsOpen(t *testing.T) {
	b := newTill(t, "0", "spent")
	o := b.takes()
	var wait sync.WaitGroup
	for range 6 {
		wait.Go(func() { _, _ = b.pays(o.ID, trade.Paid, "20.00") })
	}
	wait.Wait()
	assert.Equal(t, "20.00", b.account(o.ID).Paid.StringFixed(2))
}

func TestAPaymentNotedByMistakeIsStruckOut(t *testing.T) {
	b := newTill(t, "0", "spent")
	o := b.takes()
	first := b.mustPay(o.ID, "10.00").Payments[0]
	_, err := b.pays(o.ID, trade.Refund, "4.00")
	require.NoError(t, err)
	_, err = b.Trade.TakeBack(b.Ctx, first.ID)
	housetest.RefusedAs(t, err, problem.InUse, "more would have gone back than came")
	c, err := b.Trade.TakeBack(b.Ctx, b.account(o.ID).Payments[1].ID)
	require.NoError(t, err)
	assert.Equal(t, "10.00", c.Paid.StringFixed(2))
	c, err = b.Trade.TakeBack(b.Ctx, first.ID)
	require.NoError(t, err)
	assert.True(t, c.Paid.IsZero())
	assert.Len(t, c.Payments, 2, "it stays to be seen")
	_, err = b.Trade.TakeBack(b.Ctx, first.ID)
	housetest.RefusedAs(t, err, problem.TakenBack)
	_, err = b.Trade.TakeBack(b.Ctx, 999)
	housetest.Missing(t, err)
}

// The lettered order costs 31.00; what is begun of it serves nobody else.
func TestWhatIsKeptOfACancelledOrderGoesByTheTerms(t *testing.T) {
	for keeping, kept := range map[string]func(spent decimal.Decimal) decimal.Decimal{
		"nothing": func(decimal.Decimal) decimal.Decimal { return decimal.Zero },
		"all":     func(decimal.Decimal) decimal.Decimal { return money("20") },
		"share":   func(decimal.Decimal) decimal.Decimal { return money("10") },
		"spent":   func(spent decimal.Decimal) decimal.Decimal { return decimal.Min(spent, money("20")) },
	} {
		t.Run(keeping, func(t *testing.T) {
			b := newTill(t, "0", keeping)
			o := b.Order(b.crew, 2, "Ada", "Bea")
			b.mustPay(o.ID, "20.00")
			assert.True(t, b.account(o.ID).WouldBe.Spent.IsZero(), "nothing is begun yet")
			_, lots := b.MakeUp(b.crew, 0, 2)
			b.TakeUp(lots[0].ID, 0)
			spent := o.Lines[0].UnitCost.Mul(decimal.NewFromInt(2)).Round(2)
			would := b.account(o.ID).WouldBe
			assert.Equal(t, spent.StringFixed(2), would.Spent.StringFixed(2))
			require.NoError(t, b.Trade.Cancel(b.Ctx, o.ID, trade.Cancelling{Version: b.OrderNow(o.ID).Version}))
			c := b.account(o.ID)
			assert.Equal(t, kept(spent).StringFixed(2), c.Settled.Kept.StringFixed(2))
			assert.Equal(t, kept(spent).Sub(money("20")).StringFixed(2), c.Open.StringFixed(2))
			if back := c.Open.Neg(); back.IsPositive() {
				assert.Equal(t, []string{o.Customer.Name + " back " + back.StringFixed(2)}, b.owed())
				_, err := b.pays(o.ID, trade.Refund, back.StringFixed(2))
				require.NoError(t, err)
			}
			assert.Empty(t, b.owed())
			err := b.Trade.Cancel(b.Ctx, o.ID, trade.Cancelling{Version: b.OrderNow(o.ID).Version})
			housetest.RefusedAs(t, err, problem.Closed)
		})
	}
}

func TestWhatIsKeptCanBeAgreedOtherwise(t *testing.T) {
	b := newTill(t, "0", "all")
	o := b.takes()
	b.mustPay(o.ID, "20.00")
	cancel := func(kept string) error {
		return b.Trade.Cancel(b.Ctx, o.ID, trade.Cancelling{Version: b.OrderNow(o.ID).Version, Kept: kept})
	}
	for _, kept := range []string{"20.01", "-1", "0.001", "x"} {
		assert.Equal(t, "kept", housetest.AtFault(t, cancel(kept)), kept)
	}
	assert.Equal(t, orders.Open, b.OrderNow(o.ID).State, "nothing was cancelled")
	require.NoError(t, cancel("5"))
	assert.Equal(t, "-15.00", b.account(o.ID).Open.StringFixed(2))
}

func TestPlainPiecesOfACancelledOrderAreNotSpent(t *testing.T) {
	b := newTill(t, "0", "spent")
	o := b.takes()
	_, lots := b.MakeUp(b.lamp, 0, 2)
	b.TakeUp(lots[0].ID, 0)
	assert.True(t, b.account(o.ID).WouldBe.Spent.IsZero(), "the shelf has them")
}

func TestTheTaxOfAnOrderIsThatOfTheDayItWasTaken(t *testing.T) {
	b := newTill(t, "0", "spent")
	outlets, err := b.Selling.Outlets(b.Ctx)
	require.NoError(t, err)
	main := outlets[0]
	before := b.takes()
	tax := func(percent string, inPrice bool) {
		form := main.OutletForm
		form.TaxPercent, form.TaxInPrice = money(percent), inPrice
		main, err = b.Selling.ChangeOutlet(b.Ctx, main.ID, selling.OutletChange{OutletForm: form, Version: main.Version})
		require.NoError(t, err)
	}
	tax("20", false)
	onTop := b.takes()
	tax("25", true)
	within := b.takes()
	for order, sums := range map[uint64][]string{before.ID: {"32.00", "0.00", "32.00"}, onTop.ID: {"32.00", "6.40", "38.40"}, within.ID: {"25.60", "6.40", "32.00"}} {
		c := b.account(order)
		assert.Equal(t, sums, []string{c.Net.StringFixed(2), c.Tax.StringFixed(2), c.Gross.StringFixed(2)})
	}
}

func TestTermsAreCheckedAndNotOverwritten(t *testing.T) {
	b := newTill(t, "30", "spent")
	form := trade.TermsForm{DepositPercent: money("100.1"), Keeping: bill.KeepAll, QuoteDays: 14}
	assert.Equal(t, "depositPercent", housetest.AtFault(t, b.Trade.ChangeTerms(b.Ctx, trade.TermsChange{TermsForm: form, Version: 2})))
	form = trade.TermsForm{KeepingPercent: money("101"), Keeping: bill.KeepShare, QuoteDays: 14}
	assert.Equal(t, "keepingPercent", housetest.AtFault(t, b.Trade.ChangeTerms(b.Ctx, trade.TermsChange{TermsForm: form, Version: 2})))
	form.KeepingPercent = money("10")
	housetest.RefusedAs(t, b.Trade.ChangeTerms(b.Ctx, trade.TermsChange{TermsForm: form, Version: 1}), problem.Stale)
}
