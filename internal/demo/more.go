package demo

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"tidykiln/internal/batches"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/prints"
	"tidykiln/internal/stores"
)

// commission is an order or a stock batch of one product, worked up to a step.
type commission struct {
	product, customer string
	// ago and ahead are the days since the order was taken and until it is due.
	ago, ahead, quantity int
	names                []string
	// pictures are those that the customer has sent so far.
	pictures []string
	// made is how many days ago the batch was made up; 0 for an order nobody has begun.
	made   int
	extras int
	lots   []int
	pilot  bool
	// until is the last step done; resting that it was done lately, else its rest is over.
	until   string
	resting bool
}

// tellMoreWork has something of every method ordered or under way.
func (s *studio) tellMoreWork(ctx context.Context) error {
	for _, c := range []commission{
		{product: starterSign, customer: "Regatta office", ago: 6, ahead: 9, quantity: 3, names: []string{"Starter", "Timekeeper", "Umpire’s launch"}, made: 4, lots: []int{3}, until: "lay", resting: true},
		{product: mooringPanel, made: 6, extras: 3, lots: []int{3}, until: "lay", resting: true},
		{product: lockTile, customer: "Lock-keepers’ choir", ago: 3, ahead: 11, quantity: 4, made: 1, lots: []int{4}, until: "clear-2", resting: true},
		{product: slateCoaster, customer: "Oar & Anchor tea-room", ago: 8, ahead: 12, quantity: 4, made: 7, lots: []int{1, 3}, pilot: true, until: "clear-1"},
		{product: ferryTray, customer: "Ferry kiosk", ago: 2, ahead: 14, quantity: 2, made: 2, lots: []int{2}, until: "lay", resting: true},
		{product: crewTote, customer: "Withy Rowing Club", ago: 7, ahead: 10, quantity: 4, pictures: []string{"crew1.jpg", "crew2.jpg", "crew3.jpg", "crew4.jpg"}, made: 5, lots: []int{4}, until: "final-cure", resting: true},
		{product: lanternGlass, made: 1, extras: 4, lots: []int{4}, until: "print"},
		{product: galleyJar, customer: "Tern Boathouse", ago: 3, ahead: 12, quantity: 4, names: []string{"Oats", "Barley", "Tea", "Biscuits for the dog"}, made: 2, lots: []int{4}, until: "final-cure", resting: true},
		{product: sunTumbler, customer: "Scullers’ guild", ago: 4, ahead: 13, quantity: 4, names: []string{"Odo", "Hesper", "Lorcan", "Maud"}, made: 2, lots: []int{4}, until: "apply-decal", resting: true},
		{product: nightTumbler, made: 1, extras: 3, lots: []int{3}, until: "degrease"},
		{product: lampCandle, customer: "Single: a christening", ago: 2, ahead: 13, quantity: 3, made: 1, lots: []int{3}, until: "print-tissue"},
		{product: ferryMug, customer: "Ferry kiosk", ago: 2, ahead: 15, quantity: 4},
		{product: logBook, customer: "Withy Rowing Club", ago: 5, ahead: 14, quantity: 4, names: []string{"Log of the Heron", "Log of the Teal", "Log of the Coot", "Log of the Tern"}, made: 2, lots: []int{4}, until: "press", resting: true},
		{product: keepsakeBox, customer: "Single: silver wedding", ago: 8, ahead: 11, quantity: 2, made: 6, lots: []int{2}, until: "stain", resting: true},
		{product: lanternGlass, made: 13, extras: 5, lots: []int{5}, until: "pack"},
	} {
		if err := s.tellCommission(ctx, c); err != nil {
			return fmt.Errorf("%s: %w", c.product, err)
		}
	}
	return errors.Join(s.tellShelf(ctx), s.tellSheets(ctx))
}

// tellSheets has the sheets of a batch made.
func (s *studio) tellSheets(ctx context.Context) error {
	list, err := s.rooms.Prints.ListPrintable(ctx)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(list, func(p prints.Printable) bool { return p.ProductID == s.products[crewOrnament] })
	if i < 0 {
		return errors.New("no batch of the crew ornament is under way")
	}
	a4 := prints.Paper{Name: "A4", Width: 210, Height: 297, Margin: 6, Gap: 2}
	if _, err := s.rooms.Prints.Make(ctx, prints.JobRequest{BatchIDs: []uint64{list[i].BatchID}, Paper: a4, Cut: prints.CutNone}); err != nil {
		return err
	}
	_, err = s.rooms.Prints.MakeNext(ctx)
	return err
}

// tellShelf has pieces of last winter found on the shelf, and one lantern broken since it was made.
func (s *studio) tellShelf(ctx context.Context) error {
	defer func() { s.at = s.now }()
	s.at = s.now.AddDate(0, 0, -3)
	if _, err := s.rooms.Fulfilment.CountShelf(ctx, s.products[mooringPanel], fulfilment.ShelfCount{Pieces: 2, Note: "left from the winter fair"}); err != nil {
		return err
	}
	if _, err := s.rooms.Fulfilment.CountShelf(ctx, s.products[nightTumbler], fulfilment.ShelfCount{Pieces: 6, Note: "left from the winter fair"}); err != nil {
		return err
	}
	s.at = s.now.AddDate(0, 0, -1)
	_, err := s.rooms.Fulfilment.TakeOffShelf(ctx, s.products[lanternGlass], fulfilment.ShelfLoss{Pieces: 1, Cause: stores.CauseSpoil, Note: "fell from the rack"})
	return err
}

func (s *studio) tellCommission(ctx context.Context, c commission) error {
	if c.customer != "" {
		o, err := s.take(ctx, c.customer, c.product, c.ago, c.ahead, c.quantity, c.names...)
		if err != nil {
			return err
		}
		if len(c.pictures) > 0 {
			if err := s.tellCustomers(ctx, o, c.pictures); err != nil {
				return err
			}
		}
	}
	if c.made == 0 {
		return nil
	}
	lots, err := s.makeWith(ctx, c.product, time.Duration(c.made)*24*time.Hour, batches.NewBatch{Extras: c.extras, Lots: c.lots, Pilot: c.pilot})
	if err != nil {
		return err
	}
	if c.resting {
		return s.workLately(ctx, lots[0], c.until)
	}
	return s.workUntilReady(ctx, lots[0], c.until, nil)
}
