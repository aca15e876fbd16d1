package stores_test

import (
	"bytes"
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/document"
	"tidykiln/internal/stores"
)

func (s shop) materials(text string, save bool) stores.Import {
	s.t.Helper()
	imp, err := s.ImportMaterials(ctx, strings.NewReader(text), stores.Importing{Save: save, Tell: func(stores.Progress) {}})
	require.NoError(s.t, err)
	return imp
}

func (s shop) purchases(text string, save bool) stores.Import {
	s.t.Helper()
	imp, err := s.ImportPurchases(ctx, strings.NewReader(text), stores.Importing{Save: save, Tell: func(stores.Progress) {}})
	require.NoError(s.t, err)
	return imp
}

func (s shop) count(table string) (n int64) {
	s.t.Helper()
	require.NoError(s.t, s.db.Read(ctx, func(tx *gorm.DB) error { return tx.Table(table).Count(&n).Error }))
	return n
}

func TestMaterialsAreAddedAndChangedFromATable(t *testing.T) {
	s := open(t)
	before := s.count("materials")
	text := "key;name;kind;unit;unit_cost;film_mm;lead_days\n" +
		";Reed varnish;sealer;ml;0,045;0,09;\n" +
		"gel-medium;Gel medium;medium;ml;0,031;0,65;9\n"
	seen := s.materials(text, false)
	assert.Empty(t, seen.Faults)
	assert.Equal(t, []int{2, 1, 1, 0}, []int{seen.Rows, seen.Added, seen.Changed, seen.Same})
	assert.Equal(t, stores.ImportAct{Line: 2, New: true, Name: "Reed varnish", Text: "sealer, 0.045 a ml"}, seen.Acts[0])
	assert.Contains(t, seen.Acts[1].Text, "film_mm 0.7 → 0.65, lead_days 5 → 9")
	assert.False(t, seen.Saved)
	assert.Equal(t, before, s.count("materials"), "looking changes nothing")

	saved := s.materials(text, true)
	assert.True(t, saved.Saved)
	assert.Equal(t, before+1, s.count("materials"))
	varnish := s.card("reed-varnish")
	assert.Equal(t, "0.045", varnish.UnitCost.String())
	assert.Equal(t, 5, varnish.LeadDays)
	gel := s.card("gel-medium")
	assert.InDelta(t, 0.65, *gel.FilmMm, 1e-9)
	assert.Equal(t, 2, gel.Version)
	again := s.materials(text, true)
	assert.Equal(t, []int{0, 0, 2}, []int{again.Added, again.Changed, again.Same}, "a file taken in twice changes nothing the second time")
	assert.Equal(t, 2, s.card("gel-medium").Version)
}

func TestWhatAMaterialsTableHasWrongIsSaidRowByRowAndNothingIsSaved(t *testing.T) {
	s := open(t)
	before := s.count("materials")
	imp := s.materials("key,name,kind,unit,unit_cost,film_mm,shelf_life_days\n"+
		",Reed varnish,sealer,ml,0.045,0.09,\n"+
		",Reed Varnish,sealer,ml,0.045,0.09,\n"+
		",,sealer,ml,0.045,,\n"+
		",Odd,glaze,ml,0.045,,\n"+
		",Dear,sealer,ml,0.0450001,,\n"+
		",Thick,sealer,ml,0.045,-3,\n"+
		",Filmed,sealer,piece,0.045,0.09,\n"+
		"No Key!,Keyed,sealer,ml,1,,\n"+
		",Aged,sealer,ml,1,,1.5\n"+
		"new-key,Gel medium,medium,ml,1,,\n"+
		",Many,glaze,ml,\"1,250\",,\n"+
		",Uncosted,sealer,ml,,,\n", true)
	type fault struct {
		line   int
		column string
	}
	var at []fault
	for _, f := range imp.Faults {
		at = append(at, fault{f.Line, f.Column})
		assert.NotEmpty(t, f.Message)
		assert.NotRegexp(t, "expected |string to be", f.Message, "in the words of the pages")
	}
	assert.Equal(t, []fault{{3, "name"}, {4, "name"}, {5, "kind"}, {6, "unit_cost"}, {7, "film_mm"}, {8, "film_mm"}, {9, "key"}, {10, "shelf_life_days"}, {11, "name"}, {12, "unit_cost"}, {12, "kind"}, {13, "unit_cost"}}, at)
	assert.Equal(t, 12, imp.Wrong)
	assert.False(t, imp.Saved)
	assert.Equal(t, before, s.count("materials"))
}

