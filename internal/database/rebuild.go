package database

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	drivermysql "github.com/go-sql-driver/mysql"
	"github.com/pressly/goose/v3"
	"gorm.io/gorm"
)

// Rebuilt is a database that is being made from a backup, beside the one it may take the place of.
type Rebuilt struct {
	dsn, name string
	pool      *sql.DB
	// alone holds the lock by which no other server makes one of this name meanwhile.
	alone  *sql.DB
	goose  *goose.Provider
	tables map[string]ArchivedTable
}

// ErrLaterVersion refuses a backup of a schema that this program does not know yet.
var ErrLaterVersion = errors.New("it was made by a later version of this program")

// Rebuild makes an empty database named after the one that dsn names, with a schema as old
// as a backup's. One that was left there by an earlier try goes.
func Rebuild(ctx context.Context, dsn, suffix string, version int64) (_ *Rebuilt, err error) {
	config, err := drivermysql.ParseDSN(dsn)
	if err != nil {
		return nil, fmt.Errorf("reading the database's address: %w", err)
	}
	config.DBName += suffix
	r := &Rebuilt{dsn: config.FormatDSN(), name: config.DBName}
	if r.alone, err = lock(ctx, *config); err != nil {
		return nil, err
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, r.alone.Close())
		}
	}()
	if err := Drop(ctx, r.dsn); err != nil {
		return nil, err
	}
	if err := createDatabase(ctx, *config); err != nil {
		return nil, err
	}
	if r.pool, err = openPool(*config); err != nil {
		return nil, err
	}
	r.pool.SetMaxOpenConns(1) // settings are the connection's
	if err := r.upTo(ctx, version); err != nil {
		return nil, errors.Join(err, r.pool.Close(), Drop(context.WithoutCancel(ctx), r.dsn))
	}
	return r, nil
}

// lock waits until no other server makes a database of this name; to close it unlocks.
func lock(ctx context.Context, config drivermysql.Config) (alone *sql.DB, err error) {
	name := config.DBName
	config.DBName = ""
	if alone, err = openPool(config); err != nil {
		return nil, err
	}
	alone.SetMaxOpenConns(1) // the lock is the connection's
	alone.SetConnMaxIdleTime(0)
	var got bool
	if err := alone.QueryRowContext(ctx, "SELECT GET_LOCK(?, 600)", name).Scan(&got); err != nil {
		return nil, errors.Join(fmt.Errorf("waiting for %s: %w", name, err), alone.Close())
	}
	if !got {
		return nil, errors.Join(fmt.Errorf("another server has been making %s for ten minutes", name), alone.Close())
	}
	return alone, nil
}

func (r *Rebuilt) upTo(ctx context.Context, version int64) (err error) {
	if r.goose, err = newProvider(r.pool); err != nil {
		return err
	}
	sources := r.goose.ListSources()
	if version > sources[len(sources)-1].Version {
		return ErrLaterVersion
	}
	if _, err := r.goose.UpTo(ctx, version); err != nil {
		return fmt.Errorf("making the tables: %w", err)
	}
	tables, err := archivedTables(ctx, r.pool)
	if err != nil {
		return err
	}
	r.tables = map[string]ArchivedTable{}
	for _, t := range tables {
		r.tables[t.Name] = t
	}
	if err := r.exec(ctx, "SET foreign_key_checks = 0"); err != nil {
		return err
	}
	for _, t := range tables { // what migrations put in
		if err := r.exec(ctx, "DELETE FROM `"+t.Name+"`"); err != nil {
			return err
		}
	}
	return nil
}

func (r *Rebuilt) exec(ctx context.Context, statement string, args ...any) error {
	if _, err := r.pool.ExecContext(ctx, statement, args...); err != nil {
		return fmt.Errorf("making a database from a backup: %w", err)
	}
	return nil
}

// A statement brings so many rows, and about so many bytes.
const (
	rowsAtOnce  = 500
	bytesAtOnce = 1 << 20
)

// Fill puts the rows of a table in; next gives a line of JSON, or nil at their end.
func (r *Rebuilt) Fill(ctx context.Context, t ArchivedTable, next func() ([]byte, error)) error {
	here, known := r.tables[t.Name]
	if !known || !slices.Equal(here.Columns, t.Columns) {
		return fmt.Errorf("the backup's table %s is not the one of its schema", t.Name)
	}
	var columns []string
	for _, c := range t.Columns {
		columns = append(columns, "`"+c.Name+"`")
	}
	insert := "INSERT INTO `" + t.Name + "` (" + strings.Join(columns, ", ") + ") VALUES "
	marks := "(" + strings.TrimSuffix(strings.Repeat("?,", len(columns)), ",") + ")"
	var args []any
	rows, size := 0, 0
	put := func() error {
		if rows == 0 {
			return nil
		}
		err := r.exec(ctx, insert+strings.TrimSuffix(strings.Repeat(marks+",", rows), ","), args...)
		args, rows, size = args[:0], 0, 0
		return err
	}
	for {
		line, err := next()
		if err != nil {
			return err
		}
		if line == nil {
			break
		}
		values, err := t.values(line)
		if err != nil {
			return err
		}
		args, rows, size = append(args, values...), rows+1, size+len(line)
		if rows == rowsAtOnce || size > bytesAtOnce {
			if err := put(); err != nil {
				return err
			}
		}
	}
	if err := put(); err != nil {
		return err
	}
	if t.Next > 0 {
		return r.exec(ctx, fmt.Sprintf("ALTER TABLE `%s` AUTO_INCREMENT = %d", t.Name, t.Next))
	}
	return nil
}

