package papers_test

import (
	"bytes"
	"encoding/csv"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/batches"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/orders"
	"tidykiln/internal/papers"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/selling"
	"tidykiln/internal/trade"
)

var money = decimal.RequireFromString

// office is a studio that sells lamps at 16.00, with a letterhead.
type office struct {
	*housetest.Studio
	lamp products.Detail
}

func newOffice(t *testing.T) *office {
	f := &office{Studio: housetest.New(t)}
	f.Artwork.KeepIn(housetest.Files(t, f.DB))
	f.Hire(9, 17, 1, 2, 3, 4, 5)
	lamp := housetest.Lamp("120")
	lamp.Price = "16"
	f.lamp = f.Make(lamp)
	form := papers.LetterheadForm{Seller: "Withy Landing\n4 Reed Lane\nTax number 12/345", Foot: "To account 00 11 22.", DaysToPay: 14, YearsKept: 2, FirstNumber: 1}
	require.NoError(t, f.Papers.ChangeLetterhead(f.Ctx, papers.LetterheadChange{LetterheadForm: form, Version: 1}))
	return f
}

func (f *office) taxes(percent string, inPrice bool, note string) {
	outlets, err := f.Selling.Outlets(f.Ctx)
	require.NoError(f, err)
	form := outlets[0].OutletForm
	form.TaxPercent, form.TaxInPrice, form.TaxNote = money(percent), inPrice, note
	_, err = f.Selling.ChangeOutlet(f.Ctx, outlets[0].ID, selling.OutletChange{OutletForm: form, Version: outlets[0].Version})
	require.NoError(f, err)
}

func (f *office) issue(o orders.Order, kind papers.Kind) (papers.IssuedPaper, error) {
	return f.Papers.Issue(f.Ctx, o.ID, papers.PaperForm{Kind: kind})
}

func (f *office) mustIssue(o orders.Order, kind papers.Kind) papers.IssuedPaper {
	f.Helper()
	p, err := f.issue(o, kind)
	require.NoError(f, err)
	return p
}

func (f *office) of(o orders.Order) papers.OrderPapers {
	f.Helper()
	list, err := f.Papers.OfOrder(f.Ctx, o.ID)
	require.NoError(f, err)
	return list
}

func (f *office) pays(o orders.Order, amount string) trade.Payment {
	f.Helper()
	c, err := f.Trade.Note(f.Ctx, o.ID, trade.PaymentForm{Kind: trade.Paid, Amount: money(amount), PaidOn: f.today(), Way: "cash"})
	require.NoError(f, err)
	return c.Payments[len(c.Payments)-1]
}

func (f *office) today() calendar.Date { return calendar.DateOf(f.Now, f.Now.Location()) }

// letsOff has a lamp of an order come back, for so much.
func (f *office) letsOff(o orders.Order, amount string) {
	f.Helper()
	if f.OrderNow(o.ID).State == orders.Open {
		require.NoError(f, f.DB.Write(f.Ctx, database.Batches, func(tx *gorm.DB) error {
			return tx.Model(&batches.Piece{}).Where("want_id IN ?", o.WantIDs()).Updates(map[string]any{"state": batches.PieceFinished, "finished_at": f.Now}).Error
		}))
		require.NoError(f, f.Fulfilment.HandOver(f.Ctx, o.ID, f.OrderNow(o.ID).Version))
	}
	form := trade.ReturnForm{Pieces: []fulfilment.Returned{{WantID: o.WantIDs()[0], Goes: fulfilment.GoesStays}}, Cause: "ring", Amount: money(amount), Version: f.OrderNow(o.ID).Version}
	_, err := f.Trade.Return(f.Ctx, o.ID, form)
	require.NoError(f, err)
}

// text is what a reader of PDFs finds on a paper.
func (f *office) text(id uint64) string {
	f.Helper()
	file, err := f.Papers.PDF(f.Ctx, id)
	require.NoError(f, err)
	return textOf(f, file.Body)
}

func textOf(t testing.TB, pdf []byte) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), "paper.pdf")
	require.NoError(t, os.WriteFile(path, pdf, 0o600))
	text, err := exec.Command("pdftotext", "-layout", path, "-").Output()
	require.NoError(t, err)
	fonts, err := exec.Command("pdffonts", path).Output()
	require.NoError(t, err)
	for _, line := range strings.Split(strings.TrimSpace(string(fonts)), "\n")[2:] {
		assert.Regexp(t, `TrueType +Identity-H +yes +\w+ +yes `, line, "fonts are in the file")
	}
	return string(text)
}

func figures(p papers.IssuedPaper) []string {
	return []string{p.Net.StringFixed(2), p.Tax.StringFixed(2), p.Gross.StringFixed(2)}
}

