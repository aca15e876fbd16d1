package database

import (
	"context"
	"fmt"
	"slices"

	"gorm.io/gorm"
)

// Author is who writes, for the audit trail. Nobody, at no device, is the studio itself.
type Author struct {
	// PersonID holds the device, MemberID signed in; 0 where that is not known.
	PersonID, MemberID uint64
	// Device is the name of the device, Doing says in words what is done, Request names
	// the request in the log.
	Device, Doing, Request string
}

type authorKey struct{}

// By marks a context with who writes under it.
func By(ctx context.Context, author Author) context.Context {
	return context.WithValue(ctx, authorKey{}, author)
}

// enter notes who made the write that is about to end. What it changed was noted by
// the triggers; where that is nothing there is nothing to enter.
func (db *DB) enter(ctx context.Context, tx *gorm.DB) error {
	a, _ := ctx.Value(authorKey{}).(Author)
	entry := "INSERT INTO trail_entries (revision, at, person, member, device, doing, request) SELECT number, ?, " + nameIn("people") + ", " + nameIn("members") + `, LEFT(?, 80), LEFT(?, 160), LEFT(?, 40)
		FROM revision WHERE EXISTS (SELECT 1 FROM trail_changes c WHERE c.revision = revision.number)`
	if err := tx.Exec(entry, db.now().UTC(), a.PersonID, a.MemberID, a.Device, a.Doing, a.Request).Error; err != nil {
		return fmt.Errorf("entering who wrote: %w", err)
	}
	return nil
}

// nameIn is what a row of a table is called now, as the trail knows it; empty for none.
func nameIn(table string) string {
	i := slices.IndexFunc(Trail, func(k Kept) bool { return k.Table == table })
	return "COALESCE((SELECT `" + Trail[i].Label + "` FROM `" + table + "` WHERE id = ?), '')"
}
