package stores_test

import (
	"context"
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/cost"
	"tidykiln/core/stock"
	"tidykiln/internal/database"
	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
	"tidykiln/internal/stores"
)

var (
	d   = decimal.RequireFromString
	ctx = context.Background()
)

// shop is an area with a clock that moves on by an hour at each reading.
type shop struct {
	*stores.Area
	db *database.DB
	t  *testing.T
}

func open(t *testing.T) shop {
	db := dbtest.New(t)
	at := time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC)
	clock := func() time.Time {
		at = at.Add(time.Minute)
		return at
	}
	return shop{stores.New(db, clock), db, t}
}

// id finds a material by its key.
func (s shop) id(key string) uint64 {
	names, err := s.Names(ctx)
	require.NoError(s.t, err)
	for _, n := range names {
		if n.MaterialKey == key {
			return n.ID
		}
	}
	require.Fail(s.t, "no material "+key)
	return 0
}

func (s shop) card(key string) stores.MaterialCard {
	c, err := s.Card(ctx, s.id(key))
	require.NoError(s.t, err)
	return c
}

func (s shop) line(key, pack, price string) stores.NewPurchase {
	return stores.NewPurchase{MaterialID: s.id(key), Packs: 1, Pack: pack, Price: price}
}

func (s shop) buy(r stores.NewReceipt) uint64 {
	if r.Supplier == "" {
		r.Supplier = "Reed & Rush"
	}
	if r.ReceivedOn == "" {
		r.ReceivedOn = "2027-02-20"
	}
	id, err := s.Buy(ctx, r)
	require.NoError(s.t, err)
	return id
}

// draw takes a material for batch 1, which the test makes up out of nothing.
func (s shop) draw(key, quantity, spoiled string, acceptShort bool) error {
	return s.db.Write(ctx, database.Everything, func(tx *gorm.DB) error {
		return s.Draw(tx, stores.Work{BatchID: 1, RunID: new(uint64(7)), At: time.Date(2027, 3, 2, 9, 0, 0, 0, time.UTC), Note: "Lay, batch 1", AcceptShort: acceptShort},
			[]stores.Drawing{{MaterialKey: key, Quantity: d(quantity), Spoiled: d(spoiled)}})
	})
}

// withBatch puts the rows that a batch needs to be there.
func (s shop) withBatch() shop {
	require.NoError(s.t, s.db.Write(ctx, database.Everything, func(tx *gorm.DB) error {
		for _, statement := range []string{
			"INSERT INTO products (id, name, method, look, blank, lettered, price, created_at, version) VALUES (1, 'x', 'gel-lift', 'crisp', '{}', 0, 1, NOW(6), 1)",
			"INSERT INTO recipes (id, product_id, number, document, created_at) VALUES (1, 1, 1, '{}', NOW(6))",
			"INSERT INTO batches (id, number, product_id, product_name, recipe_id, recipe, state, created_at, version) VALUES (1, 1, 1, 'x', 1, '{}', 'open', NOW(6), 1)",
		} {
			if err := tx.Exec(statement).Error; err != nil {
				return err
			}
		}
		return nil
	}))
	return s
}

// sound checks that what is on hand is what the movements and the purchases say.
func (s shop) sound() {
	s.t.Helper()
	require.NoError(s.t, s.db.Read(ctx, func(tx *gorm.DB) error {
		var off []string
		err := tx.Raw(`SELECT material_key FROM materials WHERE on_hand <> (SELECT COALESCE(SUM(left_quantity), 0) FROM purchases WHERE material_id = materials.id)
			OR on_hand <> (SELECT COALESCE(SUM(quantity), 0) FROM movements WHERE material_id = materials.id AND counted)
			OR EXISTS (SELECT 1 FROM purchases WHERE material_id = materials.id AND left_quantity <> (SELECT COALESCE(SUM(quantity), 0) FROM movement_parts WHERE purchase_id = purchases.id))`).Scan(&off).Error
		assert.Empty(s.t, off, "stock that its movements do not explain")
		return err
	}))
}

