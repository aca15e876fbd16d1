package stores

import (
	"fmt"

	"gorm.io/gorm"

	"tidykiln/core/stock"
)

// delivery is a receipt that has been read, with its purchases and whom it is from.
type delivery struct {
	Receipt
	supplier  string
	purchases []Purchase
}

// atOnce is how many rows are written in one statement.
const atOnce = 500

// enter brings deliveries into the stores, all in a few statements, and tells
// after every part of the work how many purchases are through.
func enter(tx *gorm.DB, deliveries []delivery, tell func(done int)) error {
	purchases, err := addPurchases(tx, deliveries)
	if err != nil {
		return err
	}
	tell(len(purchases) / 2)
	if err := bringIn(tx, deliveries); err != nil {
		return err
	}
	ids := []uint64{}
	for _, p := range purchases {
		ids = append(ids, p.MaterialID)
	}
	var materials []Material
	if err := tx.Where("id IN ?", ids).Order("id").Find(&materials).Error; err != nil {
		return fmt.Errorf("reading the materials: %w", err)
	}
	for i := range materials {
		materials[i].Counted = true
	}
	if err := settleAll(tx, materials); err != nil {
		return err
	}
	tell(len(purchases))
	return nil
}

// addPurchases writes the receipts and their purchases, and gives both their IDs.
func addPurchases(tx *gorm.DB, deliveries []delivery) (purchases []Purchase, err error) {
	suppliers := map[string]uint64{}
	receipts := make([]Receipt, len(deliveries))
	for i, d := range deliveries {
		if _, known := suppliers[d.supplier]; !known {
			s, err := supplierNamed(tx, d.supplier)
			if err != nil {
				return nil, err
			}
			suppliers[d.supplier] = s.ID
		}
		receipts[i] = d.Receipt
		receipts[i].SupplierID = suppliers[d.supplier]
	}
	if err := tx.CreateInBatches(receipts, atOnce).Error; err != nil {
		return nil, fmt.Errorf("adding the receipts: %w", err)
	}
	for i, d := range deliveries {
		deliveries[i].Receipt = receipts[i]
		for _, p := range d.purchases {
			p.ReceiptID, p.ReceivedOn = &receipts[i].ID, d.ReceivedOn
			purchases = append(purchases, p)
		}
	}
	if err := tx.CreateInBatches(purchases, atOnce).Error; err != nil {
		return nil, fmt.Errorf("adding the purchases: %w", err)
	}
	at := 0
	for i := range deliveries {
		at += copy(deliveries[i].purchases, purchases[at:])
	}
	return purchases, nil
}

// bringIn notes the movement that each purchase is.
func bringIn(tx *gorm.DB, deliveries []delivery) error {
	var moves []Movement
	var parts []MovementPart
	for _, d := range deliveries {
		for _, p := range d.purchases {
			note := fmt.Sprintf("%d × %s from %s", p.Packs, p.Pack, d.supplier)
			moves = append(moves, Movement{MaterialID: p.MaterialID, Cause: CausePurchase, Quantity: p.Quantity, UnitCost: p.Price.Add(p.Extra).DivRound(p.Quantity, stock.Places),
				Counted: true, ReceiptID: p.ReceiptID, At: d.RecordedAt, Note: note})
			parts = append(parts, MovementPart{PurchaseID: p.ID, Quantity: p.Quantity})
		}
	}
	if err := tx.Omit("Parts").CreateInBatches(moves, atOnce).Error; err != nil {
		return fmt.Errorf("noting the movements: %w", err)
	}
	for i := range parts {
		parts[i].MovementID = moves[i].ID
	}
	if err := tx.CreateInBatches(parts, atOnce).Error; err != nil {
		return fmt.Errorf("noting what the movements are made of: %w", err)
	}
	return nil
}
