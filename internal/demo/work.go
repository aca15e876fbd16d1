package demo

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/internal/batches"
	"tidykiln/internal/workshop"
)

// stint is hands-on time that a person has spent.
type stint struct {
	person     uint64
	start, end time.Time
}

// tellWork takes the orders and works the batches up to where they stand now:
// something in hand, some of it ready, several lots resting, one promise at risk.
func (s *studio) tellWork(ctx context.Context) error {
	crew := []string{"Bow · Marit", "Two · Osric", "Three · Fenna", "Four · Ludo", "Five · Ansel", "Six · Birte", "Seven · Corin", "Stroke · Wenna", "Cox · Pip", "Coach · Hale", "Spare · Juno", "Boatman · Tam"}
	return errors.Join(
		s.handedOver(ctx),
		s.lampOrnaments(ctx),
		s.rowingClub(ctx, crew),
		s.signs(ctx),
		s.forTheShelf(ctx),
		s.atRisk(ctx),
		s.stillOpen(ctx),
	)
}

// handedOver is an order finished yesterday, and two spare pieces on the shelf.
func (s *studio) handedOver(ctx context.Context) error {
	o, err := s.take(ctx, "Oar & Anchor tea-room", lampOrnament, 9, 1, 10)
	if err != nil {
		return err
	}
	// This one stays to be collected today.
	if _, err := s.take(ctx, "Single: first lamp-night", lampOrnament, 8, 0, 1); err != nil {
		return err
	}
	lots, err := s.make(ctx, lampOrnament, 8*24*time.Hour, 3, 14)
	if err != nil {
		return err
	}
	steps, err := s.stepsOf(ctx, lots[0])
	if err != nil {
		return err
	}
	spoil := map[int][]string{4: {"bubble under the print"}}
	if err := s.work(ctx, lots[0], len(steps), s.slotBefore(s.now.Add(-26*time.Hour), 30*time.Minute).end, spoil); err != nil {
		return err
	}
	s.at = s.now.Add(-20 * time.Hour)
	defer func() { s.at = s.now }()
	return s.rooms.Fulfilment.HandOver(ctx, o.ID, o.Version)
}

// lampOrnaments are ten for the kiosk, sealed once this morning, and more resting under the print.
func (s *studio) lampOrnaments(ctx context.Context) error {
	if _, err := s.take(ctx, "Ferry kiosk", lampOrnament, 5, 3, 10); err != nil {
		return err
	}
	lots, err := s.make(ctx, lampOrnament, 4*24*time.Hour, 1, 5, 4)
	if err != nil {
		return err
	}
	return errors.Join(
		s.workUntilResting(ctx, lots[0], "seal-2", 40*time.Minute, nil),
		s.workUntilReady(ctx, lots[1], "clear-1", nil),
	)
}

// rowingClub is an order with paper being cleared from one lot now, and one name already spoiled.
func (s *studio) rowingClub(ctx context.Context, crew []string) error {
	if _, err := s.take(ctx, "Withy Rowing Club", crewOrnament, 4, 4, len(crew), crew...); err != nil {
		return err
	}
	lots, err := s.make(ctx, crewOrnament, 3*24*time.Hour, 0, 8, 4)
	if err != nil {
		return err
	}
	// The other lot is a step ahead, and lost a name on the way.
	if err := s.workUntilReady(ctx, lots[1], "clear-1", map[int][]string{4: {"lifted at the rim"}}); err != nil {
		return err
	}
	if err := s.workUntilReady(ctx, lots[0], "lay", nil); err != nil {
		return err
	}
	_, clear, err := s.stepOf(ctx, lots[0], "clear-1")
	if err != nil {
		return err
	}
	s.at = s.now.Add(-26*time.Minute - 40*time.Second)
	run, err := s.rooms.Batches.TakeUp(ctx, lots[0].ID, batches.TakeUp{PersonID: s.workshop.People[0].ID, Step: clear})
	s.at = s.now
	if err != nil {
		return err
	}
	return s.rooms.Batches.Tick(ctx, run.ID, batches.Ticked{Ticked: []int{0, 1}})
}