// The materials of a cost problem's worked example, bought as it has them.
func TestWhatIsLeftIsAveragedAndFrozenOnEachMovement(t *testing.T) {
	s := open(t).withBatch()
	s.buy(stores.NewReceipt{Shipping: "2.10", Lines: []stores.NewPurchase{s.line("gel-medium", "480 ml", "18.90")}})
	s.buy(stores.NewReceipt{ReceivedOn: "2027-02-22", Lines: []stores.NewPurchase{s.line("gel-medium", "240 ml", "10.80")}})
	gel := s.card("gel-medium")
	assert.Equal(t, "720", gel.OnHand.String())
	assert.Equal(t, "0.044167", gel.UnitCost.String(), "31.80 ÷ 720")
	assert.Equal(t, "0.045", gel.LatestCost.String(), "what it costs to buy again")
	assert.Equal(t, "31.8", gel.Worth.String())

	require.NoError(t, s.draw("gel-medium", "500", "50", false))
	gel = s.card("gel-medium")
	assert.Equal(t, "220", gel.OnHand.String())
	assert.Equal(t, "0.045", gel.UnitCost.String(), "the older purchase is used up")
	require.Len(t, gel.Movements, 4)
	for _, m := range gel.Movements[2:] {
		assert.Equal(t, stores.CausePurchase, m.Cause)
	}
	spoil, batch := gel.Movements[0], gel.Movements[1]
	assert.Equal(t, []any{stores.CauseSpoil, "-50", stores.CauseBatch, "-450"}, []any{spoil.Cause, spoil.Quantity.String(), batch.Cause, batch.Quantity.String()})
	assert.Equal(t, "0.044167", batch.UnitCost.String())
	s.sound()

	require.NoError(t, s.db.Write(ctx, database.Everything, func(tx *gorm.DB) error { return s.GiveBack(tx, 7) }))
	assert.Equal(t, "720", s.card("gel-medium").OnHand.String())
	assert.Len(t, s.card("gel-medium").TakenBack, 2)
	require.NoError(t, s.db.Write(ctx, database.Everything, func(tx *gorm.DB) error { return s.GiveBack(tx, 7) }), "once is enough")
	assert.Equal(t, "720", s.card("gel-medium").OnHand.String())
	s.sound()
}

func TestTheCostProblemGetsThePurchasesAsTheyWereBought(t *testing.T) {
	s := open(t)
	s.buy(stores.NewReceipt{Shipping: "2.10", Lines: []stores.NewPurchase{s.line("gel-medium", "480 ml", "18.90")}})
	require.NoError(t, s.db.Read(ctx, func(tx *gorm.DB) error {
		materials, err := stores.LoadMaterials(tx)
		assert.Equal(t, "0.04375", cost.UnitCost(materials["gel-medium"].Purchases).String())
		assert.Equal(t, "0.0264", cost.UnitCost(materials["varnish"].Purchases).String(), "nothing bought yet: as reckoned")
		return err
	}))
}

func TestAReceiptSharesShippingAndTaxByValue(t *testing.T) {
	s := open(t)
	s.buy(stores.NewReceipt{Shipping: "4.50", Tax: "10.00", Lines: []stores.NewPurchase{s.line("gel-medium", "2 × 473 ml", "40.00"), s.line("slice-90", "50", "60.00")}})
	gel, slices := s.card("gel-medium"), s.card("slice-90")
	assert.Equal(t, "0.048414", gel.UnitCost.String(), "(40.00 + 5.80) ÷ 946")
	assert.Equal(t, "1.374", slices.UnitCost.String(), "(60.00 + 8.70) ÷ 50")
	receipts, err := s.Receipts(ctx, 1)
	require.NoError(t, err)
	require.Len(t, receipts, 1)
	assert.Equal(t, "114.5", receipts[0].Paid.String())
	assert.Len(t, receipts[0].Lines, 2)
	// where tax is given back, it is no cost
	require.NoError(t, s.db.Write(ctx, database.Everything, func(tx *gorm.DB) error { return tx.Exec("UPDATE workshop SET tax_is_cost = FALSE").Error }))
	s.buy(stores.NewReceipt{Tax: "4.00", Lines: []stores.NewPurchase{s.line("cord", "roll of 20 m", "5.00")}})
	assert.Equal(t, "0.25", s.card("cord").UnitCost.String())
}

