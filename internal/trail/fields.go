package trail

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/database"
)

// columns are the facts of the schema by which changes are read.
type columns struct {
	// types are those of MariaDB, names the table that a column's number is of; both by
	// table and column.
	types, names map[[2]string]string
}

func loadColumns(tx *gorm.DB) (c columns, err error) {
	var rows []struct{ TableName, ColumnName, Is string }
	c = columns{map[[2]string]string{}, map[[2]string]string{}}
	if err := tx.Raw("SELECT table_name, column_name, column_type AS `is` FROM information_schema.columns WHERE table_schema = DATABASE()").Scan(&rows).Error; err != nil {
		return c, fmt.Errorf("reading the columns: %w", err)
	}
	for _, r := range rows {
		c.types[[2]string{r.TableName, r.ColumnName}] = r.Is
	}
	rows = nil
	if err := tx.Raw("SELECT table_name, column_name, referenced_table_name AS `is` FROM information_schema.key_column_usage WHERE table_schema = DATABASE() AND referenced_table_name IS NOT NULL").Scan(&rows).Error; err != nil {
		return c, fmt.Errorf("reading what columns refer to: %w", err)
	}
	for _, r := range rows {
		c.names[[2]string{r.TableName, r.ColumnName}] = r.Is
	}
	return c, nil
}

// kind is how a column is written on pages.
func (c columns) kind(table, column string) FieldKind {
	switch is := c.types[[2]string{table, column}]; {
	case is == "tinyint(1)":
		return Flag
	case is == "date":
		return Day
	case strings.HasPrefix(is, "datetime"):
		return Moment
	case strings.Contains(is, "int") || strings.HasPrefix(is, "decimal") || is == "double":
		return Number
	}
	return Text
}

// reader reads changes into words.
type reader struct {
	columns
	kept map[string]database.Kept
	// labels are what the things that columns name are called now, by table and number.
	labels map[string]map[string]string
}

// reader looks up what the changes are read with: the schema's facts once, and what the
// things that they name are called.
func (a *Area) reader(tx *gorm.DB, rows []database.TrailChange) (r reader, err error) {
	r = reader{kept: a.kept, labels: map[string]map[string]string{}}
	if a.schema.Load() == nil {
		c, err := loadColumns(tx)
		if err != nil {
			return r, err
		}
		a.schema.Store(&c)
	}
	r.columns = *a.schema.Load()
	var parts []string
	var args []any
	for table, keys := range r.named(rows) {
		if label := a.kept[table].Label; label != "" {
			r.labels[table] = map[string]string{}
			parts = append(parts, "SELECT '"+table+"' AS of, id, CONVERT(`"+label+"` USING utf8mb4) AS label FROM `"+table+"` WHERE id IN ?")
			args = append(args, slices.Sorted(maps.Keys(keys)))
		}
	}
	if len(parts) == 0 {
		return r, nil
	}
	var found []struct{ Of, ID, Label string }
	if err := tx.Raw(strings.Join(parts, " UNION ALL "), args...).Scan(&found).Error; err != nil {
		return r, fmt.Errorf("reading what things are called: %w", err)
	}
	for _, f := range found {
		r.labels[f.Of][f.ID] = f.Label
	}
	return r, nil
}

// named are the numbers of things that the changes name, by table.
func (r reader) named(rows []database.TrailChange) map[string]map[string]bool {
	all := map[string]map[string]bool{}
	for _, c := range rows {
		for _, values := range []map[string]any{object(c.Was), object(c.Became)} {
			for column, v := range values {
				table := r.names[[2]string{c.About, column}]
				if _, kept := r.kept[table]; !kept || v == nil {
					continue
				}
				if all[table] == nil {
					all[table] = map[string]bool{}
				}
				all[table][fmt.Sprint(v)] = true
			}
		}
	}
	return all
}

// object is the columns of a row as they were noted; nil for no row.
func object(text *string) map[string]any {
	if text == nil {
		return nil
	}
	var values map[string]any
	in := json.NewDecoder(strings.NewReader(*text))
	in.UseNumber()
	if in.Decode(&values) != nil {
		return nil // the database takes nothing else than JSON there
	}
	return values
}

// change is a change in words, with at most so many fields.
func (r reader) change(c database.TrailChange, most int) TrailChange {
	was, became := object(c.Was), object(c.Became)
	out := TrailChange{About: c.About, Called: r.kept[c.About].Called, Label: c.Label, Key: c.RowKey, Did: Changed, Fields: []TrailField{}}
	switch {
	case was == nil:
		out.Did = Made
	case became == nil:
		out.Did = Removed
	}
	var documents []TrailField
	for _, column := range slices.Sorted(maps.Keys(union(was, became))) {
		switch fields := r.fields(c.About, column, was[column], became[column]); {
		case column == "id" || column == r.kept[c.About].By:
		case branches(was[column]) != nil || branches(became[column]) != nil:
			documents = append(documents, fields...)
		default:
			out.Fields = append(out.Fields, fields...)
		}
	}
	out.Fields = append(out.Fields, documents...)
	if len(out.Fields) > most {
		out.More, out.Fields = len(out.Fields)-most, out.Fields[:most]
	}
	return out
}

func union(a, b map[string]any) map[string]any {
	all := maps.Clone(a)
	if all == nil {
		all = map[string]any{}
	}
	maps.Copy(all, b)
	return all
}

// fields are a column from which to which: one field, or one for each leaf of a document
// that is another.
func (r reader) fields(table, column string, was, became any) (all []TrailField) {
	name := strings.ReplaceAll(column, "_", " ")
	if branches(was) != nil || branches(became) != nil {
		leaves(name, was, became, func(at string, was, became any) {
			if f := (TrailField{at, kindOf(was, became), plain(was), plain(became)}); f.Was != f.Became {
				all = append(all, f)
			}
		})
		return all
	}
	kind := r.kind(table, column)
	if named, is := r.names[[2]string{table, column}]; is {
		kind, name = Text, strings.TrimSuffix(name, " id")
		was, became = r.called(named, was), r.called(named, became)
	}
	f := TrailField{name, kind, written(kind, was), written(kind, became)}
	if f.Was == f.Became || kind == Flag && strings.Trim(f.Was+f.Became, "0") == "" {
		return nil // what came without something has not changed in it
	}
	return append(all, f)
}

// called is the thing that a number names.
func (r reader) called(table string, number any) any {
	if number == nil {
		return nil
	}
	if label := r.labels[table][fmt.Sprint(number)]; label != "" {
		return label
	}
	return fmt.Sprintf("no. %v", number)
}

// written is a value as pages read it: a moment in RFC 3339, a number without noughts at its end.
func written(kind FieldKind, v any) string {
	text := plain(v)
	switch kind {
	case Moment:
		if at, err := time.Parse("2006-01-02 15:04:05.999999", text); err == nil {
			return at.Format(time.RFC3339Nano)
		}
	case Number:
		if strings.Contains(text, ".") {
			return strings.TrimRight(strings.TrimRight(text, "0"), ".")
		}
	}
	return text
}

// kindOf is how a leaf of a document is written: it has no column that says.
func kindOf(values ...any) FieldKind {
	for _, v := range values {
		if _, is := v.(json.Number); is {
			return Number
		}
	}
	return Text
}

func plain(v any) string {
	if v == nil {
		return ""
	}
	return fmt.Sprint(v)
}
