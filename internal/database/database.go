// Package database opens MariaDB, brings its schema up to date and runs the
// transactions of the areas above it.
package database

import (
	"context"
	"database/sql"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"strings"
	"time"

	drivermysql "github.com/go-sql-driver/mysql"
	"github.com/pressly/goose/v3"
	"gorm.io/driver/mysql"
	"gorm.io/gorm"
)

//go:embed migrations/*.sql
var migrations embed.FS

// DB is an open database whose schema is known.
type DB struct {
	gorm    *gorm.DB
	sql     *sql.DB
	goose   *goose.Provider
	now     func() time.Time
	changes changes
}

// Open connects to the MariaDB named by dsn (go-sql-driver's form), creates
// the database in it when it is missing, and migrates it.
func Open(ctx context.Context, dsn string) (*DB, error) {
	config, err := drivermysql.ParseDSN(dsn)
	if err != nil {
		return nil, fmt.Errorf("reading TIDYKILN_DSN: %w", err)
	}
	if config.DBName == "" {
		return nil, errors.New("reading TIDYKILN_DSN: it must name a database, as in user:password@tcp(127.0.0.1:3306)/tidykiln")
	}
	pool, err := openPool(*config)
	if err != nil {
		return nil, err
	}
	if err := pool.PingContext(ctx); missing(err) {
		err = createDatabase(ctx, *config)
		if err != nil {
			return nil, errors.Join(err, pool.Close())
		}
	} else if err != nil {
		return nil, errors.Join(fmt.Errorf("connecting to the database: %w", err), pool.Close())
	}
	db, err := migrate(ctx, pool)
	if err != nil {
		return nil, errors.Join(err, pool.Close())
	}
	return db, nil
}

// missing tells that the server is there and the database is not.
func missing(err error) bool { return code(err, unknownDatabase) }

func openPool(config drivermysql.Config) (*sql.DB, error) {
	config.ParseTime = true
	config.Loc = time.UTC
	config.ClientFoundRows = true
	config.InterpolateParams = true
	config.Collation = "utf8mb4_uca1400_ai_ci"
	config.Params = map[string]string{"time_zone": "'+00:00'", "sql_mode": "'STRICT_ALL_TABLES,NO_ENGINE_SUBSTITUTION'"}
	connector, err := drivermysql.NewConnector(&config)
	if err != nil {
		return nil, fmt.Errorf("opening the database: %w", err)
	}
	pool := sql.OpenDB(connector)
	pool.SetMaxOpenConns(16)
	pool.SetMaxIdleConns(8)
	pool.SetConnMaxIdleTime(5 * time.Minute)
	return pool, nil
}

func createDatabase(ctx context.Context, config drivermysql.Config) error {
	name := config.DBName
	config.DBName = ""
	pool, err := openPool(config)
	if err != nil {
		return err
	}
	defer pool.Close()
	quoted := "`" + name + "`"
	if _, err := pool.ExecContext(ctx, "CREATE DATABASE IF NOT EXISTS "+quoted+" CHARACTER SET utf8mb4 COLLATE utf8mb4_uca1400_ai_ci"); err != nil {
		return fmt.Errorf("creating the database %s: %w", name, err)
	}
	return nil
}

// Drop removes the database named by dsn with everything in it.
func Drop(ctx context.Context, dsn string) error {
	config, err := drivermysql.ParseDSN(dsn)
	if err != nil {
		return fmt.Errorf("reading the database's address: %w", err)
	}
	name := config.DBName
	config.DBName = ""
	pool, err := openPool(*config)
	if err != nil {
		return err
	}
	defer pool.Close()
	if _, err := pool.ExecContext(ctx, "DROP DATABASE IF EXISTS `"+name+"`"); err != nil {
		return fmt.Errorf("dropping the database %s: %w", name, err)
	}
	return nil
}

func migrate(ctx context.Context, pool *sql.DB) (*DB, error) {
	provider, err := newProvider(pool)
	if err != nil {
		return nil, err
	}
	if err := bringUp(ctx, pool, provider); err != nil {
		return nil, err
	}
	g, err := gormOn(pool)
	if err != nil {
		return nil, err
	}
	return &DB{gorm: g, sql: pool, goose: provider, now: time.Now, changes: changes{next: make(chan struct{})}}, nil
}

func gormOn(pool *sql.DB) (*gorm.DB, error) {
	g, err := gorm.Open(mysql.New(mysql.Config{Conn: pool}), &gorm.Config{
		SkipDefaultTransaction: true,
		TranslateError:         true,
		Logger:                 newLog(),
		NowFunc:                func() time.Time { return time.Now().UTC() },
	})
	if err != nil {
		return nil, fmt.Errorf("opening the database: %w", err)
	}
	return g, nil
}

func newProvider(pool *sql.DB) (*goose.Provider, error) {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	provider, err := goose.NewProvider(goose.DialectMySQL, pool, files)
	if err != nil {
		return nil, fmt.Errorf("reading the migrations: %w", err)
	}
	return provider, nil
}

// bringUp brings the schema up to date, and with it the triggers of the audit trail,
// which know its columns and have nothing to note of migrations.
func bringUp(ctx context.Context, pool *sql.DB, provider *goose.Provider) error {
	pending, err := provider.HasPending(ctx)
	if err == nil && pending {
		err = dropTriggers(ctx, pool)
	}
	if err == nil && pending {
		_, err = provider.Up(ctx)
	}
	if err != nil {
		return fmt.Errorf("migrating the database: %w", err)
	}
	sources := provider.ListSources()
	return setTriggers(ctx, pool, sources[len(sources)-1].Version)
}

