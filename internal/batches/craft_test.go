package batches_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/weather"
	"tidykiln/internal/batches"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

// stepAt is the index of a step of the plain product's recipe at the bench.
func (b *bench) stepAt(batch batches.Batch, id string) int {
	b.Helper()
	i := slices.IndexFunc(batch.Recipe.Steps, func(s craft.Step) bool { return s.ID == id })
	require.GreaterOrEqual(b, i, 0, id)
	return i
}

func (b *bench) product(in products.NewProduct) products.Detail {
	b.Helper()
	d, err := products.New(b.db, func() time.Time { return b.now }).Make(b.ctx, in)
	require.NoError(b, err)
	return d
}

func (b *bench) reshape(p products.Detail, edit func(blocks map[string]craft.Step, steps []craft.Step) []craft.Step) products.Detail {
	b.Helper()
	area := products.New(b.db, func() time.Time { return b.now })
	list, err := area.BlocksFor(b.ctx, p.ID)
	require.NoError(b, err)
	blocks := map[string]craft.Step{}
	for _, block := range list {
		blocks[block.Step.ID] = block.Step
	}
	form := p.Draft.RecipeForm
	form.Steps = edit(blocks, form.Steps)
	d, err := area.ChangeRecipe(b.ctx, p.ID, products.RecipeChange{RecipeForm: form, Version: p.Version})
	require.NoError(b, err)
	return d
}

func TestPiecesSandedBackBecomeALotThatBeginsAgain(t *testing.T) {
	b := newBench(t)
	batch, lots := b.make(b.plain, 5, 5)
	look := b.stepAt(batch, "inspect")
	b.through(lots[0], 0, look-1)
	pieces := b.pieces(batch.ID)
	run := b.takeUp(lots[0], look)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{
		Again: []uint64{pieces[0].ID}, Rework: []uint64{pieces[1].ID}, Spoiled: []batches.SpoiledPiece{{PieceID: pieces[2].ID, Reason: "lifted"}}}))
	after := b.lots(batch.ID)
	require.Len(t, after, 3)
	assert.Equal(t, look+1, after[0].NextStep)
	assert.Equal(t, b.stepAt(batch, "clear-2"), after[1].NextStep, "again goes back to the last round")
	assert.Equal(t, b.stepAt(batch, "sand"), after[2].NextStep, "rework begins with the bare blank")
	assert.True(t, b.pieces(batch.ID)[0].In(after[1].ID))
	assert.True(t, b.pieces(batch.ID)[1].In(after[2].ID))

	require.NoError(t, b.batches.Undo(b.ctx, run.ID))
	require.Len(t, b.lots(batch.ID), 1)
	for _, p := range b.pieces(batch.ID) {
		assert.True(t, p.In(lots[0].ID))
		assert.Equal(t, batches.PieceWorking, p.State)
	}
}

func TestALotOfWhichNothingIsGoodGoesBackItself(t *testing.T) {
	b := newBench(t)
	batch, lots := b.make(b.plain, 2, 2)
	look := b.stepAt(batch, "inspect")
	b.through(lots[0], 0, look-1)
	pieces := b.pieces(batch.ID)
	run := b.takeUp(lots[0], look)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{Rework: []uint64{pieces[0].ID, pieces[1].ID}}))
	after := b.lots(batch.ID)
	require.Len(t, after, 1)
	assert.Equal(t, 0, after[0].NextStep)
	b.through(after[0], 0, 2)
}

func TestOnlyTheStepsOwnOutcomesAreTaken(t *testing.T) {
	b := newBench(t)
	batch, lots := b.make(b.plain, 2, 2)
	pieces := b.pieces(batch.ID)
	run := b.takeUp(lots[0], 0)
	err := b.batches.Finish(b.ctx, run.ID, batches.Done{Rework: []uint64{pieces[0].ID}})
	assert.ErrorContains(t, err, "cannot be sanded back")
	b.later(time.Hour)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
}

