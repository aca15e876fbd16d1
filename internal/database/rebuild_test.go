package database_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/database"
	"tidykiln/internal/database/dbtest"
)

// Two servers on one database prove their backups in a database of the same name.
func TestADatabaseIsMadeFromABackupByOneAtATime(t *testing.T) {
	dsn := dbtest.DSN(t)
	first, err := database.Rebuild(t.Context(), dsn, "_proof", 1)
	require.NoError(t, err)
	short, cancel := context.WithTimeout(t.Context(), 300*time.Millisecond)
	defer cancel()
	_, err = database.Rebuild(short, dsn, "_proof", 1)
	assert.ErrorIs(t, err, context.DeadlineExceeded)
	require.NoError(t, first.BringUp(t.Context()), "nobody has taken it away")
	require.NoError(t, first.Drop(t.Context()))
	second, err := database.Rebuild(t.Context(), dsn, "_proof", 1)
	require.NoError(t, err)
	require.NoError(t, second.Drop(t.Context()))
}
