package batches

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/stores"
)

// ShelfMovement is a change of the shelf other than by the work and by orders:
// pieces that a count found or missed, that broke, or that were lost. Pieces
// came, or went when negative.
type ShelfMovement struct {
	ID        uint64       `json:"id"`
	ProductID uint64       `json:"-"`
	Cause     stores.Cause `json:"cause" enum:"count,spoil,loss"`
	Pieces    int          `json:"pieces"`
	Note      string       `json:"note"`
	At        time.Time    `json:"at"`
	// Reverses is the movement that this one takes back.
	Reverses *uint64 `json:"reverses,omitempty"`
}

// ShelfMovementPiece is one of the pieces of a movement.
type ShelfMovementPiece struct {
	MovementID uint64 `gorm:"primaryKey"`
	PieceID    uint64 `gorm:"primaryKey"`
}

// ShelfCount is how many spare pieces without a name really lie on the shelf.
type ShelfCount struct {
	Pieces int    `json:"pieces" minimum:"0" maximum:"2000"`
	Note   string `json:"note,omitempty" maxLength:"200"`
}

// ShelfLoss is spare pieces that broke, or that are not there any more.
type ShelfLoss struct {
	Pieces int          `json:"pieces" minimum:"1" maximum:"2000"`
	Cause  stores.Cause `json:"cause" enum:"spoil,loss"`
	// Lettering picks the piece with this name on it; plain ones without.
	Lettering string `json:"lettering,omitempty" maxLength:"120"`
	Note      string `json:"note,omitempty" maxLength:"200"`
}

// CountShelf corrects a product's spare plain pieces to what was counted. The
// oldest are taken to be the missing ones.
func (a *Area) CountShelf(ctx context.Context, productID uint64, in ShelfCount) (ShelfCard, error) {
	return a.changeShelf(ctx, productID, func(tx *gorm.DB, p products.Product) error {
		plain, err := SpareLike(tx, productID, "")
		if err != nil {
			return err
		}
		move := ShelfMovement{ProductID: productID, Cause: stores.CauseCount, Pieces: in.Pieces - len(plain), Note: strings.TrimSpace(in.Note), At: a.now()}
		switch {
		case move.Pieces < 0:
			return takeOff(tx, move, plain[:-move.Pieces])
		case move.Pieces > 0:
			return a.putFound(tx, move, p)
		}
		return nil
	})
}

// TakeOffShelf notes spare pieces that broke or were lost, the oldest first.
func (a *Area) TakeOffShelf(ctx context.Context, productID uint64, in ShelfLoss) (ShelfCard, error) {
	return a.changeShelf(ctx, productID, func(tx *gorm.DB, _ products.Product) error {
		there, err := SpareLike(tx, productID, in.Lettering)
		if err != nil {
			return err
		}
		if in.Pieces < 1 || in.Pieces > len(there) {
			return problem.Invalid("pieces", "on the shelf there %s; count it first if there are more", areOf(len(there)))
		}
		move := ShelfMovement{ProductID: productID, Cause: in.Cause, Pieces: -in.Pieces, Note: strings.TrimSpace(in.Note), At: a.now()}
		return takeOff(tx, move, there[:in.Pieces])
	})
}

func areOf(n int) string {
	switch n {
	case 0:
		return "is none"
	case 1:
		return "is 1"
	}
	return fmt.Sprintf("are %d", n)
}

// changeShelf does something to a product's shelf; what it brings goes to orders that wait.
func (a *Area) changeShelf(ctx context.Context, productID uint64, do func(*gorm.DB, products.Product) error) (c ShelfCard, err error) {
	err = a.db.Answer(ctx, &c, func(tx *gorm.DB) error {
		p, err := products.Load(tx, productID)
		if err != nil {
			return err
		}
		if err := do(tx, p); err != nil {
			return err
		}
		if err := fillFromShelf(tx, productID, a.now()); err != nil {
			return err
		}
		c, err = shelfCard(tx, productID)
		return err
	})
	return c, err
}

func takeOff(tx *gorm.DB, move ShelfMovement, pieces []Piece) error {
	if err := setState(tx, pieces, PieceGone); err != nil {
		return err
	}
	return addShelfMovement(tx, move, pieces)
}

