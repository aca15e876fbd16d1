package batches

import (
	"context"
	"fmt"
	"slices"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Sitting is like steps of several lots that were taken up together. Its runs
// name it; one timer runs for all of them, of which each has its Share.
type Sitting struct {
	ID        uint64
	TakenUpAt time.Time
}

// Together asks to take up the next steps of several lots in one sitting.
type Together struct {
	PersonID   uint64     `json:"personId"`
	Lots       []NextStep `json:"lots" minItems:"1" maxItems:"50" nullable:"false"`
	StartedAt  *time.Time `json:"startedAt,omitempty" doc:"the true time when they were begun earlier than now"`
	AcceptRisk bool       `json:"acceptRisk,omitempty" doc:"begin before the floor of a rest"`
}

// NextStep is the next step of a lot, by its index, so that a second tap takes up nothing else.
type NextStep struct {
	LotID uint64 `json:"lotId"`
	Step  int    `json:"step" minimum:"0"`
}

// DoneTogether says how the pieces of a sitting's lots came out. Pieces and
// lots not named are good.
type DoneTogether struct {
	// StartedAt is said where they were taken up by mistake, after they had been done.
	StartedAt   *time.Time   `json:"startedAt,omitempty"`
	EndedAt     *time.Time   `json:"endedAt,omitempty"`
	Lots        []LotCameOut `json:"lots,omitempty" maxItems:"50" nullable:"false"`
	AcceptShort bool         `json:"acceptShort,omitempty"`
	AcceptLong  bool         `json:"acceptLong,omitempty"`
	AcceptRisk  bool         `json:"acceptRisk,omitempty"`
}

// LotCameOut is how the pieces of one lot of a sitting came out.
type LotCameOut struct {
	RunID uint64 `json:"runId"`
	CameOut
}

// TakeUpTogether starts one timer on the next steps of several lots, which are
// of one kin. What the same person has running is put down.
func (a *Area) TakeUpTogether(ctx context.Context, in Together) (sitting Sitting, err error) {
	return database.Answer(ctx, a.db, database.Batches, func(tx *gorm.DB) (sitting Sitting, err error) {
		if err := a.putDownOthers(tx, in.PersonID); err != nil {
			return sitting, err
		}
		sitting.TakenUpAt = a.now()
		if err := tx.Create(&sitting).Error; err != nil {
			return sitting, fmt.Errorf("noting the sitting: %w", err)
		}
		kin := ""
		for i, lot := range in.Lots {
			run, err := a.takeUp(tx, lot.LotID, TakeUp{PersonID: in.PersonID, Step: lot.Step, StartedAt: in.StartedAt, AcceptRisk: in.AcceptRisk})
			if err != nil {
				return sitting, err
			}
			_, _, b, err := loadRun(tx, run.ID)
			if err != nil {
				return sitting, err
			}
			if of := b.Recipe.Kin(run.Step); i == 0 {
				kin = of
			} else if of != kin {
				return sitting, problem.Invalid(fmt.Sprintf("lots[%d].step", i), "%s is other work: it has a sitting of its own", b.Recipe.Steps[run.Step].Name)
			}
			run.SittingID = &sitting.ID
			if err := saveRun(tx, &run); err != nil {
				return sitting, err
			}
		}
		return sitting, a.regroup(tx, &sitting.ID)
	})
}

// inSitting is a run with what it belongs to.
type inSitting struct {
	Run
	lot   Lot
	batch Batch
}

func (r inSitting) need(lots int) float64 {
	return r.batch.Recipe.Steps[r.Step].NeedTogether(r.Pieces, lots)
}

// runsIn are the runs of a sitting, in the order they were taken up: those in
// hand, or those done.
func runsIn(tx *gorm.DB, sittingID uint64, inHand bool) (runs []inSitting, err error) {
	ended := "ended_at IS NOT NULL"
	if inHand {
		ended = "ended_at IS NULL"
	}
	var plain []Run
	if err := tx.Where("sitting_id = ?", sittingID).Where(ended).Order("id").Find(&plain).Error; err != nil {
		return nil, fmt.Errorf("reading a sitting: %w", err)
	}
	for _, r := range plain {
		lot, batch, err := loadLot(tx, r.LotID)
		if err != nil {
			return nil, err
		}
		runs = append(runs, inSitting{r, lot, batch})
	}
	return runs, nil
}

// leave takes a run in hand out of its sitting, if it is in one. What it had of
// the timer so far stays its own; the others go on.
func (a *Area) leave(tx *gorm.DB, r *Run) error {
	sitting := r.SittingID
	if sitting == nil || r.EndedAt != nil {
		return nil
	}
	if r.RunningSince != nil && r.Share < 1 {
		now := a.now()
		r.stop(now)
		r.RunningSince = &now
	}
	r.SittingID, r.Share = nil, 1
	if err := saveRun(tx, r); err != nil {
		return err
	}
	return a.regroup(tx, sitting)
}

// FinishTogether marks the lots of a sitting as done; their rests begin at its end.
func (a *Area) FinishTogether(ctx context.Context, sittingID uint64, in DoneTogether) error {
	return a.db.Write(ctx, database.Batches|database.Stores|database.Orders, func(tx *gorm.DB) error {
		runs, err := handsOn(tx, sittingID)
		if err != nil {
			return err
		}
		came, err := in.byRun(runs)
		if err != nil {
			return err
		}
		if in.StartedAt == nil {
			stopAll(runs, a.endedAt(in))
		}
		for i := range runs {
			r := &runs[i]
			done := Done{EndedAt: in.EndedAt, CameOut: came[r.ID].CameOut, AcceptShort: in.AcceptShort, AcceptLong: in.AcceptLong, at: in.place(r.ID)}
			if in.StartedAt != nil {
				if err := a.beganBefore(tx, &r.Run, r.lot, r.batch, DoneBefore{Done: done, StartedAt: *in.StartedAt, AcceptRisk: in.AcceptRisk}); err != nil {
					return err
				}
			}
			// What one lot sets free may have changed the batch of the next.
			if r.lot, r.batch, err = loadLot(tx, r.LotID); err != nil {
				return err
			}
			if err := a.finish(tx, &r.Run, r.lot, r.batch, done); err != nil {
				return err
			}
		}
		return a.regroup(tx, &sittingID)
	})
}

// endedAt is when a sitting was done: as it is said, or now.
func (a *Area) endedAt(in DoneTogether) time.Time {
	if in.EndedAt != nil {
		return in.EndedAt.UTC().Truncate(time.Microsecond)
	}
	return a.now()
}

// handsOn are the runs of a sitting in hand; a refusal where there are none.
func handsOn(tx *gorm.DB, sittingID uint64) ([]inSitting, error) {
	var known int64
	if err := tx.Model(&Sitting{}).Where("id = ?", sittingID).Count(&known).Error; err != nil {
		return nil, fmt.Errorf("reading a sitting: %w", err)
	}
	if known == 0 {
		return nil, problem.NotFound("sitting")
	}
	runs, err := runsIn(tx, sittingID, true)
	if err == nil && len(runs) == 0 {
		err = problem.Conflict(problem.StepDone, "Nothing of this sitting is in hand any more.")
	}
	return runs, err
}

// byRun is what was said of each run, which must be of the sitting and in hand.
func (in DoneTogether) byRun(runs []inSitting) (map[uint64]LotCameOut, error) {
	came := map[uint64]LotCameOut{}
	for i, c := range in.Lots {
		field := fmt.Sprintf("lots[%d].runId", i)
		if !slices.ContainsFunc(runs, func(r inSitting) bool { return r.ID == c.RunID }) {
			return nil, problem.Invalid(field, "this lot is not in this sitting any more")
		}
		if _, twice := came[c.RunID]; twice {
			return nil, problem.Invalid(field, "this lot is named twice")
		}
		came[c.RunID] = c
	}
	return came, nil
}

// place is where a run stands in what was said.
func (in DoneTogether) place(runID uint64) string {
	i := slices.IndexFunc(in.Lots, func(c LotCameOut) bool { return c.RunID == runID })
	if i < 0 {
		return ""
	}
	return fmt.Sprintf("lots[%d]", i)
}

// TickTogether keeps which points of a sitting's checklist are done, by index
// in Checklist of its lots.
func (a *Area) TickTogether(ctx context.Context, sittingID uint64, in Ticked) error {
	return a.changeSitting(ctx, sittingID, func(tx *gorm.DB, runs []inSitting) error {
		lists := make([][]string, len(runs))
		for i, r := range runs {
			lists[i] = r.batch.Recipe.Steps[r.Step].Checklist
		}
		all := Checklist(lists)
		for _, i := range in.Ticked {
			if i < 0 || i >= len(all) {
				return problem.Invalid("ticked", "the checklist has no point %d", i+1)
			}
		}
		for i := range runs {
			runs[i].Ticked = []int{}
			for k, point := range lists[i] {
				if slices.ContainsFunc(in.Ticked, func(t int) bool { return all[t] == point }) {
					runs[i].Ticked = append(runs[i].Ticked, k)
				}
			}
		}
		return nil
	})
}

// Checklist is the one checklist of lots done together: each point once, in the
// order in which it comes.
func Checklist(lists [][]string) []string {
	all := []string{}
	for _, list := range lists {
		for _, point := range list {
			if !slices.Contains(all, point) {
				all = append(all, point)
			}
		}
	}
	return all
}

// PutDownTogether stops the timer of a sitting without ending it.
func (a *Area) PutDownTogether(ctx context.Context, sittingID uint64) error {
	return a.changeSitting(ctx, sittingID, func(_ *gorm.DB, runs []inSitting) error {
		stopAll(runs, a.now())
		return nil
	})
}

// ResumeTogether starts the timer of a sitting again.
func (a *Area) ResumeTogether(ctx context.Context, sittingID uint64) error {
	return a.changeSitting(ctx, sittingID, func(tx *gorm.DB, runs []inSitting) error {
		if runs[0].RunningSince != nil {
			return nil
		}
		if err := a.putDownOthers(tx, runs[0].PersonID); err != nil {
			return err
		}
		now := a.now()
		for i := range runs {
			runs[i].RunningSince = &now
		}
		return nil
	})
}

func (a *Area) changeSitting(ctx context.Context, sittingID uint64, change func(*gorm.DB, []inSitting) error) error {
	return a.db.Write(ctx, database.Batches, func(tx *gorm.DB) error {
		runs, err := handsOn(tx, sittingID)
		if err != nil {
			return err
		}
		if err := change(tx, runs); err != nil {
			return err
		}
		for i := range runs {
			if err := saveRun(tx, &runs[i].Run); err != nil {
				return err
			}
		}
		return nil
	})
}

// GiveBackTogether takes back the taking-up of a sitting, as if it had not happened.
func (a *Area) GiveBackTogether(ctx context.Context, sittingID uint64) error {
	return a.db.Write(ctx, database.Batches, func(tx *gorm.DB) error {
		runs, err := handsOn(tx, sittingID)
		if err != nil {
			return err
		}
		for _, r := range runs {
			if err := giveBack(tx, r.Run, r.lot, r.batch, a.now()); err != nil {
				return err
			}
		}
		return nil
	})
}

// UndoTogether takes back that a sitting was done: all its lots are in hand
// again, put down, those too that were not done yet. It is possible until one of
// them has been taken up again.
func (a *Area) UndoTogether(ctx context.Context, sittingID uint64) error {
	return a.db.Write(ctx, database.Batches|database.Stores|database.Orders, func(tx *gorm.DB) error {
		runs, err := runsIn(tx, sittingID, false)
		if err != nil {
			return err
		}
		if len(runs) == 0 {
			return problem.Conflict(problem.TakenBack, "There is nothing to take back.")
		}
		if err := a.putDownSitting(tx, sittingID); err != nil {
			return err
		}
		for i := len(runs) - 1; i >= 0; i-- {
			r, l, b, err := loadRun(tx, runs[i].ID)
			if err != nil {
				return err
			}
			if err := a.undo(tx, r, l, b); err != nil {
				return err
			}
		}
		return a.regroup(tx, &sittingID)
	})
}

// putDownSitting stops the timer of whatever of a sitting is in hand.
func (a *Area) putDownSitting(tx *gorm.DB, sittingID uint64) error {
	runs, err := runsIn(tx, sittingID, true)
	if err != nil {
		return err
	}
	stopAll(runs, a.now())
	for i := range runs {
		if err := saveRun(tx, &runs[i].Run); err != nil {
			return err
		}
	}
	return nil
}
