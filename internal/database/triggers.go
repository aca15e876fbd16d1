package database

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"fmt"
	"slices"
	"strings"
)

// hidden stands in the trail for what is in a secret column.
const hidden = "kept secret"

// column is one that the trail keeps.
type column struct {
	name   string
	secret bool
}

func (c column) of(row string) string { return row + ".`" + c.name + "`" }

// shown is the column as the trail may show it.
func (c column) shown(row string) string {
	if c.secret {
		return "IF(" + c.of(row) + " IS NULL, NULL, '" + hidden + "')"
	}
	return c.of(row)
}

// same compares by bytes: a letter that only becomes a capital is another one.
func (c column) same() string { return "BINARY " + c.of("OLD") + " <=> BINARY " + c.of("NEW") }

// changed is an object with the column, or without where it is the same.
func (c column) changed(row string) string {
	return "IF(" + c.same() + ", '{}', JSON_OBJECT('" + c.name + "', " + c.shown(row) + "))"
}

// keptTable is a table of the trail with its columns.
type keptTable struct {
	Kept
	key     []string
	columns []column
}

// triggers are the statements that let the trail note every row of the table.
func (t keptTable) triggers() []string {
	var same, was, became []string
	for _, c := range t.columns {
		same = append(same, c.same())
		was, became = append(was, c.changed("OLD")), append(became, c.changed("NEW"))
	}
	merged := func(objects []string) string { return "JSON_MERGE_PRESERVE('{}', " + strings.Join(objects, ", ") + ")" }
	return []string{
		t.trigger("INSERT", t.note("NEW", "NULL", t.all("NEW"))),
		t.trigger("UPDATE", "IF NOT ("+strings.Join(same, " AND ")+") THEN "+t.note("NEW", merged(was), merged(became))+"; END IF"),
		t.trigger("DELETE", t.note("OLD", t.all("OLD"), "NULL")),
	}
}

func (t keptTable) trigger(event, body string) string {
	return fmt.Sprintf("CREATE OR REPLACE TRIGGER `trail_%s_%s` AFTER %s ON `%s` FOR EACH ROW %s", t.Table, strings.ToLower(event), event, t.Table, body)
}

// note inserts a change; the write that it belongs to has moved the revision on before.
func (t keptTable) note(row, was, became string) string {
	column := func(name string) string { return row + ".`" + name + "`" }
	var key []string
	for _, name := range t.key {
		key = append(key, column(name))
	}
	label, under, by := "''", "NULL", "NULL"
	if t.Label != "" {
		label = "LEFT(COALESCE(" + column(t.Label) + ", ''), 160)"
	}
	if t.Under != "" {
		under, by = "IF("+column(t.By)+" IS NULL, NULL, '"+t.Under+"')", column(t.By)
	}
	return fmt.Sprintf("INSERT INTO trail_changes (revision, about, row_key, label, under, under_key, was, became) VALUES ((SELECT number FROM revision), '%s', CONCAT_WS('.', %s), %s, %s, %s, %s, %s)",
		t.Table, strings.Join(key, ", "), label, under, by, was, became)
}

func (t keptTable) all(row string) string {
	var members []string
	for _, c := range t.columns {
		members = append(members, "'"+c.name+"', "+c.shown(row))
	}
	return "JSON_OBJECT(" + strings.Join(members, ", ") + ")"
}

// fingerprintOf is what the triggers follow from, in short: what is kept, and the schema.
func fingerprintOf(version int64) string {
	sum := sha256.Sum256(fmt.Appendf(nil, "%d %+v", version, Trail))
	return hex.EncodeToString(sum[:])
}