// Check counts the rows of each table, and looks for what names something that is not there.
func (r *Rebuilt) Check(ctx context.Context, tables []ArchivedTable) error {
	for _, t := range tables {
		var n int64
		if err := r.pool.QueryRowContext(ctx, "SELECT COUNT(*) FROM `"+t.Name+"`").Scan(&n); err != nil {
			return fmt.Errorf("counting %s: %w", t.Name, err)
		}
		if n != t.Rows {
			return fmt.Errorf("%s has %d rows, and had %d", t.Name, n, t.Rows)
		}
	}
	if len(tables) != len(r.tables) {
		return fmt.Errorf("the backup has %d tables, and its schema %d", len(tables), len(r.tables))
	}
	return r.orphans(ctx)
}

// orphans finds rows whose foreign keys lead nowhere: they were put in unchecked.
func (r *Rebuilt) orphans(ctx context.Context) error {
	rows, err := r.pool.QueryContext(ctx, "SELECT table_name, column_name, referenced_table_name, referenced_column_name FROM information_schema.key_column_usage WHERE table_schema = DATABASE() AND referenced_table_name IS NOT NULL")
	if err != nil {
		return fmt.Errorf("reading the foreign keys: %w", err)
	}
	var keys [][4]string
	for rows.Next() {
		var k [4]string
		if err := rows.Scan(&k[0], &k[1], &k[2], &k[3]); err != nil {
			return errors.Join(err, rows.Close())
		}
		keys = append(keys, k)
	}
	if err := errors.Join(rows.Err(), rows.Close()); err != nil {
		return err
	}
	for _, k := range keys {
		var n int64
		query := fmt.Sprintf("SELECT COUNT(*) FROM `%s` a LEFT JOIN `%s` b ON b.`%s` = a.`%s` WHERE a.`%s` IS NOT NULL AND b.`%s` IS NULL", k[0], k[2], k[3], k[1], k[1], k[3])
		if err := r.pool.QueryRowContext(ctx, query).Scan(&n); err != nil {
			return fmt.Errorf("looking at %s of %s: %w", k[1], k[0], err)
		}
		if n > 0 {
			return fmt.Errorf("%d rows of %s name %s that are not there", n, k[0], k[2])
		}
	}
	return nil
}

// BringUp brings the schema up to that of this program.
func (r *Rebuilt) BringUp(ctx context.Context) error {
	if err := r.exec(ctx, "SET foreign_key_checks = 1"); err != nil {
		return err
	}
	if _, err := r.goose.Up(ctx); err != nil {
		return fmt.Errorf("bringing the backup's tables up to date: %w", err)
	}
	return nil
}

// Change changes rows of the database that was made, in one transaction that the trail
// does not note.
func (r *Rebuilt) Change(ctx context.Context, fn func(tx *gorm.DB) error) error {
	over, err := gormOn(r.pool)
	if err != nil {
		return err
	}
	return over.WithContext(ctx).Transaction(fn)
}

// Become takes the place of the database that dsn names, which must be empty, in one step.
func (r *Rebuilt) Become(ctx context.Context, dsn string) error {
	config, err := drivermysql.ParseDSN(dsn)
	if err != nil {
		return fmt.Errorf("reading the database's address: %w", err)
	}
	rows, err := r.pool.QueryContext(ctx, "SHOW TABLES")
	if err != nil {
		return fmt.Errorf("reading the tables: %w", err)
	}
	var moves []string
	for rows.Next() {
		var table string
		if err := rows.Scan(&table); err != nil {
			return errors.Join(err, rows.Close())
		}
		moves = append(moves, fmt.Sprintf("`%s`.`%s` TO `%s`.`%s`", r.name, table, config.DBName, table))
	}
	if err := errors.Join(rows.Err(), rows.Close()); err != nil {
		return err
	}
	if err := Drop(ctx, dsn); err != nil {
		return err
	}
	if err := createDatabase(ctx, *config); err != nil {
		return err
	}
	if err := r.exec(ctx, "RENAME TABLE "+strings.Join(moves, ", ")); err != nil {
		return err
	}
	return r.Drop(ctx)
}

// Drop removes the database again.
func (r *Rebuilt) Drop(ctx context.Context) error {
	return errors.Join(r.pool.Close(), Drop(context.WithoutCancel(ctx), r.dsn), r.alone.Close())
}

// seeded are tables that have rows in an empty studio too.
var seeded = []string{"workshop", "materials", "outlets", "room", "trade_terms", "letterhead", "label_sheets"}

// Empty tells whether nothing was ever done in the studio of a database: nobody works
// there, nothing is made and nobody may come in.
func (db *DB) Empty(ctx context.Context) (bool, error) {
	for _, k := range Trail {
		var n int
		if slices.Contains(seeded, k.Table) {
			continue
		}
		if err := db.sql.QueryRowContext(ctx, "SELECT EXISTS (SELECT 1 FROM `"+k.Table+"`)").Scan(&n); err != nil {
			return false, fmt.Errorf("looking whether %s is empty: %w", k.Table, err)
		}
		if n > 0 {
			return false, nil
		}
	}
	return true, nil
}

// lettingGo is how long the server may take to see that a connection is closed.
const lettingGo = 2 * time.Second

// InUse tells whether another program has the database open.
func (db *DB) InUse(ctx context.Context) (bool, error) {
	db.sql.SetMaxIdleConns(1) // the others that are seen are not ours then
	for until := time.Now().Add(lettingGo); ; {
		var others int
		err := db.sql.QueryRowContext(ctx, "SELECT COUNT(*) FROM information_schema.processlist WHERE db = DATABASE() AND id <> CONNECTION_ID()").Scan(&others)
		if err != nil {
			return false, fmt.Errorf("looking who has the database open: %w", err)
		}
		if others == 0 || time.Now().After(until) {
			return others > 0, nil
		}
	}
}
