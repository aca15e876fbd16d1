// Package trail reads the audit trail: who did what, when and at which device, and from
// which to which. The database notes it; see there.
package trail

import (
	"context"
	"slices"
	"strings"
	"sync/atomic"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

// Area answers for the audit trail.
type Area struct {
	db   *database.DB
	kept map[string]database.Kept
	// schema is read once: it changes only with the program.
	schema atomic.Pointer[columns]
}

// New makes the area on its database.
func New(db *database.DB) *Area {
	kept := map[string]database.Kept{}
	for _, k := range database.Trail {
		kept[k.Table] = k
	}
	return &Area{db: db, kept: kept}
}

// Wanted says which part of the trail is asked for.
type Wanted struct {
	About string        `query:"about" maxLength:"40" doc:"what kind of thing, as the trail names it"`
	Key   string        `query:"key" maxLength:"80" doc:"which one of them, with all that is part of it"`
	Who   string        `query:"who" maxLength:"80" doc:"part of the name of a person, a member or a device"`
	From  calendar.Date `query:"from" format:"date"`
	To    calendar.Date `query:"to" format:"date"`
	// Before is the entry after the page that is wanted; 0 for the newest.
	Before uint64 `query:"before"`
}

// Trail is a page of the audit trail, the newest first.
type Trail struct {
	Entries []TrailEntry `json:"entries" nullable:"false"`
	// Older is what to ask for before next; left out where there is nothing older.
	Older uint64 `json:"older,omitempty"`
	// Kinds are the kinds of things that there may be something of.
	Kinds []TrailKind `json:"kinds" nullable:"false"`
}

// TrailKind is a kind of thing that the trail knows.
type TrailKind struct {
	About  string `json:"about"`
	Called string `json:"called"`
}

// TrailEntry is one write.
type TrailEntry struct {
	Revision uint64    `json:"revision"`
	At       time.Time `json:"at"`
	// Person held the device, Member signed in; names as they were then.
	Person string `json:"person"`
	Member string `json:"member"`
	Device string `json:"device"`
	// Doing says what was done; Itself that the studio did it with nobody asking.
	Doing  string `json:"doing"`
	Itself bool   `json:"itself"`
	// Request names the request in the server's log.
	Request string        `json:"request"`
	Changes []TrailChange `json:"changes" nullable:"false"`
	// More is how many changes it has besides these.
	More int `json:"more"`
}

// TrailChange is what a write did to one thing.
type TrailChange struct {
	About  string       `json:"about"`
	Called string       `json:"called"`
	Label  string       `json:"label"`
	Key    string       `json:"key"`
	Did    Did          `json:"did" enum:"made,changed,removed"`
	Fields []TrailField `json:"fields" nullable:"false"`
	More   int          `json:"more" doc:"how many fields it has besides these"`
}

// Did is what became of a thing.
type Did string

const (
	Made    Did = "made"
	Changed Did = "changed"
	Removed Did = "removed"
)

// TrailField is one field from which to which; empty stands for nothing there.
type TrailField struct {
	Name   string    `json:"name"`
	Kind   FieldKind `json:"kind" enum:"text,number,day,moment,flag"`
	Was    string    `json:"was"`
	Became string    `json:"became"`
}

// FieldKind says how pages write a field: a moment is in UTC, a number has a point.
type FieldKind string

const (
	Text   FieldKind = "text"
	Number FieldKind = "number"
	Day    FieldKind = "day"
	Moment FieldKind = "moment"
	Flag   FieldKind = "flag"
)

// A page has so many entries, an entry on it so many changes, a change so many fields.
const (
	mostEntries = 30
	mostChanges = 12
	mostFields  = 40
)

// ofAccess are the tables that only an owner reads of: who may come in.
var ofAccess = []string{"members", "pairings", "passkeys", "recovery_codes", "secret_addresses", "sessions"}

// Read gives a page of the trail, of everything or of one thing.
func (a *Area) Read(ctx context.Context, w Wanted) (Trail, error) {
	if err := a.check(w); err != nil {
		return Trail{}, err
	}
	return database.Look(ctx, a.db, func(tx *gorm.DB) (Trail, error) {
		t := Trail{Kinds: a.kinds(ctx)}
		q, err := w.query(ctx, tx)
		if err != nil {
			return t, err
		}
		entries, err := q.Entries(tx, mostEntries+1)
		if err != nil {
			return t, err
		}
		if len(entries) > mostEntries {
			entries = entries[:mostEntries]
			t.Older = entries[mostEntries-1].Revision
		}
		changes, err := q.Changes(tx, entries, mostChanges)
		if err != nil {
			return t, err
		}
		t.Entries, err = a.inWords(tx, entries, changes)
		return t, err
	})
}

// query is what is asked for, as the database is asked.
func (w Wanted) query(ctx context.Context, tx *gorm.DB) (q database.TrailQuery, err error) {
	q = database.TrailQuery{About: w.About, Key: w.Key, Who: w.Who, Before: w.Before}
	if !seesAccess(ctx) {
		q.Without = ofAccess
	}
	q.From, q.To, err = w.span(tx)
	return q, err
}

// check refuses what cannot be asked for.
func (a *Area) check(w Wanted) error {
	if _, known := a.kept[w.About]; w.About != "" && !known {
		return problem.Invalid("about", "the trail knows no such kind of thing")
	}
	if w.Key != "" && w.About == "" {
		return problem.Invalid("about", "say what kind of thing the key is of")
	}
	return nil
}

// kinds are what whoever asks may choose among.
func (a *Area) kinds(ctx context.Context) []TrailKind {
	kinds := []TrailKind{}
	for _, k := range database.Trail {
		if seesAccess(ctx) || !slices.Contains(ofAccess, k.Table) {
			kinds = append(kinds, TrailKind{k.Table, k.Called})
		}
	}
	slices.SortFunc(kinds, func(a, b TrailKind) int { return strings.Compare(a.Called, b.Called) })
	return kinds
}

func seesAccess(ctx context.Context) bool { return wire.Acts(ctx).Role == wire.RoleOwner }

// inWords are entries with their changes in words.
func (a *Area) inWords(tx *gorm.DB, entries []database.TrailEntry, changes []database.TrailChange) ([]TrailEntry, error) {
	read, err := a.reader(tx, changes)
	if err != nil {
		return nil, err
	}
	of, all := byRevision(changes), make([]TrailEntry, len(entries))
	for i, e := range entries {
		itself := e.Request == "" && e.Device == "" && e.Person == "" && e.Member == ""
		all[i] = TrailEntry{Revision: e.Revision, At: e.At.UTC(), Person: e.Person, Member: e.Member, Device: e.Device, Doing: e.Doing, Itself: itself, Request: e.Request, Changes: []TrailChange{}}
		for _, c := range of[e.Revision] {
			all[i].Changes = append(all[i].Changes, read.change(c, mostFields))
			all[i].More = c.Among - len(all[i].Changes)
		}
	}
	return all, nil
}

func byRevision(changes []database.TrailChange) map[uint64][]database.TrailChange {
	of := map[uint64][]database.TrailChange{}
	for _, c := range changes {
		of[c.Revision] = append(of[c.Revision], c)
	}
	return of
}

// span is the time of the days asked for, by the studio's clock on the wall.
func (w Wanted) span(tx *gorm.DB) (from, to time.Time, err error) {
	if w.From == "" && w.To == "" {
		return from, to, nil
	}
	shop, err := workshop.LoadAlone(tx)
	if err != nil {
		return from, to, err
	}
	if w.From != "" {
		from = w.From.At(0, shop.Location())
	}
	if w.To != "" {
		to = w.To.Add(1).At(0, shop.Location())
	}
	if !to.IsZero() && !from.Before(to) {
		return from, to, problem.Invalid("to", "the last day comes before the first")
	}
	return from, to, nil
}