func TestAnInvoiceSaysWhatItMustAndIsIssuedOnce(t *testing.T) {
	f := newOffice(t)
	f.taxes("20", false, "")
	o := f.Order(f.lamp, 2)
	assert.True(t, f.of(o).MayInvoice)
	f.pays(o, "10")
	p := f.mustIssue(o, papers.Invoice)
	assert.Equal(t, []string{"32.00", "6.40", "38.40"}, figures(p))
	text := f.text(p.ID)
	for _, words := range []string{"Withy Landing", "Tax number 12/345", o.Customer.Name, "Invoice 1", "Lamp", "2×", "16.00", "32.00", "tax, 20 %", "6.40", "38.40", "paid already", "28.40", "Please pay by", "To account 00 11 22."} {
		assert.Contains(t, text, words)
	}
	_, err := f.issue(o, papers.Invoice)
	housetest.RefusedAs(t, err, problem.InUse)
	assert.Equal(t, p.ID, f.of(o).StandsID)
	assert.Contains(t, f.HappenedTo(o.ID), "Invoice 1 issued")

	f.taxes("5", true, "")
	assert.Equal(t, text, f.text(p.ID), "it stays as issued")
}

func TestWhereNoTaxIsChargedThePaperSaysWhy(t *testing.T) {
	f := newOffice(t)
	f.taxes("0", true, "No tax is charged: small business.")
	o := f.Order(f.lamp, 1)
	f.taxes("20", true, "")
	p := f.mustIssue(o, papers.Invoice)
	assert.Equal(t, []string{"16.00", "0.00", "16.00"}, figures(p), "as on the day it was taken")
	text := f.text(p.ID)
	assert.Contains(t, text, "No tax is charged: small business.")
	assert.NotContains(t, text, "tax in it")
}

func TestASeriesHasNoGapHoweverManyAskAtOnce(t *testing.T) {
	f := newOffice(t)
	o := f.Order(f.lamp, 2)
	var wait sync.WaitGroup
	for range 5 {
		wait.Go(func() { _, _ = f.issue(o, papers.Invoice) })
	}
	others := make([]orders.Order, 4)
	for i := range others {
		others[i] = f.Order(f.lamp, 1)
	}
	for _, other := range others {
		wait.Go(func() { _, _ = f.issue(other, papers.Invoice) })
	}
	wait.Wait()
	list, err := f.Papers.List(f.Ctx, &papers.Period{From: f.today(), To: f.today()})
	require.NoError(t, err)
	var numbers []int
	for _, r := range list.Rows {
		numbers = append(numbers, r.Number)
	}
	assert.ElementsMatch(t, []int{1, 2, 3, 4, 5}, numbers)
	assert.Equal(t, "96.00", list.Figures[0].Gross.StringFixed(2))
}

func TestASeriesBeginsWhereThePaperBookEnded(t *testing.T) {
	f := newOffice(t)
	head, err := f.Papers.Letterhead(f.Ctx)
	require.NoError(t, err)
	head.FirstNumber = 2042
	require.NoError(t, f.Papers.ChangeLetterhead(f.Ctx, papers.LetterheadChange(head)))
	assert.Equal(t, 2042, f.mustIssue(f.Order(f.lamp, 1), papers.Invoice).Number)
	head.FirstNumber = 9000
	require.NoError(t, f.Papers.ChangeLetterhead(f.Ctx, papers.LetterheadChange{LetterheadForm: head.LetterheadForm, Version: head.Version + 1}))
	assert.Equal(t, 2043, f.mustIssue(f.Order(f.lamp, 1), papers.Invoice).Number, "no gap is made")
}

func TestACreditNoteTakesOffWhatWasLetOffAndNoMore(t *testing.T) {
	f := newOffice(t)
	f.taxes("20", true, "")
	o := f.Order(f.lamp, 2)
	f.MakeUp(f.lamp, 0, 2)
	p := f.mustIssue(o, papers.Invoice)
	assert.Equal(t, []string{"26.67", "5.33", "32.00"}, figures(p))
	_, err := f.Papers.Credit(f.Ctx, p.ID, papers.CreditForm{Reason: "nothing"})
	housetest.RefusedAs(t, err, problem.Unfit)

	f.letsOff(o, "7.01")
	assert.Equal(t, "7.01", f.of(o).ToCredit.StringFixed(2))
	first, err := f.Papers.Credit(f.Ctx, p.ID, papers.CreditForm{Reason: "A ring on one of them"})
	require.NoError(t, err)
	assert.Equal(t, []string{"5.84", "1.17", "7.01"}, figures(first))
	assert.Contains(t, f.text(first.ID), "On invoice 1")
	assert.Contains(t, f.text(first.ID), "A ring on one of them")
	now := f.of(o)
	assert.True(t, now.ToCredit.IsZero())
	assert.False(t, now.Changed)
	returned := f.account(o).Returns[0]
	_, err = f.Trade.TakeBackReturn(f.Ctx, returned.ID)
	housetest.RefusedAs(t, err, problem.InUse, "a credit note says so")

	rest, err := f.Papers.Credit(f.Ctx, p.ID, papers.CreditForm{Whole: true, Reason: "Wrong address"})
	require.NoError(t, err)
	assert.Equal(t, p.Net.Sub(first.Net).StringFixed(2), rest.Net.StringFixed(2))
	assert.Equal(t, p.Tax.Sub(first.Tax).StringFixed(2), rest.Tax.StringFixed(2), "together they are the invoice")
	_, err = f.Papers.Credit(f.Ctx, p.ID, papers.CreditForm{Whole: true, Reason: "again"})
	housetest.RefusedAs(t, err, problem.Closed)
	_, err = f.Papers.Credit(f.Ctx, rest.ID, papers.CreditForm{Whole: true, Reason: "of a credit"})
	housetest.RefusedAs(t, err, problem.Unfit)
	again := f.mustIssue(o, papers.Invoice)
	assert.Equal(t, "24.99", again.Gross.StringFixed(2), "without what was let off")
	assert.Contains(t, f.text(again.ID), "let off")
}

