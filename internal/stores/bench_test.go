package stores_test

import (
	"context"
	"fmt"
	"io"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/stores"
)

// Two thousand materials, ten purchases each, a hundred movements each.
const (
	manyMaterials = 2000
	purchasesEach = 10
	movementsEach = 100
)

// fillStores writes the rows straight into the tables: what is measured is reading them.
func fillStores(b *testing.B, tx *gorm.DB) {
	insert := func(into string, rows []string) {
		for part := range slices.Chunk(rows, 2000) {
			require.NoError(b, tx.Exec("INSERT INTO "+into+" VALUES "+strings.Join(part, ",")).Error)
		}
	}
	var materials, purchases, movements, parts []string
	for m := range manyMaterials {
		id := 1000 + m
		materials = append(materials, fmt.Sprintf("(%d,'bench-%d','Material %04d','medium','ml',0.05,1,540)", id, m, m))
		for p := range purchasesEach {
			// the last two of each still hold something
			left := 0
			if p >= purchasesEach-2 {
				left = 270
			}
			purchases = append(purchases, fmt.Sprintf("(%d,%d,'2027-01-%02d',1,'500 ml',500,500,0,25,1,%d)", id*100+p, id, p+1, left))
		}
		for n := range movementsEach {
			move := id*1000 + n
			movements = append(movements, fmt.Sprintf("(%d,%d,'batch',-46,0.05,1,'2027-02-%02d 10:00:00','Lay')", move, id, n%28+1))
			parts = append(parts, fmt.Sprintf("(%d,%d,-46)", move, id*100+n%purchasesEach))
		}
	}
	insert("materials (id,material_key,name,kind,unit,unit_cost,counted,on_hand)", materials)
	insert("purchases (id,material_id,received_on,packs,pack,pack_quantity,quantity,rejects,price,extra,left_quantity)", purchases)
	insert("movements (id,material_id,cause,quantity,unit_cost,counted,at,note)", movements)
	insert("movement_parts", parts)
}

// The answers of the Stores page, with the 95th percentile beside the mean.
func BenchmarkTheStoresWithTwoThousandMaterials(b *testing.B) {
	db := dbtest.New(b)
	require.NoError(b, db.Write(ctx, database.Everything, func(tx *gorm.DB) error { fillStores(b, tx); return nil }))
	a := stores.New(db, func() time.Time { return time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC) })
	for name, read := range map[string]func(i int) error{
		"a page": func(i int) error { _, err := a.List(ctx, stores.Search{Page: i % 20}); return err },
		"found":  func(i int) error { _, err := a.List(ctx, stores.Search{Text: fmt.Sprint(i % 100)}); return err },
		"a card": func(i int) error { _, err := a.Card(ctx, uint64(1000+i%manyMaterials)); return err },
		"names":  func(int) error { _, err := a.Names(ctx); return err },
	} {
		b.Run(name, func(b *testing.B) {
			var took []time.Duration
			for i := 0; b.Loop(); i++ {
				begun := time.Now()
				require.NoError(b, read(i))
				took = append(took, time.Since(begun))
			}
			slices.Sort(took)
			b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "p95-ms")
		})
	}
}

// The largest tables that are taken in, looked through and saved, over two
// thousand materials; each round begins with stores that know nothing of them.
func BenchmarkTakingInTheLargestTable(b *testing.B) {
	var materials, purchases strings.Builder
	materials.WriteString("key,name,kind,unit,unit_cost\n")
	purchases.WriteString("receipt,supplier,received_on,material,packs,pack,price,shipping\n")
	for i := range stores.MostRows {
		fmt.Fprintf(&materials, "reed-%d,Reed %d,packing,piece,0.25\n", i, i)
		fmt.Fprintf(&purchases, "%d,Weir %d,2027-02-%02d,reed-%d,2,50,%d,%d\n", i/5, i/5%40, i/5%28+1, i%manyMaterials, i+1, i/5%9)
	}
	take := func(b *testing.B, a *stores.Area, save bool) {
		for _, table := range []struct {
			name string
			take func(context.Context, io.Reader, stores.Importing) (stores.Import, error)
			text string
		}{{"materials", a.ImportMaterials, materials.String()}, {"purchases", a.ImportPurchases, purchases.String()}} {
			begun := time.Now()
			imp, err := table.take(ctx, strings.NewReader(table.text), stores.Importing{Save: save, Tell: func(stores.Progress) {}})
			require.NoError(b, err)
			if save {
				require.Empty(b, imp.Faults)
				require.True(b, imp.Saved)
			}
			b.ReportMetric(float64(time.Since(begun).Milliseconds()), table.name+"-ms")
		}
	}
	b.Run("looked through and saved", func(b *testing.B) {
		for b.Loop() {
			b.StopTimer()
			a := stores.New(dbtest.New(b), func() time.Time { return time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC) })
			b.StartTimer()
			take(b, a, true)
		}
	})
}
