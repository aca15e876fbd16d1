package fulfilment

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/internal/batches"
	"tidykiln/internal/database"
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
		plain, err := batches.SpareLike(tx, productID, "")
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
		there, err := batches.SpareLike(tx, productID, in.Lettering)
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
	return database.Answer(ctx, a.db, database.Orders|database.Batches, func(tx *gorm.DB) (c ShelfCard, err error) {
		p, err := products.Load(tx, productID)
		if err != nil {
			return c, err
		}
		if err := do(tx, p); err != nil {
			return c, err
		}
		if err := Fill(tx, productID, a.now()); err != nil {
			return c, err
		}
		c, err = shelfCard(tx, productID)
		return c, err
	})
}

func takeOff(tx *gorm.DB, move ShelfMovement, pieces []batches.Piece) error {
	if err := batches.SetState(tx, pieces, batches.PieceGone); err != nil {
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
	found, err := batches.PutFound(tx, p.ID, move.Pieces, move.At, each)
	if err != nil {
		return err
	}
	return addShelfMovement(tx, move, found)
}

// costOf is what the latest finished piece of a product cost, or by its recipe
// should cost, while no batch of it has been closed.
func (a *Area) costOf(tx *gorm.DB, p products.Product) (decimal.Decimal, error) {
	latest, err := batches.LatestCost(tx, p.ID)
	if err != nil {
		return decimal.Zero, err
	}
	if latest != nil {
		return *latest, nil
	}
	basis, err := a.products.Basis(tx, a.now())
	if err != nil {
		return decimal.Zero, err
	}
	costing, err := basis.Usual(p)
	if err != nil {
		return decimal.Zero, err
	}
	return costing.Piece().Total.Round(4), nil
}

func addShelfMovement(tx *gorm.DB, move ShelfMovement, pieces []batches.Piece) error {
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
	return database.Answer(ctx, a.db, database.Orders|database.Batches, func(tx *gorm.DB) (c ShelfCard, err error) {
		var move ShelfMovement
		if err := tx.First(&move, id).Error; err != nil {
			return c, problem.OrNotFound(err, "movement")
		}
		if err := reverseShelf(tx, move, a.now()); err != nil {
			return c, err
		}
		if err := Fill(tx, move.ProductID, a.now()); err != nil {
			return c, err
		}
		c, err = shelfCard(tx, move.ProductID)
		return c, err
	})
}

func reverseShelf(tx *gorm.DB, move ShelfMovement, now time.Time) error {
	var again int64
	if err := tx.Model(&ShelfMovement{}).Where("reverses = ?", move.ID).Count(&again).Error; err != nil {
		return fmt.Errorf("looking for a reversal: %w", err)
	}
	if again > 0 || move.Reverses != nil {
		return problem.Conflict(problem.TakenBack, "This has been taken back already.")
	}
	pieces, err := piecesOf(tx, move)
	if err != nil {
		return err
	}
	state := batches.PieceFinished
	if move.Pieces > 0 {
		state = batches.PieceGone
		for _, p := range pieces {
			if p.State != batches.PieceFinished || p.WantID != nil {
				return problem.Conflict(problem.Used, "Some of what was found has gone to an order, or is gone again. Count what is there instead.")
			}
		}
	}
	if err := batches.SetState(tx, pieces, state); err != nil {
		return err
	}
	return addShelfMovement(tx, ShelfMovement{ProductID: move.ProductID, Cause: move.Cause, Pieces: -move.Pieces, Note: "taken back", At: now, Reverses: &move.ID}, pieces)
}

func piecesOf(tx *gorm.DB, move ShelfMovement) ([]batches.Piece, error) {
	var ids []uint64
	if err := tx.Model(&ShelfMovementPiece{}).Where("movement_id = ?", move.ID).Pluck("piece_id", &ids).Error; err != nil {
		return nil, fmt.Errorf("reading the pieces of a movement: %w", err)
	}
	return batches.PiecesByID(tx, ids)
}
