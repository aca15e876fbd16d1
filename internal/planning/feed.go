package planning

import (
	"context"

	"gorm.io/gorm"

	"tidykiln/internal/access"
	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// The plan as a feed: calendar programs ask for it again and again, and cannot sign
// in. Whoever knows its address sees it, until there is another.

// FeedAddress is where calendar programs find the plan.
func (a *Area) FeedAddress(ctx context.Context) (access.SecretAddress, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (access.SecretAddress, error) { return access.SecretOf(tx, access.OpensCalendar, 0) })
}

// RenewFeed gives the feed another address; the one before opens nothing any more.
func (a *Area) RenewFeed(ctx context.Context) (at access.SecretAddress, err error) {
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		at, err = access.RenewSecret(tx, access.OpensCalendar, 0, a.now())
		return err
	})
	return at, err
}

// CloseFeed takes the feed away.
func (a *Area) CloseFeed(ctx context.Context) error {
	return a.db.Write(ctx, database.Access, func(tx *gorm.DB) error { return access.ForgetSecret(tx, access.OpensCalendar, 0) })
}

// Feed is the plan for whoever knows the feed's address.
func (a *Area) Feed(ctx context.Context, in *access.ByToken) (*wire.File, error) {
	_, err := database.Look(ctx, a.db, func(tx *gorm.DB) (uint64, error) { return access.OpenedBy(tx, access.OpensCalendar, in.Token) })
	if err != nil {
		return nil, err
	}
	return a.InCalendar(ctx)
}
