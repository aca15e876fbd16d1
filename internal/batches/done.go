package batches

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/fault"
	"tidykiln/core/measure"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Done says how the pieces came out of a step. Pieces not named are good.
type Done struct {
	// EndedAt is the true time when the step was done earlier than now.
	EndedAt *time.Time `json:"endedAt,omitempty"`
	CameOut
	// AcceptShort puts stock that the stores did not know of on their books, and takes it.
	AcceptShort bool `json:"acceptShort,omitempty"`
	// AcceptLong enters a step that lasted longer than anybody works in one go.
	AcceptLong bool `json:"acceptLong,omitempty"`
	// past says that it is entered with a whole batch that was made before.
	past bool
	// at is where CameOut stands in what was sent; empty for its top.
	at string
}

// CameOut is how the pieces of a lot came out of a step. Pieces not named are good.
type CameOut struct {
	Again   []uint64       `json:"again,omitempty" maxItems:"500" nullable:"false" doc:"pieces that go through the step again"`
	Rework  []uint64       `json:"rework,omitempty" maxItems:"500" nullable:"false" doc:"pieces sanded back: the blank is saved, the print is lost"`
	Spoiled []SpoiledPiece `json:"spoiled,omitempty" maxItems:"500" nullable:"false"`
}

// SpoiledPiece is a piece that is lost, and why.
type SpoiledPiece struct {
	PieceID uint64 `json:"pieceId"`
	Reason  string `json:"reason" minLength:"1" maxLength:"200"`
}

// LoggedStep is a step entered after it was done.
type LoggedStep struct {
	TakeUp
	Done
}

// DoneBefore says that a step in hand had been done before it was taken up,
// which was a mistake.
type DoneBefore struct {
	Done
	StartedAt  time.Time `json:"startedAt"`
	AcceptRisk bool      `json:"acceptRisk,omitempty" doc:"it was begun before the rest's floor"`
}

// Finish marks a step in hand as done; its rest begins at its end. The other
// lots of its sitting stay in hand.
func (a *Area) Finish(ctx context.Context, runID uint64, in Done) error {
	return a.db.Write(ctx, database.Batches|database.Stores|database.Orders, func(tx *gorm.DB) error {
		r, l, b, err := loadRun(tx, runID)
		if err != nil {
			return err
		}
		if err := a.finish(tx, &r, l, b, in); err != nil {
			return err
		}
		return a.regroup(tx, r.SittingID)
	})
}

// FinishBefore marks a step as done at its true times. The timer, which ran at
// the wrong one, counts for nothing.
func (a *Area) FinishBefore(ctx context.Context, runID uint64, in DoneBefore) error {
	return a.db.Write(ctx, database.Batches|database.Stores|database.Orders, func(tx *gorm.DB) error {
		r, l, b, err := loadRun(tx, runID)
		if err != nil {
			return err
		}
		if err := a.leave(tx, &r); err != nil {
			return err
		}
		if err := a.beganBefore(tx, &r, l, b, in); err != nil {
			return err
		}
		return a.finish(tx, &r, l, b, in.Done)
	})
}

// beganBefore sets a run in hand back to when it was really begun.
func (a *Area) beganBefore(tx *gorm.DB, r *Run, l Lot, b Batch, in DoneBefore) (err error) {
	switch {
	case r.EndedAt != nil:
		return problem.Conflict(problem.StepDone, "This step is already done.")
	case in.EndedAt == nil:
		return problem.Invalid("endedAt", "say when it was done")
	}
	started := in.StartedAt.UTC().Truncate(time.Microsecond)
	r.StartedAt, r.RunningSince, r.WorkedSeconds, r.RiskMinutes = started, &started, 0, nil
	if err := a.checkStart(tx, r, l, b, in.AcceptRisk); err != nil {
		return err
	}
	if r.Conditions, err = conditionsOf(tx, *r, l, b); err != nil {
		return err
	}
	return addEvent(tx, b.ID, started, "%s, lot %d, was really begun then%s", b.Recipe.Steps[r.Step].Name, l.Number, riskNote(*r))
}

// Log enters a step that nobody took up when it was done.
func (a *Area) Log(ctx context.Context, lotID uint64, in LoggedStep) error {
	return a.db.Write(ctx, database.Batches|database.Stores|database.Orders, func(tx *gorm.DB) error {
		if in.StartedAt == nil {
			return problem.Invalid("startedAt", "say when it was begun")
		}
		if in.EndedAt == nil {
			return problem.Invalid("endedAt", "say when it was done")
		}
		run, err := a.takeUp(tx, lotID, in.TakeUp)
		if err != nil {
			return err
		}
		l, b, err := loadLot(tx, lotID)
		if err != nil {
			return err
		}
		return a.finish(tx, &run, l, b, in.Done)
	})
}