func TestWhatALabelSaysGoesThroughATableAndIsRefusedWhereNoLabelSaysSo(t *testing.T) {
	s := open(t)
	head := "key,name,label_floor_min,label_recoat_from_min,label_recoat_to_min,label_cure_min\n"
	imp := s.materials(head+"varnish,Water-based varnish,90,120,1440,10080\n", true)
	require.True(t, imp.Saved, imp.Faults)
	varnish := s.card("varnish")
	assert.Equal(t, stores.LabelForm{LabelRead: true, LabelFloorMinutes: new(90), LabelRecoatFromMinutes: new(120), LabelRecoatToMinutes: new(1440), LabelCureMinutes: new(10080)}, varnish.LabelForm)
	table, err := s.ExportMaterials(ctx)
	require.NoError(t, err)
	assert.Contains(t, string(table), ",90,120,1440,10080,")
	again := s.materials(string(table), true)
	assert.Zero(t, again.Changed+again.Added)

	for _, wrong := range [][2]string{
		{"varnish,Water-based varnish,90,,1440,\n", "label_recoat_from_min"}, {"varnish,Water-based varnish,,120,60,\n", "label_recoat_to_min"},
		{"varnish,Water-based varnish,-1,,,\n", "label_floor_min"}, {"varnish,Water-based varnish,86401,,,\n", "label_floor_min"},
		{"copy-paper,\"Copy paper, 80 g\",10,,,\n", "label_floor_min"},
	} {
		imp := s.materials(head+wrong[0], true)
		require.Len(t, imp.Faults, 1, wrong[0])
		assert.Equal(t, wrong[1], imp.Faults[0].Column)
	}
}

func TestAMaterialsUnitAndCostStayWhereItIsKeptCountOf(t *testing.T) {
	s := open(t)
	_, err := s.Count(ctx, s.id("gel-medium"), stores.Counting{Quantity: "200 ml"})
	require.NoError(t, err)
	imp := s.materials("key,name,unit,film_mm\ngel-medium,Gel medium,g,\n", true)
	require.Len(t, imp.Faults, 1)
	assert.Equal(t, "unit", imp.Faults[0].Column)
	before := s.card("gel-medium").UnitCost
	imp = s.materials("key,name,unit_cost\ngel-medium,Gel medium,99\n", true)
	assert.Equal(t, 1, imp.Same, "it follows from what is left")
	assert.True(t, before.Equal(s.card("gel-medium").UnitCost))
}

const parcels = "receipt,supplier,received_on,material,packs,pack,price,shipping,tax,rejects,note\n" +
	"A7,Reed & Rush,2027-02-20,gel-medium,2,473 ml,37.80,4.90,,,first of the year\n" +
	"A7,,,\"copy paper, 80 g\",1,A4 ream,6.20,,,,\n" +
	",Weir Blanks,21.2.2027,slice-90,1,box of 50,57.50,,,4,\n"

func TestPurchasesComeIntoTheStoresFromATable(t *testing.T) {
	s := open(t)
	seen := s.purchases(parcels, false)
	require.Empty(t, seen.Faults)
	assert.Equal(t, []int{3, 2, 0}, []int{seen.Rows, seen.Added, seen.Same})
	assert.Equal(t, stores.ImportAct{Line: 2, New: true, Name: "Reed & Rush", Text: "Saturday 20 February 2027, 2 materials: 48.90\u00a0EUR"}, seen.Acts[0])
	assert.Equal(t, stores.ImportAct{Line: 4, New: true, Name: "Weir Blanks", Text: "Sunday 21 February 2027, Wood slice, 90 mm: 57.50\u00a0EUR"}, seen.Acts[1])
	assert.Zero(t, s.count("receipts"))

	saved := s.purchases(parcels, true)
	assert.True(t, saved.Saved)
	gel := s.card("gel-medium")
	assert.Equal(t, "946", gel.OnHand.String())
	assert.True(t, d("42.01").Equal(gel.Worth.Round(2)), "37.80 and its share by value of the shipping: 4.90 × 37.80 ÷ 44.00")
	assert.Equal(t, "2 × 473 ml from Reed & Rush", gel.Movements[0].Note)
	slices := s.card("slice-90")
	assert.Equal(t, "46", slices.OnHand.String())
	require.NotNil(t, slices.LatestCost)
	assert.Equal(t, "1.25", slices.LatestCost.String())
	by, err := s.Receipts(ctx, 1)
	require.NoError(t, err)
	require.Len(t, by, 2)
	assert.Equal(t, "first of the year", by[1].Note)

	again := s.purchases(parcels, true)
	assert.Equal(t, []int{0, 2}, []int{again.Added, again.Same}, "what is there already is left out")
	assert.Equal(t, "946", s.card("gel-medium").OnHand.String())
	require.NoError(t, s.TakeBack(ctx, by[1].ReceiptID))
	assert.Equal(t, 1, s.purchases(parcels, true).Added, "what was taken back is not there")
}

