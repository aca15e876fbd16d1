package batches

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/measure"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

// PastBatch is a batch that was made, or begun, before it was entered: one lot
// and its steps done so far, in the order of the recipe.
type PastBatch struct {
	ProductID uint64     `json:"productId"`
	WantIDs   []uint64   `json:"wantIds" maxItems:"500" nullable:"false" doc:"wants that its first pieces were made for, in this order"`
	Extras    int        `json:"extras" minimum:"0" maximum:"500" doc:"pieces that no order wanted"`
	PersonID  uint64     `json:"personId"`
	Steps     []PastStep `json:"steps" minItems:"1" maxItems:"200" nullable:"false"`
	// AcceptRisk enters rests that were shorter than their floor.
	AcceptRisk  bool `json:"acceptRisk,omitempty"`
	AcceptShort bool `json:"acceptShort,omitempty" doc:"puts stock that the stores did not know of on their books"`
}

// PastStep is a step as it was done.
type PastStep struct {
	StartedAt time.Time `json:"startedAt"`
	// Minutes is how long hands were on it, a pause not counted.
	Minutes int `json:"minutes" minimum:"1" maximum:"2160"`
	// Lost are the pieces that were spoiled in it, counted from 1 through the whole batch.
	Lost   []int  `json:"lost,omitempty" maxItems:"500" nullable:"false"`
	Reason string `json:"reason,omitempty" maxLength:"200" doc:"why they were lost"`
}

// EnterPast enters a batch with its true times. What was counted in the stores
// after a step had taken of it is not taken again.
func (a *Area) EnterPast(ctx context.Context, in PastBatch) (b Batch, err error) {
	return database.Answer(ctx, a.db, database.Batches|database.Stores|database.Orders, func(tx *gorm.DB) (b Batch, err error) {
		p, basis, err := a.productOf(tx, in.ProductID)
		if err != nil {
			return b, err
		}
		if err := in.check(tx, p, a.now()); err != nil {
			return b, err
		}
		form := NewBatch{ProductID: in.ProductID, WantIDs: in.WantIDs, Extras: in.Extras, Lots: []int{len(in.WantIDs) + in.Extras}}
		if err := form.checkPieces(p); err != nil {
			return b, err
		}
		wants, err := form.claim(tx)
		if err != nil {
			return b, err
		}
		b = newBatch(p, basis, in.Steps[0].StartedAt.UTC().Truncate(time.Microsecond))
		if err := createBatch(tx, &b, form.inOrder(wants), form); err != nil {
			return b, err
		}
		if err := addEvent(tx, b.ID, a.now(), "Batch %d entered after it was made: %s", b.Number, measure.Count(form.Lots[0], "piece")); err != nil {
			return b, err
		}
		return b, a.enterSteps(tx, &b, in)
	})
}

// inOrder are the wants as they were named.
func (in NewBatch) inOrder(wants []orders.OpenWant) []orders.OpenWant {
	byID := map[uint64]orders.OpenWant{}
	for _, w := range wants {
		byID[w.WantID] = w
	}
	ordered := make([]orders.OpenWant, len(in.WantIDs))
	for i, id := range in.WantIDs {
		ordered[i] = byID[id]
	}
	return ordered
}

// check refuses steps that the recipe does not have, or at times that cannot have been.
func (in PastBatch) check(tx *gorm.DB, p products.Product, now time.Time) error {
	steps := p.Bench().Steps
	if len(in.Steps) > len(steps) {
		return problem.Invalid("steps", "the recipe has %d steps", len(steps))
	}
	if err := checkPerson(tx, in.PersonID); err != nil {
		return err
	}
	var before time.Time
	for i, s := range in.Steps {
		at := fmt.Sprintf("steps[%d].", i)
		switch end := s.end(); {
		case s.StartedAt.Before(now.Add(-longestAgo)):
			return problem.Invalid(at+"startedAt", "this is over three years ago")
		case s.StartedAt.After(now):
			return problem.Invalid(at+"startedAt", "this is still to come")
		case end.After(now):
			return problem.Invalid(at+"minutes", "%s would end only after now", steps[i].Name)
		case s.StartedAt.Before(before):
			return problem.Invalid(at+"startedAt", "%s ended after that", steps[i-1].Name)
		default:
			before = end
		}
		if len(s.Lost) > 0 && s.Reason == "" {
			return problem.Invalid(at+"reason", "say in a word what happened")
		}
	}
	return nil
}

// longestAgo is the farthest back that a batch is entered.
const longestAgo = 3 * 366 * 24 * time.Hour

func (s PastStep) end() time.Time { return s.StartedAt.Add(time.Duration(s.Minutes) * time.Minute) }

// enterSteps notes the runs of the steps with what came of them.
func (a *Area) enterSteps(tx *gorm.DB, b *Batch, in PastBatch) error {
	var lots []Lot
	if err := tx.Where("batch_id = ?", b.ID).Find(&lots).Error; err != nil {
		return fmt.Errorf("reading the lots: %w", err)
	}
	for i, s := range in.Steps {
		l, now, err := loadLot(tx, lots[0].ID)
		if err != nil {
			return err
		}
		if l.ClosedAt != nil {
			return problem.Invalid(fmt.Sprintf("steps[%d].startedAt", i), "no piece was left by then")
		}
		if err := a.enterStep(tx, i, s, l, now, in); err != nil {
			return err
		}
	}
	var err error
	*b, err = loadBatch(tx, b.ID)
	return err
}

func (a *Area) enterStep(tx *gorm.DB, i int, s PastStep, l Lot, b Batch, in PastBatch) error {
	started := s.StartedAt.UTC().Truncate(time.Microsecond)
	run := Run{LotID: l.ID, Step: i, PersonID: in.PersonID, StartedAt: started, RunningSince: &started, Share: 1, Ticked: []int{}, RecordedAt: a.now(), Version: 1}
	behind, err := endedRuns(tx, l)
	if err != nil {
		return err
	}
	if err := checkRest(&run, b, behind, in.AcceptRisk); err != nil {
		return err
	}
	pieces, err := workingPieces(tx, l.ID)
	if err != nil {
		return err
	}
	run.Pieces = len(pieces)
	done := Done{EndedAt: new(s.end()), AcceptShort: in.AcceptShort, AcceptLong: true, past: true}
	if done.Spoiled, err = s.spoiled(i, pieces); err != nil {
		return err
	}
	if run.Conditions, err = conditionsOf(tx, run, l, b); err != nil {
		return err
	}
	if err := tx.Create(&run).Error; err != nil {
		return fmt.Errorf("noting a step: %w", err)
	}
	return a.finish(tx, &run, l, b, done)
}

// spoiled are the pieces lost in the step, which must have come so far.
func (s PastStep) spoiled(i int, pieces []Piece) (lost []SpoiledPiece, err error) {
	byNumber := map[int]uint64{}
	for _, p := range pieces {
		byNumber[p.Number] = p.ID
	}
	for k, number := range s.Lost {
		id, here := byNumber[number]
		if !here {
			return nil, problem.Invalid(fmt.Sprintf("steps[%d].lost[%d]", i, k), "piece %d was not in it any more", number)
		}
		delete(byNumber, number)
		lost = append(lost, SpoiledPiece{id, s.Reason})
	}
	return lost, nil
}