func TestAStepInsideARestIsDoneWhileItRestsAndTheRestGoesOn(t *testing.T) {
	b := newBench(t)
	sides := b.reshape(b.plain, func(blocks map[string]craft.Step, steps []craft.Step) []craft.Step {
		step := blocks["paint-sides"]
		step.Inside = "lay"
		return slices.Insert(steps, slices.IndexFunc(steps, func(s craft.Step) bool { return s.ID == "lay" })+1, step)
	})
	batch, lots := b.make(sides, 3, 3)
	lay := b.stepAt(batch, "lay")
	b.through(lots[0], 0, lay-1)
	run := b.takeUp(lots[0], lay)
	b.later(20 * time.Minute)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
	b.later(time.Hour)
	inside := b.takeUp(lots[0], lay+1) // no floor holds it back
	b.later(15 * time.Minute)
	require.NoError(t, b.batches.Finish(b.ctx, inside.ID, batches.Done{}))
	_, err := b.batches.TakeUp(b.ctx, lots[0].ID, batches.TakeUp{PersonID: b.person, Step: lay + 2})
	assert.Equal(t, problem.UnderFloor, problemOf(t, err).Type, "the rest under the print is not over")
	assert.ErrorContains(t, err, "6 h 45 min")
	b.later(7 * time.Hour)
	b.takeUp(lots[0], lay+2)
}

func TestAStopThatNobodyHasOverruledKeepsABatchFromBeingMadeUp(t *testing.T) {
	b := newBench(t)
	wrong := false
	stopped := b.product(products.NewProduct{Name: "Backwards", Method: "gel-lift", Look: "crisp", Lettered: true, Price: "9",
		Blank: products.BlankForm{Surface: "wood-bare", Shape: "disc", Width: "90"}, Picture: products.PictureForm{Mirrored: &wrong}})
	b.order(stopped, 1, "Ash")
	_, err := b.batches.Make(b.ctx, batches.NewBatch{ProductID: stopped.ID, WantIDs: b.openWants(stopped), Lots: []int{1}})
	assert.Equal(t, problem.Stopped, problemOf(t, err).Type)
	demand, err := b.batches.Demand(b.ctx)
	require.NoError(t, err)
	i := slices.IndexFunc(demand, func(d batches.Demand) bool { return d.ProductID == stopped.ID })
	assert.Contains(t, demand[i].Stopped, "not mirrored")

	_, err = products.New(b.db, func() time.Time { return b.now }).Overrule(b.ctx, stopped.ID, products.NewOverride{Rule: "mirror-missing", Reason: "Read in a mirror: a joke piece", PersonID: b.person})
	require.NoError(t, err)
	batch, _ := b.make(stopped, 0, 1)
	events := read(b, func(tx *gorm.DB, into *[]batches.Event) error {
		return tx.Where("batch_id = ?", batch.ID).Find(into).Error
	})
	assert.True(t, slices.ContainsFunc(events, func(e batches.Event) bool {
		return e.Text == "Made with a stop overruled (mirror-missing): Read in a mirror: a joke piece"
	}))
}

func TestAPilotPieceGoesThroughRemovalFirst(t *testing.T) {
	b := newBench(t)
	b.order(b.plain, 6)
	proposal := func() batches.Demand {
		demand, err := b.batches.Demand(b.ctx)
		require.NoError(t, err)
		return demand[slices.IndexFunc(demand, func(d batches.Demand) bool { return d.ProductID == b.plain.ID })]
	}
	d := proposal()
	assert.NotEmpty(t, d.Pilot)
	assert.Equal(t, 1, d.Lots[0])
	wants := b.openWants(b.plain)
	batch, err := b.batches.Make(b.ctx, batches.NewBatch{ProductID: b.plain.ID, WantIDs: wants[:4], Lots: []int{1, 3}, Pilot: true})
	require.NoError(t, err)
	lots := b.lots(batch.ID)
	lay := b.stepAt(batch, "lay")
	b.through(lots[1], 0, lay-1)
	_, err = b.batches.TakeUp(b.ctx, lots[1].ID, batches.TakeUp{PersonID: b.person, Step: lay})
	assert.Equal(t, problem.Risk, problemOf(t, err).Type)
	assert.ErrorContains(t, err, "pilot piece")
	assert.NotEmpty(t, proposal().Pilot, "nothing has been through removal yet")
	b.through(lots[0], 0, b.stepAt(batch, "clear-2"))
	b.takeUp(lots[1], lay)
	assert.Empty(t, proposal().Pilot, "it has been through once")
}