func TestWhatAPurchasesTableHasWrongIsSaidRowByRowAndNothingIsSaved(t *testing.T) {
	s := open(t)
	imp := s.purchases("receipt,supplier,received_on,material,packs,pack,price,shipping,rejects\n"+
		"1,Reed & Rush,2027-02-20,gel-medium,2,473 ml,37.80,4.90,\n"+
		"1,Weir Blanks,2027-02-20,gel-medium,2,473 ml,37.80,,\n"+
		"2,Reed & Rush,2/20/2027,gel-medium,1,473 ml,10,,\n"+
		"3,Reed & Rush,2027-02-20,Unheard of,1,473 ml,10,,\n"+
		"4,Reed & Rush,2027-02-20,gel-medium,1,500 g,10,,\n"+
		"5,Reed & Rush,2027-02-20,gel-medium,0,473 ml,10,,\n"+
		"6,Reed & Rush,2027-02-20,gel-medium,1,473 ml,10.12345,,\n"+
		"7,Reed & Rush,2027-09-20,gel-medium,1,473 ml,10,,\n"+
		"8,Reed & Rush,2027-02-20,slice-90,1,10,10,,10\n"+
		"9,,2027-02-20,slice-90,1,10,10,,\n"+
		"10,Reed & Rush,2027-02-20,slice-90,1,10,-10,,\n", true)
	var at []string
	for _, f := range imp.Faults {
		at = append(at, fmt.Sprintf("%d %s", f.Line, f.Column))
		assert.NotRegexp(t, "expected |string to be", f.Message)
	}
	assert.Equal(t, []string{"3 supplier", "4 received_on", "5 material", "6 pack", "7 packs", "8 price", "9 received_on", "10 rejects", "11 supplier", "12 price"}, at)
	assert.Contains(t, imp.Faults[3].Message, "say its density first")
	assert.False(t, imp.Saved)
	assert.Zero(t, s.count("receipts"))
	assert.Zero(t, s.count("movements"))
}

func TestWhatIsTakenOutAsATableIsTakenInAgain(t *testing.T) {
	s := open(t)
	_, err := s.Add(ctx, stores.NewMaterial{MaterialForm: stores.MaterialForm{Name: "=Reed, \"fine\"", Kind: "finish", Unit: "g", Hazard: "-dust\nmask", LeadDays: 3}, UnitCost: "1.5"})
	require.NoError(t, err)
	s.purchases(parcels, true)
	_, err = s.Buy(ctx, stores.NewReceipt{Supplier: "Weir Blanks", ReceivedOn: "2027-02-25", Tax: "3.20", Lines: []stores.NewPurchase{
		{MaterialID: s.id("slice-90"), Packs: 1, Pack: "50", Price: "57.51", Rejects: 4, Sorted: []stores.SortedBlanks{{MaterialID: s.id("slice-90"), Pieces: 30}, {MaterialID: s.id("slice-120"), Pieces: 16}}},
	}})
	require.NoError(t, err)
	materials, err := s.ExportMaterials(ctx)
	require.NoError(t, err)
	assert.Contains(t, string(materials), "'=Reed", "no spreadsheet works it out")
	bought, err := s.ExportPurchases(ctx)
	require.NoError(t, err)
	imp := s.materials(string(materials), true)
	require.Empty(t, imp.Faults)
	assert.Equal(t, []int{0, 0, imp.Rows}, []int{imp.Added, imp.Changed, imp.Same})
	imp = s.purchases(string(bought), true)
	require.Empty(t, imp.Faults)
	assert.Equal(t, []int{0, 3}, []int{imp.Added, imp.Same})

	other := open(t)
	imp = other.materials(string(materials), true)
	require.Empty(t, imp.Faults)
	assert.Equal(t, 1, imp.Added)
	imp = other.purchases(string(bought), true)
	require.Empty(t, imp.Faults)
	assert.Equal(t, 3, imp.Added)
	for _, key := range []string{"gel-medium", "slice-90", "slice-120"} {
		ours, theirs := s.card(key), other.card(key)
		assert.True(t, ours.OnHand.Equal(theirs.OnHand), key)
		assert.True(t, ours.UnitCost.Equal(theirs.UnitCost), key)
	}
	again, err := other.ExportPurchases(ctx)
	require.NoError(t, err)
	assert.Equal(t, string(bought), string(again))
}

