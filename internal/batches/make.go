package batches

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

// NewBatch is a batch being made up: the wants it serves, plain extras beyond
// them, and the sizes of its lots.
type NewBatch struct {
	ProductID uint64   `json:"productId"`
	WantIDs   []uint64 `json:"wantIds" maxItems:"500" nullable:"false"`
	Extras    int      `json:"extras" minimum:"0" maximum:"500"`
	Lots      []int    `json:"lots" minItems:"1" maxItems:"100" nullable:"false"`
	// Pilot sends the first lot through removal before the others are laid.
	Pilot bool `json:"pilot,omitempty"`
}

// Make makes up a batch.
func (a *Area) Make(ctx context.Context, in NewBatch) (b Batch, err error) {
	return database.Answer(ctx, a.db, database.Batches, func(tx *gorm.DB) (Batch, error) { return a.MakeIn(tx, in) })
}

// MakeIn is Make within a transaction.
func (a *Area) MakeIn(tx *gorm.DB, in NewBatch) (b Batch, err error) {
	p, basis, err := a.productOf(tx, in.ProductID)
	if err != nil {
		return b, err
	}
	overrides, err := products.OverridesInForce(tx, p.ID)
	if err != nil {
		return b, err
	}
	if stop := basis.Stopped(p, overrides); stop != nil {
		return b, problem.Conflict(problem.Stopped, "%s: %s %s Or overrule it on the product's page, with a reason.", p.Name, stop.Why, stop.Fix)
	}
	if err := in.Check(p, basis.Workshop); err != nil {
		return b, err
	}
	wants, err := in.claim(tx)
	if err != nil {
		return b, err
	}
	b = newBatch(p, basis, a.now())
	if in.Pilot && len(in.Lots) > 1 {
		b.PilotLot = new(1)
	}
	if err := createBatch(tx, &b, wants, in); err != nil {
		return b, err
	}
	if err := addEvent(tx, b.ID, a.now(), "Batch %d made up: %s", b.Number, measure.Count(len(wants)+in.Extras, "piece")); err != nil {
		return b, err
	}
	return b, noteOverrides(tx, b, overrides, a.now())
}

// productOf reads the product that a batch is of, and what its checks rest on.
func (a *Area) productOf(tx *gorm.DB, id uint64) (p products.Product, basis products.Basis, err error) {
	if p, err = products.Load(tx, id); err != nil {
		return p, basis, problem.OrInvalid(err, "productId", "this product is not made here")
	}
	basis, err = a.products.Basis(tx, a.now())
	return p, basis, err
}

// newBatch is an open batch of a product with the recipe it has now.
func newBatch(p products.Product, basis products.Basis, at time.Time) Batch {
	bench := p.Bench()
	return Batch{ProductID: p.ID, ProductName: p.Name, RecipeID: p.Recipe.ID, Recipe: bench, Blank: p.Blank, Picture: p.Picture, ArtworkID: p.ArtworkID, Design: p.Design, OwnPictures: p.OwnPictures, Signature: basis.Signature(p), ProofStep: max(0, bench.LastRemoval()),
		State: Open, CreatedAt: at, Version: 1}
}

// noteOverrides puts the stops that were overruled on the batch's record.
func noteOverrides(tx *gorm.DB, b Batch, overrides []products.Override, at time.Time) error {
	for _, o := range overrides {
		if err := addEvent(tx, b.ID, at, "Made with a stop overruled (%s): %s", o.Rule, o.Reason); err != nil {
			return err
		}
	}
	return nil
}

// Check refuses numbers of pieces and lots that no batch of the product has.
func (in NewBatch) Check(p products.Product, w workshop.Workshop) error {
	total := 0
	size := w.LotSize(p.Bench(), p.Blank)
	for i, n := range in.Lots {
		if n < 1 {
			return problem.Invalid(fmt.Sprintf("lots[%d]", i), "a lot holds at least one piece")
		}
		if n > size {
			return problem.Invalid(fmt.Sprintf("lots[%d]", i), "at most %d pieces fit a sitting and the racks", size)
		}
		total += n
	}
	if started := len(in.WantIDs) + in.Extras; total != started {
		return problem.Invalid("lots", "the lots hold %d pieces, and %d are to be started", total, started)
	}
	return in.checkPieces(p)
}

