package database

import (
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"gorm.io/gorm"
)

// Sheet is rows with names of columns, to be taken out. A value is a text, a json.Number or nil.
type Sheet struct {
	Name    string
	Columns []string
	Rows    [][]any
}

// SheetOf reads a sheet by a query that names its columns.
func SheetOf(tx *gorm.DB, name, query string, args ...any) (s Sheet, err error) {
	rows, err := tx.Raw(query, args...).Rows()
	if err != nil {
		return s, fmt.Errorf("reading the sheet of %s: %w", name, err)
	}
	defer rows.Close()
	types, err := rows.ColumnTypes()
	if err != nil {
		return s, err
	}
	s.Name = name
	values, into := make([]any, len(types)), make([]any, len(types))
	for i, t := range types {
		s.Columns, into[i] = append(s.Columns, t.Name()), &values[i]
	}
	for rows.Next() {
		if err := rows.Scan(into...); err != nil {
			return s, fmt.Errorf("reading the sheet of %s: %w", name, err)
		}
		row := make([]any, len(values))
		for i, v := range values {
			row[i] = cell(types[i].DatabaseTypeName(), v)
		}
		s.Rows = append(s.Rows, row)
	}
	return s, rows.Err()
}

// Cells are the values as text; nil is empty.
func (s Sheet) Cells() (rows [][]string) {
	for _, row := range s.Rows {
		cells := make([]string, len(row))
		for i, v := range row {
			if v != nil {
				cells[i] = fmt.Sprint(v)
			}
		}
		rows = append(rows, cells)
	}
	return rows
}

// SheetsOf reads several sheets, each by its name and its query.
func SheetsOf(tx *gorm.DB, queries [][2]string) (sheets []Sheet, err error) {
	for _, q := range queries {
		s, err := SheetOf(tx, q[0], q[1])
		if err != nil {
			return nil, err
		}
		sheets = append(sheets, s)
	}
	return sheets, nil
}

func cell(is string, v any) any {
	switch v := v.(type) {
	case nil:
		return nil
	case time.Time:
		if is == "DATE" {
			return v.Format(time.DateOnly)
		}
		return v.UTC().Format(time.RFC3339)
	case []byte:
		if text := string(v); !strings.HasSuffix(is, "INT") && is != "DECIMAL" && is != "DOUBLE" {
			return text
		}
		return json.Number(v)
	}
	return json.Number(fmt.Sprint(v))
}

// Numbers writes ids into a query; 0, which no row has, where there are none.
func Numbers(ids []uint64) string {
	list := "0"
	for _, id := range ids {
		list += fmt.Sprintf(", %d", id)
	}
	return list
}
