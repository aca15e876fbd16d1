package orders_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/database"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/selling"
	"tidykiln/internal/standin"
	"tidykiln/internal/workshop"
)

// desk is where orders are taken: a plain product, a lettered one, and a clock.
type desk struct {
	*housetest.Studio
	plain, lettered uint64
}

func newDesk(t *testing.T) *desk {
	d := &desk{Studio: housetest.New(t)}
	plain, lettered := housetest.Lamp("120"), housetest.Crew()
	plain.Price, lettered.Price = "16", "15.50"
	d.plain, d.lettered = d.Make(plain).ID, d.Make(lettered).ID
	return d
}

func (d *desk) mustTake(customer string, due calendar.Date) orders.Order {
	d.Helper()
	o, err := d.Take(orders.NewOrder{Customer: customer, DueOn: due, Lines: []orders.NewLine{{ProductID: d.plain, Quantity: 2}}})
	require.NoError(d, err)
	return o
}

func TestAnOrderKeepsItsPriceAndProductWhateverIsEditedLater(t *testing.T) {
	d := newDesk(t)
	o, err := d.Take(orders.NewOrder{Customer: " Reed Club ", DueOn: "2027-03-20", Note: " by the gate ", Lines: []orders.NewLine{
		{ProductID: d.lettered, Quantity: 2, Lettering: []string{" Ash ", "Elm · 7"}},
		{ProductID: d.plain, Quantity: 3},
	}})
	require.NoError(t, err)
	_, err = d.Products.Change(d.Ctx, d.lettered, products.ProductChange{Name: "Renamed", Price: o.Lines[0].UnitPrice.Add(o.Lines[0].UnitPrice), Version: 1})
	require.NoError(t, err)

	kept := d.OrderNow(o.ID)
	assert.Equal(t, "Reed Club", kept.Customer.Name)
	assert.Equal(t, "by the gate", kept.Note)
	assert.Equal(t, 1001, kept.Number)
	require.Len(t, kept.Lines, 2)
	assert.Equal(t, "Crew", kept.Lines[0].ProductName)
	assert.Equal(t, "15.50", kept.Lines[0].UnitPrice.StringFixed(2))
	assert.True(t, kept.Lines[0].UnitCost.IsPositive())
	assert.Equal(t, []string{"Ash", "Elm · 7"}, []string{kept.Lines[0].Wants[0].Lettering, kept.Lines[0].Wants[1].Lettering})
	assert.Len(t, kept.Lines[1].Wants, 3)
	assert.Equal(t, []string{"Order taken, due 2027-03-20"}, d.HappenedTo(o.ID))
}

func TestLetteringMayBeInAnyScriptAndTwiceTheSame(t *testing.T) {
	d := newDesk(t)
	names := []string{"Žofie", "李娜", "مريم", "👩‍🌾 Ada", "e\u0301tude", "Ada", "Ada", strings.Repeat("é", 120)}
	o, err := d.Take(orders.NewOrder{Customer: "Ōtani", DueOn: "2027-03-20", Lines: []orders.NewLine{{ProductID: d.lettered, Quantity: len(names), Lettering: names}}})
	require.NoError(t, err)
	for i, w := range d.OrderNow(o.ID).Lines[0].Wants {
		assert.Equal(t, names[i], w.Lettering)
	}
	_, err = d.Take(orders.NewOrder{Customer: "X", DueOn: "2027-03-20", Lines: []orders.NewLine{{ProductID: d.lettered, Quantity: 1, Lettering: []string{strings.Repeat("é", 121)}}}})
	assert.Equal(t, "lines[0].lettering[0]", housetest.AtFault(t, err))
}

func TestNumbersGoOnAndACustomerIsKnownAgain(t *testing.T) {
	d := newDesk(t)
	first, second := d.mustTake("Reed Club", "2027-03-20"), d.mustTake("reed club", "2027-03-21")
	assert.Equal(t, first.Number+1, second.Number)
	assert.Equal(t, first.Customer.ID, second.Customer.ID, "the same name in other letters is the same customer")
	d.mustTake("Ferry 100%", "2027-03-20")
	for text, want := range map[string][]string{"ree": {"Reed Club"}, "100%": {"Ferry 100%"}, "%": {"Ferry 100%"}, "_": {}, "zz": {}, "": {"Ferry 100%", "Reed Club"}} {
		names, err := d.Customers.Names(d.Ctx, text)
		require.NoError(t, err)
		assert.Equal(t, want, names, text)
	}
}

func TestADueIsFromTodayInTheWorkshopsZone(t *testing.T) {
	d := newDesk(t)
	shop := workshop.New(d.DB, func() time.Time { return d.Now }, &standin.Hygrometer{})
	w, err := shop.Get(d.Ctx)
	require.NoError(t, err)
	w.TimeZone = "Pacific/Auckland"
	w.People = []workshop.Person{{Name: "Maren"}}
	_, err = shop.Save(d.Ctx, w)
	require.NoError(t, err)
	d.Now = time.Date(2027, 3, 1, 12, 0, 0, 0, time.UTC) // already 2 March there
	for due, fine := range map[calendar.Date]bool{"2027-03-01": false, "2027-03-02": true, "2030-03-01": true, "2031-01-01": false, "9999-12-31": false} {
		_, err := d.Take(orders.NewOrder{Customer: "X", DueOn: due, Lines: []orders.NewLine{{ProductID: d.plain, Quantity: 1}}})
		assert.Equal(t, fine, err == nil, "%s: %v", due, err)
	}
}

