// Package privacy gives a person's data out, and erases it on request in every room.
package privacy

import (
	"context"
	"maps"
	"slices"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/artwork"
	"tidykiln/internal/backup"
	"tidykiln/internal/batches"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/papers"
	"tidykiln/internal/prints"
	"tidykiln/internal/takeout"
	"tidykiln/internal/trade"
)

// Area answers for what is known of a person.
type Area struct {
	db      *database.DB
	now     func() time.Time
	artwork *artwork.Area
	papers  *papers.Area
	takeout *takeout.Area
	backup  *backup.Area
}

// New makes the area on its database and clock.
func New(db *database.DB, now func() time.Time, artwork *artwork.Area, papers *papers.Area, takeout *takeout.Area, backup *backup.Area) *Area {
	return &Area{db, now, artwork, papers, takeout, backup}
}

// GiveOut is all that is known of a person, as tables in a ZIP file, and the pictures they sent.
func (a *Area) GiveOut(ctx context.Context, id uint64) ([]byte, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]byte, error) {
		if _, err := customers.Load(tx, id); err != nil {
			return nil, err
		}
		person, err := customers.PersonOf(tx, id)
		if err != nil {
			return nil, err
		}
		ids, err := orders.IDsOf(tx, person.IDs)
		if err != nil {
			return nil, err
		}
		sheets, err := sheetsOf(tx, person.IDs, ids)
		if err != nil {
			return nil, err
		}
		pictures, err := a.pictures(ctx, tx, ids)
		if err != nil {
			return nil, err
		}
		issued, err := a.papers.FilesOf(ctx, tx, ids)
		if err != nil {
			return nil, err
		}
		return a.takeout.Pack(sheets, slices.Concat(pictures, named("papers/", issued))...)
	})
}

func sheetsOf(tx *gorm.DB, person, ordered []uint64) (all []database.Sheet, err error) {
	for _, room := range []func() ([]database.Sheet, error){
		func() ([]database.Sheet, error) { return customers.SheetsOf(tx, person) },
		func() ([]database.Sheet, error) { return orders.SheetsOf(tx, person) },
		func() ([]database.Sheet, error) { return trade.SheetsOf(tx, person, ordered) },
		func() ([]database.Sheet, error) { return papers.SheetsOf(tx, ordered) },
	} {
		sheets, err := room()
		if err != nil {
			return nil, err
		}
		all = slices.Concat(all, sheets)
	}
	return all, nil
}

// pictures are those that a person sent for orders.
func (a *Area) pictures(ctx context.Context, tx *gorm.DB, ordered []uint64) (files []takeout.Named, err error) {
	ids, err := orders.PicturesOf(tx, ordered)
	if err != nil {
		return nil, err
	}
	originals, err := a.artwork.Originals(ctx, tx, ids)
	return named("pictures/", originals), err
}

// named puts files into a folder of what is given out.
func named(folder string, contents map[string][]byte) (files []takeout.Named) {
	for _, name := range slices.Sorted(maps.Keys(contents)) {
		files = append(files, takeout.Named{Name: folder + name, Content: contents[name]})
	}
	return files
}

// Erase takes all that tells of a person out; their orders stay under a number.
func (a *Area) Erase(ctx context.Context, id uint64, version int) error {
	err := a.db.Write(ctx, database.Orders|database.Batches|database.Artwork|database.Prints, func(tx *gorm.DB) error {
		if _, err := customers.ToErase(tx, id, version); err != nil {
			return err
		}
		person, err := customers.PersonOf(tx, id)
		if err != nil {
			return err
		}
		if err := orders.NoneOpen(tx, person.IDs); err != nil {
			return err
		}
		return a.forget(tx, person, a.now())
	})
	if err != nil {
		return err
	}
	return a.backup.NoteErasures(ctx)
}

// Again erases again whose data came back with a backup of the time before.
func (a *Area) Again(tx *gorm.DB, list []customers.Erasure) error {
	for _, e := range list {
		person, err := customers.PersonOf(tx, e.CustomerID)
		if err != nil {
			return err
		}
		if err := a.forget(tx, person, e.At); err != nil {
			return err
		}
	}
	return nil
}

func (a *Area) forget(tx *gorm.DB, person customers.Person, at time.Time) error {
	for _, id := range person.IDs {
		had, err := orders.Forget(tx, id, person.Names, customers.Under(id))
		if err != nil {
			return err
		}
		if err := prints.ForgetProofs(tx, had.Wants); err != nil {
			return err
		}
		if err := trade.Forget(tx, had.Orders); err != nil {
			return err
		}
		if err := papers.Forget(tx, had.Orders); err != nil {
			return err
		}
		if err := trade.ForgetQuotes(tx, id); err != nil {
			return err
		}
		more, err := batches.ForgetNames(tx, had.Wants, had.Lettering)
		if err != nil {
			return err
		}
		pictures := slices.Concat(had.Artworks, more)
		slices.Sort(pictures)
		if err := a.artwork.Forget(tx, slices.Compact(pictures)); err != nil {
			return err
		}
		if err := customers.Erase(tx, id, at); err != nil {
			return err
		}
	}
	return database.ForgetAnswers(tx, person.Names)
}
