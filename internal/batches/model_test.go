package batches_test

import (
	"context"
	"errors"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"
	"pgregory.net/rapid"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/internal/batches"
	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/stores"
	"tidykiln/internal/trade"
)

// A long day of random acts, sensible and not, leaves nothing lost and nothing
// counted twice. Refusals are fine; anything else that goes wrong is not.
func TestWhateverIsDoneNothingIsLostOrCountedTwice(t *testing.T) {
	b := newBench(t)
	b.Plain = b.reshape(b.Plain, func(blocks map[string]craft.Step, steps []craft.Step) []craft.Step {
		sides := blocks["paint-sides"]
		sides.Inside = "lay"
		return slices.Insert(steps, slices.IndexFunc(steps, func(s craft.Step) bool { return s.ID == "lay" })+1, sides)
	})
	rapid.Check(t, func(rt *rapid.T) {
		for range rapid.IntRange(3, 15).Draw(rt, "acts") {
			b.Later(time.Duration(rapid.IntRange(1, 900).Draw(rt, "minutes later")) * time.Minute)
			err := b.randomAct(rt)
			var refused *problem.Problem
			if err != nil {
				require.ErrorAs(rt, err, &refused)
				require.Less(rt, refused.Status, 500)
			}
			b.checkInvariants(rt)
		}
	})
}

func (b *bench) randomAct(rt *rapid.T) error {
	act := rapid.SampledFrom([]string{"order", "batch", "take up", "take up", "sit", "sit", "put down", "resume", "done together", "done together", "undo together", "give back together", "work on", "work on", "done", "done", "done", "undo", "give back", "hand over", "cancel", "abandon", "count shelf", "take off shelf", "reverse shelf"}).Draw(rt, "act")
	switch act {
	case "order":
		return b.randomOrder(rt)
	case "batch":
		return b.randomBatch(rt)
	case "take up":
		lot, found := pick(rt, b, "lot", func(tx *gorm.DB) *gorm.DB { return tx.Where("closed_at IS NULL") }, batches.Lot{})
		if !found {
			return nil
		}
		_, err := b.Batches.TakeUp(b.Ctx, lot.ID, batches.TakeUp{PersonID: b.Person, Step: lot.NextStep, AcceptRisk: rapid.Bool().Draw(rt, "risk")})
		return err
	case "work on":
		return b.workOn(rt)
	case "done":
		return b.randomDone(rt)
	case "sit":
		return b.randomSitting(rt)
	case "undo":
		if run, found := pick(rt, b, "run", func(tx *gorm.DB) *gorm.DB { return tx.Where("ended_at IS NOT NULL") }, batches.Run{}); found {
			return b.Batches.Undo(b.Ctx, run.ID)
		}
	case "give back":
		if run, found := pick(rt, b, "run", func(tx *gorm.DB) *gorm.DB { return tx.Where("ended_at IS NULL") }, batches.Run{}); found {
			return b.Batches.GiveBack(b.Ctx, run.ID)
		}
	case "hand over":
		if o, found := pick(rt, b, "order", func(tx *gorm.DB) *gorm.DB { return tx }, orders.Order{}); found {
			return b.Fulfilment.HandOver(b.Ctx, o.ID, o.Version)
		}
	case "cancel":
		if o, found := pick(rt, b, "order", func(tx *gorm.DB) *gorm.DB { return tx.Where("state = 'open'") }, orders.Order{}); found {
			return b.Trade.Cancel(b.Ctx, o.ID, trade.Cancelling{Version: o.Version})
		}
	case "abandon":
		if batch, found := pick(rt, b, "batch", func(tx *gorm.DB) *gorm.DB { return tx }, batches.Batch{}); found {
			return b.Batches.Abandon(b.Ctx, batch.ID, batch.Version)
		}
	case "put down", "resume", "done together", "undo together", "give back together":
		return b.randomSittingAct(rt, act)
	default:
		return b.randomShelfAct(rt, act)
	}
	return nil
}

// randomSitting takes up some lots together, whether or not they are of one kin.
func (b *bench) randomSitting(rt *rapid.T) error {
	in := batches.Together{PersonID: b.Person, AcceptRisk: true}
	lots := housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Lot) error {
		return tx.Where("closed_at IS NULL AND id NOT IN (SELECT lot_id FROM runs WHERE ended_at IS NULL)").Order("next_step, id").Find(into).Error
	})
	if len(lots) == 0 {
		return nil
	}
	from := rapid.IntRange(0, len(lots)-1).Draw(rt, "from")
	for _, l := range lots[from:min(len(lots), from+rapid.IntRange(1, 4).Draw(rt, "lots"))] {
		in.Lots = append(in.Lots, batches.NextStep{LotID: l.ID, Step: l.NextStep})
	}
	_, err := b.Batches.TakeUpTogether(b.Ctx, in)
	return err
}

func (b *bench) randomSittingAct(rt *rapid.T, act string) error {
	if act == "put down" || act == "resume" {
		run, found := pick(rt, b, "run", func(tx *gorm.DB) *gorm.DB { return tx.Where("ended_at IS NULL") }, batches.Run{})
		switch {
		case !found:
			return nil
		case act == "put down":
			return b.Batches.PutDown(b.Ctx, run.ID)
		}
		return b.Batches.Resume(b.Ctx, run.ID)
	}
	sitting, found := pick(rt, b, "sitting", func(tx *gorm.DB) *gorm.DB { return tx }, batches.Sitting{})
	switch {
	case !found:
		return nil
	case act == "undo together":
		return b.Batches.UndoTogether(b.Ctx, sitting.ID)
	case act == "give back together":
		return b.Batches.GiveBackTogether(b.Ctx, sitting.ID)
	case rapid.Bool().Draw(rt, "put down first"):
		return errors.Join(b.Batches.PutDownTogether(b.Ctx, sitting.ID), b.Batches.ResumeTogether(b.Ctx, sitting.ID))
	}
	return b.Batches.FinishTogether(b.Ctx, sitting.ID, batches.DoneTogether{})
}