func TestAChangeOfDateIsNotedAndAStaleOneRefused(t *testing.T) {
	d := newDesk(t)
	o := d.mustTake("Reed Club", "2027-03-20")
	require.NoError(t, d.change(o.ID, orders.OrderChange{DueOn: "2027-03-25", Note: "later", Version: 1}))
	assert.Equal(t, []string{"Order taken, due 2027-03-20", "Due date moved from 2027-03-20 to 2027-03-25"}, d.HappenedTo(o.ID))

	err := d.change(o.ID, orders.OrderChange{DueOn: "2027-03-26", Version: 1})
	var p *problem.Problem
	require.ErrorAs(t, err, &p)
	assert.Equal(t, problem.Stale, p.Type)
	assert.Contains(t, p.Detail, "Thursday 25 March", "it says what is there now")
	assert.Equal(t, calendar.Date("2027-03-25"), d.OrderNow(o.ID).DueOn)

	housetest.Missing(t, d.change(999, orders.OrderChange{DueOn: "2027-03-26", Version: 1}))
	assert.Equal(t, "dueOn", housetest.AtFault(t, d.change(o.ID, orders.OrderChange{DueOn: "2027-02-26", Version: 2})))
}

func TestAnOverdueOrderKeepsItsDateWhenOnlyItsNoteIsChanged(t *testing.T) {
	d := newDesk(t)
	o := d.mustTake("Reed Club", "2027-03-02")
	d.Now = d.Now.AddDate(0, 0, 9)
	assert.NoError(t, d.change(o.ID, orders.OrderChange{DueOn: "2027-03-02", Note: "phoned", Version: 1}))
	assert.Equal(t, "phoned", d.OrderNow(o.ID).Note)
}

func TestClosedOrdersCannotBeChangedAndLeaveTheListInTime(t *testing.T) {
	d := newDesk(t)
	kept, closed := d.mustTake("Reed Club", "2027-03-20"), d.mustTake("Ferry", "2027-03-10")
	require.NoError(t, d.DB.Write(d.Ctx, database.Everything, func(tx *gorm.DB) error { return orders.Close(tx, closed, orders.HandedOver, d.Now) }))
	housetest.RefusedAs(t, d.change(closed.ID, orders.OrderChange{DueOn: "2027-03-26", Version: 2}), problem.Closed)
	numbers := func(since time.Time) (numbers []int) {
		require.NoError(t, d.DB.Read(d.Ctx, func(tx *gorm.DB) error {
			list, err := orders.LoadOpen(tx, since)
			for _, o := range list {
				numbers = append(numbers, o.Number)
			}
			return err
		}))
		return numbers
	}
	assert.Equal(t, []int{closed.Number, kept.Number}, numbers(d.Now.Add(-time.Hour)), "soonest due first")
	assert.Equal(t, []int{kept.Number}, numbers(d.Now.Add(time.Hour)))
	require.NoError(t, d.DB.Write(d.Ctx, database.Everything, func(tx *gorm.DB) error { return orders.Reopen(tx, d.OrderNow(closed.ID)) }))
	assert.Equal(t, orders.Open, d.OrderNow(closed.ID).State)
}

func TestAnOrderIsTakenAtThePricesOfItsWayOfSelling(t *testing.T) {
	d := newDesk(t)
	outlets, err := d.Selling.Outlets(d.Ctx)
	require.NoError(t, err)
	ids := map[string]uint64{}
	for _, o := range outlets {
		ids[o.Name] = o.ID
	}
	priced := func(outlet uint64) (string, string) {
		o, err := d.Take(orders.NewOrder{Customer: "Ferry kiosk", OutletID: outlet, DueOn: "2027-03-20", Lines: []orders.NewLine{{ProductID: d.plain, Quantity: 2}}})
		require.NoError(t, err)
		o = d.OrderNow(o.ID)
		return o.OutletName, o.Lines[0].UnitPrice.StringFixed(2)
	}
	for _, want := range []struct {
		outlet      uint64
		name, price string
	}{{0, "Shop page", "16.00"}, {ids["Shop page"], "Shop page", "16.00"}, {ids["Trade"], "Trade", "9.60"}} {
		name, price := priced(want.outlet)
		assert.Equal(t, want.name, name)
		assert.Equal(t, want.price, price, want.name)
	}
	_, err = d.Selling.SetPrice(d.Ctx, d.plain, selling.PriceChange{OutletID: ids["Trade"], Price: "10.25", Version: 1})
	require.NoError(t, err)
	_, price := priced(ids["Trade"])
	assert.Equal(t, "10.25", price, "as it is set, not as its target comes to")
	_, err = d.Take(orders.NewOrder{Customer: "Ferry kiosk", OutletID: 99, DueOn: "2027-03-20", Lines: []orders.NewLine{{ProductID: d.plain, Quantity: 2}}})
	var p *problem.Problem
	require.ErrorAs(t, err, &p)
	assert.Equal(t, "body.outletId", p.Errors[0].Location)
}

func (d *desk) change(id uint64, c orders.OrderChange) error {
	return d.DB.Write(d.Ctx, database.Everything, func(tx *gorm.DB) error { return fulfilment.Change(tx, id, c, d.Now) })
}
