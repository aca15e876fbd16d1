package customers_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/customers"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
)

// book is a studio with a product that customers order.
type book struct {
	*housetest.Studio
	lamp uint64
}

func newBook(t *testing.T) book {
	s := housetest.New(t)
	lamp := housetest.Lamp("120")
	lamp.Price = "16"
	return book{s, s.Make(lamp).ID}
}

func (b book) takes(customer string, due calendar.Date) orders.Order {
	b.Helper()
	o, err := b.Take(orders.NewOrder{Customer: customer, DueOn: due, Lines: []orders.NewLine{{ProductID: b.lamp, Quantity: 2}}})
	require.NoError(b, err)
	return o
}

func (b book) add(f customers.CustomerForm) customers.Customer {
	b.Helper()
	c, err := b.Customers.Add(b.Ctx, f)
	require.NoError(b, err)
	return c
}

func (b book) get(id uint64) customers.Customer {
	b.Helper()
	c, err := b.Customers.Get(b.Ctx, id)
	require.NoError(b, err)
	return c
}

func TestACustomerIsFoundByAnyPart(t *testing.T) {
	b := newBook(t)
	b.add(customers.CustomerForm{Name: "Reed Club", Email: "desk@reed.example", Phone: "0155 20", OtherWay: "by the gate", Likes: "light base, matt", Note: "pays in cash",
		Addresses: []customers.CustomerAddress{{Called: "boathouse", Lines: " 4 Weir Lane \r\n\n Lower Quay "}}})
	b.add(customers.CustomerForm{Name: "Sedge Scouts", Likes: "dark base"})
	o := b.takes("Reed Club", "2027-03-20")
	for text, found := range map[string]int{"reed": 1, "club reed": 1, "@reed": 1, "155": 1, "gate": 1, "matt": 1, "cash": 1, "weir": 1, "boathouse": 1, "base": 2, "": 2, "reed dark": 0, "100%": 0, "_": 0} {
		list, err := b.Customers.List(b.Ctx, text, 1)
		require.NoError(t, err)
		assert.Len(t, list.Rows, found, text)
		assert.Equal(t, found, list.Total, text)
	}
	list, err := b.Customers.List(b.Ctx, "reed", 1)
	require.NoError(t, err)
	row := list.Rows[0]
	assert.Equal(t, "0155 20 · desk@reed.example · by the gate", row.Reach)
	assert.Equal(t, 1, row.Orders)
	assert.Equal(t, 1, row.Open)
	assert.Equal(t, "4 Weir Lane\nLower Quay", b.get(row.ID).Addresses[0].Lines)
	had, err := b.Orders.Had(b.Ctx, row.ID)
	require.NoError(t, err)
	require.Len(t, had, 1)
	assert.Equal(t, o.Number, had[0].Number)
	assert.Equal(t, "2 × Lamp", had[0].What)
	assert.Equal(t, "32.00", had[0].Total.StringFixed(2))
}

func TestWhatNoCustomerCanBeIsRefusedBesideItsField(t *testing.T) {
	b := newBook(t)
	b.add(customers.CustomerForm{Name: "Reed Club"})
	address := func(lines string) []customers.CustomerAddress {
		return []customers.CustomerAddress{{Lines: lines}}
	}
	for field, form := range map[string]customers.CustomerForm{
		"name":                {Name: "  "},
		"name ":               {Name: "reed club"},
		"email":               {Name: "A", Email: "not an address"},
		"email ":              {Name: "A", Email: "Ada <ada@example.org>"},
		"addresses[0].lines":  {Name: "A", Addresses: address(" \n ")},
		"addresses[0].lines ": {Name: "A", Addresses: address(strings.Repeat("line\n", 9))},
	} {
		_, err := b.Customers.Add(b.Ctx, form)
		assert.Equal(t, strings.TrimSpace(field), housetest.AtFault(t, err), field)
	}
}

func TestTwoWhoEditACustomerDoNotOverwriteEachOther(t *testing.T) {
	b := newBook(t)
	c := b.add(customers.CustomerForm{Name: "=1+1", Note: "as typed"})
	form := c.CustomerForm
	form.Phone = "0155"
	changed, err := b.Customers.Change(b.Ctx, c.ID, customers.CustomerChange{CustomerForm: form, Version: c.Version})
	require.NoError(t, err)
	assert.Equal(t, "0155", changed.Phone)
	_, err = b.Customers.Change(b.Ctx, c.ID, customers.CustomerChange{CustomerForm: form, Version: c.Version})
	housetest.RefusedAs(t, err, problem.Stale)
}

// merges makes one of two and gives the one that stays.
func (b book) merges(from, into uint64) customers.Customer {
	b.Helper()
	c, err := b.Customers.Merge(b.Ctx, from, customers.Merge{IntoID: into, Version: b.get(from).Version, IntoVersion: b.get(into).Version})
	require.NoError(b, err)
	return c
}

