// Package housetest sets up a studio for tests: the rooms of the application on
// a database of their own, with a clock that the test moves.
package housetest

import (
	"context"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/artwork"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/house"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/standin"
	"tidykiln/internal/stores"
	"tidykiln/internal/workshop"
)

// Monday is when a studio begins: 1 March 2027, 09:00 in the morning.
var Monday = time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC)

// Studio is a studio with a clock.
type Studio struct {
	*testing.T
	*house.House
	Ctx context.Context
	DB  *database.DB
	Now time.Time
	// Person is the first of those who work here; 0 while nobody does.
	Person uint64
}

// New sets up a studio in which nobody works and nothing is made.
func New(t *testing.T) *Studio { return NewWith(t, &standin.Hygrometer{}) }

// NewWith is New with another room sensor.
func NewWith(t *testing.T, hygrometer workshop.Hygrometer) *Studio {
	return newOn(t, dbtest.New(t), hygrometer)
}

// NewTrailed is New with the audit trail.
func NewTrailed(t *testing.T) *Studio { return newOn(t, dbtest.Trailed(t), &standin.Hygrometer{}) }

func newOn(t *testing.T, db *database.DB, hygrometer workshop.Hygrometer) *Studio {
	s := &Studio{T: t, Ctx: t.Context(), DB: db, Now: Monday}
	s.House = house.New(s.DB, func() time.Time { return s.Now }, hygrometer, standin.NewPrinter(func() time.Time { return s.Now }))
	s.Artwork.KeepIn(Files(t, s.DB))
	return s
}

// Files is a folder of a test's own for the pictures of a studio.
func Files(t testing.TB, db *database.DB) *artwork.Files {
	t.Helper()
	studio, err := db.Studio(t.Context())
	require.NoError(t, err)
	files, err := artwork.OpenFiles(t.Context(), "", t.TempDir(), studio)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, files.Close()) })
	return files
}

// Later moves the clock on.
func (s *Studio) Later(d time.Duration) { s.Now = s.Now.Add(d) }

// Change edits the workshop.
func (s *Studio) Change(edit func(*workshop.Workshop)) {
	s.Helper()
	w, err := s.Workshop.Get(s.Ctx)
	require.NoError(s, err)
	edit(&w)
	w, err = s.Workshop.Save(s.Ctx, w)
	require.NoError(s, err)
	if len(w.People) > 0 {
		s.Person = w.People[0].ID
	}
}

// Hire lets Maren work here on weekdays (1: Monday) from hour to hour.
func (s *Studio) Hire(from, to int, weekdays ...int) {
	s.Helper()
	s.Change(func(w *workshop.Workshop) {
		p := workshop.Person{Name: "Maren"}
		for _, d := range weekdays {
			p.Hours = append(p.Hours, calendar.Hours{Weekday: d, FromMinute: from * 60, ToMinute: to * 60})
		}
		w.People = []workshop.Person{p}
	})
}

// Lamp is a plain product on a wooden disc so wide, in mm.
func Lamp(width string) products.NewProduct {
	return products.NewProduct{Name: "Lamp", Method: "gel-lift", Look: "crisp",
		Blank: products.BlankForm{Surface: "wood-bare", Shape: "disc", Width: width, Thickness: "10", Hangs: true}}
}

// Crew is a lettered product.
func Crew() products.NewProduct {
	crew := Lamp("90")
	crew.Name, crew.Lettered = "Crew", true
	return crew
}

// Make adds a product.
func (s *Studio) Make(in products.NewProduct) products.Detail {
	s.Helper()
	d, err := s.Products.Make(s.Ctx, in)
	require.NoError(s, err)
	return d
}

// Take takes an order without asking whom it moves.
func (s *Studio) Take(in orders.NewOrder) (orders.Order, error) {
	return database.Answer(s.Ctx, s.DB, database.Everything, func(tx *gorm.DB) (orders.Order, error) { return s.Fulfilment.Take(tx, in, s.Now) })
}

// Order takes an order of one product, due in a month.
func (s *Studio) Order(product products.Detail, quantity int, lettering ...string) orders.Order {
	s.Helper()
	due := calendar.Date(s.Now.AddDate(0, 0, 31).Format(time.DateOnly))
	o, err := s.Take(orders.NewOrder{Customer: "Reed Club", DueOn: due, Lines: []orders.NewLine{{ProductID: product.ID, Quantity: quantity, Lettering: lettering}}})
	require.NoError(s, err)
	return o
}

// OrderNow reads an order as it is now.
func (s *Studio) OrderNow(id uint64) orders.Order {
	s.Helper()
	o, err := database.Look(s.Ctx, s.DB, func(tx *gorm.DB) (orders.Order, error) { return orders.Load(tx, id) })
	require.NoError(s, err)
	return o
}

// HappenedTo lists what happened to an order.
func (s *Studio) HappenedTo(order uint64) (texts []string) {
	s.Helper()
	events, err := database.Look(s.Ctx, s.DB, func(tx *gorm.DB) ([]orders.Event, error) { return orders.Events(tx, order) })
	require.NoError(s, err)
	for _, e := range events {
		texts = append(texts, e.Text)
	}
	return texts
}

