package stores

import (
	"errors"
	"fmt"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/cost"
	"tidykiln/core/stock"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

// Materials maps every material by its key.
type Materials map[string]Material

// LoadMaterials reads all materials, archived ones included, with what a unit's cost is averaged over.
func LoadMaterials(tx *gorm.DB) (Materials, error) {
	var rows []Material
	if err := tx.Order("material_key").Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading the materials: %w", err)
	}
	var purchases []Purchase
	if err := tx.Select("material_id", "receipt_id", "pack_quantity", "quantity", "price", "extra", "left_quantity").Where("left_quantity > 0").Order("id").Find(&purchases).Error; err != nil {
		return nil, fmt.Errorf("reading what is left: %w", err)
	}
	left, packs := map[uint64][]cost.Purchase{}, map[uint64]decimal.Decimal{}
	for _, p := range purchases {
		left[p.MaterialID] = append(left[p.MaterialID], p.whatIsLeft())
		if p.ReceiptID != nil {
			packs[p.MaterialID] = p.PackQuantity
		}
	}
	materials := make(Materials, len(rows))
	for _, m := range rows {
		if m.Purchases = left[m.ID]; len(m.Purchases) == 0 {
			m.Purchases = []cost.Purchase{{Quantity: cost.QuantityOf(1), Price: cost.MoneyOf(m.UnitCost)}}
		}
		m.Pack = packs[m.ID]
		materials[m.MaterialKey] = m
	}
	return materials, nil
}

// Has tells whether a material with the ID is in the stores.
func (m Materials) Has(id uint64) bool {
	for _, material := range m {
		if material.ID == id {
			return material.ArchivedAt == nil
		}
	}
	return false
}

// whatIsLeft is the purchase at what is left of it, exact while nothing has been used.
func (p Purchase) whatIsLeft() cost.Purchase {
	if p.Left.Equal(p.Quantity) {
		return cost.Purchase{Quantity: cost.Quantity{Decimal: p.Quantity}, Price: cost.MoneyOf(p.Price), Extra: cost.MoneyOf(p.Extra)}
	}
	return cost.Purchase{Quantity: cost.Quantity{Decimal: p.Left}, Price: cost.MoneyOf(p.held().Worth())}
}

// LoadByKey maps some materials by their keys, archived ones included, without their purchases.
func LoadByKey(tx *gorm.DB, keys []string) (Materials, error) {
	var rows []Material
	if err := tx.Where("material_key IN ?", keys).Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading the materials: %w", err)
	}
	materials := make(Materials, len(rows))
	for _, m := range rows {
		materials[m.MaterialKey] = m
	}
	return materials, nil
}

func loadMaterial(tx *gorm.DB, id uint64) (m Material, err error) {
	err = tx.Where("archived_at IS NULL").First(&m, id).Error
	return m, problem.OrNotFound(err, "material")
}

func mustBeOnlyName(tx *gorm.DB, m Material) error {
	var same int64
	if err := tx.Model(&Material{}).Where("name = ? AND id <> ? AND archived_at IS NULL", m.Name, m.ID).Count(&same).Error; err != nil {
		return fmt.Errorf("reading the materials' names: %w", err)
	}
	if same > 0 {
		return problem.Invalid("name", "there is a material of this name already")
	}
	return nil
}

func addMaterial(tx *gorm.DB, m *Material) error {
	if err := tx.Create(m).Error; err != nil {
		return fmt.Errorf("adding a material: %w", err)
	}
	return nil
}

// saveMaterial writes what the owner says of a material; its stock is written by settle alone.
func saveMaterial(tx *gorm.DB, m Material) error {
	err := tx.Model(&Material{}).Where("id = ?", m.ID).Select("*").Omit("id", "material_key", "latest_cost", "counted", "counted_at", "on_hand").Updates(&m).Error
	if err != nil {
		return fmt.Errorf("saving a material: %w", err)
	}
	return nil
}

// heldOf maps materials to what is left of their purchases.
func heldOf(tx *gorm.DB, materials ...uint64) (map[uint64][]stock.Held, error) {
	var rows []Purchase
	if err := tx.Where("material_id IN ? AND left_quantity > 0", materials).Order("id").Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading what is left: %w", err)
	}
	held := map[uint64][]stock.Held{}
	for _, p := range rows {
		held[p.MaterialID] = append(held[p.MaterialID], p.held())
	}
	return held, nil
}

func (p Purchase) held() stock.Held {
	return stock.Held{ID: p.ID, Quantity: p.Quantity, Cost: p.Price.Add(p.Extra), Left: p.Left, ReceivedAt: p.ReceivedOn.At(0, utc), OpenedAt: p.OpenedAt}
}

