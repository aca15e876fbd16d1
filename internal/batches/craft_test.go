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
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

// stepAt is the index of a step of the plain product's recipe at the bench.
func (b *bench) stepAt(batch batches.Batch, id string) int {
	b.Helper()
	i := slices.IndexFunc(batch.Recipe.Steps, func(s craft.Step) bool { return s.ID == id })
	require.GreaterOrEqual(b, i, 0, id)
	return i
}

func (b *bench) reshape(p products.Detail, edit func(blocks map[string]craft.Step, steps []craft.Step) []craft.Step) products.Detail {
	b.Helper()
	area := b.Products
	list, err := area.BlocksFor(b.Ctx, p.ID)
	require.NoError(b, err)
	blocks := map[string]craft.Step{}
	for _, block := range list {
		blocks[block.Step.ID] = block.Step
	}
	form := p.Draft.RecipeForm
	form.Steps = edit(blocks, form.Steps)
	d, err := area.ChangeRecipe(b.Ctx, p.ID, products.RecipeChange{RecipeForm: form, Version: p.Version})
	require.NoError(b, err)
	return d
}

func TestPiecesSandedBackBecomeALotThatBeginsAgain(t *testing.T) {
	b := newBench(t)
	batch, lots := b.MakeUp(b.Plain, 5, 5)
	look := b.stepAt(batch, "inspect")
	b.Through(lots[0], 0, look-1)
	pieces := b.Pieces(batch.ID)
	run := b.TakeUp(lots[0].ID, look)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{
		CameOut: batches.CameOut{Again: []uint64{pieces[0].ID}, Rework: []uint64{pieces[1].ID}, Spoiled: []batches.SpoiledPiece{{PieceID: pieces[2].ID, Reason: "lifted"}}}}))
	after := b.Lots(batch.ID)
	require.Len(t, after, 3)
	assert.Equal(t, look+1, after[0].NextStep)
	assert.Equal(t, b.stepAt(batch, "clear-2"), after[1].NextStep, "again goes back to the last round")
	assert.Equal(t, b.stepAt(batch, "sand"), after[2].NextStep, "rework begins with the bare blank")
	assert.True(t, b.Pieces(batch.ID)[0].In(after[1].ID))
	assert.True(t, b.Pieces(batch.ID)[1].In(after[2].ID))

	require.NoError(t, b.Batches.Undo(b.Ctx, run.ID))
	require.Len(t, b.Lots(batch.ID), 1)
	for _, p := range b.Pieces(batch.ID) {
		assert.True(t, p.In(lots[0].ID))
		assert.Equal(t, batches.PieceWorking, p.State)
	}
}

func TestALotOfWhichNothingIsGoodGoesBackItself(t *testing.T) {
	b := newBench(t)
	batch, lots := b.MakeUp(b.Plain, 2, 2)
	look := b.stepAt(batch, "inspect")
	b.Through(lots[0], 0, look-1)
	pieces := b.Pieces(batch.ID)
	run := b.TakeUp(lots[0].ID, look)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{CameOut: batches.CameOut{Rework: []uint64{pieces[0].ID, pieces[1].ID}}}))
	after := b.Lots(batch.ID)
	require.Len(t, after, 1)
	assert.Equal(t, 0, after[0].NextStep)
	b.Through(after[0], 0, 2)
}

func TestOnlyTheStepsOwnOutcomesAreTaken(t *testing.T) {
	b := newBench(t)
	batch, lots := b.MakeUp(b.Plain, 2, 2)
	pieces := b.Pieces(batch.ID)
	run := b.TakeUp(lots[0].ID, 0)
	err := b.Batches.Finish(b.Ctx, run.ID, batches.Done{CameOut: batches.CameOut{Rework: []uint64{pieces[0].ID}}})
	assert.Equal(t, "rework", housetest.AtFault(t, err))
	b.Later(time.Hour)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
}

