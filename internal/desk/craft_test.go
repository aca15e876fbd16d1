package desk_test

import (
	"bytes"
	"compress/zlib"
	"io"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/internal/batches"
	"tidykiln/internal/desk"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/planning"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

// insert puts a building block into the product's recipe, after a step, inside its rest.
func (b *bench) insertInside(block, after string) {
	b.Helper()
	d, err := b.Products.Get(b.Ctx, b.Product)
	require.NoError(b, err)
	blocks, err := b.Products.BlocksFor(b.Ctx, b.Product)
	require.NoError(b, err)
	step := blocks[slices.IndexFunc(blocks, func(f products.BlockFor) bool { return f.Step.ID == block })].Step
	step.Inside = after
	form := d.Draft.RecipeForm
	at := slices.IndexFunc(form.Steps, func(s craft.Step) bool { return s.ID == after })
	form.Steps = slices.Insert(form.Steps, at+1, step)
	_, err = b.Products.ChangeRecipe(b.Ctx, b.Product, products.RecipeChange{RecipeForm: form, Version: d.Version})
	require.NoError(b, err)
}

func TestAStepInsideARestIsPlannedThereAndReadyThere(t *testing.T) {
	b := newBench(t)
	b.insertInside("paint-sides", "lay")
	lot := b.MakeLot(3)
	steps := func() map[string]desk.LotStep {
		page, err := b.Desk.Lot(b.Ctx, lot)
		require.NoError(t, err)
		by := map[string]desk.LotStep{}
		for _, s := range page.Steps {
			by[s.Name] = s
		}
		return by
	}
	s := steps()
	require.NotNil(t, s["Paint the sides"].Start)
	assert.False(t, s["Paint the sides"].Start.Before(*s["Lay"].End))
	assert.False(t, s["Paint the sides"].End.After(*s["Clear the paper, first round"].Start))
	assert.GreaterOrEqual(t, s["Clear the paper, first round"].Start.Sub(*s["Lay"].End), 8*time.Hour, "the rest under the print is whole")

	for step, when := range []string{"09:00", "09:20", "12:00", "12:20"} {
		b.At(1, when)
		b.Step(lot, step, 15)
	}
	ready := b.Ready()
	require.Len(t, ready, 1)
	assert.Equal(t, "Paint the sides", ready[0].StepName)
	require.NotNil(t, ready[0].WhileResting)
	assert.Equal(t, "2 06:35", ready[0].WhileResting.Format("2 15:04"))
	before := *steps()["Clear the paper, first round"].Start
	run := b.TakeUp(lot, 4)
	require.Len(t, b.Today().InHand, 1)
	assert.Equal(t, before, *steps()["Clear the paper, first round"].Start, "in hand inside the rest, and the rest goes on")
	require.NoError(t, b.Batches.GiveBack(b.Ctx, run.ID))
	b.Step(lot, 4, 15)
	assert.Equal(t, before, *steps()["Clear the paper, first round"].Start)
	resting := b.Today().Resting
	require.Len(t, resting, 1)
	assert.Equal(t, "Lay", resting[0].After, "it still rests from the lay")
	plan, err := b.Planning.Days(b.Ctx, "", 3)
	require.NoError(t, err)
	rests := slices.DeleteFunc(plan.Rests, func(r planning.Resting) bool { return r.Name != "Lay" })
	require.Len(t, rests, 1)
	assert.Equal(t, before, rests[0].End)
}

func TestLotsWaitForTheirPilotInThePlan(t *testing.T) {
	b := newBench(t)
	batch, err := b.Batches.Make(b.Ctx, batches.NewBatch{ProductID: b.Product, WantIDs: []uint64{}, Extras: 4, Lots: []int{1, 3}, Pilot: true})
	require.NoError(t, err)
	page, err := b.Desk.Batch(b.Ctx, batch.ID)
	require.NoError(t, err)
	require.Len(t, page.Lots, 2)
	assert.True(t, page.Lots[0].Pilot)
	starts := map[int]map[string]desk.LotStep{}
	for _, l := range page.Lots {
		lot, err := b.Desk.Lot(b.Ctx, l.LotID)
		require.NoError(t, err)
		starts[l.Lot] = map[string]desk.LotStep{}
		for _, s := range lot.Steps {
			starts[l.Lot][s.Name] = s
		}
	}
	waits := func() map[int]bool {
		waits := map[int]bool{}
		for _, r := range b.Ready() {
			waits[r.Lot] = r.WaitsForPilot
		}
		return waits
	}
	assert.Equal(t, map[int]bool{1: false, 2: false}, waits(), "both can be sanded")
	through := starts[1]["Clear the paper, second round"].End
	assert.False(t, starts[2]["Lay"].Start.Before(*through))
	assert.Equal(t, "the pilot piece of its batch goes first until "+through.Format("Monday 15:04"), starts[2]["Lay"].Because)
	assert.True(t, starts[2]["Base coat"].End.Before(*through), "what comes before the lay does not wait")
	for step := range 3 {
		b.Step(page.Lots[1].LotID, step, 15)
	}
	b.At(2, "09:00")
	assert.Equal(t, map[int]bool{1: false, 2: true}, waits())
	_, err = b.Desk.Batch(b.Ctx, 999)
	housetest.Missing(t, err)
}

func TestTheChooserRanksByWhatFitsAndHowLongItTakesHere(t *testing.T) {
	b := newBench(t)
	wish := desk.Wish{Blank: products.BlankForm{Surface: "wood-painted", Tone: "light", Shape: "rectangle", Width: "20 cm", Height: "10 cm", Thickness: "18 mm"},
		Look: "crisp", Lettered: true, Printers: []craft.PrintKind{craft.Toner}, Pieces: 6}
	c, err := b.Desk.Choose(b.Ctx, wish)
	require.NoError(t, err)
	require.Len(t, c.Methods, 15)
	assert.Empty(t, c.Instead)
	by := map[string]desk.Ranked{}
	for _, m := range c.Methods {
		by[m.Key] = m
	}
	quick, cream := by["varnish-lift"], by["transfer-cream"]
	require.NotNil(t, quick.ReadyAt)
	assert.True(t, cream.ReadyAt.After(quick.ReadyAt.Add(48*time.Hour)), "the cream's base cures for three days")
	assert.Positive(t, quick.LayToHandOver)
	assert.Positive(t, quick.HandsMinutes)
	assert.NotEmpty(t, quick.Bars)
	assert.True(t, quick.Mirror)
	assert.False(t, by["tape-lift"].Fits)
	assert.Contains(t, by["tape-lift"].Against, "It does not hold on painted wood.")

	wish.Days = 3
	c, err = b.Desk.Choose(b.Ctx, wish)
	require.NoError(t, err)
	at := func(key string) int {
		return slices.IndexFunc(c.Methods, func(m desk.Ranked) bool { return m.Key == key })
	}
	assert.False(t, c.Methods[at("clearcoat-lift")].InTime)
	assert.Less(t, at("varnish-lift"), at("clearcoat-lift"))

	wish.Blank.Surface, wish.Blank.Tone = "candle", "dark"
	c, err = b.Desk.Choose(b.Ctx, wish)
	require.NoError(t, err)
	assert.Equal(t, []string{"Use a white or ivory candle."}, c.Instead)
	wish.Blank.Width = "wide"
	_, err = b.Desk.Choose(b.Ctx, wish)
	assert.Equal(t, "blank.width", housetest.AtFault(t, err))
}

func TestTheChooserSaysWhenNobodyWorks(t *testing.T) {
	b := newBench(t)
	b.Change(func(w *workshop.Workshop) { w.People[0].Hours = []calendar.Hours{} })
	c, err := b.Desk.Choose(b.Ctx, desk.Wish{Blank: products.BlankForm{Surface: "glass", Shape: "disc", Width: "80"}, Look: "crisp", Printers: []craft.PrintKind{craft.Toner}, Pieces: 1})
	require.NoError(t, err)
	assert.Contains(t, c.Methods[0].Against, "Not even one piece fits a sitting and its racks.")
}

func TestTheBatchCardIsAPDFWithACodeThatOpensTheBatch(t *testing.T) {
	b := newBench(t)
	b.OrderFor("2027-03-19", 3)
	b.MakeLot(1)
	pdf, err := b.Desk.Card(b.Ctx, 1)
	require.NoError(t, err)
	assert.True(t, bytes.HasPrefix(pdf, []byte("%PDF-1.")))
	assert.Greater(t, len(pdf), 20_000)
	assert.NotContains(t, wordsOf(t, pdf), "Reed Club", "whoever may not know for whom is not told")
	maker := wire.Acting(b.Ctx, wire.Actor{Role: wire.RoleMaker})
	pdf, err = b.Desk.Card(maker, 1)
	require.NoError(t, err)
	assert.Contains(t, wordsOf(t, pdf), "Reed Club")
	_, err = b.Desk.Card(b.Ctx, 99)
	housetest.Missing(t, err)
}

// wordsOf are the texts of a PDF's pages, which are written in UTF-16.
func wordsOf(t *testing.T, pdf []byte) string {
	var words strings.Builder
	for _, part := range bytes.Split(pdf, []byte("stream\n"))[1:] {
		in, err := zlib.NewReader(bytes.NewReader(part))
		if err != nil {
			continue // not a compressed one
		}
		text, _ := io.ReadAll(in) // up to where the stream ends
		words.Write(bytes.ReplaceAll(text, []byte{0}, nil))
	}
	require.Contains(t, words.String(), "pieces")
	return words.String()
}

func TestADampRoomSaysSoBesideWhatRests(t *testing.T) {
	b := newBench(t)
	lot := b.MakeLot(2)
	b.Step(lot, 0, 15)
	b.Step(lot, 1, 15)
	assert.Nil(t, b.Today().Resting[0].SlowReady, "nobody has read the room")
	_, err := b.Workshop.ChangeRoom(b.Ctx, workshop.RoomChange{Simulating: true, Raining: true})
	require.NoError(t, err)
	b.Now = b.Now.Add(time.Minute)
	resting := b.Today().Resting[0]
	require.NotNil(t, resting.SlowReady)
	assert.True(t, resting.SlowReady.After(resting.Ready))
}

func TestEveryMethodIsPlannedFromItsFirstStepToItsLast(t *testing.T) {
	b := newBench(t)
	for _, m := range craft.Methods() {
		made, err := b.Products.Make(b.Ctx, products.NewProduct{Name: m.Name, Method: m.Key, Look: "crisp",
			Blank: products.BlankForm{Surface: m.Surfaces[0], Tone: "light", Shape: "rectangle", Width: "100", Height: "80", Thickness: "4"}})
		require.NoError(t, err, m.Key)
		assert.True(t, made.Price.IsPositive(), "%s is costed", m.Key)
		batch, err := b.Batches.Make(b.Ctx, batches.NewBatch{ProductID: made.ID, WantIDs: []uint64{}, Extras: 2, Lots: []int{2}})
		require.NoError(t, err, m.Key)
		page, err := b.Desk.Batch(b.Ctx, batch.ID)
		require.NoError(t, err)
		lot, err := b.Desk.Lot(b.Ctx, page.Lots[0].LotID)
		require.NoError(t, err)
		assert.Empty(t, lot.Unplanned, m.Key)
		require.NotNil(t, lot.ReadyAt, m.Key)
		for _, s := range lot.Steps {
			assert.NotNil(t, s.Start, "%s: %s", m.Key, s.Name)
		}
	}
}

func TestAMissedWindowSaysWhatToDo(t *testing.T) {
	b := newBench(t)
	lot := b.MakeLot(4)
	for step, when := range []string{"1 09:00", "1 09:20", "1 12:00", "1 12:20", "2 09:00", "2 10:30", "2 12:00", "2 12:30"} {
		at, err := time.Parse("2 15:04", when)
		require.NoError(t, err)
		b.At(at.Day(), at.Format("15:04"))
		b.Step(lot, step, 15)
	}
	b.At(4, "12:40")
	require.Len(t, b.Ready(), 1)
	assert.Nil(t, b.Ready()[0].Missed)
	b.At(4, "12:44")
	missed := b.Ready()[0].Missed
	require.NotNil(t, missed)
	assert.Contains(t, missed.Fix, "sand until evenly dull")
}

func TestABatchSaysBeforeItIsMadeUpWhichPromisesItsPilotMoves(t *testing.T) {
	b := newBench(t)
	o := b.OrderFor("2027-03-05", 4)
	before := b.Row(o.ID)
	require.NotEqual(t, planning.ReadyLate, before.Readiness.State)
	var wants []uint64
	for _, l := range o.Lines {
		for _, w := range l.Wants {
			wants = append(wants, w.ID)
		}
	}
	in := batches.NewBatch{ProductID: b.Product, WantIDs: wants, Lots: []int{1, 3}, Pilot: true}
	answer, err := b.Planning.AskBatch(b.Ctx, in)
	require.NoError(t, err)
	require.Len(t, answer.Moves, 1)
	assert.True(t, answer.Moves[0].Later)
	assert.Equal(t, o.ID, answer.Moves[0].OrderID)
	assert.Empty(t, answer.WithoutPilot)

	_, err = b.Batches.Make(b.Ctx, in)
	require.NoError(t, err)
	after := b.Row(o.ID)
	assert.Equal(t, answer.Moves[0].ToOn, calendar.DateOf(*after.Readiness.At, time.UTC), "asked and made up come to the same")
	assert.Equal(t, answer.Moves[0].ToLate, after.Readiness.State == planning.ReadyLate)

	for field, in := range map[string]batches.NewBatch{
		"body.productId": {ProductID: 999, Lots: []int{1}, Extras: 1},
		"body.lots[0]":   {ProductID: b.Product, Lots: []int{1 << 40}, Extras: 1},
		"body.lots":      {ProductID: b.Product, Lots: []int{2}, Extras: 1},
	} {
		_, err := b.Planning.AskBatch(b.Ctx, in)
		var refused *problem.Problem
		require.ErrorAs(t, err, &refused)
		assert.Equal(t, field, refused.Errors[0].Location)
	}
}
