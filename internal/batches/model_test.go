package batches_test

import (
	"context"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"
	"pgregory.net/rapid"

	"tidykiln/core/craft"
	"tidykiln/internal/batches"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

// A long day of random acts, sensible and not, leaves nothing lost and nothing
// counted twice. Refusals are fine; anything else that goes wrong is not.
func TestWhateverIsDoneNothingIsLostOrCountedTwice(t *testing.T) {
	b := newBench(t)
	b.plain = b.reshape(b.plain, func(blocks map[string]craft.Step, steps []craft.Step) []craft.Step {
		sides := blocks["paint-sides"]
		sides.Inside = "lay"
		return slices.Insert(steps, 4, sides)
	})
	rapid.Check(t, func(rt *rapid.T) {
		for range rapid.IntRange(3, 15).Draw(rt, "acts") {
			b.later(time.Duration(rapid.IntRange(1, 900).Draw(rt, "minutes later")) * time.Minute)
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
	switch rapid.SampledFrom([]string{"order", "batch", "take up", "take up", "work on", "work on", "done", "done", "done", "undo", "give back", "hand over", "cancel", "abandon"}).Draw(rt, "act") {
	case "order":
		return b.randomOrder(rt)
	case "batch":
		return b.randomBatch(rt)
	case "take up":
		lot, found := pick(rt, b, "lot", func(tx *gorm.DB) *gorm.DB { return tx.Where("closed_at IS NULL") }, batches.Lot{})
		if !found {
			return nil
		}
		_, err := b.batches.TakeUp(b.ctx, lot.ID, batches.TakeUp{PersonID: b.person, Step: lot.NextStep, AcceptRisk: rapid.Bool().Draw(rt, "risk")})
		return err
	case "work on":
		return b.workOn(rt)
	case "done":
		return b.randomDone(rt)
	case "undo":
		if run, found := pick(rt, b, "run", func(tx *gorm.DB) *gorm.DB { return tx.Where("ended_at IS NOT NULL") }, batches.Run{}); found {
			return b.batches.Undo(b.ctx, run.ID)
		}
	case "give back":
		if run, found := pick(rt, b, "run", func(tx *gorm.DB) *gorm.DB { return tx.Where("ended_at IS NULL") }, batches.Run{}); found {
			return b.batches.GiveBack(b.ctx, run.ID)
		}
	case "hand over":
		if o, found := pick(rt, b, "order", func(tx *gorm.DB) *gorm.DB { return tx }, orders.Order{}); found {
			return b.batches.HandOver(b.ctx, o.ID, o.Version)
		}
	case "cancel":
		if o, found := pick(rt, b, "order", func(tx *gorm.DB) *gorm.DB { return tx.Where("state = 'open'") }, orders.Order{}); found {
			return b.batches.CancelOrder(b.ctx, o.ID, o.Version)
		}
	case "abandon":
		if batch, found := pick(rt, b, "batch", func(tx *gorm.DB) *gorm.DB { return tx }, batches.Batch{}); found {
			return b.batches.Abandon(b.ctx, batch.ID, batch.Version)
		}
	}
	return nil
}

// pick draws one of the rows of T's table that the condition holds for.
func pick[T any](rt *rapid.T, b *bench, label string, where func(*gorm.DB) *gorm.DB, _ T) (one T, found bool) {
	var rows []T
	require.NoError(rt, b.db.Read(context.Background(), func(tx *gorm.DB) error { return where(tx).Order("id DESC").Limit(8).Find(&rows).Error }))
	if len(rows) == 0 {
		return one, false
	}
	return rapid.SampledFrom(rows).Draw(rt, label), true
}

func (b *bench) randomOrder(rt *rapid.T) error {
	line := orders.NewLine{ProductID: b.plain.ID, Quantity: rapid.IntRange(1, 4).Draw(rt, "quantity")}
	if rapid.Bool().Draw(rt, "lettered") {
		line.ProductID = b.lettered.ID
		for range line.Quantity {
			line.Lettering = append(line.Lettering, rapid.SampledFrom([]string{"Ash", "Elm", "Oak"}).Draw(rt, "name"))
		}
	}
	due := b.now.AddDate(0, 0, 20).Format(time.DateOnly)
	_, err := b.batches.TakeOrder(b.ctx, orders.NewOrder{Customer: "Reed Club", DueOn: workshop.Date(due), Lines: []orders.NewLine{line}})
	return err
}

func (b *bench) randomBatch(rt *rapid.T) error {
	product, extras := b.plain, rapid.IntRange(0, 2).Draw(rt, "extras")
	if rapid.Bool().Draw(rt, "lettered") {
		product, extras = b.lettered, 0
	}
	wants := b.openWants(product)
	if rapid.Bool().Draw(rt, "only some") && len(wants) > 1 {
		wants = wants[:1]
	}
	_, err := b.batches.Make(b.ctx, batches.NewBatch{ProductID: product.ID, WantIDs: wants, Extras: extras, Lots: []int{len(wants) + extras}})
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
		run, err := b.batches.TakeUp(b.ctx, lot.ID, batches.TakeUp{PersonID: b.person, Step: lot.NextStep, AcceptRisk: true})
		if err != nil {
			return err
		}
		if err := b.batches.Finish(b.ctx, run.ID, batches.Done{}); err != nil {
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
	pieces := read(b, func(tx *gorm.DB, into *[]batches.Piece) error {
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
	return b.batches.Finish(b.ctx, run.ID, in)
}

// checkInvariants asks the database for whatever must never be; each query finds offenders.
func (b *bench) checkInvariants(rt *rapid.T) {
	for never, query := range map[string]string{
		"a spoiled or abandoned piece serves a want":        `SELECT COUNT(*) FROM pieces WHERE state IN ('spoiled', 'abandoned') AND want_id IS NOT NULL`,
		"a piece serves a cancelled order":                  `SELECT COUNT(*) FROM pieces p JOIN wants w ON w.id = p.want_id JOIN order_lines l ON l.id = w.order_line_id JOIN orders o ON o.id = l.order_id WHERE o.state = 'cancelled'`,
		"a piece serves a want with other lettering":        `SELECT COUNT(*) FROM pieces p JOIN wants w ON w.id = p.want_id WHERE p.lettering <> w.lettering`,
		"a piece serves a want of another product":          `SELECT COUNT(*) FROM pieces p JOIN batches b ON b.id = p.batch_id JOIN wants w ON w.id = p.want_id JOIN order_lines l ON l.id = w.order_line_id WHERE l.product_id <> b.product_id`,
		"a piece is in a lot of another batch":              `SELECT COUNT(*) FROM pieces p JOIN lots l ON l.id = p.lot_id WHERE l.batch_id <> p.batch_id`,
		"a closed lot holds pieces in work":                 `SELECT COUNT(*) FROM lots l JOIN pieces p ON p.lot_id = l.id AND p.state = 'working' WHERE l.closed_at IS NOT NULL`,
		"an open lot holds nothing":                         `SELECT COUNT(*) FROM lots l WHERE l.closed_at IS NULL AND NOT EXISTS (SELECT 1 FROM pieces p WHERE p.lot_id = l.id AND p.state = 'working')`,
		"a closed batch has open lots":                      `SELECT COUNT(*) FROM batches b JOIN lots l ON l.batch_id = b.id WHERE b.state <> 'open' AND l.closed_at IS NULL`,
		"an open batch has none":                            `SELECT COUNT(*) FROM batches b WHERE b.state = 'open' AND NOT EXISTS (SELECT 1 FROM lots l WHERE l.batch_id = b.id AND l.closed_at IS NULL)`,
		"a lot is worked past its recipe":                   `SELECT COUNT(*) FROM lots l JOIN batches b ON b.id = l.batch_id WHERE l.closed_at IS NULL AND l.next_step >= JSON_LENGTH(b.recipe, '$.steps')`,
		"an order handed over lacks a piece":                `SELECT COUNT(*) FROM orders o JOIN order_lines l ON l.order_id = o.id JOIN wants w ON w.order_line_id = l.id LEFT JOIN pieces p ON p.want_id = w.id WHERE o.state = 'handed_over' AND COALESCE(p.state, '') <> 'handed_over'`,
		"a finished piece has no time of finishing":         `SELECT COUNT(*) FROM pieces WHERE (state IN ('finished', 'handed_over')) <> (finished_at IS NOT NULL)`,
		"an open run has an outcome":                        `SELECT COUNT(*) FROM runs r JOIN outcomes o ON o.run_id = r.id WHERE r.ended_at IS NULL`,
		"a run ends before it begins":                       `SELECT COUNT(*) FROM runs WHERE ended_at < started_at`,
		"the timer of a done step runs":                     `SELECT COUNT(*) FROM runs WHERE ended_at IS NOT NULL AND running_since IS NOT NULL`,
		"one person has two timers running":                 `SELECT COUNT(*) FROM (SELECT person_id FROM runs WHERE running_since IS NOT NULL GROUP BY person_id HAVING COUNT(*) > 1) twice`,
		"a plain want waits while a plain piece lies ready": `SELECT COUNT(*) FROM pieces p JOIN batches b ON b.id = p.batch_id WHERE p.state = 'finished' AND p.want_id IS NULL AND p.lettering = '' AND EXISTS (SELECT 1 FROM wants w JOIN order_lines l ON l.id = w.order_line_id JOIN orders o ON o.id = l.order_id LEFT JOIN pieces q ON q.want_id = w.id WHERE o.state = 'open' AND q.id IS NULL AND w.lettering = '' AND l.product_id = b.product_id)`,
	} {
		found := read(b, func(tx *gorm.DB, into *[]int) error { return tx.Raw(query).Scan(into).Error })
		assert.Equal(rt, []int{0}, found, "%s", never)
	}
}