// setTriggers makes the triggers of the trail, unless those of this schema stand.
func setTriggers(ctx context.Context, pool *sql.DB, version int64) error {
	var stands string
	if err := pool.QueryRowContext(ctx, "SELECT COALESCE(MAX(fingerprint), '') FROM trail_setup").Scan(&stands); err != nil {
		return fmt.Errorf("reading which triggers stand: %w", err)
	}
	fingerprint := fingerprintOf(version)
	if stands == fingerprint {
		return nil
	}
	tables, err := keptTables(ctx, pool)
	if err != nil {
		return err
	}
	statements, err := cascades(ctx, pool)
	if err != nil {
		return err
	}
	for _, t := range tables {
		statements = append(statements, t.triggers()...)
	}
	for _, statement := range statements {
		if _, err := pool.ExecContext(ctx, statement); err != nil {
			return fmt.Errorf("making a trigger of the trail: %w", err)
		}
	}
	if _, err := pool.ExecContext(ctx, "REPLACE INTO trail_setup VALUES (1, ?)", fingerprint); err != nil {
		return fmt.Errorf("noting which triggers stand: %w", err)
	}
	return nil
}

// cascades are triggers that remove what a foreign key would remove with its row: the
// database's own removing passes the triggers by.
func cascades(ctx context.Context, pool *sql.DB) ([]string, error) {
	rows, err := pool.QueryContext(ctx, `SELECT k.table_name, k.column_name, k.referenced_table_name, k.referenced_column_name
		FROM information_schema.referential_constraints c JOIN information_schema.key_column_usage k
		ON k.constraint_schema = c.constraint_schema AND k.constraint_name = c.constraint_name AND k.table_name = c.table_name
		WHERE c.constraint_schema = DATABASE() AND c.delete_rule = 'CASCADE'`)
	if err != nil {
		return nil, fmt.Errorf("reading the foreign keys: %w", err)
	}
	defer rows.Close()
	var all []string
	for rows.Next() {
		var table, column, of, key string
		if err := rows.Scan(&table, &column, &of, &key); err != nil {
			return nil, err
		}
		all = append(all, fmt.Sprintf("CREATE OR REPLACE TRIGGER `trail_%s_with_%s` BEFORE DELETE ON `%s` FOR EACH ROW DELETE FROM `%s` WHERE `%s` = OLD.`%s`", table, of, of, table, column, key))
	}
	return all, rows.Err()
}

// dropTriggers lets migrations, and what is put back from a backup, go by without a trail.
func dropTriggers(ctx context.Context, pool *sql.DB) error {
	rows, err := pool.QueryContext(ctx, "SELECT trigger_name FROM information_schema.triggers WHERE trigger_schema = DATABASE() AND trigger_name LIKE 'trail\\_%'")
	if err != nil {
		return fmt.Errorf("reading the triggers: %w", err)
	}
	defer rows.Close()
	var names []string
	for rows.Next() {
		var name string
		if err := rows.Scan(&name); err != nil {
			return err
		}
		names = append(names, name)
	}
	if err := rows.Err(); err != nil {
		return err
	}
	for _, name := range names {
		if _, err := pool.ExecContext(ctx, "DROP TRIGGER IF EXISTS `"+name+"`"); err != nil {
			return fmt.Errorf("dropping the trigger %s: %w", name, err)
		}
	}
	return nil
}

// keptTables are the tables of the trail as they are in the database.
func keptTables(ctx context.Context, pool *sql.DB) ([]keptTable, error) {
	rows, err := pool.QueryContext(ctx, `SELECT table_name, column_name, column_key = 'PRI', is_generated <> 'NEVER'
		FROM information_schema.columns WHERE table_schema = DATABASE() ORDER BY table_name, ordinal_position`)
	if err != nil {
		return nil, fmt.Errorf("reading the columns: %w", err)
	}
	defer rows.Close()
	found := map[string]*keptTable{}
	for _, k := range Trail {
		found[k.Table] = &keptTable{Kept: k}
	}
	for rows.Next() {
		var table, name string
		var primary, generated bool
		if err := rows.Scan(&table, &name, &primary, &generated); err != nil {
			return nil, err
		}
		t, kept := found[table]
		if !kept || generated {
			continue
		}
		if primary {
			t.key = append(t.key, name)
		}
		if name != "version" && !slices.Contains(t.Quiet, name) {
			t.columns = append(t.columns, column{name, slices.Contains(t.Secret, name)})
		}
	}
	var all []keptTable
	for _, k := range Trail {
		if t := found[k.Table]; len(t.key) > 0 {
			all = append(all, *t)
		}
	}
	return all, rows.Err()
}
