package database

import (
	"fmt"
	"strings"
	"time"

	"gorm.io/gorm"
)

// TrailQuery is which part of the audit trail is asked for. What is zero or empty asks
// for nothing in particular.
type TrailQuery struct {
	// About and Key name a thing, with all that is part of it; About alone a kind of things.
	About, Key string
	// Who is part of the name of a person, a member or a device.
	Who string
	// From is the first moment, To the first one after.
	From, To time.Time
	// Before is a revision: only what was written before it.
	Before uint64
	// Without are tables that nothing is told of.
	Without []string
}

// TrailEntry is a row of the trail: who made a write. Names are as they were then.
type TrailEntry struct {
	Revision                               uint64
	At                                     time.Time
	Person, Member, Device, Doing, Request string
}

// TrailChange is a row of the trail: what a write did to a row of a table.
type TrailChange struct {
	Revision             uint64
	About, RowKey, Label string
	// Was and Became are columns and what was in them, as JSON; nil for no row.
	Was, Became *string
	// Among is how many changes its write made, of those asked for.
	Among int
}

// belowThing finds a thing and all that is part of it, and of that.
const belowThing = `WITH RECURSIVE below (about, row_key) AS (
	SELECT CAST(? AS CHAR(40) CHARACTER SET ascii), CAST(? AS CHAR(80) CHARACTER SET ascii)
	UNION
	SELECT part.about, part.row_key FROM below JOIN trail_changes part ON part.under = below.about AND part.under_key = below.row_key) `

// conditions are SQL with what is put into it.
type conditions struct {
	text []string
	args []any
}

func (c *conditions) add(asked bool, text string, args ...any) {
	if asked {
		c.text, c.args = append(c.text, text), append(c.args, args...)
	}
}

func (c conditions) all() string { return strings.Join(c.text, " AND ") }

// below begins a statement, where one thing is asked for.
func (q TrailQuery) below() (c conditions) {
	c.add(q.Key != "", belowThing, q.About, q.Key)
	return c
}

// ofChanges are the conditions on changes, named c.
func (q TrailQuery) ofChanges() (c conditions) {
	c.add(len(q.Without) > 0, "c.about NOT IN ?", q.Without)
	c.add(q.Key != "", "(c.about, c.row_key) IN (SELECT about, row_key FROM below)")
	c.add(q.Key == "" && q.About != "", "c.about = ?", q.About)
	return c
}

// Entries are the writes that changed what is asked for, the newest first.
func (q TrailQuery) Entries(tx *gorm.DB, most int) (entries []TrailEntry, err error) {
	var c conditions
	c.add(true, "e.revision IS NOT NULL")
	c.add(q.Before > 0, "e.revision < ?", q.Before)
	c.add(!q.From.IsZero(), "e.at >= ?", q.From)
	c.add(!q.To.IsZero(), "e.at < ?", q.To)
	who := Containing(q.Who)
	c.add(strings.TrimSpace(q.Who) != "", "(e.person LIKE ? OR e.member LIKE ? OR e.device LIKE ?)", who, who, who)
	if of := q.ofChanges(); len(of.text) > 0 {
		c.add(true, "e.revision IN (SELECT c.revision FROM trail_changes c WHERE "+of.all()+")", of.args...)
	}
	below := q.below()
	text := below.all() + "SELECT e.* FROM trail_entries e WHERE " + c.all() + " ORDER BY e.revision DESC LIMIT ?"
	if err := tx.Raw(text, append(append(below.args, c.args...), most)...).Scan(&entries).Error; err != nil {
		return nil, fmt.Errorf("reading the trail: %w", err)
	}
	return entries, nil
}

// Changes are what some writes changed of what is asked for, at most so many of each, by revision.
func (q TrailQuery) Changes(tx *gorm.DB, entries []TrailEntry, most int) (changes []TrailChange, err error) {
	if len(entries) == 0 {
		return nil, nil
	}
	c, below := q.ofChanges(), q.below()
	c.add(true, "c.revision IN ?", IDs(entries, func(e TrailEntry) uint64 { return e.Revision }))
	text := below.all() + `SELECT revision, about, row_key, label, was, became, among FROM (
		SELECT c.*, ROW_NUMBER() OVER (PARTITION BY c.revision ORDER BY c.id) AS place, COUNT(*) OVER (PARTITION BY c.revision) AS among
		FROM trail_changes c WHERE ` + c.all() + `) placed WHERE place <= ? ORDER BY revision DESC, id`
	if err := tx.Raw(text, append(append(below.args, c.args...), most)...).Scan(&changes).Error; err != nil {
		return nil, fmt.Errorf("reading what the writes changed: %w", err)
	}
	return changes, nil
}
