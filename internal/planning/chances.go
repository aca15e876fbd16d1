package planning

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/chance"
	"tidykiln/internal/batches"
	"tidykiln/internal/orders"
)

// Odds say how sure it is that an order is ready in time, were the plan played
// many times as things really go: minutes as logged, rounds more, spoils, illness.
type Odds struct {
	// InTime is the chance, from 0 to 1, of being ready by the due; 1 where none is named.
	InTime float64 `json:"inTime"`
	// SureOn is the day by which it is ready nine times in ten; empty when that is not known.
	SureOn calendar.Date `json:"sureOn,omitempty" format:"date"`
	SureAt *time.Time    `json:"sureAt,omitempty"`
	Runs   int           `json:"runs"`
}

const (
	// playings is how often a plan is played for an answer.
	playings = 1000
	// sureShare is how often a day that is called sure is held.
	sureShare = 0.9
	// illShare is the chance that somebody does not come on a day: three or four days a year.
	illShare = 0.015
	// playedDays is how far ahead it is played.
	playedDays = 60
	// oneSeed: the same question has the same answer.
	oneSeed = 20270301
)

// odds plays a schedule for one order.
func (a *Area) odds(ctx context.Context, s *Schedule, o orders.Order, due *time.Time) (odds *Odds, err error) {
	var pace batches.Pace
	if err := a.db.Read(ctx, func(tx *gorm.DB) (err error) { pace, err = batches.LoadPace(tx); return err }); err != nil {
		return nil, err
	}
	var group []int
	for i, j := range s.Jobs {
		if s.serve(j, o) {
			group = append(group, i)
		}
	}
	done, err := chance.Play(ctx, s.played(pace), [][]int{group}, playings, oneSeed)
	if err != nil {
		return nil, fmt.Errorf("playing the plan: %w", err)
	}
	odds = &Odds{InTime: 1, Runs: playings}
	if due != nil {
		odds.InTime = chance.Chance(done[0], int(due.Sub(s.from())/time.Minute))
	}
	if by := chance.By(done[0], sureShare); by < chance.Never {
		at := s.from().Add(time.Duration(by) * time.Minute)
		odds.SureAt, odds.SureOn = &at, s.handedOverOn(at)
	}
	return odds, nil
}

// handedOverOn is the first day whose hand-over is not before a moment.
func (s Snapshot) handedOverOn(at time.Time) calendar.Date {
	day := calendar.DateOf(at, s.Location())
	if s.Basis.Workshop.DueAt(day).Before(at) {
		day = day.Add(1)
	}
	return day
}