// OpenWants are the wants of a product for which nothing is being made.
func (s *Studio) OpenWants(product uint64) (ids []uint64) {
	s.Helper()
	demand, err := s.Fulfilment.Demand(s.Ctx)
	require.NoError(s, err)
	for _, d := range demand {
		if d.ProductID == product {
			for _, w := range d.Wants {
				ids = append(ids, w.WantID)
			}
		}
	}
	return ids
}

// MakeUp makes up a batch of all that is open of a product, plus extras.
func (s *Studio) MakeUp(product products.Detail, extras int, lots ...int) (batches.Batch, []batches.Lot) {
	s.Helper()
	batch, err := s.Batches.Make(s.Ctx, batches.NewBatch{ProductID: product.ID, WantIDs: s.OpenWants(product.ID), Extras: extras, Lots: lots})
	require.NoError(s, err)
	return batch, s.Lots(batch.ID)
}

// Lots are the lots of a batch, by number.
func (s *Studio) Lots(batch uint64) []batches.Lot { return ofBatch[batches.Lot](s, batch) }

// Pieces are the pieces of a batch, by number.
func (s *Studio) Pieces(batch uint64) []batches.Piece { return ofBatch[batches.Piece](s, batch) }

func ofBatch[T any](s *Studio, batch uint64) (rows []T) {
	s.Helper()
	require.NoError(s, s.DB.Read(s.Ctx, func(tx *gorm.DB) error {
		return tx.Where("batch_id = ?", batch).Order("number").Find(&rows).Error
	}))
	return rows
}

// TakeUp takes up a step of a lot, whatever speaks against it.
func (s *Studio) TakeUp(lot uint64, step int) batches.Run {
	s.Helper()
	run, err := s.Batches.TakeUp(s.Ctx, lot, batches.TakeUp{PersonID: s.Person, Step: step, AcceptRisk: true})
	require.NoError(s, err)
	return run
}

// Step does a whole step that begins now and lasts some minutes.
func (s *Studio) Step(lot uint64, step, minutes int) {
	s.Helper()
	run := s.TakeUp(lot, step)
	s.Later(time.Duration(minutes) * time.Minute)
	require.NoError(s, s.Batches.Finish(s.Ctx, run.ID, batches.Done{}))
}

// Through works a lot through the steps from first up to last, a day apart.
func (s *Studio) Through(lot batches.Lot, first, last int) {
	s.Helper()
	for step := first; step <= last; step++ {
		s.Step(lot.ID, step, 20)
		s.Later(24 * time.Hour)
	}
}

// Material reads a material by its key.
func (s *Studio) Material(key string) (m stores.Material) {
	s.Helper()
	require.NoError(s, s.DB.Read(s.Ctx, func(tx *gorm.DB) error { return tx.Where("material_key = ?", key).First(&m).Error }))
	return m
}

// Buy puts a pack of a material into the stores.
func (s *Studio) Buy(supplier, key, pack, price string) {
	s.Helper()
	_, err := s.Stores.Buy(s.Ctx, stores.NewReceipt{Supplier: supplier, ReceivedOn: "2027-02-01", Lines: []stores.NewPurchase{{MaterialID: s.Material(key).ID, Packs: 1, Pack: pack, Price: price}}})
	require.NoError(s, err)
}

// Refused is the refusal that an error is.
func Refused(t testing.TB, err error) *problem.Problem {
	t.Helper()
	var p *problem.Problem
	require.ErrorAs(t, err, &p)
	return p
}

// RefusedAs holds that something was refused for a reason of the given kind.
func RefusedAs(t testing.TB, err error, kind string, why ...any) {
	t.Helper()
	assert.Equal(t, kind, Refused(t, err).Type, why...)
}

// Missing holds that something was refused because there is no such thing.
func Missing(t testing.TB, err error) {
	t.Helper()
	assert.Equal(t, http.StatusNotFound, Refused(t, err).Status)
}

// AtFault is the first field that a refusal names, without "body.".
func AtFault(t testing.TB, err error) string {
	t.Helper()
	p := Refused(t, err)
	require.NotEmpty(t, p.Errors, "no field is named: %v", err)
	return p.Errors[0].Location[min(len("body."), len(p.Errors[0].Location)):]
}

// Rows are what a query finds.
func Rows[T any](s *Studio, query func(tx *gorm.DB, into *[]T) error) (rows []T) {
	s.Helper()
	require.NoError(s, s.DB.Read(s.Ctx, func(tx *gorm.DB) error { return query(tx, &rows) }))
	return rows
}

// Bench is a studio of one person, with a plain and a lettered product.
type Bench struct {
	*Studio
	Plain, Lettered products.Detail
}

// NewBench sets one up; Maren works on Mondays.
func NewBench(t *testing.T) *Bench { return NewBenchWith(t, &standin.Hygrometer{}) }

// NewBenchWith is NewBench with another room sensor.
func NewBenchWith(t *testing.T, hygrometer workshop.Hygrometer) *Bench {
	b := &Bench{Studio: NewWith(t, hygrometer)}
	b.Hire(9, 15, 1)
	b.Plain, b.Lettered = b.Make(Lamp("120")), b.Make(Crew())
	return b
}
