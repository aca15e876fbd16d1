package database_test

import (
	"bytes"
	"context"
	"log/slog"
	"testing"

	"github.com/stretchr/testify/assert"
	"gorm.io/gorm"

	"tidykiln/internal/database/dbtest"
)

func TestAFailedStatementIsLoggedWithoutWhatItWasAboutAndNotWhenItsAskerHasGone(t *testing.T) {
	db := dbtest.New(t)
	var said bytes.Buffer
	before := slog.Default()
	t.Cleanup(func() { slog.SetDefault(before) })
	slog.SetDefault(slog.New(slog.NewTextHandler(&said, nil)))
	fail := func(ctx context.Context, before func()) {
		assert.Error(t, db.Read(ctx, func(tx *gorm.DB) error {
			before()
			return tx.Exec("SELECT * FROM nowhere WHERE name = ?", "Withy").Error
		}))
	}
	fail(t.Context(), func() {})
	assert.Contains(t, said.String(), "nowhere")
	assert.NotContains(t, said.String(), "Withy")
	said.Reset()
	gone, leave := context.WithCancel(t.Context())
	fail(gone, leave)
	assert.Empty(t, said.String())
}
