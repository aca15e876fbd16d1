package stores

import (
	"errors"
	"fmt"
	"strings"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

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
	if err := tx.Select("material_id", "quantity", "price", "extra", "left_quantity").Where("left_quantity > 0").Order("id").Find(&purchases).Error; err != nil {
		return nil, fmt.Errorf("reading what is left: %w", err)
	}
	left := map[uint64][]cost.Purchase{}
	for _, p := range purchases {
		left[p.MaterialID] = append(left[p.MaterialID], p.whatIsLeft())
	}
	materials := make(Materials, len(rows))
	for _, m := range rows {
		if m.Purchases = left[m.ID]; len(m.Purchases) == 0 {
			m.Purchases = []cost.Purchase{{Quantity: cost.QuantityOf(1), Price: cost.MoneyOf(m.UnitCost)}}
		}
		materials[m.MaterialKey] = m
	}
	return materials, nil
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

// heldOf reads what is left of a material's purchases.
func heldOf(tx *gorm.DB, materialID uint64) (held []stock.Held, err error) {
	var rows []Purchase
	if err := tx.Where("material_id = ? AND left_quantity > 0", materialID).Order("id").Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading what is left: %w", err)
	}
	for _, p := range rows {
		held = append(held, p.held())
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
	m.OnHand = decimal.Zero
	for _, h := range held {
		m.OnHand = m.OnHand.Add(h.Left)
	}
	if m.OnHand.IsPositive() {
		m.UnitCost = stock.UnitCost(held).Round(stock.Places)
	}
	err = tx.Model(&Material{}).Where("id = ?", m.ID).Select("counted", "counted_at", "on_hand", "unit_cost").Updates(m).Error
	if err != nil {
		return fmt.Errorf("saving what is left: %w", err)
	}
	return nil
}

// learnLatest brings up to date what it costs to buy a material again.
func learnLatest(tx *gorm.DB, m *Material) error {
	latest, err := latestPurchase(tx, m.ID)
	if err != nil {
		return err
	}
	m.LatestCost = nil
	if latest != nil {
		m.LatestCost = new(latest.Price.Add(latest.Extra).DivRound(latest.Quantity, stock.Places))
	}
	if err := tx.Model(&Material{}).Where("id = ?", m.ID).Select("latest_cost").Updates(m).Error; err != nil {
		return fmt.Errorf("saving the latest cost: %w", err)
	}
	return nil
}

// latestPurchase is the last one from a supplier that stands; nil without one.
func latestPurchase(tx *gorm.DB, materialID uint64) (*Purchase, error) {
	var rows []Purchase
	err := tx.Joins("JOIN receipts ON receipts.id = purchases.receipt_id AND receipts.reversed_at IS NULL").
		Where("purchases.material_id = ?", materialID).Order("purchases.received_on DESC, purchases.id DESC").Limit(1).Find(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("reading the latest purchase: %w", err)
	}
	if len(rows) == 0 {
		return nil, nil
	}
	return &rows[0], nil
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
func like(text string) string {
	return "%" + strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`).Replace(text) + "%"
}

func today(tx *gorm.DB, a *Area) (workshop.Date, error) {
	w, err := workshop.Load(tx)
	if err != nil {
		return "", err
	}
	return workshop.DateOf(a.now(), w.Location()), nil
}