func TestBlanksAreLookedOverAndSortedOnArrival(t *testing.T) {
	s := open(t)
	line := s.line("slice-90", "50", "46.00")
	line.Rejects = 4
	line.Sorted = []stores.SortedBlanks{{MaterialID: s.id("slice-90"), Pieces: 30}, {MaterialID: s.id("slice-120"), Pieces: 16}}
	id := s.buy(stores.NewReceipt{Lines: []stores.NewPurchase{line}})
	assert.Equal(t, "30", s.card("slice-90").OnHand.String())
	assert.Equal(t, "16", s.card("slice-120").OnHand.String())
	assert.Equal(t, "1", s.card("slice-120").UnitCost.String(), "46.00 for the 46 good ones")
	suppliers, err := s.Suppliers(ctx)
	require.NoError(t, err)
	require.Len(t, suppliers, 1)
	assert.Equal(t, "4 of 50", suppliers[0].Rejects.String()+" of "+suppliers[0].Blanks.String())
	require.NoError(t, s.TakeBack(ctx, id))
	assert.True(t, s.card("slice-120").OnHand.IsZero())
	suppliers, err = s.Suppliers(ctx)
	require.NoError(t, err)
	assert.Empty(t, suppliers)
	s.sound()
	for where, spoil := range map[string]func(*stores.NewPurchase){
		"body.lines[0].sorted":               func(l *stores.NewPurchase) { l.Rejects = 3 },
		"body.lines[0].rejects":              func(l *stores.NewPurchase) { l.Rejects = 50 },
		"body.lines[0].sorted[1].materialId": func(l *stores.NewPurchase) { l.Sorted[1].MaterialID = s.id("tile-102") },
		"body.lines[0].materialId":           func(l *stores.NewPurchase) { l.MaterialID = 9999 },
		"body.lines[0].pack":                 func(l *stores.NewPurchase) { l.Pack = "a sackful" },
	} {
		bad := line
		bad.Sorted = append([]stores.SortedBlanks{}, line.Sorted...)
		spoil(&bad)
		_, err := s.Buy(ctx, stores.NewReceipt{Supplier: "x", ReceivedOn: "2027-02-20", Lines: []stores.NewPurchase{bad}})
		assert.Equal(t, where, "body."+housetest.AtFault(t, err))
	}
}

func TestACountCorrectsWithOneNumberAndCanBeTakenBack(t *testing.T) {
	s := open(t)
	s.buy(stores.NewReceipt{Lines: []stores.NewPurchase{s.line("gel-medium", "480 ml", "24.00")}})
	id := s.id("gel-medium")
	m, err := s.Count(ctx, id, stores.Counting{Quantity: "0.4 l"})
	require.NoError(t, err)
	assert.Equal(t, "400", m.OnHand.String())
	m, err = s.Count(ctx, id, stores.Counting{Quantity: "430", Note: "a jar behind the door"})
	require.NoError(t, err)
	assert.Equal(t, "430", m.OnHand.String())
	assert.Equal(t, "0.05", m.UnitCost.String(), "what was found costs what the others do")
	m, err = s.Count(ctx, id, stores.Counting{Quantity: "0 1/2 l"})
	require.NoError(t, err)
	assert.Equal(t, "500", m.OnHand.String(), "a half is not nothing")
	m, err = s.Count(ctx, id, stores.Counting{Quantity: "0 ml"})
	require.NoError(t, err)
	assert.True(t, m.OnHand.IsZero())
	assert.Equal(t, "0.05", m.UnitCost.String(), "the last known while nothing is left")
	s.sound()
	none := s.card("gel-medium").Movements[0]
	assert.Equal(t, stores.CauseCount, none.Cause)
	m, err = s.reverse(none.ID)
	require.NoError(t, err)
	assert.Equal(t, "500", m.OnHand.String())
	_, err = s.reverse(none.ID)
	housetest.RefusedAs(t, err, problem.TakenBack)
	_, err = s.reverse(s.card("gel-medium").Movements[0].ID)
	housetest.RefusedAs(t, err, problem.TakenBack, "nor is a taking back taken back")
	s.sound()
	_, err = s.Count(ctx, id, stores.Counting{Quantity: "-3 ml"})
	assert.Equal(t, "quantity", housetest.AtFault(t, err))
}