// Now is the time by the clock that says when something was written.
func (db *DB) Now() time.Time { return db.now() }

// Size is how much room the data takes up, in bytes.
func (db *DB) Size(ctx context.Context) (size uint64, err error) {
	const sum = "SELECT COALESCE(SUM(data_length + index_length), 0) FROM information_schema.tables WHERE table_schema = DATABASE()"
	if err := db.sql.QueryRowContext(ctx, sum).Scan(&size); err != nil {
		return 0, fmt.Errorf("reading the size of the database: %w", err)
	}
	return size, nil
}

// GoBy sets the clock that says when something was written.
func (db *DB) GoBy(now func() time.Time) { db.now = now }

// Pool is the connections, for whoever counts them.
func (db *DB) Pool() *sql.DB { return db.sql }

// Close gives the connections back.
func (db *DB) Close() error { return db.sql.Close() }

// Ready reports why the database cannot serve: not reached, or not migrated.
func (db *DB) Ready(ctx context.Context) error {
	if err := db.sql.PingContext(ctx); err != nil {
		return fmt.Errorf("the database is not reached: %w", err)
	}
	pending, err := db.goose.HasPending(ctx)
	if err != nil {
		return fmt.Errorf("the migrations cannot be read: %w", err)
	}
	if pending {
		return errors.New("migrations are pending")
	}
	return nil
}

// Read runs fn on one consistent snapshot.
func (db *DB) Read(ctx context.Context, fn func(tx *gorm.DB) error) error {
	return db.gorm.WithContext(ctx).Transaction(fn, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
}

// mostTries bounds how often a use case is run again after a deadlock.
const mostTries = 4

// Write runs a use case in one transaction and moves the revision of what it
// touches on. The revision row is taken first, so that use cases run one after
// the other and what they check stays true until they commit; a workshop of a
// few people writes a few times a minute.
//
// A request under Once that was carried out before is not carried out again.
func (db *DB) Write(ctx context.Context, touches Topics, fn func(tx *gorm.DB) error) error {
	return db.write(ctx, touches, func(tx *gorm.DB) error { return once(ctx, tx, nil, fn) })
}

// Peek is for a single statement that needs no snapshot.
func (db *DB) Peek(ctx context.Context) *gorm.DB { return db.gorm.WithContext(ctx) }

// Note runs a small write that no page shows and no use case depends on: the
// revision stays where it is.
func (db *DB) Note(ctx context.Context, fn func(tx *gorm.DB) error) error {
	return db.gorm.WithContext(ctx).Transaction(fn)
}

// Answer is Write for a use case with an answer: a request sent again gets the
// answer of the first time, by way of JSON.
func Answer[T any](ctx context.Context, db *DB, touches Topics, fn func(tx *gorm.DB) (T, error)) (answer T, err error) {
	err = db.write(ctx, touches, func(tx *gorm.DB) error {
		return once(ctx, tx, &answer, func(tx *gorm.DB) (err error) {
			answer, err = fn(tx)
			return err
		})
	})
	return answer, err
}

// Look is Read for a query with an answer.
func Look[T any](ctx context.Context, db *DB, fn func(tx *gorm.DB) (T, error)) (answer T, err error) {
	err = db.Read(ctx, func(tx *gorm.DB) error {
		answer, err = fn(tx)
		return err
	})
	return answer, err
}

// JSON is a value for a JSON column. What this program holds can always be written.
func JSON(v any) string {
	text, err := json.Marshal(v)
	if err != nil {
		panic(err)
	}
	return string(text)
}

// Containing is the pattern of what contains a text.
func Containing(text string) string {
	return "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(strings.TrimSpace(text)) + "%"
}

// Same tells whether two columns that may be null hold the same.
func Same[T comparable](a, b *T) bool { return a == b || a != nil && b != nil && *a == *b }

// IDs are the numbers of rows, for a condition that something is among them. An
// empty list matches nothing.
func IDs[T any](rows []T, id func(T) uint64) []uint64 {
	ids := make([]uint64, len(rows))
	for i, r := range rows {
		ids[i] = id(r)
	}
	return ids
}

func (db *DB) write(ctx context.Context, touches Topics, fn func(tx *gorm.DB) error) error {
	var err error
	for range mostTries {
		err = db.gorm.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
			if err := tx.Exec(touches.moveOn()).Error; err != nil {
				return fmt.Errorf("moving the revision on: %w", err)
			}
			if err := fn(tx); err != nil {
				return err
			}
			return db.enter(ctx, tx)
		})
		if err == nil {
			committed(ctx)
			db.changes.tell()
		}
		if !code(err, deadlock, lockWaitTimeout) {
			return err
		}
	}
	return err
}

// Studio is the name by which this database keeps its files apart from another's.
func (db *DB) Studio(ctx context.Context) (name string, err error) {
	if err := db.gorm.WithContext(ctx).Raw("SELECT studio FROM revision").Scan(&name).Error; err != nil {
		return "", fmt.Errorf("reading the studio's name: %w", err)
	}
	return name, nil
}

// PlanRevision is a number that moves on with every write that can change a plan.
func PlanRevision(tx *gorm.DB) (uint64, error) {
	var number uint64
	err := tx.Raw("SELECT plan FROM revision").Scan(&number).Error
	return number, err
}

// PlanRevisionNow is PlanRevision by itself.
func (db *DB) PlanRevisionNow(ctx context.Context) (uint64, error) {
	return PlanRevision(db.gorm.WithContext(ctx))
}
