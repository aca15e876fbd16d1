// Package demo tells the scenario of Withy Landing, an invented two-person
// studio that makes keepsakes for an invented river regatta. It is told
// through the same use cases that people work with, at times before now, so
// that its history is as sound as a real one.
package demo

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/habit"
	"tidykiln/core/measure"
	"tidykiln/internal/artwork"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/house"
	"tidykiln/internal/orders"
	"tidykiln/internal/standin"
	"tidykiln/internal/workshop"
)

// studio is the scenario while it is being told; at is its clock.
type studio struct {
	db       *database.DB
	now, at  time.Time
	workshop workshop.Workshop
	rooms    *house.House
	products map[string]uint64
	// artworks are the pictures on products, by the product's name.
	artworks map[string]uint64
	busy     []stint
}

// Load tells the scenario as of now, in the given time zone, and says whether
// it did: a database in which somebody works already is left alone. The pictures go
// among files.
func Load(ctx context.Context, db *database.DB, files *artwork.Files, now time.Time, timeZone string) (loaded bool, err error) {
	s := &studio{db: db, now: now, at: now, products: map[string]uint64{}}
	clock := func() time.Time { return s.at }
	s.rooms = house.New(db, clock, &standin.Hygrometer{}, standin.NewPrinter(clock))
	s.rooms.Artwork.KeepIn(files)
	if s.workshop, err = s.rooms.Workshop.Get(ctx); err != nil || len(s.workshop.People) > 0 {
		return false, err
	}
	for _, tell := range []func(context.Context) error{
		func(ctx context.Context) error { return s.tellWorkshop(ctx, timeZone) },
		s.tellStores,
		s.tellPictures,
		s.tellProducts,
		s.tellWork,
		s.tellMoreWork,
		s.tellCustomersMore,
		s.tellMoney,
	} {
		if err := tell(ctx); err != nil {
			return false, fmt.Errorf("telling the demo: %w", err)
		}
	}
	return true, nil
}

func (s *studio) tellWorkshop(ctx context.Context, timeZone string) (err error) {
	w := s.workshop
	w.Name, w.TimeZone = "Withy Landing", timeZone
	w.Racks = []workshop.Rack{{Name: "Drying rack", Places: 112}, {Name: "Window shelf", Places: 48, LongestMm: new(measure.Length(150))}}
	w.Habit = habit.Habit{Clock: "24h", FirstWeekday: 1, DateOrder: "dmy", DecimalSign: "point", CurrencySign: "€", SignFirst: true}
	weekdays := func(from, to int, days ...int) (hours []calendar.Hours) {
		for _, d := range days {
			hours = append(hours, calendar.Hours{Weekday: d, FromMinute: from * 60, ToMinute: to * 60})
		}
		return hours
	}
	w.People = []workshop.Person{
		{Name: "Isolde", Hours: weekdays(9, 15, 1, 2, 3, 4, 5), DaysOff: []calendar.DaysOff{}},
		{Name: "Bram", Hours: append(weekdays(10, 15, 1, 2, 3, 4, 5), weekdays(9, 13, 6)...), DaysOff: []calendar.DaysOff{}},
	}
	if s.workshop, err = s.rooms.Workshop.Save(ctx, w); err != nil {
		return err
	}
	return s.tellRoom(ctx)
}

// tellRoom reads the room sensor through the last day.
func (s *studio) tellRoom(ctx context.Context) error {
	if _, err := s.rooms.Workshop.ChangeRoom(ctx, workshop.RoomChange{Simulating: true}); err != nil {
		return err
	}
	defer func() { s.at = s.now }()
	for ago := 24; ago >= 0; ago-- {
		s.at = s.now.Add(-time.Duration(ago) * time.Hour)
		if err := s.rooms.Workshop.KeepReading(ctx); err != nil {
			return err
		}
	}
	return nil
}

// take takes an order some days ago, due some days ahead.
func (s *studio) take(ctx context.Context, customer, product string, ago, ahead, quantity int, lettering ...string) (o orders.Order, err error) {
	s.at = s.now.AddDate(0, 0, -ago)
	due := calendar.DateOf(s.now, s.workshop.Location()).Add(ahead)
	defer func() { s.at = s.now }()
	err = s.db.Write(ctx, database.Everything, func(tx *gorm.DB) error {
		o, err = s.rooms.Fulfilment.Take(tx, orders.NewOrder{Customer: customer, DueOn: due,
			Lines: []orders.NewLine{{ProductID: s.products[product], Quantity: quantity, Lettering: lettering}}}, s.at)
		return err
	})
	return o, err
}

// make makes up a batch of what is open for a product, some days ago.
func (s *studio) make(ctx context.Context, product string, ago time.Duration, extras int, lots ...int) ([]batches.Lot, error) {
	return s.makeWith(ctx, product, ago, batches.NewBatch{Extras: extras, Lots: lots})
}

func (s *studio) makeWith(ctx context.Context, product string, ago time.Duration, in batches.NewBatch) ([]batches.Lot, error) {
	s.at = s.now.Add(-ago)
	defer func() { s.at = s.now }()
	in.ProductID, in.WantIDs = s.products[product], []uint64{}
	demand, err := s.rooms.Fulfilment.Demand(ctx)
	if err != nil {
		return nil, err
	}
	for _, d := range demand {
		if d.ProductID == s.products[product] {
			for _, w := range d.Wants {
				in.WantIDs = append(in.WantIDs, w.WantID)
			}
		}
	}
	b, err := s.rooms.Batches.Make(ctx, in)
	if err != nil {
		return nil, err
	}
	var made []batches.Lot
	err = s.db.Read(ctx, func(tx *gorm.DB) error { return tx.Where("batch_id = ?", b.ID).Order("number").Find(&made).Error })
	return made, err
}
