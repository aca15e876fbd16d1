package prints

import (
	"context"
	"fmt"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/stock"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/standin"
	"tidykiln/internal/stores"
)

// Printer is a print queue, as a real one would be.
type Printer interface {
	// Send puts a PDF into the queue, Cancel takes it out, Knows tells whether it is there.
	Send(job uint64, pdf []byte, pages int)
	Cancel(job uint64)
	Knows(job uint64) bool
	// Out gives the pages that came out since it was asked last.
	Out() []standin.PageOut
	Status() standin.PrinterStatus
}

// Simulated is a printer that is no machine: what is in it can be set, and what it
// printed can be looked at.
type Simulated interface {
	Printer
	Set(standin.PrinterStatus)
	Sheet(job uint64, page int) ([]byte, error)
}

// PrinterView is the printer as the pages show it.
type PrinterView struct {
	standin.PrinterStatus
	Simulated bool `json:"simulated"`
}

// PrinterChange sets a simulated printer.
type PrinterChange struct {
	Paper  int     `json:"paper" minimum:"0" maximum:"1000"`
	Toner  float64 `json:"toner" minimum:"0" maximum:"1"`
	Jammed bool    `json:"jammed"`
	Scale  float64 `json:"scale" minimum:"50" maximum:"150"`
}

// ShowPrinter is the printer as it stands.
func (a *Area) ShowPrinter(context.Context) (PrinterView, error) {
	_, simulated := a.printer.(Simulated)
	return PrinterView{a.printer.Status(), simulated}, nil
}

// SetPrinter sets a simulated printer.
func (a *Area) SetPrinter(ctx context.Context, c PrinterChange) error {
	p, is := a.printer.(Simulated)
	if !is {
		return problem.Conflict(problem.Moved, "This printer is a real one: see to it by hand.")
	}
	p.Set(standin.PrinterStatus{Paper: c.Paper, Toner: c.Toner, Jammed: c.Jammed, Scale: c.Scale})
	return a.db.Write(ctx, database.Prints, func(*gorm.DB) error { return nil }) // so that the pages look again
}

// Print sends a job's sheets to the printer.
func (a *Area) Print(ctx context.Context, id uint64) error {
	j, err := a.Get(ctx, id)
	if err != nil {
		return err
	}
	if j.Printing {
		return nil // a second tap
	}
	_, content, err := a.Sheets(ctx, id)
	if err != nil {
		return err
	}
	err = a.db.Write(ctx, database.Prints, func(tx *gorm.DB) error {
		return update(tx, id, map[string]any{"printing": true, "printed": 0})
	})
	if err != nil {
		return err
	}
	a.printer.Send(id, content, j.Sheets)
	return nil
}

// CancelPrint takes a job out of the printer's queue.
func (a *Area) CancelPrint(ctx context.Context, id uint64) error {
	if _, err := a.Get(ctx, id); err != nil {
		return err
	}
	a.printer.Cancel(id)
	return a.db.Write(ctx, database.Prints, func(tx *gorm.DB) error {
		return update(tx, id, map[string]any{"printing": false})
	})
}

// PrintedSheet is a sheet that came out of a simulated printer, as a picture.
func (a *Area) PrintedSheet(id uint64, page int) ([]byte, error) {
	p, is := a.printer.(Simulated)
	if !is {
		return nil, problem.NotFound("printed sheet")
	}
	content, err := p.Sheet(id, page)
	if err != nil {
		return nil, problem.NotFound("printed sheet")
	}
	return content, nil
}

// watchEvery is how often the printer is looked at.
const watchEvery = time.Second

// KeepPrinting notes what comes out of the printer until ctx ends.
func (a *Area) KeepPrinting(ctx context.Context, report func(error)) {
	tick := time.NewTicker(watchEvery)
	defer tick.Stop()
	for {
		if err := a.Collect(ctx); err != nil && ctx.Err() == nil {
			report(err)
		}
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
	}
}

// Collect notes what came out of the printer: the jobs' pages, and what they took from
// the stores. A job that the printer does not know any more is not being printed.
func (a *Area) Collect(ctx context.Context) error {
	out := map[uint64]int{}
	for _, p := range a.printer.Out() {
		out[p.Job]++
	}
	printing, err := database.Look(ctx, a.db, func(tx *gorm.DB) (list []PrintJob, err error) {
		return list, tx.Where("printing").Find(&list).Error
	})
	if err != nil {
		return fmt.Errorf("reading what is printed: %w", err)
	}
	for _, j := range printing {
		if n := out[j.ID]; n > 0 || !a.printer.Knows(j.ID) {
			if err := a.collect(ctx, j, n); err != nil {
				return err
			}
		}
	}
	return nil
}

func (a *Area) collect(ctx context.Context, j PrintJob, pages int) error {
	return a.db.Write(ctx, database.Prints|database.Stores|database.Batches, func(tx *gorm.DB) error {
		if err := a.drawPages(tx, j, j.Printed, j.Printed+pages); err != nil {
			return err
		}
		return update(tx, j.ID, map[string]any{"printed": j.Printed + pages, "printing": a.printer.Knows(j.ID)})
	})
}

// drawPages takes from the stores what pages took: a sheet each, for the batch of its
// first print, and for every print its ink.
func (a *Area) drawPages(tx *gorm.DB, j PrintJob, from, until int) error {
	if from == until {
		return nil
	}
	m, err := a.read(tx, j.BatchIDs, j.pieces())
	if err != nil {
		return err
	}
	kinds, _, err := m.kinds(j.JobRequest)
	if err != nil {
		return err
	}
	taken := make([]map[string]decimal.Decimal, len(kinds))
	for i := range taken {
		taken[i] = map[string]decimal.Decimal{}
	}
	for page := from; page < min(until, j.Sheets); page++ {
		first := true
		for _, s := range j.Layout.Sheets[page*j.Paper.up() : min((page+1)*j.Paper.up(), len(j.Layout.Sheets))] {
			for _, it := range s.Items {
				for _, d := range m.takenBy(kinds[it.Kind], it, first) {
					taken[it.Kind][d.MaterialKey] = taken[it.Kind][d.MaterialKey].Add(d.Quantity)
				}
				first = false
			}
		}
	}
	for i, k := range kinds {
		var drawings []stores.Drawing
		for key, quantity := range taken[i] {
			drawings = append(drawings, stores.Drawing{MaterialKey: key, Quantity: quantity.Round(stock.Places)})
		}
		if len(drawings) == 0 {
			continue
		}
		work := stores.Work{BatchID: k.BatchID, At: a.now(), AcceptShort: true, Note: fmt.Sprintf("printed, %s", j.Title)}
		if err := a.stores.Draw(tx, work, drawings); err != nil {
			return err
		}
	}
	return batches.NotePrinted(tx, j.BatchIDs)
}

// pieces are those that a job prints.
func (j PrintJob) pieces() (ids []uint64) {
	for _, s := range j.Layout.Sheets {
		for _, it := range s.Items {
			ids = append(ids, it.PieceID)
		}
	}
	return ids
}