func TestStockNeverFallsBelowNothingUnasked(t *testing.T) {
	s := open(t).withBatch()
	s.buy(stores.NewReceipt{Lines: []stores.NewPurchase{s.line("gel-medium", "40 ml", "2.00")}})
	err := s.draw("gel-medium", "58.5", "0", false)
	housetest.RefusedAs(t, err, problem.Short)
	assert.ErrorContains(t, err, "40 ml are there, and this took 58.5 ml")
	var p *problem.Problem
	require.ErrorAs(t, err, &p)
	assert.Equal(t, problem.Short, p.Type)
	assert.Equal(t, "40", s.card("gel-medium").OnHand.String(), "nothing was taken")
	require.NoError(t, s.draw("gel-medium", "58.5", "0", true))
	gel := s.card("gel-medium")
	assert.True(t, gel.OnHand.IsZero())
	assert.Len(t, gel.Movements, 3, "bought, found, used")
	require.NoError(t, s.draw("varnish", "30", "0", false), "what is not kept count of never runs out")
	assert.False(t, s.card("varnish").Counted)
	_, err = s.TakeOut(ctx, s.id("gel-medium"), stores.TakingOut{Quantity: "1 ml", Cause: stores.CauseLoss})
	assert.Equal(t, "quantity", housetest.AtFault(t, err))
	_, err = s.TakeOut(ctx, s.id("varnish"), stores.TakingOut{Quantity: "1 ml", Cause: stores.CauseLoss})
	housetest.RefusedAs(t, err, problem.Uncounted)
	s.sound()
}

func TestAReceiptIsTakenBackWholeOrNotAtAll(t *testing.T) {
	s := open(t)
	id := s.buy(stores.NewReceipt{Lines: []stores.NewPurchase{s.line("gel-medium", "480 ml", "24.00"), s.line("cord", "20 m", "4.00")}})
	_, err := s.TakeOut(ctx, s.id("cord"), stores.TakingOut{Quantity: "2 m", Cause: stores.CauseSpoil, Note: "frayed"})
	require.NoError(t, err)
	housetest.RefusedAs(t, s.TakeBack(ctx, id), problem.Used)
	assert.Equal(t, "480", s.card("gel-medium").OnHand.String(), "nor is the other line")
	_, err = s.reverse(s.card("cord").Movements[1].ID)
	housetest.RefusedAs(t, err, problem.Elsewhere)
	_, err = s.reverse(s.card("cord").Movements[0].ID)
	require.NoError(t, err)
	require.NoError(t, s.TakeBack(ctx, id))
	housetest.RefusedAs(t, s.TakeBack(ctx, id), problem.TakenBack)
	assert.Nil(t, s.card("cord").LatestCost)
	s.sound()
	housetest.Missing(t, s.TakeBack(ctx, 999))
	_, err = s.reverse(999)
	housetest.Missing(t, err)
}

func TestAWeightOfWhatIsCountedByVolumeAsksForItsDensity(t *testing.T) {
	s := open(t)
	in := stores.NewReceipt{Supplier: "x", ReceivedOn: "2027-02-20", Lines: []stores.NewPurchase{s.line("gel-medium", "1 kg", "30")}}
	_, err := s.Buy(ctx, in)
	assert.Equal(t, "lines[0].pack", housetest.AtFault(t, err))
	gel := s.card("gel-medium")
	gel.Density = new(1.25)
	_, err = s.Change(ctx, gel.ID, stores.MaterialChange{MaterialForm: gel.MaterialForm, Version: gel.Version})
	require.NoError(t, err)
	s.buy(in)
	assert.Equal(t, "800", s.card("gel-medium").OnHand.String())
	changed := s.card("gel-medium")
	changed.Unit = stock.Gram
	changed.FilmMm = nil
	_, err = s.Change(ctx, gel.ID, stores.MaterialChange{MaterialForm: changed.MaterialForm, Version: changed.Version})
	assert.Equal(t, "unit", housetest.AtFault(t, err), "what has moved keeps its unit")
	_, err = s.Change(ctx, gel.ID, stores.MaterialChange{MaterialForm: gel.MaterialForm, Version: 1})
	housetest.RefusedAs(t, err, problem.Stale)
}

