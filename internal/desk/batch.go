package desk

import (
	"bytes"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/document"
	"tidykiln/internal/planning"
	"tidykiln/internal/wire"
)

// BatchPage is a batch with its lots and what happened to it.
type BatchPage struct {
	batches.Batch
	Lots   []BatchLot `json:"lots" nullable:"false"`
	Events []Event    `json:"events" nullable:"false"`
}

// BatchLot is a lot of a batch, and where it is.
type BatchLot struct {
	LotID    uint64     `json:"lotId"`
	Lot      int        `json:"lot"`
	Pilot    bool       `json:"pilot"`
	Pieces   int        `json:"pieces"`
	StepName string     `json:"stepName" doc:"the next step; empty when it is through"`
	ReadyAt  *time.Time `json:"readyAt,omitempty"`
}

// Batch shows one batch at the bench.
func (a *Area) Batch(ctx context.Context, id uint64) (page BatchPage, err error) {
	s, err := a.current(ctx)
	if err != nil {
		return page, err
	}
	return database.Look(ctx, a.db, func(tx *gorm.DB) (page BatchPage, err error) {
		bench, err := s.benchOf(tx, id)
		if err != nil {
			return page, err
		}
		page = s.batchPage(bench, bench.Batches[id])
		events, err := batches.EventsOf(tx, id)
		for _, e := range events {
			page.Events = append(page.Events, Event{e.At, e.Text})
		}
		return page, err
	})
}

// benchOf is the bench that a batch stands on, or is read for it when it has long left.
func (s view) benchOf(tx *gorm.DB, id uint64) (batches.Bench, error) {
	if _, known := s.Bench.Batches[id]; known {
		return s.Bench, nil
	}
	return batches.LoadWhole(tx, id)
}

func (s view) batchPage(bench batches.Bench, batch batches.Batch) BatchPage {
	page := BatchPage{Batch: batch, Lots: []BatchLot{}, Events: []Event{}}
	for _, l := range bench.Lots {
		if l.BatchID != batch.ID {
			continue
		}
		lot := BatchLot{LotID: l.ID, Lot: l.Number, Pilot: batch.PilotLot != nil && *batch.PilotLot == l.Number, Pieces: len(bench.PiecesOf(l.ID))}
		if l.ClosedAt == nil {
			lot.StepName = batch.Recipe.Steps[l.NextStep].Name
		}
		if k := slices.IndexFunc(s.Jobs, func(j planning.Job) bool { return j.Lot != nil && j.Lot.ID == l.ID }); k >= 0 {
			lot.ReadyAt = s.Jobs[k].Done
		}
		page.Lots = append(page.Lots, lot)
	}
	return page
}

// Card writes a batch as a PDF for the bench.
func (a *Area) Card(ctx context.Context, id uint64) ([]byte, error) {
	s, err := a.current(ctx)
	if err != nil {
		return nil, err
	}
	bench, err := database.Look(ctx, a.db, func(tx *gorm.DB) (batches.Bench, error) { return s.benchOf(tx, id) })
	if err != nil {
		return nil, err
	}
	batch := bench.Batches[id]
	card := document.BatchCard{
		Title:    fmt.Sprintf("Batch %d · %s", batch.Number, batch.ProductName),
		Subtitle: fmt.Sprintf("%s, %s, on %s", s.Basis.Methods[batch.Recipe.Method].Name, batch.Recipe.Look, batch.Blank.Surface.Words()),
		Address:  fmt.Sprintf("%s/?tray=batch:%d", a.access.AddressFor(ctx), id),
		Foot:     craft.LabelsFirst,
	}
	pieces := 0
	for _, p := range bench.Pieces {
		if *p.BatchID != id {
			continue
		}
		pieces++
		if p.Lettering != "" {
			card.Names = append(card.Names, p.Lettering)
		}
	}
	card.Facts = s.cardFacts(batch, pieces, wire.SeesBusiness(ctx))
	for _, step := range batch.Recipe.Steps {
		card.Steps = append(card.Steps, s.cardStep(step))
	}
	var out bytes.Buffer
	err = document.WriteBatchCard(&out, card)
	return out.Bytes(), err
}

// cardFacts says for whom it is to those only who may know.
func (s view) cardFacts(b batches.Batch, pieces int, customers bool) []string {
	facts := []string{fmt.Sprintf("%d pieces, made up %s", pieces, s.Basis.Workshop.Habit.DateAndYear(b.CreatedAt.In(s.Location())))}
	var wants []uint64
	for _, j := range s.Jobs {
		if j.Lot != nil && j.Batch.ID == b.ID {
			wants = append(wants, j.Wants...)
		}
	}
	var serves []string
	for _, served := range s.Serves(wants) {
		serves = append(serves, served.Customer)
	}
	if customers && len(serves) > 0 {
		facts = append(facts, "For "+strings.Join(serves, ", "))
	}
	if due := s.DueOf(wants); due != nil {
		facts = append(facts, "Soonest due "+s.inFull(*due))
	}
	if b.PilotLot != nil {
		facts = append(facts, fmt.Sprintf("Lot %d is the pilot: through removal before the others are laid", *b.PilotLot))
	}
	return facts
}

func (s view) inFull(t time.Time) string {
	t = t.In(s.Location())
	return s.Basis.Workshop.Habit.Date(t) + ", " + s.Basis.Workshop.Habit.Time(t)
}

func (sc view) cardStep(s craft.Step) document.CardStep {
	step := document.CardStep{Name: s.Name, Hands: fmt.Sprintf("set-up %s min, then %s min a piece", sc.Basis.Workshop.Habit.Number(s.SetupMinutes), sc.Basis.Workshop.Habit.Number(s.MinutesPerPiece)), Inside: s.Inside != "", Checklist: s.Checklist, Cautions: sc.cautions(s)}
	if s.Inside != "" {
		step.Hands += ", while the step before it rests"
	}
	if r := s.Rest; r != nil {
		step.Rest = fmt.Sprintf("rest to %s: never under %s, usually %s", r.Kind, measure.Duration(r.Floor), measure.Duration(r.Usual))
		if r.Turner {
			step.Rest += ", on the turner"
		}
		if r.Ceiling != nil {
			step.Rest += ", at most " + measure.Duration(*r.Ceiling) + " from the first piece"
		}
	}
	return step
}
