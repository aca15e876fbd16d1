package planning_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/house"
	"tidykiln/internal/orders"
	"tidykiln/internal/planning"
	"tidykiln/internal/products"
	"tidykiln/internal/standin"
)

// loadedStudio is the demo with so many open orders in all, of one to twelve
// pieces due within a quarter, and some of them made up into batches.
func loadedStudio(t testing.TB, now time.Time, open, made int) *database.DB {
	db := demotest.New(t, now, "Etc/UTC")
	ctx, random := context.Background(), rand.New(rand.NewPCG(12, 19))
	rooms := roomsOf(db)
	var all []products.Product
	require.NoError(t, db.Read(ctx, func(tx *gorm.DB) (err error) {
		all, err = products.LoadAll(tx)
		return err
	}))
	var plain []products.Product
	for _, p := range all {
		if !p.Lettered {
			plain = append(plain, p)
		}
	}
	var there int64
	require.NoError(t, db.Read(ctx, func(tx *gorm.DB) error {
		return tx.Model(&orders.Order{}).Where("state = ?", orders.Open).Count(&there).Error
	}))
	for i := int(there); i < open; i++ {
		p := plain[random.IntN(len(plain))]
		n := 1 + random.IntN(12)
		var o orders.Order
		require.NoError(t, db.Write(ctx, database.Everything, func(tx *gorm.DB) (err error) {
			o, err = rooms.Fulfilment.Take(tx, orders.NewOrder{Customer: fmt.Sprint("Customer ", i), DueOn: calendar.DateOf(now, time.UTC).Add(3 + random.IntN(90)),
				Lines: []orders.NewLine{{ProductID: p.ID, Quantity: n}}}, now)
			return err
		}))
		if i-int(there) < made {
			var wants []uint64
			for _, w := range o.Lines[0].Wants {
				wants = append(wants, w.ID)
			}
			var open []orders.OpenWant
			require.NoError(t, db.Read(ctx, func(tx *gorm.DB) (err error) { open, err = batches.Unserved(tx); return err }))
			wants = wants[:0]
			for _, w := range open {
				if w.OrderID == o.ID {
					wants = append(wants, w.WantID)
				}
			}
			if len(wants) == 0 {
				continue
			}
			_, err := rooms.Batches.Make(ctx, batches.NewBatch{ProductID: p.ID, WantIDs: wants, Lots: []int{len(wants)}})
			if err != nil {
				continue // it does not fit one lot, or is stopped
			}
		}
	}
	return db
}

var loads = []struct{ open, made int }{{69, 50}, {219, 200}, {519, 200}}

var busyMorning = time.Date(2027, 5, 4, 10, 26, 0, 0, time.UTC)

// roomsOf are the rooms of a studio at the busy moment.
func roomsOf(db *database.DB) *house.House {
	return house.New(db, func() time.Time { return busyMorning }, &standin.Hygrometer{}, standin.NewPrinter(time.Now))
}

// The plan of a whole studio, from what is read to what the pages show.
func BenchmarkPlanningOfOpenOrders(b *testing.B) {
	for _, load := range loads {
		db := loadedStudio(b, busyMorning, load.open, load.made)
		s, err := roomsOf(db).Planning.SnapshotNow(b.Context())
		require.NoError(b, err)
		b.Run(fmt.Sprint(load.open), func(b *testing.B) {
			for b.Loop() {
				_, err := planning.MakeSchedule(b.Context(), s)
				require.NoError(b, err)
			}
		})
	}
}

// The bench, asked for right after a write: first by the plan that stands,
// then by the new one; and a promise.
func BenchmarkAnswersWithTwoHundredOrders(b *testing.B) {
	db := loadedStudio(b, busyMorning, 219, 200)
	rooms := roomsOf(db)
	_, err := rooms.Desk.Today(b.Context())
	require.NoError(b, err)
	write := func() {
		require.NoError(b, db.Write(b.Context(), database.Everything, func(*gorm.DB) error { return nil }))
	}
	b.Run("first", func(b *testing.B) {
		for b.Loop() {
			b.StopTimer()
			rooms.Planning.Patience = 0
			_, err := rooms.Desk.Today(b.Context())
			require.NoError(b, err)
			write()
			rooms.Planning.Patience = 100 * time.Millisecond
			b.StartTimer()
			_, err = rooms.Desk.Today(b.Context())
			require.NoError(b, err)
		}
	})
	rooms.Planning.Patience = 0
	b.Run("new-plan", func(b *testing.B) {
		for b.Loop() {
			b.StopTimer()
			write()
			b.StartTimer()
			_, err := rooms.Desk.Today(b.Context())
			require.NoError(b, err)
		}
	})
	b.Run("promise", func(b *testing.B) {
		for b.Loop() {
			_, err := rooms.Planning.Promise(b.Context(), planning.Ask{DueOn: "2027-06-20", Lines: []planning.AskLine{{ProductID: 3, Quantity: 8}}})
			require.NoError(b, err)
		}
	})
}

// Two orders of twenty times five hundred pieces.
func BenchmarkOrdersOfThousands(b *testing.B) {
	db := demotest.New(b, busyMorning, "Etc/UTC")
	rooms := roomsOf(db)
	for range 2 {
		in := orders.NewOrder{Customer: "Reed Club", DueOn: "2028-05-04"}
		for range 20 {
			in.Lines = append(in.Lines, orders.NewLine{ProductID: 3, Quantity: 500})
		}
		require.NoError(b, db.Write(b.Context(), database.Everything, func(tx *gorm.DB) error {
			_, err := rooms.Fulfilment.Take(tx, in, busyMorning)
			return err
		}))
	}
	for b.Loop() {
		b.StopTimer()
		require.NoError(b, db.Write(b.Context(), database.Everything, func(*gorm.DB) error { return nil }))
		b.StartTimer()
		_, err := rooms.Desk.Today(b.Context())
		require.NoError(b, err)
	}
}
