package orders

import (
	"errors"
	"fmt"

	"gorm.io/gorm"
)

// SetPicture gives a wanted piece its customer's picture, or takes it away with nil.
func SetPicture(tx *gorm.DB, want uint64, artwork *uint64) error {
	if err := tx.Model(&Want{}).Where("id = ?", want).Update("artwork_id", artwork).Error; err != nil {
		return fmt.Errorf("saving the picture of a piece: %w", err)
	}
	return nil
}

// ArtworkIDs are the pictures that the order's pieces have.
func (o Order) ArtworkIDs() (ids []uint64) {
	for _, l := range o.Lines {
		for _, w := range l.Wants {
			if w.ArtworkID != nil {
				ids = append(ids, *w.ArtworkID)
			}
		}
	}
	return ids
}

// MoveOn tells whoever has an order open that it was changed.
func MoveOn(tx *gorm.DB, o Order) error { return saveOrder(tx, o, map[string]any{}) }

// UseOfArtwork names an open order that wants a picture; empty where none does.
func UseOfArtwork(tx *gorm.DB, id uint64) (string, error) {
	var o Order
	err := tx.Joins("JOIN order_lines ON order_lines.order_id = orders.id").Joins("JOIN wants ON wants.order_line_id = order_lines.id").
		Where("wants.artwork_id = ? AND orders.state = ?", id, Open).Order("orders.number").First(&o).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return "", nil
	}
	if err != nil {
		return "", fmt.Errorf("reading the orders of a picture: %w", err)
	}
	return fmt.Sprintf("Order %d", o.Number), nil
}

// ArtworkHeld are the pictures that orders wanted: their files stay.
func ArtworkHeld(tx *gorm.DB) (ids []uint64, err error) {
	if err := tx.Model(&Want{}).Distinct("artwork_id").Where("artwork_id IS NOT NULL").Pluck("artwork_id", &ids).Error; err != nil {
		return nil, fmt.Errorf("reading the pictures of orders: %w", err)
	}
	return ids, nil
}
