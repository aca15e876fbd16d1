package trail

import (
	"bytes"
	"context"
	"math"

	"github.com/danielgtaylor/huma/v2"
	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/document"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "get-trail", "/api/trail", "Who did what, the newest first", wire.Makers, database.Everything,
		func(ctx context.Context, in *Wanted) (Trail, error) { return a.Read(ctx, *in) })
	wire.GetFile(api, "export-trail", "/api/trail/table", "Who did what as a table (CSV)", wire.Makers,
		func(ctx context.Context, in *Wanted) (*wire.File, error) {
			table, err := a.CSV(ctx, *in)
			return wire.NewFile("text/csv; charset=utf-8", "who-did-what.csv", table), err
		})
}

// mostExported bounds the entries of a table: more are asked for by their days.
const mostExported = 5000

// CSV is the trail as a table with one row a field, the newest entry first.
func (a *Area) CSV(ctx context.Context, w Wanted) ([]byte, error) {
	if err := a.check(w); err != nil {
		return nil, err
	}
	var rows [][]string
	err := a.db.Read(ctx, func(tx *gorm.DB) error {
		q, err := w.query(ctx, tx)
		if err != nil {
			return err
		}
		entries, err := q.Entries(tx, mostExported+1)
		if err != nil {
			return err
		}
		if len(entries) > mostExported {
			return problem.Invalid("from", "there are more than %d entries: ask for fewer days at once", mostExported)
		}
		rows, err = a.table(tx, q, entries)
		return err
	})
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	err = document.WriteCSV(&out, []string{"at", "person", "member", "device", "did", "request", "kind", "key", "called", "change", "field", "from", "to"}, rows)
	return out.Bytes(), err
}

func (a *Area) table(tx *gorm.DB, q database.TrailQuery, entries []database.TrailEntry) (rows [][]string, err error) {
	changes, err := q.Changes(tx, entries, math.MaxInt32)
	if err != nil {
		return nil, err
	}
	read, err := a.reader(tx, changes)
	if err != nil {
		return nil, err
	}
	of := byRevision(changes)
	for _, e := range entries {
		for _, c := range of[e.Revision] {
			rows = append(rows, cells(e, read.change(c, math.MaxInt32))...)
		}
	}
	return rows, nil
}

// cells are the rows of a change in a table.
func cells(e database.TrailEntry, c TrailChange) (rows [][]string) {
	fixed := []string{e.At.Format("2006-01-02T15:04:05Z"), e.Person, e.Member, e.Device, e.Doing, e.Request, c.Called, c.Key, c.Label, string(c.Did)}
	for _, f := range append(c.Fields, TrailField{})[:max(1, len(c.Fields))] {
		rows = append(rows, append(fixed[:len(fixed):len(fixed)], f.Name, f.Was, f.Became))
	}
	return rows
}