func (b *bench) randomShelfAct(rt *rapid.T, act string) error {
	product := rapid.SampledFrom([]products.Detail{b.Plain, b.Lettered}).Draw(rt, "product")
	pieces := rapid.IntRange(0, 4).Draw(rt, "pieces")
	switch act {
	case "count shelf":
		_, err := b.Fulfilment.CountShelf(b.Ctx, product.ID, fulfilment.ShelfCount{Pieces: pieces})
		return err
	case "take off shelf":
		lettering := rapid.SampledFrom([]string{"", "Ash"}).Draw(rt, "lettering")
		_, err := b.Fulfilment.TakeOffShelf(b.Ctx, product.ID, fulfilment.ShelfLoss{Pieces: pieces, Cause: stores.CauseSpoil, Lettering: lettering})
		return err
	}
	move, found := pick(rt, b, "movement", func(tx *gorm.DB) *gorm.DB { return tx }, fulfilment.ShelfMovement{})
	if !found {
		return nil
	}
	_, err := b.Fulfilment.ReverseShelf(b.Ctx, move.ID)
	return err
}

// pick draws one of the rows of T's table that the condition holds for.
func pick[T any](rt *rapid.T, b *bench, label string, where func(*gorm.DB) *gorm.DB, _ T) (one T, found bool) {
	var rows []T
	require.NoError(rt, b.DB.Read(context.Background(), func(tx *gorm.DB) error { return where(tx).Order("id DESC").Limit(8).Find(&rows).Error }))
	if len(rows) == 0 {
		return one, false
	}
	return rapid.SampledFrom(rows).Draw(rt, label), true
}

func (b *bench) randomOrder(rt *rapid.T) error {
	line := orders.NewLine{ProductID: b.Plain.ID, Quantity: rapid.IntRange(1, 4).Draw(rt, "quantity")}
	if rapid.Bool().Draw(rt, "lettered") {
		line.ProductID = b.Lettered.ID
		for range line.Quantity {
			line.Lettering = append(line.Lettering, rapid.SampledFrom([]string{"Ash", "Elm", "Oak"}).Draw(rt, "name"))
		}
	}
	due := b.Now.AddDate(0, 0, 20).Format(time.DateOnly)
	_, err := b.Take(orders.NewOrder{Customer: "Reed Club", DueOn: calendar.Date(due), Lines: []orders.NewLine{line}})
	return err
}

func (b *bench) randomBatch(rt *rapid.T) error {
	product, extras := b.Plain, rapid.IntRange(0, 2).Draw(rt, "extras")
	if rapid.Bool().Draw(rt, "lettered") {
		product, extras = b.Lettered, 0
	}
	wants := b.OpenWants(product.ID)
	if rapid.Bool().Draw(rt, "only some") && len(wants) > 1 {
		wants = wants[:1]
	}
	_, err := b.Batches.Make(b.Ctx, batches.NewBatch{ProductID: product.ID, WantIDs: wants, Extras: extras, Lots: []int{len(wants) + extras}})
	return err
}

// workOn does some steps of a lot at accepted risk, all good, so that days get far
// enough for pieces to go again or be sanded back.
func (b *bench) workOn(rt *rapid.T) error {
	lot, found := pick(rt, b, "lot", func(tx *gorm.DB) *gorm.DB { return tx.Where("closed_at IS NULL") }, batches.Lot{})
	if !found {
		return nil
	}
	for range rapid.IntRange(1, 8).Draw(rt, "steps") {
		run, err := b.Batches.TakeUp(b.Ctx, lot.ID, batches.TakeUp{PersonID: b.Person, Step: lot.NextStep, AcceptRisk: true})
		if err != nil {
			return err
		}
		if err := b.Batches.Finish(b.Ctx, run.ID, batches.Done{}); err != nil {
			return err
		}
		lot.NextStep++
	}
	return nil
}

func (b *bench) randomDone(rt *rapid.T) error {
	run, found := pick(rt, b, "run", func(tx *gorm.DB) *gorm.DB { return tx.Where("ended_at IS NULL") }, batches.Run{})
	if !found {
		return nil
	}
	var in batches.Done
	pieces := housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Piece) error {
		return tx.Where("lot_id = ? AND state = 'working'", run.LotID).Find(into).Error
	})
	for _, p := range pieces {
		switch rapid.IntRange(0, 6).Draw(rt, "outcome") {
		case 0:
			in.Again = append(in.Again, p.ID)
		case 2:
			in.Rework = append(in.Rework, p.ID)
		case 1:
			in.Spoiled = append(in.Spoiled, batches.SpoiledPiece{PieceID: p.ID, Reason: "lifted"})
		}
	}
	return b.Batches.Finish(b.Ctx, run.ID, in)
}

// checkInvariants asks the database for whatever must never be; each query finds offenders.
func (b *bench) checkInvariants(rt *rapid.T) {
	for never, query := range dbtest.Never {
		found := housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]int) error { return tx.Raw(query).Scan(into).Error })
		assert.Equal(rt, []int{0}, found, "%s", never)
	}
}