func TestSprayAndHeatOfTwoBatchesKeepAnHourApart(t *testing.T) {
	b := newBench(t)
	jar := b.product(products.NewProduct{Name: "Jar", Method: "decal-face-up", Look: "crisp", Price: "9", Blank: products.BlankForm{Surface: "glass", Tone: "light", Shape: "cylinder", Width: "80", Height: "100"}})
	candle := b.product(products.NewProduct{Name: "Candle", Method: "tissue-melt", Look: "crisp", Price: "9", Blank: products.BlankForm{Surface: "candle", Tone: "light", Shape: "cylinder", Width: "70", Height: "150"}})
	jars, jarLots := b.make(jar, 2, 2)
	candles, candleLots := b.make(candle, 2, 2)
	b.through(candleLots[0], 0, b.stepAt(candles, "melt")-1)
	spray := b.stepAt(jars, "spray-seal-print")
	b.through(jarLots[0], 0, spray-1)
	run := b.takeUp(jarLots[0], spray)
	b.later(5 * time.Minute)
	require.NoError(t, b.batches.Finish(b.ctx, run.ID, batches.Done{}))
	b.later(50 * time.Minute)
	melt := batches.TakeUp{PersonID: b.person, Step: b.stepAt(candles, "melt")}
	_, err := b.batches.TakeUp(b.ctx, candleLots[0].ID, melt)
	assert.Equal(t, problem.Risk, problemOf(t, err).Type)
	assert.ErrorContains(t, err, "an hour")
	b.later(11 * time.Minute)
	_, err = b.batches.TakeUp(b.ctx, candleLots[0].ID, melt)
	assert.NoError(t, err)
}

// coldRoom reads the same air whenever it is asked.
type coldRoom weather.Air

func (c coldRoom) Read(time.Time) (weather.Air, error) { return weather.Air(c), nil }

func TestNothingWaterBasedIsBegunInAColdRoomUnlessTheRiskIsAccepted(t *testing.T) {
	b := newBench(t)
	batch, lots := b.make(b.plain, 2, 2)
	base := b.stepAt(batch, "base")
	b.through(lots[0], 0, base-1)
	shop := workshop.New(b.db, func() time.Time { return b.now }, coldRoom{Celsius: 8, Humidity: 0.6})
	require.NoError(t, shop.KeepReading(b.ctx))
	_, err := b.batches.TakeUp(b.ctx, lots[0].ID, batches.TakeUp{PersonID: b.person, Step: base})
	assert.Equal(t, problem.Risk, problemOf(t, err).Type)
	assert.ErrorContains(t, err, "8 °C")
	_, err = b.batches.TakeUp(b.ctx, lots[0].ID, batches.TakeUp{PersonID: b.person, Step: base, AcceptRisk: true})
	require.NoError(t, err)
	events := read(b, func(tx *gorm.DB, into *[]batches.Event) error {
		return tx.Where("batch_id = ?", batch.ID).Find(into).Error
	})
	assert.True(t, slices.ContainsFunc(events, func(e batches.Event) bool {
		return strings.Contains(e.Text, "begun at accepted risk: The room is at 8 °C")
	}))
}

func TestHandInHandStepsAreOneAtTheBench(t *testing.T) {
	b := newBench(t)
	stained := b.reshape(b.plain, func(blocks map[string]craft.Step, steps []craft.Step) []craft.Step {
		return slices.Insert(steps, 7, blocks["stain"], blocks["wipe-stain"])
	})
	batch, lots := b.make(stained, 2, 2)
	i := b.stepAt(batch, "stain")
	assert.Equal(t, "Gel stain, then wipe the stain back", batch.Recipe.Steps[i].Name)
	b.through(lots[0], 0, len(batch.Recipe.Steps)-1)
	assert.NotNil(t, b.lots(batch.ID)[0].ClosedAt)
}

func TestEveryMethodIsWorkedThroughToHandOver(t *testing.T) {
	b := newBench(t)
	for _, m := range craft.Methods() {
		p := b.product(products.NewProduct{Name: m.Name, Method: m.Key, Look: "crisp", Price: "20",
			Blank: products.BlankForm{Surface: m.Surfaces[0], Tone: "light", Shape: "rectangle", Width: "100", Height: "80", Thickness: "4"}})
		order := b.order(p, 1)
		batch, lots := b.make(p, 0, 1)
		for step := range batch.Recipe.Steps {
			b.through(lots[0], step, step)
			b.later(48 * time.Hour) // with the day that through rests: as long as any floor
		}
		assert.Equal(t, batches.PieceFinished, b.pieces(batch.ID)[0].State, m.Key)
		require.NoError(t, b.batches.HandOver(b.ctx, order.ID, b.orderNow(order.ID).Version), m.Key)
		assert.Equal(t, batches.PieceHandedOver, b.pieces(batch.ID)[0].State, m.Key)
	}
}
