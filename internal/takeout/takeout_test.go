package takeout_test

import (
	"archive/zip"
	"bytes"
	"encoding/csv"
	"encoding/json"
	"io"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/takeout"
)

// sheets are those that docs/formats.md describes, with how many rows the demo has of some.
var sheets = []string{"customers", "customer_addresses", "orders", "order_lines", "pieces_ordered", "logbook_of_orders", "quotes", "quote_lines", "payments", "returns", "pieces_returned", "issued_papers", "products", "recipes", "batches", "pieces", "steps_done", "outcomes", "logbook_of_batches", "materials", "suppliers", "purchases", "movements", "people"}

func TestEverythingComesOutAsTablesAndAsJSON(t *testing.T) {
	at := time.Date(2027, 5, 4, 10, 26, 0, 0, time.UTC)
	db := demotest.New(t, at, "Etc/UTC")
	require.NoError(t, db.Write(t.Context(), database.Orders, func(tx *gorm.DB) error {
		for _, sql := range []string{
			"UPDATE orders SET note = '=SUM(A1), \"said\"\nso' WHERE id = 4",
			"INSERT INTO returns (id, order_id, cause, amount, cost, note, noted_at) VALUES (1, 1, 'ring', 1.5, 0, '', '2027-05-04')",
			"INSERT INTO return_pieces (return_id, want_id, product_name, goes) SELECT 1, id, 'ornament', 'stays' FROM wants ORDER BY id LIMIT 1",
		} {
			if err := tx.Exec(sql).Error; err != nil {
				return err
			}
		}
		return nil
	}))
	content, err := takeout.New(db, func() time.Time { return at }).Everything(t.Context())
	require.NoError(t, err)
	out, err := zip.NewReader(bytes.NewReader(content), int64(len(content)))
	require.NoError(t, err)
	files := map[string]string{}
	for _, f := range out.File {
		r, err := f.Open()
		require.NoError(t, err)
		text, err := io.ReadAll(r)
		require.NoError(t, err)
		files[f.Name] = string(text)
		assert.Equal(t, at, f.Modified.UTC(), "some programs unpack nothing that is from no day")
	}
	require.Equal(t, 2*len(sheets), len(files))
	for _, name := range sheets {
		var objects []map[string]any
		require.NoError(t, json.Unmarshal([]byte(files["json/"+name+".json"]), &objects), name)
		rows, err := csv.NewReader(strings.NewReader(strings.TrimPrefix(files["csv/"+name+".csv"], "\ufeff"))).ReadAll()
		require.NoError(t, err, name)
		require.Len(t, rows, len(objects)+1, name)
		require.NotEmpty(t, objects, name)
		assert.Len(t, objects[0], len(rows[0]), name)
		counted := strings.SplitN(name, "_of_", 2)[0]
		table := map[string]string{"pieces_ordered": "wants", "steps_done": "runs", "logbook_of_orders": "order_events", "logbook_of_batches": "batch_events", "pieces_returned": "return_pieces"}[name]
		if table == "" {
			table = counted
		}
		var n int
		require.NoError(t, db.Read(t.Context(), func(tx *gorm.DB) error { return tx.Raw("SELECT COUNT(*) FROM " + table).Scan(&n).Error }))
		assert.Len(t, objects, n, "%s has all there is", name)
	}
	assert.Contains(t, files["json/orders.json"], `"customer": "Withy Rowing Club"`)
	assert.Contains(t, files["json/orders.json"], `"note": "=SUM(A1), \"said\"\nso"`)
	assert.Contains(t, files["csv/orders.csv"], `"'=SUM(A1), ""said""`, "no spreadsheet works it out")
	assert.Regexp(t, `"unit_price": \d+\.\d{4},`, files["json/order_lines.json"])
	assert.Regexp(t, `"due_on": "2027-\d\d-\d\d",`, files["json/orders.json"])
	assert.Regexp(t, `"taken_at": "2027-\d\d-\d\dT\d\d:\d\d:\d\dZ",`, files["json/orders.json"])
	assert.Contains(t, files["json/steps_done.json"], `"step": "Base coat, second"`)
}
