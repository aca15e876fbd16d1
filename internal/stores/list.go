package stores

import (
	"context"
	"fmt"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/database"
	"tidykiln/internal/workshop"
)

// pageSize is how many rows a list answers at once.
const pageSize = 100

// Shelves is a page of the materials.
type Shelves struct {
	Rows  []MaterialRow `json:"rows" nullable:"false"`
	Total int           `json:"total" doc:"of all pages"`
	Page  int           `json:"page"`
	Pages int           `json:"pages"`
}

// MaterialRow is a material in the list.
type MaterialRow struct {
	Material
	Worth decimal.Decimal `json:"worth" doc:"what was paid for what is left"`
	// UseBy is the first day on which some of what is left is too old; empty without one.
	UseBy calendar.Date `json:"useBy"`
}

// Search asks for a page of the materials.
type Search struct {
	Text string `query:"text" maxLength:"120"`
	Kind Kind   `query:"kind" enum:"blank,medium,paint,sealer,paper,film,toner,ink,consumable,finish,packing,energy"`
	Page int    `query:"page" minimum:"0" maximum:"10000"`
}

// List reads a page of the materials, by kind and name.
func (a *Area) List(ctx context.Context, s Search) (list Shelves, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		found := tx.Model(&Material{}).Where("archived_at IS NULL")
		if s.Text != "" {
			found = found.Where("name LIKE ?", database.Containing(s.Text))
		}
		if s.Kind != "" {
			found = found.Where("kind = ?", s.Kind)
		}
		var total int64
		if err := found.Session(&gorm.Session{}).Count(&total).Error; err != nil {
			return fmt.Errorf("counting the materials: %w", err)
		}
		list = Shelves{Rows: []MaterialRow{}, Total: int(total), Page: max(1, s.Page), Pages: max(1, (int(total)+pageSize-1)/pageSize)}
		var materials []Material
		if err := found.Session(&gorm.Session{}).Order("kind, name, id").Limit(pageSize).Offset((list.Page - 1) * pageSize).Find(&materials).Error; err != nil {
			return fmt.Errorf("reading the materials: %w", err)
		}
		left, err := leftOf(tx, materials)
		if err != nil {
			return err
		}
		w, err := workshop.Load(tx)
		if err != nil {
			return err
		}
		for _, m := range materials {
			list.Rows = append(list.Rows, m.row(left[m.ID], w.Location()))
		}
		return nil
	})
	return list, err
}

func (m Material) row(left []Purchase, in *time.Location) MaterialRow {
	r := MaterialRow{Material: m}
	for _, p := range left {
		r.Worth = r.Worth.Add(p.held().Worth())
		if by := m.useBy(p, in); by != "" && (r.UseBy == "" || by < r.UseBy) {
			r.UseBy = by
		}
	}
	r.Worth = r.Worth.Round(4)
	return r
}

// useBy is the day on which a purchase is too old: from its purchase, or from
// its opening where that comes first; empty when it keeps.
func (m Material) useBy(p Purchase, in *time.Location) (by calendar.Date) {
	if m.ShelfLifeDays != nil {
		by = p.ReceivedOn.Add(*m.ShelfLifeDays)
	}
	if m.OpenLifeDays != nil && p.OpenedAt != nil {
		if opened := calendar.DateOf(*p.OpenedAt, in).Add(*m.OpenLifeDays); by == "" || opened < by {
			by = opened
		}
	}
	return by
}

// leftOf maps materials to their purchases of which something is left.
func leftOf(tx *gorm.DB, materials []Material) (map[uint64][]Purchase, error) {
	ids := database.IDs(materials, func(m Material) uint64 { return m.ID })
	var rows []Purchase
	if err := tx.Where("material_id IN ? AND left_quantity > 0", ids).Order("received_on, id").Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading what is left: %w", err)
	}
	left := map[uint64][]Purchase{}
	for _, p := range rows {
		left[p.MaterialID] = append(left[p.MaterialID], p)
	}
	return left, nil
}

// MaterialName is a material by name, for choosing one.
type MaterialName struct {
	ID          uint64   `json:"id"`
	MaterialKey string   `json:"materialKey"`
	Name        string   `json:"name"`
	Kind        Kind     `json:"kind"`
	Unit        string   `json:"unit"`
	Sort        string   `json:"sort"`
	FilmMm      *float64 `json:"filmMm,omitempty"`
}

// Names lists all materials by kind and name.
func (a *Area) Names(ctx context.Context) (names []MaterialName, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		if err := tx.Model(&Material{}).Where("archived_at IS NULL").Order("kind, name, id").Find(&names).Error; err != nil {
			return fmt.Errorf("reading the materials' names: %w", err)
		}
		return nil
	})
	return names, err
}