func TestATableOverTheLimitIsRefusedWithoutReadingItOut(t *testing.T) {
	s := open(t)
	rows := strings.Repeat(",Reed varnish,sealer,ml,1\n", stores.MostRows+1)
	imp := s.materials("key,name,kind,unit,unit_cost\n"+rows, true)
	assert.Contains(t, imp.Faults, document.Fault{Line: stores.MostRows + 2, Message: "a file may have 10000 rows, and this one has more; split it"})
	assert.Equal(t, stores.MostRows, imp.Rows)

	endless := &counting{r: io.MultiReader(strings.NewReader("name,hazard\nx,\""), forever{})}
	imp, err := s.ImportMaterials(ctx, endless, stores.Importing{Tell: func(stores.Progress) {}})
	require.NoError(t, err)
	assert.Equal(t, []document.Fault{{Line: 1, Message: "the file is larger than 16 MiB; split it"}}, imp.Faults)
	assert.LessOrEqual(t, endless.read, 6*stores.MostBytes)
}

// forever is a file without an end.
type forever struct{}

func (forever) Read(p []byte) (int, error) {
	for i := range p {
		p[i] = 'x'
	}
	return len(p), nil
}

type counting struct {
	r    io.Reader
	read int
}

func (c *counting) Read(p []byte) (int, error) {
	n, err := c.r.Read(p)
	c.read += n
	return n, err
}

func TestTakingATableInTellsHowFarItIs(t *testing.T) {
	s := open(t)
	var text bytes.Buffer
	text.WriteString("name,kind,unit,unit_cost\n")
	for i := range 1200 {
		fmt.Fprintf(&text, "Reed %d,packing,piece,0.25\n", i)
	}
	var told []stores.Progress
	imp, err := s.ImportMaterials(ctx, &text, stores.Importing{Save: true, Tell: func(p stores.Progress) { told = append(told, p) }})
	require.NoError(t, err)
	assert.Equal(t, 1200, imp.Added)
	var checking []int
	for _, p := range told {
		if p.Doing == "checking" {
			checking = append(checking, p.Done)
		}
		assert.Equal(t, 1200, p.Of)
	}
	assert.Equal(t, []int{500, 1000, 1200}, checking)
	assert.Equal(t, stores.Progress{Doing: "saving", Done: 1200, Of: 1200}, told[len(told)-1])
}

func TestWhatIsSaidOfARowStaysShortWhateverStandsInIt(t *testing.T) {
	s := open(t)
	long := strings.Repeat("é", 50_000)
	for _, imp := range []stores.Import{
		s.purchases("supplier,received_on,material,pack,price\nReed,2027-02-20,"+long+",50,1\n", false),
		s.purchases("supplier,received_on,material,pack,price\nReed,2027-02-20,slice-90,"+long+",1\n", false),
		s.purchases("supplier,received_on,material,pack,price\nReed,2027-02-20,slice-90,50,"+long+"\n", false),
		s.purchases("receipt,supplier,received_on,material,pack,price\n1,Reed,2027-02-20,slice-90,50,1\n1,"+long+",,slice-90,50,1\n", false),
		s.materials("name,kind,unit,unit_cost\n"+long+",paint,ml,1\n", false),
		s.materials("name,"+strings.Repeat("x", 60_000)+"\n", false),
	} {
		require.Len(t, imp.Faults, 1)
		assert.NotEmpty(t, imp.Faults[0].Message)
		assert.LessOrEqual(t, len([]rune(imp.Faults[0].Message+imp.Faults[0].Column)), 2*301)
	}
}
