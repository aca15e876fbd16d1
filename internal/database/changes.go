package database

import (
	"context"
	"sync"
)

// changes tells whoever waits that something was written.
type changes struct {
	mu   sync.Mutex
	next chan struct{}
}

func (c *changes) tell() {
	c.mu.Lock()
	defer c.mu.Unlock()
	close(c.next)
	c.next = make(chan struct{})
}

// Changed gives a channel that is closed at the next write by this process.
func (db *DB) Changed() <-chan struct{} {
	db.changes.mu.Lock()
	defer db.changes.mu.Unlock()
	return db.changes.next
}

// Stands reads where the studio stands, which writes of other processes move on too.
func (db *DB) Stands(ctx context.Context) (Standing, error) {
	return Stands(db.gorm.WithContext(ctx))
}