func TestAStepInsideARestIsDoneWhileItRestsAndTheRestGoesOn(t *testing.T) {
	b := newBench(t)
	sides := b.reshape(b.Plain, func(blocks map[string]craft.Step, steps []craft.Step) []craft.Step {
		step := blocks["paint-sides"]
		step.Inside = "lay"
		return slices.Insert(steps, slices.IndexFunc(steps, func(s craft.Step) bool { return s.ID == "lay" })+1, step)
	})
	batch, lots := b.MakeUp(sides, 3, 3)
	lay := b.stepAt(batch, "lay")
	b.Through(lots[0], 0, lay-1)
	run := b.TakeUp(lots[0].ID, lay)
	b.Later(20 * time.Minute)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
	b.Later(time.Hour)
	inside := b.TakeUp(lots[0].ID, lay+1) // no floor holds it back
	b.Later(15 * time.Minute)
	require.NoError(t, b.Batches.Finish(b.Ctx, inside.ID, batches.Done{}))
	_, err := b.Batches.TakeUp(b.Ctx, lots[0].ID, batches.TakeUp{PersonID: b.Person, Step: lay + 2})
	housetest.RefusedAs(t, err, problem.UnderFloor, "the rest under the print is not over")
	assert.ErrorContains(t, err, "6 h 45 min")
	b.Later(7 * time.Hour)
	b.TakeUp(lots[0].ID, lay+2)
}

func TestAStopThatNobodyHasOverruledKeepsABatchFromBeingMadeUp(t *testing.T) {
	b := newBench(t)
	wrong := false
	stopped := b.Make(products.NewProduct{Name: "Backwards", Method: "gel-lift", Look: "crisp", Lettered: true, Price: "9",
		Blank: products.BlankForm{Surface: "wood-bare", Shape: "disc", Width: "90"}, Picture: products.PictureForm{Mirrored: &wrong}})
	b.Order(stopped, 1, "Ash")
	_, err := b.Batches.Make(b.Ctx, batches.NewBatch{ProductID: stopped.ID, WantIDs: b.OpenWants(stopped.ID), Lots: []int{1}})
	housetest.RefusedAs(t, err, problem.Stopped)
	demand, err := b.Fulfilment.Demand(b.Ctx)
	require.NoError(t, err)
	i := slices.IndexFunc(demand, func(d fulfilment.Demand) bool { return d.ProductID == stopped.ID })
	assert.Contains(t, demand[i].Stopped, "not mirrored")

	_, err = b.Products.Overrule(wire.Acting(b.Ctx, wire.Actor{PersonID: b.Person}), stopped.ID, products.NewOverride{Rule: "mirror-missing", Reason: "Read in a mirror: a joke piece"})
	require.NoError(t, err)
	batch, _ := b.MakeUp(stopped, 0, 1)
	events := housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Event) error {
		return tx.Where("batch_id = ?", batch.ID).Find(into).Error
	})
	assert.True(t, slices.ContainsFunc(events, func(e batches.Event) bool {
		return e.Text == "Made with a stop overruled (mirror-missing): Read in a mirror: a joke piece"
	}))
}

func TestAPilotPieceGoesThroughRemovalFirst(t *testing.T) {
	b := newBench(t)
	b.Order(b.Plain, 6)
	proposal := func() fulfilment.Demand {
		demand, err := b.Fulfilment.Demand(b.Ctx)
		require.NoError(t, err)
		return demand[slices.IndexFunc(demand, func(d fulfilment.Demand) bool { return d.ProductID == b.Plain.ID })]
	}
	d := proposal()
	assert.NotEmpty(t, d.Pilot)
	assert.Equal(t, 1, d.Lots[0])
	wants := b.OpenWants(b.Plain.ID)
	batch, err := b.Batches.Make(b.Ctx, batches.NewBatch{ProductID: b.Plain.ID, WantIDs: wants[:4], Lots: []int{1, 3}, Pilot: true})
	require.NoError(t, err)
	lots := b.Lots(batch.ID)
	lay := b.stepAt(batch, "lay")
	b.Through(lots[1], 0, lay-1)
	_, err = b.Batches.TakeUp(b.Ctx, lots[1].ID, batches.TakeUp{PersonID: b.Person, Step: lay})
	housetest.RefusedAs(t, err, problem.Risk)
	assert.ErrorContains(t, err, "pilot piece")
	assert.NotEmpty(t, proposal().Pilot, "nothing has been through removal yet")
	b.Through(lots[0], 0, b.stepAt(batch, "clear-2"))
	b.TakeUp(lots[1].ID, lay)
	assert.Empty(t, proposal().Pilot, "it has been through once")
}