func TestMaterialsAreAddedFoundAndPutAway(t *testing.T) {
	s := open(t)
	leaf := stores.NewMaterial{MaterialForm: stores.MaterialForm{Name: " Gold leaf, booklet ", Kind: "finish", Unit: stock.Sheet}, UnitCost: "0.31"}
	m, err := s.Add(ctx, leaf)
	require.NoError(t, err)
	assert.Equal(t, "gold-leaf-booklet", m.MaterialKey)
	_, err = s.Add(ctx, leaf)
	assert.Equal(t, "name", housetest.AtFault(t, err))
	leaf.Name = "Gold leaf (booklet)"
	second, err := s.Add(ctx, leaf)
	require.NoError(t, err)
	assert.Equal(t, "gold-leaf-booklet-2", second.MaterialKey)
	list, err := s.List(ctx, stores.Search{Text: "gold l", Kind: "finish"})
	require.NoError(t, err)
	assert.Equal(t, 2, list.Total)
	list, err = s.List(ctx, stores.Search{Text: "100%_"})
	require.NoError(t, err)
	assert.Empty(t, list.Rows)

	_, err = s.Count(ctx, m.ID, stores.Counting{Quantity: "25 sheets"})
	require.NoError(t, err)
	housetest.RefusedAs(t, s.Archive(ctx, m.ID, m.Version), problem.InUse)
	require.NoError(t, s.Archive(ctx, second.ID, second.Version))
	_, err = s.Card(ctx, second.ID)
	housetest.Missing(t, err)
	for where, spoil := range map[string]func(*stores.NewMaterial){
		"body.name":          func(m *stores.NewMaterial) { m.Name = "  " },
		"body.filmMm":        func(m *stores.NewMaterial) { m.FilmMm = new(0.1) },
		"body.sheetHeightMm": func(m *stores.NewMaterial) { m.SheetWidthMm = new(210.0) },
		"body.sort":          func(m *stores.NewMaterial) { m.Sort = "Leaf" },
		"body.unit":          func(m *stores.NewMaterial) { m.Unit = "stone" },
		"body.kind":          func(m *stores.NewMaterial) { m.Kind = "weather" },
		"body.unitCost":      func(m *stores.NewMaterial) { m.UnitCost = "dear" },
	} {
		bad := leaf
		bad.Name = "Silver leaf"
		spoil(&bad)
		_, err := s.Add(ctx, bad)
		assert.Equal(t, where, "body."+housetest.AtFault(t, err))
	}
}

func TestWhatIsTooOldIsSaid(t *testing.T) {
	s := open(t)
	gel := s.card("gel-medium")
	gel.ShelfLifeDays, gel.OpenLifeDays = new(365), new(30)
	_, err := s.Change(ctx, gel.ID, stores.MaterialChange{MaterialForm: gel.MaterialForm, Version: gel.Version})
	require.NoError(t, err)
	s.buy(stores.NewReceipt{Lines: []stores.NewPurchase{s.line("gel-medium", "480 ml", "24.00")}})
	assert.EqualValues(t, "2028-02-20", s.card("gel-medium").UseBy)
	_, err = s.TakeOut(ctx, gel.ID, stores.TakingOut{Quantity: "10 ml", Cause: stores.CauseLoss})
	require.NoError(t, err)
	assert.EqualValues(t, "2027-03-31", s.card("gel-medium").UseBy, "thirty days from when it was opened")
}

// reverse takes a movement back in a transaction of its own.
func (s shop) reverse(id uint64) (m stores.Material, err error) {
	err = s.db.Write(ctx, database.Everything, func(tx *gorm.DB) error {
		m, _, err = s.Reverse(tx, id)
		return err
	})
	return m, err
}