// settle brings a material's stock and unit cost up to what its purchases hold.
func settle(tx *gorm.DB, m *Material) error {
	held, err := heldOf(tx, m.ID)
	if err != nil {
		return err
	}
	m.hold(held[m.ID])
	return saveStock(tx, m, "counted", "counted_at", "on_hand", "unit_cost")
}

func (m *Material) hold(held []stock.Held) {
	m.OnHand = decimal.Zero
	for _, h := range held {
		m.OnHand = m.OnHand.Add(h.Left)
	}
	if m.OnHand.IsPositive() {
		m.UnitCost = stock.UnitCost(held).Round(stock.Places)
	}
}

// learnLatest brings up to date what it costs to buy a material again.
func learnLatest(tx *gorm.DB, m *Material) error {
	latest, err := latestCosts(tx, m.ID)
	if err != nil {
		return err
	}
	m.LatestCost = latest[m.ID]
	return saveStock(tx, m, "latest_cost")
}

// settleAll is settle and learnLatest for many materials at once.
func settleAll(tx *gorm.DB, materials []Material) error {
	ids := make([]uint64, len(materials))
	for i, m := range materials {
		ids[i] = m.ID
	}
	held, err := heldOf(tx, ids...)
	if err != nil {
		return err
	}
	latest, err := latestCosts(tx, ids...)
	if err != nil {
		return err
	}
	for i := range materials {
		m := &materials[i]
		m.hold(held[m.ID])
		m.LatestCost = latest[m.ID]
		if err := saveStock(tx, m, "counted", "on_hand", "unit_cost", "latest_cost"); err != nil {
			return err
		}
	}
	return nil
}

func saveStock(tx *gorm.DB, m *Material, columns ...string) error {
	if err := tx.Model(&Material{}).Where("id = ?", m.ID).Select(columns).Updates(m).Error; err != nil {
		return fmt.Errorf("saving what is left: %w", err)
	}
	return nil
}

// latestCosts maps materials to what a unit cost at the last purchase from a supplier that stands.
func latestCosts(tx *gorm.DB, materials ...uint64) (map[uint64]*decimal.Decimal, error) {
	var rows []Purchase
	standing := tx.Table("purchases").Select("purchases.*, ROW_NUMBER() OVER (PARTITION BY purchases.material_id ORDER BY purchases.received_on DESC, purchases.id DESC) AS lately").
		Joins("JOIN receipts ON receipts.id = purchases.receipt_id AND receipts.reversed_at IS NULL").Where("purchases.material_id IN ?", materials)
	if err := tx.Table("(?) AS p", standing).Where("lately = 1").Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading the latest purchases: %w", err)
	}
	costs := map[uint64]*decimal.Decimal{}
	for _, p := range rows {
		costs[p.MaterialID] = new(p.Price.Add(p.Extra).DivRound(p.Quantity, stock.Places))
	}
	return costs, nil
}

// addMovement notes a movement with the purchases it is made of.
func addMovement(tx *gorm.DB, m *Movement) error {
	m.Note = string([]rune(m.Note)[:min(len([]rune(m.Note)), longestNote)])
	err := tx.Omit("Parts").Create(m).Error
	for i := range m.Parts {
		m.Parts[i].MovementID = m.ID
	}
	if err == nil && len(m.Parts) > 0 {
		err = tx.Create(&m.Parts).Error
	}
	if err != nil {
		return fmt.Errorf("noting a movement: %w", err)
	}
	return nil
}

// change adds to what is left of purchases, or takes from it when the quantity is negative.
func change(tx *gorm.DB, parts []MovementPart) error {
	for _, p := range parts {
		if err := tx.Model(&Purchase{}).Where("id = ?", p.PurchaseID).Update("left_quantity", gorm.Expr("left_quantity + ?", p.Quantity)).Error; err != nil {
			return fmt.Errorf("changing what is left: %w", err)
		}
	}
	return nil
}

// supplierNamed finds a supplier by name, or adds one.
func supplierNamed(tx *gorm.DB, name string) (s Supplier, err error) {
	err = tx.Where("name = ?", name).First(&s).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		s = Supplier{Name: name}
		err = tx.Create(&s).Error
	}
	if err != nil {
		return s, fmt.Errorf("finding a supplier: %w", err)
	}
	return s, nil
}

// like is a pattern that finds text anywhere.
func today(tx *gorm.DB, a *Area) (calendar.Date, error) {
	w, err := workshop.Load(tx)
	if err != nil {
		return "", err
	}
	return calendar.DateOf(a.now(), w.Location()), nil
}