// putFound puts pieces on the shelf that a count found, each at what pieces of this product cost.
func (a *Area) putFound(tx *gorm.DB, move ShelfMovement, p products.Product) error {
	each, err := a.costOf(tx, p)
	if err != nil {
		return err
	}
	found := make([]Piece, move.Pieces)
	for i := range found {
		found[i] = Piece{ProductID: p.ID, State: PieceFinished, FinishedAt: &move.At, UnitCost: &each}
	}
	if err := tx.CreateInBatches(found, 500).Error; err != nil {
		return fmt.Errorf("adding what was found: %w", err)
	}
	return addShelfMovement(tx, move, found)
}

// costOf is what the latest finished piece of a product cost, or by its recipe
// should cost, while no batch of it has been closed.
func (a *Area) costOf(tx *gorm.DB, p products.Product) (decimal.Decimal, error) {
	var latest []Piece
	if err := tx.Where("product_id = ? AND unit_cost IS NOT NULL", p.ID).Order("finished_at DESC, id DESC").Limit(1).Find(&latest).Error; err != nil {
		return decimal.Zero, fmt.Errorf("reading what pieces cost: %w", err)
	}
	if len(latest) > 0 {
		return *latest[0].UnitCost, nil
	}
	basis, err := products.LoadBasis(tx, a.now())
	if err != nil {
		return decimal.Zero, err
	}
	costing, err := basis.Usual(p)
	if err != nil {
		return decimal.Zero, err
	}
	return costing.Piece().Total.Round(4), nil
}

func setState(tx *gorm.DB, pieces []Piece, state PieceState) error {
	if err := tx.Model(&Piece{}).Where("id IN ?", idsOf(pieces)).Update("state", state).Error; err != nil {
		return fmt.Errorf("saving the shelf: %w", err)
	}
	return nil
}

func idsOf(pieces []Piece) []uint64 {
	ids := []uint64{0}
	for _, p := range pieces {
		ids = append(ids, p.ID)
	}
	return ids
}

func addShelfMovement(tx *gorm.DB, move ShelfMovement, pieces []Piece) error {
	if err := tx.Create(&move).Error; err != nil {
		return fmt.Errorf("noting a movement of the shelf: %w", err)
	}
	parts := make([]ShelfMovementPiece, len(pieces))
	for i, p := range pieces {
		parts[i] = ShelfMovementPiece{MovementID: move.ID, PieceID: p.ID}
	}
	if err := tx.CreateInBatches(parts, 500).Error; err != nil {
		return fmt.Errorf("noting the pieces of a movement: %w", err)
	}
	return nil
}

// ReverseShelf takes a movement of the shelf back: what was gone is there again,
// what was found is not.
func (a *Area) ReverseShelf(ctx context.Context, id uint64) (c ShelfCard, err error) {
	err = a.db.Answer(ctx, &c, func(tx *gorm.DB) error {
		var move ShelfMovement
		if err := tx.First(&move, id).Error; err != nil {
			return problem.OrNotFound(err, "movement")
		}
		if err := reverseShelf(tx, move, a.now()); err != nil {
			return err
		}
		if err := fillFromShelf(tx, move.ProductID, a.now()); err != nil {
			return err
		}
		c, err = shelfCard(tx, move.ProductID)
		return err
	})
	return c, err
}

func reverseShelf(tx *gorm.DB, move ShelfMovement, now time.Time) error {
	var again int64
	if err := tx.Model(&ShelfMovement{}).Where("reverses = ?", move.ID).Count(&again).Error; err != nil {
		return fmt.Errorf("looking for a reversal: %w", err)
	}
	if again > 0 || move.Reverses != nil {
		return problem.Conflict(problem.Moved, "This has been taken back already.")
	}
	var pieces []Piece
	if err := tx.Joins("JOIN shelf_movement_pieces m ON m.piece_id = pieces.id AND m.movement_id = ?", move.ID).Order("pieces.id").Find(&pieces).Error; err != nil {
		return fmt.Errorf("reading the pieces of a movement: %w", err)
	}
	state := PieceFinished
	if move.Pieces > 0 {
		state = PieceGone
		for _, p := range pieces {
			if p.State != PieceFinished || p.WantID != nil {
				return problem.Conflict(problem.Moved, "Some of what was found has gone to an order, or is gone again. Count what is there instead.")
			}
		}
	}
	if err := setState(tx, pieces, state); err != nil {
		return err
	}
	return addShelfMovement(tx, ShelfMovement{ProductID: move.ProductID, Cause: move.Cause, Pieces: -move.Pieces, Note: "taken back", At: now, Reverses: &move.ID}, pieces)
}