func TestTwoWhoAreTheSameAreMergedAndParted(t *testing.T) {
	b := newBook(t)
	stays := b.add(customers.CustomerForm{Name: "Reed Club", Phone: "0155", Likes: "matt", Addresses: []customers.CustomerAddress{{Lines: "4 Weir Lane"}}})
	goes := b.add(customers.CustomerForm{Name: "The Reed Club", Phone: "0155", Email: "desk@reed.example", Likes: "light base", Addresses: []customers.CustomerAddress{{Lines: "4 Weir Lane"}, {Lines: "Quay 2"}}})
	assert.Equal(t, []customers.Named{{ID: stays.ID, Name: "Reed Club"}}, goes.Alike)
	own, other := b.takes("Reed Club", "2027-03-20"), b.takes("The Reed Club", "2027-03-21")

	one := b.merges(goes.ID, stays.ID)
	assert.Equal(t, "desk@reed.example", one.Email)
	assert.Equal(t, "matt", one.Likes)
	assert.Equal(t, "light base; also as The Reed Club", one.Note)
	assert.Len(t, one.Addresses, 2)
	assert.Equal(t, "Reed Club", b.OrderNow(other.ID).Customer.Name)
	names, err := b.Customers.Names(b.Ctx, "reed")
	require.NoError(t, err)
	assert.Equal(t, []string{"Reed Club"}, names)
	_, err = b.Customers.Change(b.Ctx, goes.ID, customers.CustomerChange{CustomerForm: goes.CustomerForm, Version: b.get(goes.ID).Version})
	housetest.RefusedAs(t, err, problem.Closed)

	merges, err := b.Customers.Merges(b.Ctx, stays.ID)
	require.NoError(t, err)
	require.Len(t, merges, 1)
	back, err := b.Customers.Unmerge(b.Ctx, merges[0].ID)
	require.NoError(t, err)
	assert.Equal(t, "light base", back.Likes)
	was := b.get(stays.ID)
	assert.Equal(t, []string{"", "", "4 Weir Lane"}, []string{was.Email, was.Note, was.Addresses[0].Lines})
	assert.Len(t, was.Addresses, 1)
	assert.Equal(t, "The Reed Club", b.OrderNow(other.ID).Customer.Name)
	assert.Equal(t, "Reed Club", b.OrderNow(own.ID).Customer.Name)
	_, err = b.Customers.Unmerge(b.Ctx, merges[0].ID)
	housetest.Missing(t, err)
}

func TestWhatWasWrittenSinceAMergeStaysWhenItIsUndone(t *testing.T) {
	b := newBook(t)
	stays, goes := b.add(customers.CustomerForm{Name: "Reed Club"}), b.add(customers.CustomerForm{Name: "Reeds", Phone: "0155"})
	one := b.merges(goes.ID, stays.ID)
	form := one.CustomerForm
	form.Likes = "matt"
	_, err := b.Customers.Change(b.Ctx, one.ID, customers.CustomerChange{CustomerForm: form, Version: one.Version})
	require.NoError(t, err)
	later := b.takes("Reed Club", "2027-03-20")
	merges, err := b.Customers.Merges(b.Ctx, stays.ID)
	require.NoError(t, err)
	_, err = b.Customers.Unmerge(b.Ctx, merges[0].ID)
	require.NoError(t, err)
	assert.Equal(t, "matt", b.get(stays.ID).Likes)
	assert.Equal(t, "Reed Club", b.OrderNow(later.ID).Customer.Name)
}

func TestAMergeThatCannotBeIsRefused(t *testing.T) {
	b := newBook(t)
	a, c := b.add(customers.CustomerForm{Name: "A", Note: strings.Repeat("n", 1500)}), b.add(customers.CustomerForm{Name: "C", Note: strings.Repeat("m", 1500)})
	_, err := b.Customers.Merge(b.Ctx, a.ID, customers.Merge{IntoID: a.ID, Version: 1, IntoVersion: 1})
	assert.Equal(t, "intoId", housetest.AtFault(t, err))
	_, err = b.Customers.Merge(b.Ctx, a.ID, customers.Merge{IntoID: 99, Version: 1, IntoVersion: 1})
	assert.Equal(t, "intoId", housetest.AtFault(t, err))
	_, err = b.Customers.Merge(b.Ctx, a.ID, customers.Merge{IntoID: c.ID, Version: 1, IntoVersion: 1})
	assert.Equal(t, "intoId", housetest.AtFault(t, err))
	_, err = b.Customers.Merge(b.Ctx, a.ID, customers.Merge{IntoID: c.ID, Version: 1, IntoVersion: 7})
	housetest.RefusedAs(t, err, problem.Stale)
}

func TestANameTakenSinceKeepsAMergeFromBeingUndone(t *testing.T) {
	b := newBook(t)
	stays, goes := b.add(customers.CustomerForm{Name: "Reed Club"}), b.add(customers.CustomerForm{Name: "Reeds"})
	b.merges(goes.ID, stays.ID)
	assert.Equal(t, "Reed Club", b.takes("reeds", "2027-03-20").Customer.Name, "whoever is named as before is the one they are now")
	b.add(customers.CustomerForm{Name: "Reeds"})
	merges, err := b.Customers.Merges(b.Ctx, stays.ID)
	require.NoError(t, err)
	_, err = b.Customers.Unmerge(b.Ctx, merges[0].ID)
	assert.Equal(t, "name", housetest.AtFault(t, err))
	var named customers.Named
	require.NoError(t, b.DB.Read(b.Ctx, func(tx *gorm.DB) (err error) { named, err = customers.Called(tx, "reeds"); return err }))
	assert.NotEqual(t, goes.ID, named.ID)
}
