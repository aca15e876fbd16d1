package fulfilment

import (
	"context"
	"fmt"

	"gorm.io/gorm"

	"tidykiln/internal/artwork"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

// WantPictures are the customer's pictures for wanted pieces of an order; pieces that
// are not named keep theirs.
type WantPictures struct {
	Pictures []WantPicture `json:"pictures" minItems:"1" maxItems:"500" nullable:"false"`
	Version  int           `json:"version" minimum:"1"`
}

// WantPicture is the picture of one piece; without one it is taken away.
type WantPicture struct {
	WantID    uint64  `json:"wantId"`
	ArtworkID *uint64 `json:"artworkId,omitempty" minimum:"1"`
}

// SetPictures gives wanted pieces their customer's pictures. Pieces that are being made
// follow until they are printed.
func (a *Area) SetPictures(ctx context.Context, id uint64, in WantPictures) error {
	return a.db.Write(ctx, database.Orders|database.Batches|database.Artwork, func(tx *gorm.DB) error {
		o, err := orders.ToChange(tx, id, in.Version)
		if err != nil {
			return err
		}
		if err := checkPictures(tx, o, in.Pictures); err != nil {
			return err
		}
		pieces, err := batches.PiecesByWant(tx, o.WantIDs())
		if err != nil {
			return err
		}
		var given []uint64
		for i, w := range in.Pictures {
			if p, made := pieces[w.WantID]; made {
				if err := followPicture(tx, p, w.ArtworkID, fmt.Sprintf("pictures[%d].artworkId", i)); err != nil {
					return err
				}
			}
			if err := orders.SetPicture(tx, w.WantID, w.ArtworkID); err != nil {
				return err
			}
			if w.ArtworkID != nil {
				given = append(given, *w.ArtworkID)
			}
		}
		if err := artwork.FromCustomer(tx, given, fmt.Sprintf("%s, order %d", o.Customer.Name, o.Number)); err != nil {
			return err
		}
		return orders.MoveOn(tx, o)
	})
}

// checkPictures refuses pieces that are not the order's or take no picture, and
// pictures that are not there.
func checkPictures(tx *gorm.DB, o orders.Order, pictures []WantPicture) error {
	takes := map[uint64]bool{}
	for _, l := range o.Lines {
		p, err := products.Load(tx, l.ProductID)
		if err != nil {
			return err
		}
		for _, w := range l.Wants {
			takes[w.ID] = p.OwnPictures
		}
	}
	var ids []uint64
	for i, w := range pictures {
		own, known := takes[w.WantID]
		if !known {
			return problem.Conflict(problem.Moved, "Some of these pieces are not wanted any more. Look again at the order.")
		}
		if !own {
			return problem.Invalid(fmt.Sprintf("pictures[%d].wantId", i), "this piece has its product's picture")
		}
		if w.ArtworkID != nil {
			ids = append(ids, *w.ArtworkID)
		}
	}
	known, err := artwork.ByID(tx, ids)
	if err != nil {
		return err
	}
	for i, w := range pictures {
		if w.ArtworkID == nil {
			continue
		}
		if pic, there := known[*w.ArtworkID]; !there || pic.ArchivedAt != nil || pic.State == artwork.Refused {
			return problem.Invalid(fmt.Sprintf("pictures[%d].artworkId", i), "there is no such picture, or it was refused")
		}
	}
	return nil
}

// followPicture lets a piece that is made for a want have its picture, until it is printed.
func followPicture(tx *gorm.DB, p batches.Piece, to *uint64, field string) error {
	if database.Same(p.ArtworkID, to) {
		return nil
	}
	printed, err := batches.Printed(tx, p)
	if err != nil {
		return err
	}
	if printed {
		return problem.Invalid(field, "%s is printed already, with the picture it has", p.Called())
	}
	p.ArtworkID = to
	return batches.SavePieces(tx, []batches.Piece{p})
}