func (f *office) account(o orders.Order) trade.OrderMoney {
	c, err := f.Trade.Money(f.Ctx, o.ID)
	require.NoError(f, err)
	return c
}

func TestWhatIsLetOffUnderATaxOnTopIsToTheCent(t *testing.T) {
	f := newOffice(t)
	f.taxes("19", false, "")
	o := f.Order(f.lamp, 2)
	f.MakeUp(f.lamp, 0, 2)
	f.letsOff(o, "3.33")
	p := f.mustIssue(o, papers.Invoice)
	assert.Equal(t, "34.75", p.Gross.StringFixed(2), "38.08 less 3.33")
	assert.True(t, p.Net.Add(p.Tax).Equal(p.Gross))
	assert.False(t, f.of(o).Changed)
}

func TestAReceiptIsForMoneyThatCameAndForItOnce(t *testing.T) {
	f := newOffice(t)
	f.taxes("25", true, "")
	o := f.Order(f.lamp, 1)
	m := f.pays(o, "10")
	form := papers.PaperForm{Kind: papers.Receipt, PaymentID: m.ID}
	p, err := f.Papers.Issue(f.Ctx, o.ID, form)
	require.NoError(t, err)
	assert.Equal(t, []string{"8.00", "2.00", "10.00"}, figures(p))
	assert.Contains(t, f.text(p.ID), "in cash")
	_, err = f.Papers.Issue(f.Ctx, o.ID, form)
	housetest.RefusedAs(t, err, problem.InUse)
	_, err = f.Papers.Issue(f.Ctx, o.ID, papers.PaperForm{Kind: papers.Receipt, PaymentID: 999})
	assert.Equal(t, "paymentId", housetest.AtFault(t, err))
	other := f.pays(o, "1")
	_, err = f.Trade.TakeBack(f.Ctx, other.ID)
	require.NoError(t, err)
	_, err = f.Papers.Issue(f.Ctx, o.ID, papers.PaperForm{Kind: papers.Receipt, PaymentID: other.ID})
	housetest.RefusedAs(t, err, problem.Unfit)
}

func TestWhatSpeaksOfNoMoneyIsIssuedAgainWhereItHasChanged(t *testing.T) {
	f := newOffice(t)
	o := f.Order(f.lamp, 2)
	for _, kind := range []papers.Kind{papers.PackingSlip, papers.OrderSheet, papers.CareCard} {
		first := f.mustIssue(o, kind)
		assert.Equal(t, 1, first.Number)
		assert.Equal(t, first.ID, f.mustIssue(o, kind).ID, kind)
		if kind == papers.CareCard {
			continue
		}
		again, err := f.Papers.Issue(f.Ctx, o.ID, papers.PaperForm{Kind: kind, Note: "Knock twice"})
		require.NoError(t, err)
		assert.Equal(t, 2, again.Number)
		assert.Contains(t, f.text(again.ID), "Knock twice")
		assert.NotContains(t, f.text(first.ID), "Knock twice", "it stays as issued")
	}
	card := f.text(f.mustIssue(o, papers.CareCard).ID)
	assert.Contains(t, card, "How to look after it")
	assert.Contains(t, strings.Join(strings.Fields(card), " "), "follow the label.")
	_, err := f.issue(o, papers.CreditNote)
	assert.Equal(t, "kind", housetest.AtFault(t, err))
}

