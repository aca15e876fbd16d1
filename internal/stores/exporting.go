package stores

import (
	"bytes"
	"context"
	"fmt"
	"strconv"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/internal/document"
)

// ExportMaterials writes the materials as a table that can be taken in again.
func (a *Area) ExportMaterials(ctx context.Context) (table []byte, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		var all []Material
		if err := tx.Where("archived_at IS NULL").Order("kind, name, id").Find(&all).Error; err != nil {
			return fmt.Errorf("reading the materials: %w", err)
		}
		rows := make([][]string, len(all))
		for i, m := range all {
			rows[i] = m.cells()
		}
		var out bytes.Buffer
		err := document.WriteCSV(&out, materialColumns().Known, rows)
		table = out.Bytes()
		return err
	})
	return table, err
}

// cells are in the order of materialColumns.
func (m Material) cells() []string {
	onHand := ""
	if m.Counted {
		onHand = m.OnHand.String()
	}
	return []string{m.MaterialKey, m.Name, string(m.Kind), string(m.Unit), m.UnitCost.String(),
		optional(m.FilmMm), optional(m.Density), optional(m.Lasts), optional(m.SheetWidthMm), optional(m.SheetHeightMm),
		whole(m.ShelfLifeDays), whole(m.OpenLifeDays), strconv.Itoa(m.LeadDays), m.Hazard, m.Sort, optional(m.SmallestMm),
		whole(m.LabelFloorMinutes), whole(m.LabelRecoatFromMinutes), whole(m.LabelRecoatToMinutes), whole(m.LabelCureMinutes), onHand}
}

func optional(v *float64) string {
	if v == nil {
		return ""
	}
	return strconv.FormatFloat(*v, 'f', -1, 64)
}

func whole(v *int) string {
	if v == nil {
		return ""
	}
	return strconv.Itoa(*v)
}

// ExportPurchases writes what was bought, and not taken back, as a table that can be taken in again.
func (a *Area) ExportPurchases(ctx context.Context) (table []byte, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		var all []Material
		if err := tx.Find(&all).Error; err != nil {
			return fmt.Errorf("reading the materials: %w", err)
		}
		materials := make(map[uint64]Material, len(all))
		for _, m := range all {
			materials[m.ID] = m
		}
		deliveries, err := standingReceipts(tx)
		if err != nil {
			return err
		}
		var rows [][]string
		for _, d := range deliveries {
			rows = append(rows, d.cells(materials)...)
		}
		var out bytes.Buffer
		err = document.WriteCSV(&out, purchaseColumns().Known, rows)
		table = out.Bytes()
		return err
	})
	return table, err
}

// cells are in the order of purchaseColumns; what the receipt says stands in its first row.
func (d delivery) cells(materials map[uint64]Material) (rows [][]string) {
	for i, p := range d.purchases {
		m := materials[p.MaterialID]
		shipping, tax, note := "", "", ""
		if i == 0 {
			shipping, tax, note = unlessNone(d.Shipping), unlessNone(d.Tax), d.Note
		}
		rows = append(rows, []string{strconv.FormatUint(d.ID, 10), d.supplier, string(d.ReceivedOn), m.MaterialKey, strconv.Itoa(p.Packs), p.packRead(m),
			p.Price.String(), shipping, tax, unlessNone(p.Rejects), note})
	}
	return rows
}

func unlessNone(d decimal.Decimal) string {
	if d.IsZero() {
		return ""
	}
	return d.String()
}