func (a *Area) finish(tx *gorm.DB, r *Run, l Lot, b Batch, in Done) error {
	if r.EndedAt != nil {
		return problem.Conflict(problem.StepDone, "This step is already done.")
	}
	ended, err := a.endOf(*r, in)
	if err != nil {
		return err
	}
	pieces, err := workingPieces(tx, l.ID)
	if err != nil {
		return err
	}
	outcomes, err := in.outcomes(r.ID, pieces, b.Recipe.OutcomesAt(r.Step))
	if err != nil {
		return problem.Faulty(in.at, err)
	}
	r.stop(ended)
	r.EndedAt, r.Pieces, r.RecordedAt = &ended, len(pieces), a.now()
	if err := saveRun(tx, r); err != nil {
		return err
	}
	if err := tx.Create(&outcomes).Error; err != nil {
		return fmt.Errorf("noting how the pieces came out: %w", err)
	}
	if err := a.drawFor(tx, *r, b, outcomes, in); err != nil {
		return err
	}
	if err := a.movePieces(tx, *r, l, b, pieces, outcomes); err != nil {
		return err
	}
	if err := noteDone(tx, *r, l, b, pieces, outcomes); err != nil {
		return err
	}
	return a.closeIfDone(tx, b, ended)
}

func (a *Area) endOf(r Run, in Done) (time.Time, error) {
	if in.EndedAt == nil {
		// In a sitting the timer ran for the other lots too.
		if worked := int(float64(r.Worked(a.now())) / r.Share); worked > int(longestStep/time.Second) && !in.AcceptLong {
			return a.now(), problem.Conflict(problem.Long, "By its timer this step was worked on for %s. Say when it was really done, if it was earlier.", measure.Duration(worked/60))
		}
		return later(a.now(), r.StartedAt), nil
	}
	ended := in.EndedAt.UTC().Truncate(time.Microsecond)
	switch {
	case ended.After(a.now()):
		return ended, problem.Invalid("endedAt", "this is still to come")
	case ended.Before(r.StartedAt):
		return ended, problem.Invalid("endedAt", "the step was begun after that")
	case ended.Sub(r.StartedAt) > longestStep && !in.AcceptLong:
		return ended, problem.Conflict(problem.Long, "From beginning to end this step would have lasted %s. That is most often a typing error in the day or the hour.", measure.Duration(int(ended.Sub(r.StartedAt)/time.Minute)))
	}
	return ended, nil
}

// later is the later of two times: a clock that was set back ends nothing before it began.
func later(a, b time.Time) time.Time {
	if a.Before(b) {
		return b
	}
	return a
}

// longestStep is longer than anybody works on one step without putting it down overnight.
const longestStep = 36 * time.Hour

func (in CameOut) outcomes(runID uint64, pieces []Piece, may []craft.Outcome) ([]Outcome, error) {
	at := make(map[uint64]int, len(pieces))
	outcomes := make([]Outcome, len(pieces))
	for i, p := range pieces {
		at[p.ID] = i
		outcomes[i] = Outcome{RunID: runID, PieceID: p.ID, Result: Good, WantID: p.WantID}
	}
	set := func(field string, id uint64, result Result, reason string) error {
		i, known := at[id]
		if !known {
			return fault.At(field, "this piece is not in this lot")
		}
		if outcomes[i].Result != Good {
			return fault.At(field, "this piece is named twice")
		}
		outcomes[i].Result, outcomes[i].Reason = result, reason
		return nil
	}
	if len(in.Again) > 0 && !slices.Contains(may, craft.Again) {
		return nil, fault.At("again", "this step is not done twice on a piece")
	}
	if len(in.Rework) > 0 && !slices.Contains(may, craft.Rework) {
		return nil, fault.At("rework", "pieces cannot be sanded back from this step")
	}
	for i, id := range in.Again {
		if err := set(fmt.Sprintf("again[%d]", i), id, Again, ""); err != nil {
			return nil, err
		}
	}
	for i, id := range in.Rework {
		if err := set(fmt.Sprintf("rework[%d]", i), id, Rework, ""); err != nil {
			return nil, err
		}
	}
	for i, s := range in.Spoiled {
		reason := strings.TrimSpace(s.Reason)
		if reason == "" {
			return nil, fault.At(fmt.Sprintf("spoiled[%d].reason", i), "say in a word what happened")
		}
		if err := set(fmt.Sprintf("spoiled[%d].pieceId", i), s.PieceID, Spoiled, reason); err != nil {
			return nil, err
		}
	}
	return outcomes, nil
}

// movePieces sends good pieces on, pieces that go again or are reworked into
// lots of their own, and frees what spoiled pieces were wanted for.
func (a *Area) movePieces(tx *gorm.DB, r Run, l Lot, b Batch, pieces []Piece, outcomes []Outcome) error {
	tally := tallyOf(outcomes)
	lots, err := lotsAfter(tx, r, &l, b.Recipe, tally)
	if err != nil {
		return err
	}
	last := r.Step+1 == len(b.Recipe.Steps)
	for i := range pieces {
		switch p := &pieces[i]; outcomes[i].Result {
		case Spoiled:
			p.State, p.WantID = PieceSpoiled, nil
		case Again, Rework:
			p.LotID = new(lots[outcomes[i].Result])
		case Good:
			if last {
				p.State, p.FinishedAt = PieceFinished, r.EndedAt
			}
		}
	}
	if err := SavePieces(tx, pieces); err != nil {
		return err
	}
	if last && tally[Good] > 0 || tally[Spoiled] == len(pieces) {
		l.ClosedAt = r.EndedAt
	}
	if err := saveLot(tx, l); err != nil {
		return err
	}
	return replaceFromSpares(tx, b, pieces, outcomes)
}