func TestNothingAskedIsNoInvoice(t *testing.T) {
	f := newOffice(t)
	o := f.Order(f.lamp, 1)
	require.NoError(t, f.Trade.Cancel(f.Ctx, o.ID, trade.Cancelling{Version: o.Version}))
	_, err := f.issue(o, papers.Invoice)
	housetest.RefusedAs(t, err, problem.Unfit)
	assert.False(t, f.of(o).MayInvoice)
	_, err = f.Papers.OfOrder(f.Ctx, 999)
	housetest.Missing(t, err)
	_, err = f.Papers.PDF(f.Ctx, 999)
	housetest.Missing(t, err)
}

func TestTheBooksAreGivenAsTables(t *testing.T) {
	f := newOffice(t)
	f.taxes("20", true, "")
	o := f.Order(f.lamp, 2)
	f.MakeUp(f.lamp, 0, 2)
	m := f.pays(o, "20")
	_, err := f.Papers.Issue(f.Ctx, o.ID, papers.PaperForm{Kind: papers.Receipt, PaymentID: m.ID})
	require.NoError(t, err)
	p := f.mustIssue(o, papers.Invoice)
	f.letsOff(o, "2")
	_, err = f.Papers.Credit(f.Ctx, p.ID, papers.CreditForm{Reason: "=HYPERLINK(1)"})
	require.NoError(t, err)
	period := &papers.Period{From: f.today(), To: f.today()}
	issued, err := f.Papers.IssuedCSV(f.Ctx, period)
	require.NoError(t, err)
	rows := table(t, issued.Body)
	require.Len(t, rows, 3)
	assert.Equal(t, []string{string(f.today()), "invoice", "1", "", "1001", o.Customer.Name, "26.67", "20", "5.33", "32.00", "EUR"}, rows[1])
	assert.Equal(t, []string{"credit_note", "1", "1"}, rows[2][1:4])
	assert.Equal(t, "-2.00", rows[2][9])
	came, err := f.Papers.CameCSV(f.Ctx, period)
	require.NoError(t, err)
	assert.Equal(t, []string{string(f.today()), "payment", "cash", "1001", o.Customer.Name, "20.00", "1", "EUR"}, table(t, came.Body)[1])
	list, err := f.Papers.List(f.Ctx, period)
	require.NoError(t, err)
	assert.Equal(t, "30.00", list.Figures[0].Gross.StringFixed(2))
	assert.Equal(t, "20.00", list.Came.StringFixed(2))
	_, err = f.Papers.List(f.Ctx, &papers.Period{From: f.today(), To: f.today().Add(-1)})
	assert.Equal(t, "to", housetest.AtFault(t, err))
	_, err = f.Papers.List(f.Ctx, &papers.Period{From: f.today(), To: f.today().Add(4000)})
	assert.Equal(t, "to", housetest.AtFault(t, err))
}

func table(t *testing.T, content []byte) [][]string {
	rows, err := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(content, []byte("\ufeff")))).ReadAll()
	require.NoError(t, err)
	return rows
}

func TestAnInvoiceOfWhoIsErasedKeepsTheNameAsLongAsItMust(t *testing.T) {
	f := newOffice(t)
	o := f.Order(f.lamp, 2)
	f.MakeUp(f.lamp, 0, 2)
	who := o.Customer.Name
	invoice := f.mustIssue(o, papers.Invoice)
	f.mustIssue(o, papers.PackingSlip)
	f.letsOff(o, "1")
	c, err := f.Customers.Get(f.Ctx, o.Customer.ID)
	require.NoError(t, err)
	require.NoError(t, f.Privacy.Erase(f.Ctx, c.ID, c.Version))
	assert.Contains(t, f.text(invoice.ID), who)
	assert.Len(t, f.of(o).Papers, 1, "the slip is gone")
	credit, err := f.Papers.Credit(f.Ctx, invoice.ID, papers.CreditForm{Reason: "a ring"})
	require.NoError(t, err)
	assert.Contains(t, f.text(credit.ID), who, "as on its invoice")
	lost, err := f.Papers.LoseNames(f.Ctx)
	require.NoError(t, err)
	assert.Zero(t, lost)

	f.Now = f.Now.AddDate(2, 9, 0) // two years are kept, and 2027 to its end
	lost, err = f.Papers.LoseNames(f.Ctx)
	require.NoError(t, err)
	assert.Zero(t, lost, "not on its day, but at the end of the year")
	f.Now = f.Now.AddDate(0, 3, 0)
	lost, err = f.Papers.LoseNames(f.Ctx)
	require.NoError(t, err)
	assert.Equal(t, 2, lost)
	assert.NotContains(t, f.text(credit.ID), who)
	text := f.text(invoice.ID)
	assert.NotContains(t, text, who)
	assert.Contains(t, text, customers.Under(c.ID))
	assert.Contains(t, text, "32.00", "the figures stay")
	lost, err = f.Papers.LoseNames(f.Ctx)
	require.NoError(t, err)
	assert.Zero(t, lost, "once")
}
