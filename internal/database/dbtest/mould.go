package dbtest

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"testing"

	"github.com/go-sql-driver/mysql"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/database"
)

// Cast names a database with the same in it as every other of this name in this run of
// tests, whichever process asks: fill is called for the first only, the others are copies
// of what it left, without the triggers of the audit trail. It is dropped when the test ends.
func Cast(t testing.TB, name string, fill func(*database.DB) error) (dsn string) {
	t.Helper()
	mould := pour(t, name, fill)
	dsn = DSN(t)
	t.Cleanup(func() { require.NoError(t, database.Drop(context.Background(), dsn)) })
	copyTables(t, mould, dsn)
	return dsn
}

// pour fills the mould of this name once.
func pour(t testing.TB, name string, fill func(*database.DB) error) (dsn string) {
	t.Helper()
	sum := sha256.Sum256([]byte(name))
	mould := "mould_" + hex.EncodeToString(sum[:8])
	server, err := mysql.ParseDSN(baseDSN(t))
	require.NoError(t, err)
	pool, err := sql.Open("mysql", server.FormatDSN())
	require.NoError(t, err)
	defer pool.Close()
	pool.SetMaxOpenConns(1) // the lock is the connection's
	var got bool
	require.NoError(t, pool.QueryRow("SELECT GET_LOCK(?, 900)", mould).Scan(&got))
	require.True(t, got, "another process has not filled %s", name)

	server.DBName = mould
	var poured int
	require.NoError(t, pool.QueryRow("SELECT COUNT(*) FROM information_schema.schemata WHERE schema_name = ?", mould+"_poured").Scan(&poured))
	if poured > 0 {
		return server.FormatDSN()
	}
	require.NoError(t, database.Drop(t.Context(), server.FormatDSN())) // one that was not filled to its end
	db, err := database.Open(t.Context(), server.FormatDSN())
	require.NoError(t, err)
	require.NoError(t, fill(db))
	require.NoError(t, db.Close())
	_, err = pool.Exec("CREATE DATABASE `" + mould + "_poured`")
	require.NoError(t, err)
	return server.FormatDSN()
}

// LeaveTrail lets the database that a copy is opened as make the triggers of the audit trail.
func LeaveTrail(t testing.TB, dsn string) {
	t.Helper()
	pool, err := sql.Open("mysql", dsn)
	require.NoError(t, err)
	defer pool.Close()
	_, err = pool.Exec("DELETE FROM trail_setup")
	require.NoError(t, err)
}

func copyTables(t testing.TB, fromDSN, intoDSN string) {
	t.Helper()
	from, err := mysql.ParseDSN(fromDSN)
	require.NoError(t, err)
	into, err := mysql.ParseDSN(intoDSN)
	require.NoError(t, err)
	pool, err := sql.Open("mysql", fromDSN)
	require.NoError(t, err)
	defer pool.Close()
	pool.SetMaxOpenConns(1) // the settings below are the connection's
	run := func(statement string) {
		_, err := pool.Exec(statement)
		require.NoError(t, err, statement)
	}
	all := tables(t, pool)
	run("CREATE DATABASE `" + into.DBName + "` CHARACTER SET utf8mb4 COLLATE utf8mb4_uca1400_ai_ci")
	run("USE `" + into.DBName + "`")
	run("SET foreign_key_checks = 0")
	run("SET unique_checks = 0")
	for _, table := range all {
		run(table.create)
		run("INSERT INTO `" + table.name + "` (" + table.columns + ") SELECT " + table.columns + " FROM `" + from.DBName + "`.`" + table.name + "`")
	}
}

// table is how a table is made, and those of its columns that are not worked out from others.
type table struct{ name, columns, create string }

func tables(t testing.TB, pool *sql.DB) (all []table) {
	t.Helper()
	rows, err := pool.Query("SELECT table_name, GROUP_CONCAT('`', column_name, '`') FROM information_schema.columns WHERE table_schema = DATABASE() AND is_generated = 'NEVER' GROUP BY table_name")
	require.NoError(t, err)
	defer rows.Close()
	for rows.Next() {
		var one table
		require.NoError(t, rows.Scan(&one.name, &one.columns))
		all = append(all, one)
	}
	require.NoError(t, rows.Err())
	for i := range all {
		require.NoError(t, pool.QueryRow("SHOW CREATE TABLE `"+all[i].name+"`").Scan(&all[i].name, &all[i].create))
	}
	return all
}