// lotsAfter says which lot the pieces of each result go on in: the first of
// good, again and rework stays in the lot, the others get one of their own.
func lotsAfter(tx *gorm.DB, r Run, l *Lot, recipe craft.Recipe, tally map[Result]int) (map[Result]uint64, error) {
	next := map[Result]int{Good: r.Step + 1, Again: recipe.AgainFrom(r.Step), Rework: recipe.ReworkFrom(r.Step)}
	lots := map[Result]uint64{}
	for _, result := range []Result{Good, Again, Rework} {
		switch {
		case tally[result] == 0:
		case len(lots) == 0:
			l.NextStep = next[result]
			lots[result] = l.ID
		default:
			split, err := splitLot(tx, r, *l, next[result])
			if err != nil {
				return nil, err
			}
			lots[result] = split.ID
		}
	}
	return lots, nil
}

func splitLot(tx *gorm.DB, r Run, l Lot, next int) (Lot, error) {
	split := Lot{BatchID: l.BatchID, NextStep: next, SplitFromRun: &r.ID, KeepRests: l.KeepRests}
	if err := tx.Model(&Lot{}).Where("batch_id = ?", l.BatchID).Select("MAX(number) + 1").Scan(&split.Number).Error; err != nil {
		return split, fmt.Errorf("numbering a lot: %w", err)
	}
	if err := tx.Create(&split).Error; err != nil {
		return split, fmt.Errorf("adding a lot: %w", err)
	}
	return split, nil
}

// replaceFromSpares lets plain pieces of the batch that serve nobody take over
// the plain wants that spoiled ones served.
func replaceFromSpares(tx *gorm.DB, b Batch, pieces []Piece, outcomes []Outcome) error {
	var spare []Piece
	err := tx.Where("batch_id = ? AND state IN ? AND want_id IS NULL AND lettering = '' AND artwork_id IS NULL", b.ID, []PieceState{PieceWorking, PieceFinished}).
		Order("state DESC, number").Find(&spare).Error
	if err != nil {
		return fmt.Errorf("reading the spare pieces: %w", err)
	}
	for i, o := range outcomes {
		if o.Result != Spoiled || o.WantID == nil || pieces[i].Lettering != "" || pieces[i].ArtworkID != nil || len(spare) == 0 {
			continue
		}
		spare[0].WantID = o.WantID
		if err := SavePieces(tx, spare[:1]); err != nil {
			return err
		}
		spare = spare[1:]
	}
	return nil
}

func tallyOf(outcomes []Outcome) map[Result]int {
	tally := map[Result]int{}
	for _, o := range outcomes {
		tally[o.Result]++
	}
	return tally
}

func noteDone(tx *gorm.DB, r Run, l Lot, b Batch, pieces []Piece, outcomes []Outcome) error {
	tally := tallyOf(outcomes)
	parts := []string{fmt.Sprintf("%d good", tally[Good])}
	if tally[Again] > 0 {
		parts = append(parts, fmt.Sprintf("%d again", tally[Again]))
	}
	if tally[Rework] > 0 {
		parts = append(parts, fmt.Sprintf("%d sanded back", tally[Rework]))
	}
	for i, o := range outcomes {
		if o.Result == Spoiled {
			parts = append(parts, fmt.Sprintf("%s spoiled (%s)", pieces[i].Called(), o.Reason))
		}
	}
	text := []rune(fmt.Sprintf("%s done, lot %d: %s", b.Recipe.Steps[r.Step].Name, l.Number, strings.Join(parts, ", ")))
	return addEvent(tx, b.ID, *r.EndedAt, "%s", string(text[:min(len(text), longestEvent)]))
}

// longestEvent is what the column of an event's text holds.
const longestEvent = 1000

// closeIfDone ends a batch without open lots, and puts its spare pieces to use.
func (a *Area) closeIfDone(tx *gorm.DB, b Batch, at time.Time) error {
	if err := a.fill(tx, b.ProductID, a.now()); err != nil {
		return err
	}
	var open int64
	if err := tx.Model(&Lot{}).Where("batch_id = ? AND closed_at IS NULL", b.ID).Count(&open).Error; err != nil {
		return fmt.Errorf("counting open lots: %w", err)
	}
	if open > 0 {
		return nil
	}
	if err := addEvent(tx, b.ID, at, "Batch %d finished", b.Number); err != nil {
		return err
	}
	if err := saveBatchState(tx, b, Finished, &at); err != nil {
		return err
	}
	return a.freezeCost(tx, b.ID)
}
