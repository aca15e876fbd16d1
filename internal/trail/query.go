package trail

import (
	"context"
	"fmt"
	"strings"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/database"
)

// change is a row of the trail.
type change struct {
	Revision uint64
	About    string
	RowKey   string
	Label    string
	Was      *string
	Became   *string
	// Among is how many changes its write made, of those asked for.
	Among int
}

// query is what is asked for, as SQL: conditions on an entry and on a change.
type query struct {
	// below names a thing and all that is part of it; empty for everything.
	below     string
	belowArgs []any
	entry     []string
	entryArgs []any
	change    []string
	// changeArgs go with change.
	changeArgs []any
}

// belowThing finds a thing and all that is part of it, and of that.
const belowThing = `WITH RECURSIVE below (about, row_key) AS (
	SELECT CAST(? AS CHAR(40) CHARACTER SET ascii), CAST(? AS CHAR(80) CHARACTER SET ascii)
	UNION
	SELECT part.about, part.row_key FROM below JOIN trail_changes part ON part.under = below.about AND part.under_key = below.row_key) `

func (a *Area) query(ctx context.Context, tx *gorm.DB, w Wanted) (q query, err error) {
	from, to, err := w.span(tx)
	if err != nil {
		return q, err
	}
	q.where(w.Before > 0, "e.revision < ?", w.Before)
	q.where(!from.IsZero(), "e.at >= ?", from)
	q.where(!to.IsZero(), "e.at < ?", to)
	if who := strings.TrimSpace(w.Who); who != "" {
		like := database.Containing(who)
		q.where(true, "(e.person LIKE ? OR e.member LIKE ? OR e.device LIKE ?)", like, like, like)
	}
	if !seesAccess(ctx) {
		q.of("c.about NOT IN ?", ofAccess)
	}
	switch {
	case w.Key != "":
		q.below, q.belowArgs = belowThing, []any{w.About, w.Key}
		q.of("(c.about, c.row_key) IN (SELECT about, row_key FROM below)")
	case w.About != "":
		q.of("c.about = ?", w.About)
	}
	return q, nil
}

func (q *query) where(asked bool, condition string, args ...any) {
	if asked {
		q.entry, q.entryArgs = append(q.entry, condition), append(q.entryArgs, args...)
	}
}

func (q *query) of(condition string, args ...any) {
	q.change, q.changeArgs = append(q.change, condition), append(q.changeArgs, args...)
}

// entries are the writes that changed what is asked for, the newest first.
func (q query) entries(tx *gorm.DB, most int) ([]TrailEntry, error) {
	conditions, args := append([]string{"TRUE"}, q.entry...), append(append([]any{}, q.belowArgs...), q.entryArgs...)
	if len(q.change) > 0 {
		conditions = append(conditions, "e.revision IN (SELECT c.revision FROM trail_changes c WHERE "+strings.Join(q.change, " AND ")+")")
		args = append(args, q.changeArgs...)
	}
	entries := []TrailEntry{}
	text := q.below + "SELECT e.* FROM trail_entries e WHERE " + strings.Join(conditions, " AND ") + " ORDER BY e.revision DESC LIMIT ?"
	if err := tx.Raw(text, append(args, most)...).Scan(&entries).Error; err != nil {
		return nil, fmt.Errorf("reading the trail: %w", err)
	}
	for i := range entries {
		entries[i].At = entries[i].At.In(time.UTC)
	}
	return entries, nil
}

// rows are the changes of some entries that are asked for, at most so many of each.
func (q query) rows(tx *gorm.DB, entries []TrailEntry, most int) (rows []change, err error) {
	if len(entries) == 0 {
		return nil, nil
	}
	args := append(append([]any{}, q.belowArgs...), database.IDs(entries, func(e TrailEntry) uint64 { return e.Revision }))
	conditions := append([]string{"c.revision IN ?"}, q.change...)
	text := q.below + `SELECT revision, about, row_key, label, was, became, among FROM (
		SELECT c.*, ROW_NUMBER() OVER (PARTITION BY c.revision ORDER BY c.id) AS place, COUNT(*) OVER (PARTITION BY c.revision) AS among
		FROM trail_changes c WHERE ` + strings.Join(conditions, " AND ") + `) placed WHERE place <= ? ORDER BY revision DESC, id`
	if err := tx.Raw(text, append(append(args, q.changeArgs...), most)...).Scan(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading what the writes changed: %w", err)
	}
	return rows, nil
}

func byRevision(rows []change) map[uint64][]change {
	of := map[uint64][]change{}
	for _, c := range rows {
		of[c.Revision] = append(of[c.Revision], c)
	}
	return of
}