// checkPieces refuses numbers of pieces that no batch of the product has.
func (in NewBatch) checkPieces(p products.Product) error {
	if started := len(in.WantIDs) + in.Extras; started < 1 || started > craft.MostPieces {
		return problem.Invalid("extras", "start from 1 to %d pieces", craft.MostPieces)
	}
	if p.Lettered && in.Extras > 0 {
		return problem.Invalid("extras", "every %s carries a name, so none can be started without one", p.Name)
	}
	if p.OwnPictures && in.Extras > 0 {
		return problem.Invalid("extras", "every %s carries a picture of its customer's, so none can be started without one", p.Name)
	}
	return nil
}

// claim checks that each want is still open, and is of this product.
func (in NewBatch) claim(tx *gorm.DB) (wants []orders.OpenWant, err error) {
	asked := map[uint64]bool{}
	for _, id := range in.WantIDs {
		if asked[id] {
			return nil, problem.Invalid("wantIds", "the same piece is asked for twice")
		}
		asked[id] = true
	}
	open, err := Unserved(tx)
	if err != nil {
		return nil, err
	}
	for _, want := range open {
		if asked[want.WantID] && want.ProductID == in.ProductID {
			wants = append(wants, want)
		}
	}
	if len(wants) < len(in.WantIDs) {
		return nil, problem.Conflict(problem.Moved, "Some of these pieces are already being made, or are no longer wanted. Look again at what is open.")
	}
	return wants, nil
}

func createBatch(tx *gorm.DB, b *Batch, wants []orders.OpenWant, in NewBatch) error {
	if err := tx.Model(&Batch{}).Select("COALESCE(MAX(number), 0) + 1").Scan(&b.Number).Error; err != nil {
		return fmt.Errorf("numbering the batch: %w", err)
	}
	if err := tx.Create(b).Error; err != nil {
		return fmt.Errorf("adding the batch: %w", err)
	}
	var pieces []Piece
	for i, size := range in.Lots {
		lot := Lot{BatchID: b.ID, Number: i + 1}
		if err := tx.Create(&lot).Error; err != nil {
			return fmt.Errorf("adding a lot: %w", err)
		}
		for range size {
			pieces = append(pieces, newPiece(b, lot, len(pieces), wants))
		}
	}
	if err := tx.Create(&pieces).Error; err != nil {
		return fmt.Errorf("adding the pieces: %w", err)
	}
	return nil
}

func newPiece(b *Batch, lot Lot, i int, wants []orders.OpenWant) Piece {
	p := Piece{ProductID: b.ProductID, BatchID: &b.ID, LotID: &lot.ID, Number: i + 1, State: PieceWorking}
	if i < len(wants) {
		p.WantID, p.Lettering, p.ArtworkID = &wants[i].WantID, wants[i].Lettering, wants[i].ArtworkID
	}
	return p
}

// Abandon ends a batch that will not be finished; what it was for is open demand
// again, and filled from the shelf as far as that goes.
func (a *Area) Abandon(ctx context.Context, id uint64, version int) error {
	return a.db.Write(ctx, database.Batches|database.Stores|database.Orders, func(tx *gorm.DB) error {
		b, err := loadBatch(tx, id)
		if err != nil {
			return err
		}
		if err := problem.IfStale(version, b.Version, "Batch %d was changed by someone since you opened it.", b.Number); err != nil {
			return err
		}
		if b.State != Open {
			return problem.Conflict(problem.Closed, "Batch %d is %s already.", b.Number, b.State)
		}
		var lots []Lot
		if err := tx.Where("batch_id = ? AND closed_at IS NULL", id).Find(&lots).Error; err != nil {
			return fmt.Errorf("reading the lots: %w", err)
		}
		for _, l := range lots {
			if err := a.abandonLot(tx, l); err != nil {
				return err
			}
		}
		now := a.now()
		if err := addEvent(tx, id, now, "Batch %d abandoned", b.Number); err != nil {
			return err
		}
		// What it was for may lie ready on the shelf.
		if err := a.fill(tx, b.ProductID, now); err != nil {
			return err
		}
		if err := saveBatchState(tx, b, Abandoned, &now); err != nil {
			return err
		}
		return a.freezeCost(tx, id)
	})
}

func (a *Area) abandonLot(tx *gorm.DB, l Lot) error {
	run, err := openRun(tx, l.ID)
	if err != nil {
		return err
	}
	if run != nil {
		return problem.Conflict(problem.InHand, "Lot %d is in hand. Give that step back first.", l.Number)
	}
	pieces, err := workingPieces(tx, l.ID)
	if err != nil {
		return err
	}
	for i := range pieces {
		pieces[i].State, pieces[i].WantID = PieceAbandoned, nil
	}
	if err := SavePieces(tx, pieces); err != nil {
		return err
	}
	now := a.now()
	l.ClosedAt = &now
	return saveLot(tx, l)
}
