package prints

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"gorm.io/gorm"

	"tidykiln/core/measure"
	"tidykiln/internal/artwork"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/library"
	"tidykiln/internal/orders"
	"tidykiln/internal/planning"
	"tidykiln/internal/problem"
	"tidykiln/internal/stores"
	"tidykiln/internal/workshop"
)

// PrintProposal is what a job would come to.
type PrintProposal struct {
	Layout   Layout     `json:"layout"`
	Sheets   int        `json:"sheets" doc:"of the paper, as they go into the printer"`
	Prints   int        `json:"prints"`
	Concerns []Concern  `json:"concerns" nullable:"false"`
	Costs    PrintCosts `json:"costs" seen:"makers" required:"false"`
}

// Printable is a batch that can be printed.
type Printable struct {
	BatchID     uint64 `json:"batchId"`
	Batch       int    `json:"batch"`
	ProductID   uint64 `json:"productId"`
	ProductName string `json:"productName"`
	Pieces      int    `json:"pieces" doc:"at work and not printed yet"`
	Printed     int    `json:"printed"`
	// Missing is how many have no picture of their customer's yet.
	Missing int    `json:"missing"`
	Carrier string `json:"carrier"`
	// ArtworkThumb is the file of its picture, small; empty without one.
	ArtworkThumb string `json:"artworkThumb,omitempty"`
	// LayAt is when the plan has the first of it laid; nil where it does not say.
	LayAt *string `json:"layAt,omitempty" format:"date-time"`
}

// read reads what a job is laid out from.
func (a *Area) read(tx *gorm.DB, batchIDs, pieceIDs []uint64) (m matter, err error) {
	if m.batches, err = batches.LoadToPrint(tx, batchIDs, pieceIDs); err != nil {
		return m, err
	}
	var ids []uint64
	for _, b := range m.batches {
		ids = append(ids, b.Pictures()...)
	}
	if m.pictures, err = artwork.ByID(tx, ids); err != nil {
		return m, err
	}
	if m.methods, err = library.Load(tx); err != nil {
		return m, err
	}
	if m.workshop, err = workshop.LoadAlone(tx); err != nil {
		return m, err
	}
	if m.materials, err = stores.LoadMaterials(tx); err != nil {
		return m, err
	}
	wanted, err := orders.Wanted(tx)
	m.wants = make(map[uint64]orders.OpenWant, len(wanted))
	for _, w := range wanted {
		m.wants[w.WantID] = w
	}
	return m, err
}

// propose lays a job out.
func (a *Area) propose(ctx context.Context, tx *gorm.DB, r JobRequest) (p PrintProposal, m matter, err error) {
	if m, err = a.read(tx, r.BatchIDs, r.PieceIDs); err != nil {
		return p, m, err
	}
	kinds, concerns, err := m.kinds(r)
	if err != nil {
		return p, m, err
	}
	waiting, err := unapproved(tx, kinds)
	if err != nil {
		return p, m, err
	}
	for _, k := range kinds {
		if n := waiting[k.BatchID]; n > 0 {
			concerns = append(concerns, Concern{Batch: k.Batch, Text: fmt.Sprintf("Of %s the customer has not approved the proof.", measure.Count(n, "piece"))})
		}
	}
	p.Concerns = append([]Concern{}, concerns...)
	if p.Layout, err = lay(ctx, r, kinds); err != nil {
		return p, m, err
	}
	p.Sheets, p.Prints = p.Layout.pages(r.Paper), p.Layout.prints()
	p.Costs = m.costs(p, kinds, r)
	return p, m, nil
}

// Ask works out what a job would come to.
func (a *Area) Ask(ctx context.Context, r JobRequest) (PrintProposal, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (PrintProposal, error) {
		p, _, err := a.propose(ctx, tx, r)
		return p, err
	})
}

// Make makes the sheets of batches. They are there when they are made, which happens
// after the answer.
func (a *Area) Make(ctx context.Context, r JobRequest) (j PrintJob, err error) {
	// The search is not made under the lock of a write.
	p, err := a.Ask(ctx, r)
	if err != nil {
		return j, err
	}
	for _, c := range p.Concerns {
		if c.Blocks && !(c.Words && r.AcceptWords) {
			return j, problem.Conflict(problem.NotPrintable, "Batch %d%s: %s", c.Batch, naming(c.Name), c.Text)
		}
	}
	if r.PieceIDs == nil {
		r.PieceIDs = []uint64{}
	}
	j, err = database.Answer(ctx, a.db, database.Prints, func(tx *gorm.DB) (j PrintJob, err error) {
		var numbers []string
		for _, k := range p.Layout.Kinds {
			numbers = append(numbers, fmt.Sprint(k.Batch))
		}
		title := "Batch " + strings.Join(numbers, ", ")
		if len(numbers) > 1 {
			title = fmt.Sprintf("Batches %s", strings.Join(numbers, ", "))
		}
		if runes := []rune(title); len(runes) > 120 {
			title = string(runes[:119]) + "…"
		}
		j = PrintJob{Title: title, JobRequest: r, Layout: p.Layout, Sheets: p.Sheets, Prints: p.Prints, Costs: p.Costs, State: Making, CreatedAt: a.now(), Version: 1}
		if err := tx.Create(&j).Error; err != nil {
			return j, fmt.Errorf("adding a print job: %w", err)
		}
		return j, nil
	})
	a.making.Wake()
	return j, err
}

func naming(name string) string {
	if name == "" {
		return ""
	}
	return ", " + name
}