// MaterialCard is a material with what is left of it, its packs, and where it went.
type MaterialCard struct {
	MaterialRow
	Left      []LeftOf       `json:"left" nullable:"false" doc:"purchases of which something is left, in order of use"`
	Packs     []MaterialPack `json:"packs" nullable:"false" doc:"packs it has been bought in, the latest first"`
	Movements []Movement     `json:"movements" nullable:"false" doc:"the latest first"`
	// TakenBack are the movements that others have taken back.
	TakenBack []uint64 `json:"takenBack" nullable:"false"`
	// Moved counts all movements there ever were.
	Moved int `json:"moved"`
}

// LeftOf is what is left of a purchase.
type LeftOf struct {
	PurchaseID uint64          `json:"purchaseId"`
	Pack       string          `json:"pack"`
	Packs      int             `json:"packs"`
	Supplier   string          `json:"supplier" doc:"empty for what was found at a count"`
	ReceivedOn calendar.Date   `json:"receivedOn" format:"date"`
	OpenedAt   *time.Time      `json:"openedAt,omitempty"`
	UseBy      calendar.Date   `json:"useBy"`
	Quantity   decimal.Decimal `json:"quantity"`
	Left       decimal.Decimal `json:"left"`
	UnitCost   decimal.Decimal `json:"unitCost" seen:"makers"`
}

// MaterialPack is a size that a material has been bought in.
type MaterialPack struct {
	PurchaseID uint64          `json:"purchaseId" doc:"the latest of this pack"`
	Supplier   string          `json:"supplier"`
	Pack       string          `json:"pack"`
	Quantity   decimal.Decimal `json:"quantity"`
	// Price is of one pack at its latest purchase, shipping and tax as they were shared then included.
	Price      decimal.Decimal `json:"price" seen:"makers"`
	ReceivedOn calendar.Date   `json:"receivedOn" format:"date"`
}

// shownMovements is how many of its latest movements a card shows.
const shownMovements = 60

// Card reads one material.
func (a *Area) Card(ctx context.Context, id uint64) (c MaterialCard, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		m, err := loadMaterial(tx, id)
		if err != nil {
			return err
		}
		w, err := workshop.Load(tx)
		if err != nil {
			return err
		}
		left, err := leftOf(tx, []Material{m})
		if err != nil {
			return err
		}
		c = MaterialCard{MaterialRow: m.row(left[id], w.Location()), Left: []LeftOf{}, Packs: []MaterialPack{}, Movements: []Movement{}, TakenBack: []uint64{}}
		if err := c.readLeft(tx, w.Location()); err != nil {
			return err
		}
		packs, err := PacksOf(tx, []uint64{id})
		if err != nil {
			return err
		}
		c.Packs = append(c.Packs, packs[id]...)
		return c.readMovements(tx)
	})
	return c, err
}

// bought is a purchase with its supplier's name.
type bought struct {
	Purchase
	Supplier string
}

func boughtOf(tx *gorm.DB) *gorm.DB {
	return tx.Table("purchases").Select("purchases.*, COALESCE(suppliers.name, '') AS supplier").
		Joins("LEFT JOIN receipts ON receipts.id = purchases.receipt_id").Joins("LEFT JOIN suppliers ON suppliers.id = receipts.supplier_id")
}

func (c *MaterialCard) readLeft(tx *gorm.DB, in *time.Location) error {
	var rows []bought
	err := boughtOf(tx).Where("purchases.material_id = ? AND left_quantity > 0", c.ID).
		Order("opened_at IS NULL, opened_at, purchases.received_on, purchases.id").Scan(&rows).Error
	if err != nil {
		return fmt.Errorf("reading what is left: %w", err)
	}
	for _, p := range rows {
		c.Left = append(c.Left, LeftOf{PurchaseID: p.ID, Pack: p.Pack, Packs: p.Packs, Supplier: p.Supplier, ReceivedOn: p.ReceivedOn, OpenedAt: p.OpenedAt,
			UseBy: c.useBy(p.Purchase, in), Quantity: p.Quantity, Left: p.Left, UnitCost: p.Price.Add(p.Extra).DivRound(p.Quantity, 6)})
	}
	return nil
}

// PacksOf maps materials to the packs they have been bought in, each at its
// latest price, the latest first.
func PacksOf(tx *gorm.DB, materials []uint64) (map[uint64][]MaterialPack, error) {
	var rows []bought
	latest := tx.Table("purchases p").Select("MAX(p.id)").Joins("JOIN receipts r ON r.id = p.receipt_id AND r.reversed_at IS NULL").
		Where("p.material_id IN ?", materials).Group("p.material_id, r.supplier_id, p.pack_quantity, p.pack")
	if err := boughtOf(tx).Where("purchases.id IN (?)", latest).Order("purchases.received_on DESC, purchases.id DESC").Scan(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading the packs: %w", err)
	}
	packs := map[uint64][]MaterialPack{}
	for _, p := range rows {
		packs[p.MaterialID] = append(packs[p.MaterialID], MaterialPack{PurchaseID: p.ID, Supplier: p.Supplier, Pack: p.Pack, Quantity: p.PackQuantity,
			Price: p.Price.Add(p.Extra).DivRound(decimal.NewFromInt(int64(p.Packs)), 4), ReceivedOn: p.ReceivedOn})
	}
	return packs, nil
}

