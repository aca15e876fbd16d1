package mariadb_test

import (
	"context"
	"database/sql"
	"os"
	"path/filepath"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/database/mariadb"
)

func ask(t *testing.T, s *mariadb.Server, statement string) error {
	t.Helper()
	pool, err := sql.Open("mysql", s.DSN(""))
	require.NoError(t, err)
	defer pool.Close()
	_, err = pool.Exec(statement)
	return err
}

func TestAServerOutlivesItsStarterAndAKill(t *testing.T) {
	dir := t.TempDir()
	first, err := mariadb.Start(context.Background(), dir)
	require.NoError(t, err)
	require.NoError(t, ask(t, first, "CREATE DATABASE kept"))

	found, err := mariadb.Start(context.Background(), dir)
	require.NoError(t, err)
	assert.Equal(t, first.PID(), found.PID(), "a running server is used again")

	for _, left := range []string{"", `{"pid":1,"po`} {
		require.NoError(t, os.WriteFile(filepath.Join(dir, "server.json"), []byte(left), 0o600))
		found, err = mariadb.Start(context.Background(), dir)
		require.NoError(t, err)
		assert.Equal(t, first.PID(), found.PID(), "also where its starter was killed before it was noted")
	}

	require.NoError(t, syscall.Kill(first.PID(), syscall.SIGSTOP))
	replaced, err := mariadb.Start(context.Background(), dir)
	require.NoError(t, err)
	assert.NotEqual(t, first.PID(), replaced.PID(), "a server that no longer answers is replaced")
	assert.NoError(t, ask(t, replaced, "CREATE TABLE kept.yes (id INT)"), "what was acknowledged is there")

	require.NoError(t, syscall.Kill(replaced.PID(), syscall.SIGKILL))
	again, err := mariadb.Start(context.Background(), dir)
	require.NoError(t, err)
	assert.NoError(t, ask(t, again, "DROP TABLE kept.yes"))
	require.NoError(t, again.Stop())
	assert.Error(t, ask(t, again, "SELECT 1"))
}

func TestServersSideBySideKeepTheirTemporaryTablesApart(t *testing.T) {
	for i := range 2 {
		dir := t.TempDir()
		s, err := mariadb.Start(context.Background(), dir)
		require.NoError(t, err, i)
		var folder string
		pool, err := sql.Open("mysql", s.DSN(""))
		require.NoError(t, err)
		require.NoError(t, pool.QueryRow("SELECT @@tmpdir").Scan(&folder))
		assert.Equal(t, filepath.Join(dir, "tmp"), filepath.Clean(folder))
		require.NoError(t, pool.Close())
		require.NoError(t, s.Stop())
	}
}

func TestAnInterruptedInstallationIsDoneAgain(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "data", "half"), 0o700))
	s, err := mariadb.Start(context.Background(), dir)
	require.NoError(t, err)
	assert.NoError(t, ask(t, s, "SELECT 1"))
	require.NoError(t, s.Stop())
}

func TestAServerThatEndsIsStartedAgainOnItsPort(t *testing.T) {
	for _, starts := range []int{1, 2} { // the second start finds the server running
		dir := t.TempDir()
		var s *mariadb.Server
		for range starts {
			var err error
			s, err = mariadb.Start(context.Background(), dir)
			require.NoError(t, err)
		}
		require.NoError(t, ask(t, s, "CREATE DATABASE kept"))
		stop := s.Keep(func(_ string, err error) { assert.NoError(t, err) })
		before, address := s.PID(), s.DSN("kept")
		require.NoError(t, syscall.Kill(before, syscall.SIGKILL))
		assert.Eventually(t, func() bool { return s.PID() != before && ask(t, s, "USE kept") == nil }, time.Minute, 20*time.Millisecond)
		assert.Equal(t, address, s.DSN("kept"))
		require.NoError(t, stop())
		assert.Error(t, ask(t, s, "SELECT 1"), "what is stopped stays stopped")
	}
}
