package batches

import (
	"context"
	"fmt"
	"slices"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/measure"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

// TakeUp asks to take up the next step of a lot.
type TakeUp struct {
	PersonID uint64 `json:"personId"`
	// Step is the index of the step meant, so that a second tap takes up nothing else.
	Step int `json:"step" minimum:"0"`
	// StartedAt is the true time when the step was begun earlier than now.
	StartedAt  *time.Time `json:"startedAt,omitempty"`
	AcceptRisk bool       `json:"acceptRisk,omitempty" doc:"begin before the rest's floor"`
}

// TakeUp starts the timer on the next step of a lot. What the same person has
// running is put down.
func (a *Area) TakeUp(ctx context.Context, lotID uint64, in TakeUp) (run Run, err error) {
	return database.Answer(ctx, a.db, database.Batches, func(tx *gorm.DB) (run Run, err error) {
		if err := a.putDownOthers(tx, in.PersonID); err != nil {
			return run, err
		}
		run, err = a.takeUp(tx, lotID, in)
		return run, err
	})
}

func (a *Area) takeUp(tx *gorm.DB, lotID uint64, in TakeUp) (run Run, err error) {
	l, b, err := loadLot(tx, lotID)
	if err != nil {
		return run, err
	}
	if err := mayTakeUp(tx, l, b, in.Step); err != nil {
		return run, err
	}
	now := a.now()
	run = Run{LotID: l.ID, Step: l.NextStep, PersonID: in.PersonID, StartedAt: now, RunningSince: &now, Share: 1, Ticked: []int{}, RecordedAt: now, Version: 1}
	if in.StartedAt != nil {
		run.StartedAt = in.StartedAt.UTC().Truncate(time.Microsecond)
		run.RunningSince = &run.StartedAt
	}
	if err := checkPerson(tx, in.PersonID); err != nil {
		return run, err
	}
	if err := a.checkStart(tx, &run, l, b, in.AcceptRisk); err != nil {
		return run, err
	}
	pieces, err := workingPieces(tx, l.ID)
	if err != nil {
		return run, err
	}
	if err := mustHavePictures(b, run.Step, pieces); err != nil {
		return run, err
	}
	run.Pieces = len(pieces)
	if run.Conditions, err = conditionsOf(tx, run, l, b); err != nil {
		return run, err
	}
	if err := tx.Create(&run).Error; err != nil {
		return run, fmt.Errorf("taking up the step: %w", err)
	}
	return run, addEvent(tx, b.ID, run.StartedAt, "%s begun, lot %d, %s%s", b.Recipe.Steps[run.Step].Name, l.Number, measure.Count(run.Pieces, "piece"), riskNote(run))
}

func riskNote(r Run) string {
	if r.RiskMinutes == nil {
		return ""
	}
	return fmt.Sprintf(", %d min under the floor of the rest, at accepted risk", *r.RiskMinutes)
}

func mayTakeUp(tx *gorm.DB, l Lot, b Batch, step int) error {
	if b.State != Open || l.ClosedAt != nil || l.NextStep >= len(b.Recipe.Steps) {
		return problem.Conflict(problem.Moved, "Batch %d, lot %d, has no step left to take up.", b.Number, l.Number)
	}
	if step != l.NextStep {
		return problem.Conflict(problem.Moved, "Batch %d, lot %d, has moved on: its next step is %s.", b.Number, l.Number, b.Recipe.Steps[l.NextStep].Name)
	}
	open, err := openRun(tx, l.ID)
	if err != nil || open == nil {
		return err
	}
	w, err := workshop.Load(tx)
	if err != nil {
		return err
	}
	return problem.Conflict(problem.InHand, "%s already has this step of batch %d, lot %d, in hand.", w.Names()[open.PersonID], b.Number, l.Number)
}

func checkPerson(tx *gorm.DB, id uint64) error {
	w, err := workshop.Load(tx)
	if err != nil {
		return err
	}
	if !slices.ContainsFunc(w.People, func(p workshop.Person) bool { return p.ID == id }) {
		return problem.Invalid("personId", "say who is at the bench")
	}
	return nil
}

// checkStart refuses a start in the future, before the last step's end, or
// under the floor of the rest unless the risk is accepted, which it records.
func (a *Area) checkStart(tx *gorm.DB, run *Run, l Lot, b Batch, acceptRisk bool) error {
	if run.StartedAt.After(a.now()) {
		return problem.Invalid("startedAt", "this is still to come")
	}
	if run.StartedAt.Before(b.CreatedAt.Add(-longestLate)) {
		return problem.Invalid("startedAt", "this is long before batch %d was made up", b.Number)
	}
	behind, err := endedRuns(tx, l)
	if err != nil {
		return err
	}
	if len(behind) > 0 && run.StartedAt.Equal(run.RecordedAt) { // taken up now
		run.StartedAt = later(run.StartedAt, *behind[0].EndedAt)
	}
	if len(behind) > 0 && run.StartedAt.Before(*behind[0].EndedAt) {
		return problem.Invalid("startedAt", "the step before it ended after that")
	}
	if err := checkRest(run, b, behind, acceptRisk); err != nil {
		return err
	}
	risk, err := a.risk(tx, *run, l, b)
	switch {
	case err != nil || risk == "":
		return err
	case !acceptRisk:
		return problem.Conflict(problem.Risk, "%s", risk)
	}
	return addEvent(tx, b.ID, run.StartedAt, "%s, lot %d, begun at accepted risk: %s", b.Recipe.Steps[run.Step].Name, l.Number, risk)
}

// checkRest refuses a start under the floor of the rest. A step done inside
// the rest does not wait for it.
func checkRest(run *Run, b Batch, behind []Run, acceptRisk bool) error {
	i := slices.IndexFunc(behind, func(r Run) bool { return b.Recipe.Steps[r.Step].Inside == "" })
	if i < 0 || b.Recipe.Steps[run.Step].Inside != "" || b.Recipe.Steps[behind[i].Step].Rest == nil {
		return nil
	}
	last, rest := behind[i], b.Recipe.Steps[behind[i].Step].Rest
	ready := last.EndedAt.Add(time.Duration(rest.Floor) * time.Minute)
	if !run.StartedAt.Before(ready) {
		return nil
	}
	short := int((ready.Sub(run.StartedAt) + time.Minute - 1) / time.Minute)
	if !acceptRisk {
		return problem.Conflict(problem.UnderFloor, "The rest after %q needs at least %s, and %s of it are still to go. Not waiting is the commonest way to lose pieces.",
			b.Recipe.Steps[last.Step].Name, measure.Duration(rest.Floor), measure.Duration(short))
	}
	run.RiskMinutes = &short
	return nil
}

// longestLate is how long before its batch was entered work may have begun.
const longestLate = 60 * 24 * time.Hour

func (a *Area) putDownOthers(tx *gorm.DB, personID uint64) error {
	var running []Run
	if err := tx.Where("person_id = ? AND ended_at IS NULL AND running_since IS NOT NULL", personID).Find(&running).Error; err != nil {
		return fmt.Errorf("reading what is in hand: %w", err)
	}
	for i := range running {
		running[i].stop(a.now())
		if err := saveRun(tx, &running[i]); err != nil {
			return err
		}
	}
	return nil
}

// stop puts a run down at a moment.
func (r *Run) stop(at time.Time) {
	r.WorkedSeconds = r.Worked(at)
	r.RunningSince = nil
}

// PutDown stops the timer of a run without ending it. A lot of a sitting is put
// down alone: the sitting goes on with the others.
func (a *Area) PutDown(ctx context.Context, runID uint64) error {
	return a.changeOpenRun(ctx, runID, func(tx *gorm.DB, r *Run) error {
		r.stop(a.now())
		return a.leave(tx, r)
	})
}

// Resume starts the timer of a run again, for whoever has it in hand.
func (a *Area) Resume(ctx context.Context, runID uint64) error {
	return a.changeOpenRun(ctx, runID, func(tx *gorm.DB, r *Run) error {
		if r.RunningSince != nil {
			return nil
		}
		if err := a.putDownOthers(tx, r.PersonID); err != nil {
			return err
		}
		now := a.now()
		r.RunningSince = &now
		return a.leave(tx, r)
	})
}

// Tick keeps which points of a lot's checklist are done, by index.
func (a *Area) Tick(ctx context.Context, runID uint64, in Ticked) error {
	return a.db.Write(ctx, database.Batches, func(tx *gorm.DB) error {
		r, _, b, err := loadRun(tx, runID)
		if err != nil {
			return err
		}
		if r.EndedAt != nil {
			return problem.Conflict(problem.StepDone, "This step is already done.")
		}
		slices.Sort(in.Ticked)
		r.Ticked = slices.Compact(in.Ticked)
		for _, i := range r.Ticked {
			if i < 0 || i >= len(b.Recipe.Steps[r.Step].Checklist) {
				return problem.Invalid("ticked", "the checklist has no point %d", i+1)
			}
		}
		return saveRun(tx, &r)
	})
}

// GiveBack takes back the taking-up of a step, as if it had not happened.
func (a *Area) GiveBack(ctx context.Context, runID uint64) error {
	return a.db.Write(ctx, database.Batches, func(tx *gorm.DB) error {
		r, l, b, err := loadRun(tx, runID)
		if err != nil {
			return err
		}
		if r.EndedAt != nil {
			return problem.Conflict(problem.StepDone, "This step is already done.")
		}
		if err := giveBack(tx, r, l, b, a.now()); err != nil {
			return err
		}
		return a.passOn(tx, r)
	})
}

func giveBack(tx *gorm.DB, r Run, l Lot, b Batch, now time.Time) error {
	if err := tx.Delete(&Run{}, r.ID).Error; err != nil {
		return fmt.Errorf("giving the step back: %w", err)
	}
	return addEvent(tx, b.ID, now, "%s given back, lot %d", b.Recipe.Steps[r.Step].Name, l.Number)
}

func (a *Area) changeOpenRun(ctx context.Context, runID uint64, change func(*gorm.DB, *Run) error) error {
	return a.db.Write(ctx, database.Batches|database.Stores|database.Orders, func(tx *gorm.DB) error {
		r, _, _, err := loadRun(tx, runID)
		if err != nil {
			return err
		}
		if r.EndedAt != nil {
			return problem.Conflict(problem.StepDone, "This step is already done.")
		}
		if err := change(tx, &r); err != nil {
			return err
		}
		return saveRun(tx, &r)
	})
}

// Keep says whether the usual rests are kept even where that makes a lot late.
type Keep struct {
	Keep bool `json:"keep"`
}

// KeepRests lets a lot keep its usual rests, or lets the plan cut them when it is late.
func (a *Area) KeepRests(ctx context.Context, lotID uint64, in Keep) error {
	return a.db.Write(ctx, database.Batches, func(tx *gorm.DB) error {
		l, _, err := loadLot(tx, lotID)
		if err != nil {
			return err
		}
		if err := tx.Model(&Lot{}).Where("id = ?", l.ID).Update("keep_rests", in.Keep).Error; err != nil {
			return fmt.Errorf("keeping the rests of a lot: %w", err)
		}
		return nil
	})
}
