package mariadb_test

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"net"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/database/mariadb"
)

func TestNoAccountIsWithoutAPasswordAndTheSocketIsNobodyElses(t *testing.T) {
	dir := filepath.Join(t.TempDir(), strings.Repeat("deep-", 16), "studio")
	server, err := mariadb.Start(context.Background(), dir)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, server.Stop()) })
	pool, err := sql.Open("mysql", server.DSN(""))
	require.NoError(t, err)
	defer pool.Close()
	rows, err := pool.Query("SELECT CONCAT(User, '@', Host), Priv FROM mysql.global_priv")
	require.NoError(t, err)
	defer rows.Close()
	accounts := 0
	for rows.Next() {
		var name, text string
		require.NoError(t, rows.Scan(&name, &text))
		var private struct {
			Auth   string `json:"authentication_string"`
			Locked bool   `json:"account_locked"`
		}
		require.NoError(t, json.Unmarshal([]byte(text), &private))
		assert.True(t, private.Locked || private.Auth != "" && private.Auth != "invalid", "%s has no password", name)
		accounts++
	}
	require.NoError(t, rows.Err())
	assert.GreaterOrEqual(t, accounts, 2)
	var socket string
	require.NoError(t, pool.QueryRow("SELECT @@socket").Scan(&socket))
	info, err := os.Stat(filepath.Dir(socket))
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o700), info.Mode().Perm(), "%s can be entered by others", socket)
}

func TestAStartAfterACrashTakesAnotherPortWhenTheOldOneIsTaken(t *testing.T) {
	dir := t.TempDir()
	taken, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer taken.Close()
	require.NoError(t, os.WriteFile(filepath.Join(dir, "server.json"), fmt.Appendf(nil, `{"pid":1,"port":%d}`, taken.Addr().(*net.TCPAddr).Port), 0o600))
	server, err := mariadb.Start(context.Background(), dir)
	require.NoError(t, err)
	defer func() { assert.NoError(t, server.Stop()) }()
	assert.NotContains(t, server.DSN(""), fmt.Sprintf(":%d)", taken.Addr().(*net.TCPAddr).Port))
}
