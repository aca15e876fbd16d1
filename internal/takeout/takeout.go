// Package takeout gives everything out as tables for other programs; docs/formats.md
// says what is in them.
package takeout

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"gorm.io/gorm"

	"tidykiln/internal/batches"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/document"
	"tidykiln/internal/orders"
	"tidykiln/internal/papers"
	"tidykiln/internal/products"
	"tidykiln/internal/stores"
	"tidykiln/internal/trade"
	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

// Area answers for what is taken out.
type Area struct {
	db  *database.DB
	now func() time.Time
}

// New makes the area on its database.
func New(db *database.DB, now func() time.Time) *Area { return &Area{db, now} }

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.GetFile(api, "take-everything-out", "/api/everything", "Everything as tables (CSV and JSON in a ZIP file)", wire.Owner, func(ctx context.Context, _ *struct{}) (*wire.File, error) {
		content, err := a.Everything(ctx)
		return wire.NewFile("application/zip", "tidykiln-everything.zip", content), err
	})
}

// Everything is all sheets as they stand at one moment, each as CSV and as JSON.
func (a *Area) Everything(ctx context.Context) ([]byte, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]byte, error) {
		var all []database.Sheet
		for _, room := range []func(*gorm.DB) ([]database.Sheet, error){customers.Sheets, orders.Sheets, trade.Sheets, papers.Sheets, products.Sheets, batches.Sheets, stores.Sheets, workshop.Sheets} {
			sheets, err := room(tx)
			if err != nil {
				return nil, err
			}
			all = slices.Concat(all, sheets)
		}
		return a.Pack(all)
	})
}

// Named is a file under a name.
type Named struct {
	Name    string
	Content []byte
}

// Pack puts sheets into a ZIP file, each as CSV and as JSON, and files beside them.
func (a *Area) Pack(sheets []database.Sheet, files ...Named) ([]byte, error) {
	var out bytes.Buffer
	into := zip.NewWriter(&out)
	for _, s := range sheets {
		if err := a.put(into, s); err != nil {
			return nil, fmt.Errorf("writing the sheet of %s: %w", s.Name, err)
		}
	}
	for _, f := range files {
		w, err := into.CreateHeader(&zip.FileHeader{Name: f.Name, Modified: a.now()})
		if err != nil {
			return nil, err
		}
		if _, err := w.Write(f.Content); err != nil {
			return nil, err
		}
	}
	if err := into.Close(); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}

func (a *Area) put(into *zip.Writer, s database.Sheet) error {
	begin := func(name string) (io.Writer, error) {
		return into.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate, Modified: a.now()})
	}
	w, err := begin("csv/" + s.Name + ".csv")
	if err != nil {
		return err
	}
	if err := document.WriteCSV(w, s.Columns, s.Cells()); err != nil {
		return err
	}
	if w, err = begin("json/" + s.Name + ".json"); err != nil {
		return err
	}
	return writeJSON(w, s)
}

// writeJSON writes a list of objects, one a line, with the columns in their order.
func writeJSON(w io.Writer, s database.Sheet) error {
	var b bytes.Buffer
	b.WriteString("[")
	for i, row := range s.Rows {
		b.WriteString(map[bool]string{true: "\n{", false: ",\n{"}[i == 0])
		for k, v := range row {
			value, err := json.Marshal(v)
			if err != nil {
				return err
			}
			if k > 0 {
				b.WriteString(", ")
			}
			b.WriteString(database.JSON(s.Columns[k]) + ": ")
			b.Write(value)
		}
		b.WriteString("}")
	}
	b.WriteString("\n]\n")
	_, err := w.Write(b.Bytes())
	return err
}
