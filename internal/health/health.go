// Package health tells in plain words whether all is well with the machine that keeps a
// studio: its backups, its disk, its database and its clock.
package health

import (
	"context"
	"fmt"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/dustin/go-humanize"
	"golang.org/x/sys/unix"
	"gorm.io/gorm"

	"tidykiln/internal/backup"
	"tidykiln/internal/database"
	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

// Health is whether all is well.
type Health struct {
	Well   bool    `json:"well"`
	Checks []Check `json:"checks" nullable:"false"`
}

// Check is one thing that was looked at.
type Check struct {
	What What `json:"what" enum:"backup,disk,database,clock"`
	Well bool `json:"well"`
	// Says is how it stands, Mend what to do where it is not well; both in words.
	Says string `json:"says"`
	Mend string `json:"mend"`
	// At is when something was last done; left out where it says nothing.
	At *time.Time `json:"at,omitempty"`
}

// What is looked at.
type What string

const (
	Backup   What = "backup"
	Disk     What = "disk"
	Database What = "database"
	Clock    What = "clock"
)

// Area answers for how the machine does.
type Area struct {
	db      *database.DB
	backups *backup.Area
	folder  string
	// real is the machine's own clock, free what is left of the disk of a folder, kept
	// whether something keeps the machine's clock right.
	real func() time.Time
	free func(folder string) (left, whole uint64, err error)
	kept func() bool
}

// New makes the area on its database.
func New(db *database.DB, backups *backup.Area) *Area {
	return &Area{db: db, backups: backups, folder: ".", real: time.Now, free: diskLeft, kept: clockKept}
}

// Keeps says in which folder the studio's data lies.
func (a *Area) Keeps(folder string) { a.folder = folder }

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "get-health", "/api/health", "Whether all is well with the machine", wire.Makers, database.Everything, wire.Whole(a.Look))
}

// Look looks at everything.
func (a *Area) Look(ctx context.Context) (h Health, err error) {
	shop, err := database.Look(ctx, a.db, workshop.LoadAlone)
	if err != nil {
		return h, err
	}
	h.Well = true
	for _, look := range []func(context.Context) (Check, error){a.backup, a.disk, a.database, a.clock} {
		c, err := look(ctx)
		if err != nil {
			return h, err
		}
		c.Says = shop.Habit.Sentence(c.Says)
		h.Checks, h.Well = append(h.Checks, c), h.Well && c.Well
	}
	return h, nil
}

// tooLong is after how long without one a backup is missed: the night's, and some hours.
const tooLong = 30 * time.Hour

func (a *Area) backup(ctx context.Context) (Check, error) {
	c := Check{What: Backup}
	b, err := a.backups.List(ctx)
	if err != nil {
		return c, err
	}
	c.At = b.HeldAt
	switch empty, err := a.db.Empty(ctx); {
	case err != nil:
		return c, err
	case b.Folder == "":
		c.Says, c.Mend = "This server keeps no backups.", "Make one by hand: tidykiln backup FILE."
	case b.Failure != "":
		c.Says, c.Mend = "The last backup failed: "+b.Failure, "Mend what it says, and make one now."
	case b.HeldAt == nil && empty:
		c.Well, c.Says = true, "Nothing is here yet that could be lost."
	case b.HeldAt == nil:
		c.Says, c.Mend = "No backup was made yet.", "Make one now."
	case a.real().Sub(*b.HeldAt) > tooLong:
		c.Says, c.Mend = "The last backup that held is too old.", "Make one now, and leave the machine on at night."
	case b.Second != "" && !b.Kept[0].Copied:
		c.Says, c.Mend = "The last backup holds, and is not in the second folder: "+b.Kept[0].NotCopied, "See that "+b.Second+" is there and has room."
	case b.Second == "":
		c.Well, c.Says = true, "The last backup holds. It lies on the same disk as the studio: take one away now and then, or name a second folder."
	default:
		c.Well, c.Says = true, "The last backup holds, and lies in both folders."
	}
	return c, nil
}

// A disk is too full with less than so much left, or less than a twentieth of it.
const leastLeft = 2 << 30

func (a *Area) disk(context.Context) (Check, error) {
	left, whole, err := a.free(a.folder)
	if err != nil {
		return Check{What: Disk, Says: "How much of the disk is left cannot be told: " + err.Error(), Mend: "See that " + a.folder + " is there."}, nil
	}
	c := Check{What: Disk, Well: left >= leastLeft && left >= whole/20, Says: fmt.Sprintf("%s of %s are left.", humanize.IBytes(left), humanize.IBytes(whole))}
	if !c.Well {
		c.Mend = "Make room: a studio whose disk is full cannot note anything any more."
	}
	return c, nil
}

func (a *Area) database(ctx context.Context) (Check, error) {
	begun := a.real()
	if err := a.db.Ready(ctx); err != nil {
		return Check{What: Database, Says: "The database does not answer: " + err.Error(), Mend: "Start the studio again."}, nil
	}
	took := a.real().Sub(begun)
	size, err := a.db.Size(ctx)
	if err != nil {
		return Check{What: Database}, err
	}
	c := Check{What: Database, Well: took < time.Second, Says: fmt.Sprintf("It answers in %d ms and takes up %s.", max(1, took.Milliseconds()), humanize.IBytes(size))}
	if !c.Well {
		c.Mend = "It is slow: see what else the machine is busy with."
	}
	return c, nil
}

// ahead is how far what was written may lie in the future: clocks of several machines differ a little.
const ahead = 2 * time.Minute

func (a *Area) clock(ctx context.Context) (Check, error) {
	last, err := database.Look(ctx, a.db, func(tx *gorm.DB) ([]database.TrailEntry, error) {
		return database.TrailQuery{}.Entries(tx, 1)
	})
	c := Check{What: Clock}
	switch now := a.db.Now(); {
	case err != nil:
		return c, err
	case len(last) > 0 && last[0].At.After(now.Add(ahead)):
		c.At, c.Says, c.Mend = &last[0].At, "It has gone back: something was written later than it shows.", "Set the machine's clock; rests are counted by it."
	case !a.kept():
		c.Well, c.Says = true, "Nothing keeps it right by itself: look at it now and then, rests are counted by it."
	default:
		c.Well, c.Says = true, "It is kept right by itself."
	}
	return c, nil
}

// diskLeft is how much of the disk of a folder is left for its owner, in bytes.
func diskLeft(folder string) (left, whole uint64, err error) {
	var s unix.Statfs_t
	if err := unix.Statfs(folder, &s); err != nil {
		return 0, 0, err
	}
	return s.Bavail * uint64(s.Bsize), s.Blocks * uint64(s.Bsize), nil //nolint:unconvert // the size's type differs by machine
}

// clockKept tells whether the machine's clock is held to one that is right.
func clockKept() bool {
	var t unix.Timex
	state, err := unix.Adjtimex(&t)
	return err == nil && state != unix.TIME_ERROR && t.Status&unix.STA_UNSYNC == 0
}