func (c *MaterialCard) readMovements(tx *gorm.DB) error {
	var moved int64
	if err := tx.Model(&Movement{}).Where("material_id = ?", c.ID).Count(&moved).Error; err != nil {
		return fmt.Errorf("counting the movements: %w", err)
	}
	c.Moved = int(moved)
	if err := tx.Where("material_id = ?", c.ID).Order("at DESC, id DESC").Limit(shownMovements).Find(&c.Movements).Error; err != nil {
		return fmt.Errorf("reading the movements: %w", err)
	}
	ids := database.IDs(c.Movements, func(m Movement) uint64 { return m.ID })
	if err := tx.Model(&Movement{}).Where("reverses IN ?", ids).Order("reverses").Pluck("reverses", &c.TakenBack).Error; err != nil {
		return fmt.Errorf("reading what was taken back: %w", err)
	}
	return nil
}

// Bought is a receipt in the list of what was bought.
type Bought struct {
	ReceiptID  uint64        `json:"receiptId"`
	Supplier   string        `json:"supplier"`
	ReceivedOn calendar.Date `json:"receivedOn" format:"date"`
	Lines      []BoughtLine  `json:"lines" nullable:"false"`
	// Paid is all of it: goods, shipping and tax.
	Paid      decimal.Decimal `json:"paid"`
	Note      string          `json:"note"`
	TakenBack bool            `json:"takenBack"`
}

// BoughtLine is one purchase of a receipt.
type BoughtLine struct {
	MaterialID uint64          `json:"materialId"`
	Name       string          `json:"name"`
	Packs      int             `json:"packs"`
	Pack       string          `json:"pack"`
	Rejects    decimal.Decimal `json:"rejects"`
	Price      decimal.Decimal `json:"price" seen:"makers"`
	Extra      decimal.Decimal `json:"extra"`
}

// receiptFrom is a receipt with its supplier's name.
type receiptFrom struct {
	Receipt
	Supplier string
}

// Receipts lists the latest receipts, a page at a time.
func (a *Area) Receipts(ctx context.Context, page int) (list []Bought, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		var receipts []receiptFrom
		err := tx.Table("receipts").Select("receipts.*, suppliers.name AS supplier").Joins("JOIN suppliers ON suppliers.id = receipts.supplier_id").
			Order("received_on DESC, receipts.id DESC").Limit(pageSize).Offset((max(1, page) - 1) * pageSize).Scan(&receipts).Error
		if err != nil {
			return fmt.Errorf("reading the receipts: %w", err)
		}
		ids := database.IDs(receipts, func(r receiptFrom) uint64 { return r.ID })
		var lines []struct {
			BoughtLine
			ReceiptID uint64
		}
		err = tx.Table("purchases").Select("purchases.*, materials.name").Joins("JOIN materials ON materials.id = purchases.material_id").
			Where("receipt_id IN ?", ids).Order("purchases.id").Scan(&lines).Error
		if err != nil {
			return fmt.Errorf("reading what was bought: %w", err)
		}
		list = make([]Bought, 0, len(receipts))
		for _, r := range receipts {
			b := Bought{ReceiptID: r.ID, Supplier: r.Supplier, ReceivedOn: r.ReceivedOn, Lines: []BoughtLine{}, Paid: r.Shipping.Add(r.Tax), Note: r.Note, TakenBack: r.ReversedAt != nil}
			for _, l := range lines {
				if l.ReceiptID == r.ID {
					b.Lines = append(b.Lines, l.BoughtLine)
					b.Paid = b.Paid.Add(l.Price)
				}
			}
			list = append(list, b)
		}
		return nil
	})
	return list, err
}

// SupplierRecord is how a supplier has done.
type SupplierRecord struct {
	Supplier
	Receipts int             `json:"receipts"`
	Blanks   decimal.Decimal `json:"blanks" doc:"that came, rejects included"`
	Rejects  decimal.Decimal `json:"rejects"`
	LastOn   calendar.Date   `json:"lastOn" format:"date"`
}

// Suppliers lists whom materials are bought from.
func (a *Area) Suppliers(ctx context.Context) (list []SupplierRecord, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		err := tx.Table("suppliers").
			Select(`suppliers.id, suppliers.name, COUNT(DISTINCT receipts.id) AS receipts, MAX(receipts.received_on) AS last_on,
				COALESCE(SUM(CASE WHEN materials.kind = 'blank' THEN purchases.quantity + purchases.rejects END), 0) AS blanks, COALESCE(SUM(purchases.rejects), 0) AS rejects`).
			Joins("JOIN receipts ON receipts.supplier_id = suppliers.id AND receipts.reversed_at IS NULL").
			Joins("JOIN purchases ON purchases.receipt_id = receipts.id").Joins("JOIN materials ON materials.id = purchases.material_id").
			Group("suppliers.id").Order("suppliers.name").Scan(&list).Error
		if err != nil {
			return fmt.Errorf("reading the suppliers: %w", err)
		}
		return nil
	})
	return list, err
}
