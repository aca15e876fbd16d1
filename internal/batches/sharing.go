package batches

import (
	"fmt"
	"slices"
	"time"

	"gorm.io/gorm"
)

// regroup shares the timer of a sitting out among those of its runs that are in
// hand, by what each needs. When none is any more, what was worked in all is
// shared out among those done.
func (a *Area) regroup(tx *gorm.DB, sittingID *uint64) error {
	if sittingID == nil {
		return nil
	}
	runs, err := runsIn(tx, *sittingID, true)
	if err != nil {
		return err
	}
	if len(runs) == 0 {
		return a.settle(tx, *sittingID)
	}
	total := needOf(runs)
	now := a.now()
	if runs[0].RunningSince != nil && now.After(*runs[0].RunningSince) {
		stopAll(runs, now)
		for i := range runs {
			runs[i].RunningSince = &now
		}
	}
	for i := range runs {
		r := &runs[i]
		r.Share = r.need(len(runs)) / total
		if err := saveRun(tx, &r.Run); err != nil {
			return err
		}
	}
	return nil
}

// stopAll puts the runs of a sitting down at a moment; their parts of the timer
// add up to it, to the second.
func stopAll(runs []inSitting, at time.Time) {
	before, share := 0, 0.0
	for i := range runs {
		r := &runs[i]
		if r.RunningSince != nil && at.After(*r.RunningSince) {
			share += r.Share
			until := int(share*at.Sub(*r.RunningSince).Seconds() + 0.5)
			r.WorkedSeconds, before = r.WorkedSeconds+until-before, until
		}
		r.RunningSince = nil
	}
}

func needOf(runs []inSitting) (total float64) {
	for _, r := range runs {
		total += r.need(len(runs))
	}
	return total
}

// passOn leaves what a run given back had of its sitting's timer to the others.
func (a *Area) passOn(tx *gorm.DB, r Run) error {
	if r.SittingID == nil {
		return nil
	}
	others, err := runsIn(tx, *r.SittingID, true)
	if err != nil || len(others) == 0 {
		return err
	}
	others[0].WorkedSeconds += r.Worked(a.now())
	if err := saveRun(tx, &others[0].Run); err != nil {
		return err
	}
	return a.regroup(tx, r.SittingID)
}

// settle shares what was worked in a sitting that is over out among its lots,
// to the second, by what each needed.
func (a *Area) settle(tx *gorm.DB, sittingID uint64) error {
	runs, err := runsIn(tx, sittingID, false)
	if err != nil {
		return err
	}
	worked, need := 0, needOf(runs)
	for _, r := range runs {
		worked += r.WorkedSeconds
	}
	before, share := 0, 0.0
	for i := range runs {
		r := &runs[i]
		r.Share = r.need(len(runs)) / need
		share += r.Share
		until := int(float64(worked)*share + 0.5)
		r.WorkedSeconds, before = until-before, until
		if err := saveRun(tx, &r.Run); err != nil {
			return err
		}
	}
	return a.freezeShared(tx, runs)
}

// freezeShared notes anew what the pieces of closed batches cost whose minutes were shared out.
func (a *Area) freezeShared(tx *gorm.DB, runs []inSitting) error {
	seen := map[uint64]bool{}
	for _, r := range runs {
		if r.batch.State == Open || seen[r.batch.ID] {
			continue
		}
		seen[r.batch.ID] = true
		if err := a.freezeCost(tx, r.batch.ID); err != nil {
			return err
		}
	}
	return nil
}

// lotsDone counts the lots done in each sitting.
type lotsDone map[uint64]int

// of is how many lots were done in a run's sitting; one when it was done alone.
func (l lotsDone) of(sitting *uint64) int {
	if sitting == nil {
		return 1
	}
	return max(1, l[*sitting])
}

func sittingsOf(runs []Run) []*uint64 {
	ids := make([]*uint64, len(runs))
	for i, r := range runs {
		ids[i] = r.SittingID
	}
	return ids
}

// lotsIn counts the lots done in sittings, of which some may be nil.
func lotsIn(tx *gorm.DB, sittings []*uint64) (lotsDone, error) {
	lots := lotsDone{}
	ids := []uint64{}
	for _, id := range sittings {
		if id != nil && !slices.Contains(ids, *id) {
			ids = append(ids, *id)
		}
	}
	if len(ids) == 0 {
		return lots, nil
	}
	var counts []struct {
		SittingID uint64
		Lots      int
	}
	err := tx.Model(&Run{}).Select("sitting_id, COUNT(*) AS lots").Where("sitting_id IN ? AND ended_at IS NOT NULL", ids).Group("sitting_id").Scan(&counts).Error
	if err != nil {
		return nil, fmt.Errorf("counting the lots of sittings: %w", err)
	}
	for _, c := range counts {
		lots[c.SittingID] = c.Lots
	}
	return lots, nil
}