func TestSprayAndHeatOfTwoBatchesKeepAnHourApart(t *testing.T) {
	b := newBench(t)
	jar := b.Make(products.NewProduct{Name: "Jar", Method: "decal-face-up", Look: "crisp", Price: "9", Blank: products.BlankForm{Surface: "glass", Tone: "light", Shape: "cylinder", Width: "80", Height: "100"}})
	candle := b.Make(products.NewProduct{Name: "Candle", Method: "tissue-melt", Look: "crisp", Price: "9", Blank: products.BlankForm{Surface: "candle", Tone: "light", Shape: "cylinder", Width: "70", Height: "150"}})
	jars, jarLots := b.MakeUp(jar, 2, 2)
	candles, candleLots := b.MakeUp(candle, 2, 2)
	b.Through(candleLots[0], 0, b.stepAt(candles, "melt")-1)
	spray := b.stepAt(jars, "spray-seal-print")
	b.Through(jarLots[0], 0, spray-1)
	run := b.TakeUp(jarLots[0].ID, spray)
	b.Later(5 * time.Minute)
	require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{}))
	b.Later(50 * time.Minute)
	melt := batches.TakeUp{PersonID: b.Person, Step: b.stepAt(candles, "melt")}
	_, err := b.Batches.TakeUp(b.Ctx, candleLots[0].ID, melt)
	housetest.RefusedAs(t, err, problem.Risk)
	assert.ErrorContains(t, err, "an hour")
	b.Later(11 * time.Minute)
	_, err = b.Batches.TakeUp(b.Ctx, candleLots[0].ID, melt)
	assert.NoError(t, err)
}

// coldRoom reads the same air whenever it is asked.
type coldRoom weather.Air

func (c coldRoom) Read(time.Time) (weather.Air, error) { return weather.Air(c), nil }

func TestNothingWaterBasedIsBegunInAColdRoomUnlessTheRiskIsAccepted(t *testing.T) {
	b := newBench(t)
	batch, lots := b.MakeUp(b.Plain, 2, 2)
	base := b.stepAt(batch, "base")
	b.Through(lots[0], 0, base-1)
	shop := workshop.New(b.DB, func() time.Time { return b.Now }, coldRoom{Celsius: 8, Humidity: 0.6})
	require.NoError(t, shop.KeepReading(b.Ctx))
	_, err := b.Batches.TakeUp(b.Ctx, lots[0].ID, batches.TakeUp{PersonID: b.Person, Step: base})
	housetest.RefusedAs(t, err, problem.Risk)
	assert.ErrorContains(t, err, "8 °C")
	_, err = b.Batches.TakeUp(b.Ctx, lots[0].ID, batches.TakeUp{PersonID: b.Person, Step: base, AcceptRisk: true})
	require.NoError(t, err)
	events := housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Event) error {
		return tx.Where("batch_id = ?", batch.ID).Find(into).Error
	})
	assert.True(t, slices.ContainsFunc(events, func(e batches.Event) bool {
		return strings.Contains(e.Text, "begun at accepted risk: The room is at 8 °C")
	}))
}

func TestHandInHandStepsAreOneAtTheBench(t *testing.T) {
	b := newBench(t)
	stained := b.reshape(b.Plain, func(blocks map[string]craft.Step, steps []craft.Step) []craft.Step {
		return slices.Insert(steps, 7, blocks["stain"], blocks["wipe-stain"])
	})
	batch, lots := b.MakeUp(stained, 2, 2)
	i := b.stepAt(batch, "stain")
	assert.Equal(t, "Gel stain, then wipe the stain back", batch.Recipe.Steps[i].Name)
	b.Through(lots[0], 0, len(batch.Recipe.Steps)-1)
	assert.NotNil(t, b.Lots(batch.ID)[0].ClosedAt)
}

func TestEveryMethodIsWorkedThroughToHandOver(t *testing.T) {
	b := newBench(t)
	for _, m := range craft.Methods() {
		p := b.Make(products.NewProduct{Name: m.Name, Method: m.Key, Look: "crisp", Price: "20",
			Blank: products.BlankForm{Surface: m.Surfaces[0], Tone: "light", Shape: "rectangle", Width: "100", Height: "80", Thickness: "4"}})
		order := b.Order(p, 1)
		batch, lots := b.MakeUp(p, 0, 1)
		for step := range batch.Recipe.Steps {
			b.Through(lots[0], step, step)
			b.Later(48 * time.Hour) // with the day that through rests: as long as any floor
		}
		assert.Equal(t, batches.PieceFinished, b.Pieces(batch.ID)[0].State, m.Key)
		require.NoError(t, b.Fulfilment.HandOver(b.Ctx, order.ID, b.OrderNow(order.ID).Version), m.Key)
		assert.Equal(t, batches.PieceHandedOver, b.Pieces(batch.ID)[0].State, m.Key)
	}
}
