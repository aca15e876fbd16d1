package database

import (
	"context"
	"database/sql"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"strings"
)

// ArchivedTable is a table as a backup has it.
type ArchivedTable struct {
	Name    string           `json:"name"`
	Columns []ArchivedColumn `json:"columns"`
	// Rows is how many there are, Next the number that the next row gets by itself; 0 for none.
	Rows int64 `json:"rows"`
	Next int64 `json:"next,omitempty"`
	// key is by what rows are put in order.
	key []string
}

// ArchivedColumn is a column as a backup has it.
type ArchivedColumn struct {
	Name string     `json:"name"`
	Kind ColumnKind `json:"kind"`
}

// ColumnKind says how a value is written in JSON.
type ColumnKind string

const (
	// TextColumn is a string, moments in UTC and documents among them.
	TextColumn ColumnKind = "text"
	// NumberColumn is a number with all its digits.
	NumberColumn ColumnKind = "number"
	// BytesColumn is a string in base64.
	BytesColumn ColumnKind = "bytes"
)

// unarchived are tables that a backup leaves out: they say how the schema stands.
var unarchived = map[string]bool{"goose_db_version": true, "trail_setup": true}

// Snapshot is everything as it stood at one moment.
type Snapshot struct {
	tx      *sql.Tx
	Version int64
	Studio  string
	Tables  []ArchivedTable
}

// Snapshot reads everything as it stands at one moment, while others go on writing.
func (db *DB) Snapshot(ctx context.Context, fn func(*Snapshot) error) error {
	tx, err := db.sql.BeginTx(ctx, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
	if err != nil {
		return fmt.Errorf("beginning to read everything: %w", err)
	}
	defer func() { _ = tx.Rollback() }() // nothing was written
	s := &Snapshot{tx: tx}
	// The first read is the moment.
	if err := tx.QueryRowContext(ctx, "SELECT studio, (SELECT MAX(version_id) FROM goose_db_version WHERE is_applied) FROM revision").Scan(&s.Studio, &s.Version); err != nil {
		return fmt.Errorf("reading which studio this is: %w", err)
	}
	if s.Tables, err = archivedTables(ctx, tx); err != nil {
		return err
	}
	return fn(s)
}

// reads is whoever reads: a transaction or the connections.
type reads interface {
	QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error)
}

// archivedTables are the tables with their columns, without how many rows there are.
func archivedTables(ctx context.Context, in reads) (tables []ArchivedTable, err error) {
	rows, err := in.QueryContext(ctx, `SELECT c.table_name, c.column_name, c.data_type, COALESCE(t.auto_increment, 0), c.column_key = 'PRI'
		FROM information_schema.columns c JOIN information_schema.tables t ON t.table_schema = c.table_schema AND t.table_name = c.table_name
		WHERE c.table_schema = DATABASE() AND c.is_generated = 'NEVER' ORDER BY c.table_name, c.ordinal_position`)
	if err != nil {
		return nil, fmt.Errorf("reading the tables: %w", err)
	}
	defer rows.Close()
	for rows.Next() {
		var table, column, is string
		var next int64
		var primary bool
		if err := rows.Scan(&table, &column, &is, &next, &primary); err != nil {
			return nil, err
		}
		if unarchived[table] {
			continue
		}
		if len(tables) == 0 || tables[len(tables)-1].Name != table {
			tables = append(tables, ArchivedTable{Name: table, Next: next})
		}
		last := &tables[len(tables)-1]
		last.Columns = append(last.Columns, ArchivedColumn{column, columnKind(is)})
		if primary {
			last.key = append(last.key, "`"+column+"`")
		}
	}
	return tables, rows.Err()
}

func columnKind(is string) ColumnKind {
	switch is {
	case "tinyint", "smallint", "mediumint", "int", "bigint", "decimal", "double":
		return NumberColumn
	case "binary", "varbinary", "blob", "longblob":
		return BytesColumn
	}
	return TextColumn
}

// selected is the column in a statement that reads it as text.
func (c ArchivedColumn) selected() string {
	if c.Kind == TextColumn {
		return "CAST(`" + c.Name + "` AS CHAR)"
	}
	return "`" + c.Name + "`"
}

// Rows gives each row of a table as a line of JSON, in the order of its keys.
func (s *Snapshot) Rows(ctx context.Context, t ArchivedTable, each func(line []byte) error) error {
	var columns []string
	for _, c := range t.Columns {
		columns = append(columns, c.selected())
	}
	rows, err := s.tx.QueryContext(ctx, "SELECT "+strings.Join(columns, ", ")+" FROM `"+t.Name+"` ORDER BY "+strings.Join(t.key, ", "))
	if err != nil {
		return fmt.Errorf("reading %s: %w", t.Name, err)
	}
	defer rows.Close()
	values := make([]sql.RawBytes, len(t.Columns))
	into := make([]any, len(values))
	for i := range values {
		into[i] = &values[i]
	}
	for rows.Next() {
		if err := rows.Scan(into...); err != nil {
			return fmt.Errorf("reading %s: %w", t.Name, err)
		}
		if err := each(t.line(values)); err != nil {
			return err
		}
	}
	return rows.Err()
}

// line writes a row as an object.
func (t ArchivedTable) line(values []sql.RawBytes) []byte {
	var b strings.Builder
	for i, c := range t.Columns {
		b.WriteString(map[bool]string{true: "{", false: ","}[i == 0] + JSON(c.Name) + ":")
		switch v := values[i]; {
		case v == nil:
			b.WriteString("null")
		case c.Kind == NumberColumn:
			b.Write(v)
		case c.Kind == BytesColumn:
			b.WriteString(JSON(base64.StdEncoding.EncodeToString(v)))
		default:
			b.WriteString(JSON(string(v)))
		}
	}
	return []byte(b.String() + "}\n")
}

// values reads a line back, in the order of the columns.
func (t ArchivedTable) values(line []byte) ([]any, error) {
	var object map[string]json.RawMessage
	if err := json.Unmarshal(line, &object); err != nil {
		return nil, fmt.Errorf("a row of %s is no JSON: %w", t.Name, err)
	}
	if len(object) != len(t.Columns) {
		return nil, fmt.Errorf("a row of %s has %d columns, and not %d", t.Name, len(object), len(t.Columns))
	}
	values := make([]any, len(t.Columns))
	for i, c := range t.Columns {
		raw, has := object[c.Name]
		if !has {
			return nil, fmt.Errorf("a row of %s has no %s", t.Name, c.Name)
		}
		v, err := c.value(raw)
		if err != nil {
			return nil, fmt.Errorf("%s of a row of %s: %w", c.Name, t.Name, err)
		}
		values[i] = v
	}
	return values, nil
}

func (c ArchivedColumn) value(raw json.RawMessage) (any, error) {
	if string(raw) == "null" {
		return nil, nil
	}
	if c.Kind == NumberColumn {
		var n json.Number
		err := json.Unmarshal(raw, &n)
		return string(n), err
	}
	var text string
	if err := json.Unmarshal(raw, &text); err != nil || c.Kind == TextColumn {
		return text, err
	}
	return base64.StdEncoding.DecodeString(text)
}