// compareMoments puts what has no moment last.
func compareMoments(a, b *string) int {
	switch {
	case a == nil && b == nil:
		return 0
	case a == nil:
		return 1
	case b == nil:
		return -1
	}
	return cmp.Compare(*a, *b)
}

// mostListed bounds the jobs that are listed.
const mostListed = 60

// List is the jobs, the newest first.
func (a *Area) List(ctx context.Context) ([]PrintJob, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (list []PrintJob, err error) {
		list = []PrintJob{}
		if err := tx.Order("id DESC").Limit(mostListed).Find(&list).Error; err != nil {
			return nil, fmt.Errorf("reading the print jobs: %w", err)
		}
		return list, nil
	})
}

// Get is one job.
func (a *Area) Get(ctx context.Context, id uint64) (PrintJob, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (PrintJob, error) { return load(tx, id) })
}

func load(tx *gorm.DB, id uint64) (j PrintJob, err error) {
	return j, problem.OrNotFound(tx.First(&j, id).Error, "print job")
}

// Stop ends the making of a job's sheets.
func (a *Area) Stop(ctx context.Context, id uint64) error {
	return a.setState(ctx, id, Stopped, func(j PrintJob) bool { return j.State == Making })
}

// MakeAgain makes the sheets of a job that was stopped or failed.
func (a *Area) MakeAgain(ctx context.Context, id uint64) error {
	err := a.setState(ctx, id, Making, func(j PrintJob) bool { return j.State == Stopped || j.State == Failed })
	a.making.Wake()
	return err
}

func (a *Area) setState(ctx context.Context, id uint64, to JobState, from func(PrintJob) bool) error {
	return a.db.Write(ctx, database.Prints, func(tx *gorm.DB) error {
		j, err := load(tx, id)
		if err != nil || !from(j) {
			return err // where it has moved on meanwhile, there is nothing to do
		}
		return update(tx, id, map[string]any{"state": to, "done": 0, "failure": "", "claimed_until": nil, "tries": 0})
	})
}

func update(tx *gorm.DB, id uint64, columns map[string]any) error {
	columns["version"] = gorm.Expr("version + 1")
	if err := tx.Model(&PrintJob{}).Where("id = ?", id).Updates(columns).Error; err != nil {
		return fmt.Errorf("saving a print job: %w", err)
	}
	return nil
}

// Remove takes a job and its sheets away. What was printed is not touched by that.
func (a *Area) Remove(ctx context.Context, id uint64) error {
	return a.db.Write(ctx, database.Prints, func(tx *gorm.DB) error {
		if _, err := load(tx, id); err != nil {
			return err
		}
		if err := tx.Delete(&PrintJob{}, id).Error; err != nil {
			return fmt.Errorf("removing a print job: %w", err)
		}
		return nil
	})
}

// Sheets is the PDF of a job.
func (a *Area) Sheets(ctx context.Context, id uint64) (name string, content []byte, err error) {
	j, err := a.Get(ctx, id)
	if err != nil {
		return "", nil, err
	}
	if j.File == nil {
		return "", nil, problem.Conflict(problem.Moved, "These sheets are not made yet.")
	}
	content, _, err = a.artworks.FileOf(ctx, *j.File)
	if err == nil && content == nil {
		err = problem.Conflict(problem.Moved, "The file of these sheets is gone. Make them again.")
	}
	return fmt.Sprintf("sheets-%d.pdf", id), content, err
}

// ListPrintable lists the batches that can be printed.
func (a *Area) ListPrintable(ctx context.Context) ([]Printable, error) {
	lays := map[uint64]string{}
	s, err := a.plans.Current(ctx)
	if err != nil {
		return nil, err
	}
	for _, j := range s.Jobs {
		if j.Batch == nil {
			continue
		}
		for _, step := range j.Placed {
			at := step.Start.UTC().Format("2006-01-02T15:04:05Z")
			if planning.StepIndex(step) == j.Lay() && (lays[j.Batch.ID] == "" || at < lays[j.Batch.ID]) {
				lays[j.Batch.ID] = at
			}
		}
	}
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]Printable, error) { return printable(tx, lays) })
}

func printable(tx *gorm.DB, lays map[uint64]string) ([]Printable, error) {
	all, err := batches.Printable(tx)
	if err != nil {
		return nil, err
	}
	var ids []uint64
	for _, b := range all {
		if b.ArtworkID != nil {
			ids = append(ids, *b.ArtworkID)
		}
	}
	pictures, err := artwork.ByID(tx, ids)
	if err != nil {
		return nil, err
	}
	list := []Printable{}
	for _, b := range all {
		p := Printable{BatchID: b.ID, Batch: b.Number, ProductID: b.ProductID, ProductName: b.ProductName, Pieces: len(b.Pieces), Printed: b.Printed, Missing: b.Missing, Carrier: carrierOf(b.Picture)}
		if b.Printed == len(b.Pieces) {
			p.Pieces = 0 // those that would be printed again
		}
		if b.ArtworkID != nil {
			if pic := pictures[*b.ArtworkID]; pic.Thumb != nil {
				p.ArtworkThumb = *pic.Thumb
			}
		}
		if at := lays[b.ID]; at != "" {
			p.LayAt = &at
		}
		list = append(list, p)
	}
	// What is to be printed before what is printed, and what is laid soonest first.
	slices.SortStableFunc(list, func(a, b Printable) int {
		return cmp.Or(cmp.Compare(min(1, b.Pieces), min(1, a.Pieces)), compareMoments(a.LayAt, b.LayAt))
	})
	return list, nil
}
