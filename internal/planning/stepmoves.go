package planning

import (
	"cmp"
	"context"
	"slices"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// StepMove is a step of the coming day that a new plan has put elsewhere: to
// another person, or to another time that is no mere slide.
type StepMove struct {
	LotID        uint64    `json:"lotId"`
	Step         int       `json:"step"`
	StepName     string    `json:"stepName"`
	Product      string    `json:"product"`
	Pieces       int       `json:"pieces"`
	From         time.Time `json:"from"`
	FromPerson   string    `json:"fromPerson"`
	FromPersonID uint64    `json:"fromPersonId"`
	To           time.Time `json:"to"`
	ToPerson     string    `json:"toPerson"`
	Because      string    `json:"because"`
}

const (
	// comingDay is how far ahead people know their day.
	comingDay = 24 * time.Hour
	// slide is by how much a step may lie otherwise without being another plan.
	slide = 30 * time.Minute
)

type stepOf struct {
	lot  uint64
	step int
}

// noteMoves keeps what a new plan has moved since somebody last looked.
func (k *keeper) noteMoves(before, after *Schedule) {
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.moves == nil {
		k.moves = map[stepOf]StepMove{}
	}
	if before != nil {
		for _, j := range before.Jobs {
			before.keepPlaces(j, k.moves)
		}
	}
	for key, m := range k.moves {
		if moved, is := after.moved(m); is {
			k.moves[key] = moved
		} else {
			delete(k.moves, key)
		}
	}
}

// keepPlaces notes where the steps of a job in the coming day were, but for
// those of which it is known from before.
func (s *Schedule) keepPlaces(j Job, places map[stepOf]StepMove) {
	if j.Lot == nil {
		return
	}
	for _, p := range j.Placed {
		i := StepIndex(p)
		key := stepOf{j.Lot.ID, i}
		if _, known := places[key]; known || p.Start.Before(s.from()) || p.Start.Sub(s.Now) > comingDay {
			continue
		}
		id, name := s.personOf(p.By)
		places[key] = StepMove{LotID: j.Lot.ID, Step: i, StepName: j.Recipe.Steps[i].Name, Product: j.Name, Pieces: j.Pieces, From: p.Start, FromPerson: name, FromPersonID: id}
	}
}

// moved tells where a step lies by this plan, and whether it has moved; what is
// begun, done, held or due to begin already has not.
func (s *Schedule) moved(m StepMove) (StepMove, bool) {
	j := s.jobOf(m.LotID)
	if j == nil || !m.From.After(s.Now) || s.Bench.OpenRun(m.LotID) != nil {
		return m, false
	}
	p := j.At(m.Step)
	if p == nil || j.held != nil && j.held.step == p.Step {
		return m, false
	}
	id, name := s.personOf(p.By)
	m.To, m.ToPerson, m.Because, m.Pieces = p.Start, name, s.Because(*j, *p), j.Pieces
	return m, id != m.FromPersonID || p.Start.Sub(m.From).Abs() >= slide
}

// StepMoves are the steps of the coming day that were moved since somebody last looked.
func (a *Area) StepMoves(ctx context.Context) ([]StepMove, error) {
	s, err := a.Current(ctx)
	if err != nil {
		return nil, err
	}
	a.keeper.mu.Lock()
	defer a.keeper.mu.Unlock()
	moves := []StepMove{}
	for _, m := range a.keeper.moves {
		if now, is := s.moved(m); is {
			moves = append(moves, now)
		}
	}
	slices.SortFunc(moves, func(a, b StepMove) int {
		return cmp.Or(a.From.Compare(b.From), cmp.Compare(a.LotID, b.LotID), cmp.Compare(a.Step, b.Step))
	})
	return moves, nil
}

// SeenMoves notes that somebody has looked: the plan as it stands is the one known.
func (a *Area) SeenMoves(ctx context.Context) (wire.Nothing, error) {
	a.keeper.mu.Lock()
	a.keeper.moves = nil
	a.keeper.mu.Unlock()
	return wire.Nothing{}, a.db.Write(ctx, database.Promises, func(*gorm.DB) error { return nil })
}