// signs wait for their second coat, with the recoat window closing.
func (s *studio) signs(ctx context.Context) error {
	if _, err := s.take(ctx, "Tern Boathouse", slipwaySign, 6, 6, 6, "Slip 1 · Tern", "Slip 2 · Heron", "Slip 3 · Coot", "Slip 4 · Grebe", "Slip 5 · Teal", "Slip 6 · Dabchick"); err != nil {
		return err
	}
	lots, err := s.make(ctx, slipwaySign, 5*24*time.Hour, 0, 6)
	if err != nil {
		return err
	}
	if err := s.workUntilReady(ctx, lots[0], "seal-1", nil); err != nil {
		return err
	}
	if _, err := s.take(ctx, "Lock-keepers’ choir", slipwaySign, 3, 8, 3, "Choir loft", "Mind the step", "Tune before tea"); err != nil {
		return err
	}
	if lots, err = s.make(ctx, slipwaySign, 2*24*time.Hour, 0, 3); err != nil {
		return err
	}
	return s.workUntilResting(ctx, lots[0], "final-cure", 62*time.Minute, nil)
}

// forTheShelf are ornaments nobody has ordered, printed and ready to be laid for the night.
func (s *studio) forTheShelf(ctx context.Context) error {
	lots, err := s.make(ctx, lampOrnament, 2*24*time.Hour, 8, 8)
	if err != nil {
		return err
	}
	return s.workUntilReady(ctx, lots[0], "print", nil)
}

// atRisk was promised for tomorrow, and has only just had its base coat.
func (s *studio) atRisk(ctx context.Context) error {
	names := []string{"Marshal · Edda", "Starter · Finn", "Timer · Gwen", "Judge · Ivo", "Launch · Kit"}
	if _, err := s.take(ctx, "Regatta office", crewOrnament, 2, 1, len(names), names...); err != nil {
		return err
	}
	lots, err := s.make(ctx, crewOrnament, 26*time.Hour, 0, 6)
	if err != nil {
		return err
	}
	if err := s.workUntilResting(ctx, lots[0], "base-2", 35*time.Minute, nil); err != nil {
		return err
	}
	// Its prints were made while the base dried.
	pieces, err := s.pieces(ctx, lots[0])
	if err != nil {
		return err
	}
	_, print, err := s.stepOf(ctx, lots[0], "print")
	if err != nil {
		return err
	}
	start, end := s.now.Add(-31*time.Minute), s.now.Add(-14*time.Minute)
	return s.logStep(ctx, lots[0], print, s.occupy(stint{s.freeAt(start, end), start, end}), pieces, nil)
}

// stillOpen are orders that nobody has begun.
func (s *studio) stillOpen(ctx context.Context) error {
	_, err := s.take(ctx, "Scullers’ guild", slipwaySign, 1, 12, 4, "Scullers’ steps", "No mooring here", "Guild landing", "Mind the swans")
	if err != nil {
		return err
	}
	_, err = s.take(ctx, "Single: the ferryman’s daughter", crewOrnament, 0, 9, 1, "Wick · aged 7")
	return err
}

func (s *studio) stepsOf(ctx context.Context, l batches.Lot) ([]craft.Step, error) {
	var b batches.Batch
	err := s.db.Read(ctx, func(tx *gorm.DB) error { return tx.First(&b, l.BatchID).Error })
	if err != nil {
		return nil, fmt.Errorf("reading the steps of a lot: %w", err)
	}
	return b.Recipe.Steps, nil
}

// stepOf finds a step of a lot's recipe by its id.
func (s *studio) stepOf(ctx context.Context, l batches.Lot, id string) (step craft.Step, index int, err error) {
	steps, err := s.stepsOf(ctx, l)
	if err != nil {
		return step, 0, err
	}
	if index, err = stepNamed(steps, id); err != nil {
		return step, 0, err
	}
	return steps[index], index, nil
}

func stepNamed(steps []craft.Step, id string) (int, error) {
	i := slices.IndexFunc(steps, func(s craft.Step) bool { return s.ID == id })
	if i < 0 {
		return i, fmt.Errorf("the recipe has no step %q", id)
	}
	return i, nil
}

// workUntilReady works a lot through a step whose rest has passed its floor by now.
func (s *studio) workUntilReady(ctx context.Context, l batches.Lot, step string, spoiled map[int][]string) error {
	last, i, err := s.stepOf(ctx, l, step)
	if err != nil {
		return err
	}
	floor := time.Duration(0)
	if last.Rest != nil {
		floor = time.Duration(last.Rest.Floor) * time.Minute
	}
	return s.work(ctx, l, i+1, s.slotBefore(s.now.Add(-floor-45*time.Minute), time.Duration(last.Minutes(8))*time.Minute).end, spoiled)
}

// workUntilResting works a lot through a step that ended a while ago.
func (s *studio) workUntilResting(ctx context.Context, l batches.Lot, step string, ago time.Duration, spoiled map[int][]string) error {
	_, i, err := s.stepOf(ctx, l, step)
	if err != nil {
		return err
	}
	return s.work(ctx, l, i+1, s.now.Add(-ago), spoiled)
}

