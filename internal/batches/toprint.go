package batches

import (
	"errors"
	"fmt"
	"slices"

	"gorm.io/gorm"

	"tidykiln/internal/problem"
)

// ToPrint is a batch with pieces of it that are to be printed.
type ToPrint struct {
	Batch
	Pieces []Piece
	// Printed is how many of its pieces at work are through the print already.
	Printed int
	// Missing is how many of Pieces have no picture though they need one.
	Missing int
}

// Printable are the open batches that have a print to be made, oldest first.
func Printable(tx *gorm.DB) ([]ToPrint, error) {
	var ids []uint64
	if err := tx.Model(&Batch{}).Where("state = ?", Open).Order("number").Pluck("id", &ids).Error; err != nil {
		return nil, fmt.Errorf("reading the batches: %w", err)
	}
	all, err := LoadToPrint(tx, ids, nil)
	return slices.DeleteFunc(all, func(b ToPrint) bool { return b.printStep() < 0 }), err
}

// LoadToPrint reads batches with their pieces that are to be printed: those named, or,
// where none is, those at work that are not printed yet, or all at work where all are.
func LoadToPrint(tx *gorm.DB, ids, pieceIDs []uint64) ([]ToPrint, error) {
	var list []Batch
	var lots []Lot
	var pieces []Piece
	err := errors.Join(
		tx.Where("id IN ?", ids).Order("number").Find(&list).Error,
		tx.Where("batch_id IN ?", ids).Find(&lots).Error,
		tx.Where("batch_id IN ? AND state = ?", ids, PieceWorking).Order("batch_id, number").Find(&pieces).Error,
	)
	if err != nil {
		return nil, fmt.Errorf("reading what is to be printed: %w", err)
	}
	if len(list) < len(ids) {
		return nil, problem.Invalid("batchIds", "one of these batches is not there any more")
	}
	next := make(map[uint64]int, len(lots))
	for _, l := range lots {
		next[l.ID] = l.NextStep
	}
	all := make([]ToPrint, len(list))
	for i, b := range list {
		all[i] = toPrint(b, pieces, next, pieceIDs)
	}
	return all, nil
}

func toPrint(b Batch, pieces []Piece, next map[uint64]int, pieceIDs []uint64) ToPrint {
	t := ToPrint{Batch: b}
	var open, printed []Piece
	for _, p := range pieces {
		if p.BatchID == nil || *p.BatchID != b.ID || p.LotID == nil {
			continue
		}
		if len(pieceIDs) > 0 && !slices.Contains(pieceIDs, p.ID) {
			continue
		}
		if next[*p.LotID] > b.printStep() {
			printed = append(printed, p)
		} else {
			open = append(open, p)
		}
	}
	t.Printed = len(printed)
	if t.Pieces = open; len(open) == 0 || len(pieceIDs) > 0 {
		t.Pieces = append(open, printed...)
	}
	for _, p := range t.Pieces {
		if b.OwnPictures && p.ArtworkID == nil {
			t.Missing++
		}
	}
	return t
}

// PictureOf is the picture of a piece: its customer's or its batch's; nil where it has none.
func (t ToPrint) PictureOf(p Piece) *uint64 {
	if t.OwnPictures {
		return p.ArtworkID
	}
	return t.ArtworkID
}

// Pictures are the pictures of all pieces, each once.
func (t ToPrint) Pictures() []uint64 {
	var ids []uint64
	for _, p := range t.Pieces {
		if id := t.PictureOf(p); id != nil && !slices.Contains(ids, *id) {
			ids = append(ids, *id)
		}
	}
	return ids
}

// NotePrinted notes of batches that their prints have left the stores.
func NotePrinted(tx *gorm.DB, ids []uint64) error {
	if err := tx.Model(&Batch{}).Where("id IN ?", ids).Update("prints_taken", true).Error; err != nil {
		return fmt.Errorf("noting what was printed: %w", err)
	}
	return nil
}