// workLately works a lot through a step in the last free working time before now.
func (s *studio) workLately(ctx context.Context, l batches.Lot, step string) error {
	last, i, err := s.stepOf(ctx, l, step)
	if err != nil {
		return err
	}
	pieces, err := s.pieces(ctx, l)
	if err != nil {
		return err
	}
	length := time.Duration(last.Minutes(len(pieces))) * time.Minute
	return s.work(ctx, l, i+1, s.slotBefore(s.now.Add(-15*time.Minute), length).end, nil)
}

// work does the first n steps of a lot, the last of them ending at end and each
// before it long enough earlier, in working hours where that can be. spoiled
// gives, by step, the reasons for pieces lost there.
func (s *studio) work(ctx context.Context, l batches.Lot, n int, end time.Time, spoiled map[int][]string) error {
	steps, err := s.stepsOf(ctx, l)
	if err != nil {
		return err
	}
	pieces, err := s.pieces(ctx, l)
	if err != nil {
		return err
	}
	done := make([]stint, n)
	for i := n - 1; i >= 0; i-- {
		length := time.Duration(steps[i].Minutes(len(pieces))) * time.Minute
		if i == n-1 {
			done[i] = s.occupy(stint{s.freeAt(end.Add(-length), end), end.Add(-length), end})
			continue
		}
		latest := done[i+1].start
		next := i + 1
		for next < n && steps[next].Inside != "" {
			next++
		}
		if rest := steps[i].Rest; rest != nil && next < n {
			if over := done[next].start.Add(-time.Duration(rest.Usual) * time.Minute); over.Before(latest) {
				latest = over
			}
		}
		done[i] = s.occupy(s.slotBefore(latest, length))
	}
	for i, at := range done {
		if err := s.logStep(ctx, l, i, at, pieces, spoiled[i]); err != nil {
			return fmt.Errorf("%s: %w", steps[i].Name, err)
		}
	}
	return nil
}

func (s *studio) logStep(ctx context.Context, l batches.Lot, step int, at stint, pieces []batches.Piece, spoiled []string) error {
	s.at = at.end
	defer func() { s.at = s.now }()
	done := batches.Done{EndedAt: &at.end}
	for k, reason := range spoiled {
		done.Spoiled = append(done.Spoiled, batches.SpoiledPiece{PieceID: pieces[k].ID, Reason: reason})
	}
	return s.rooms.Batches.Log(ctx, l.ID, batches.LoggedStep{TakeUp: batches.TakeUp{PersonID: at.person, Step: step, StartedAt: &at.start, AcceptRisk: true}, Done: done})
}

func (s *studio) pieces(ctx context.Context, l batches.Lot) (pieces []batches.Piece, err error) {
	err = s.db.Read(ctx, func(tx *gorm.DB) error { return tx.Where("lot_id = ?", l.ID).Order("number").Find(&pieces).Error })
	return pieces, err
}

func (s *studio) occupy(at stint) stint {
	s.busy = append(s.busy, at)
	return at
}

// freeAt names who was free then, Isolde first.
func (s *studio) freeAt(start, end time.Time) uint64 {
	for _, p := range s.workshop.People {
		if !s.isBusy(p.ID, start, end) {
			return p.ID
		}
	}
	return s.workshop.People[0].ID
}

func (s *studio) isBusy(person uint64, start, end time.Time) bool {
	for _, b := range s.busy {
		if b.person == person && b.start.Before(end) && b.end.After(start) {
			return true
		}
	}
	return false
}

// slotBefore finds the latest free stretch of somebody's working hours that ends by latest.
func (s *studio) slotBefore(latest time.Time, length time.Duration) stint {
	for end := latest.Truncate(5 * time.Minute); end.After(latest.AddDate(0, 0, -21)); end = end.Add(-5 * time.Minute) {
		start := end.Add(-length)
		for _, p := range s.workshop.People {
			if worksAll(p, start, end, s.workshop.Location()) && !s.isBusy(p.ID, start, end) {
				return stint{p.ID, start, end}
			}
		}
	}
	return stint{s.workshop.People[0].ID, latest.Add(-length), latest}
}

func worksAll(p workshop.Person, start, end time.Time, in *time.Location) bool {
	for _, o := range p.Times().Open(start, end, in) {
		if o[0].Equal(start) && o[1].Equal(end) {
			return true
		}
	}
	return false
}
