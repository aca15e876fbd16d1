// Package stores holds the materials and what a unit of each costs.
package stores

import (
	"fmt"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"
)

// Material is something pieces are made with, counted in its own unit.
type Material struct {
	ID          uint64          `json:"id"`
	MaterialKey string          `json:"materialKey"`
	Name        string          `json:"name"`
	Kind        string          `json:"kind"`
	Unit        string          `json:"unit"`
	UnitCost    decimal.Decimal `json:"unitCost"`
}

// Materials maps every material by its key.
type Materials map[string]Material

// LoadMaterials reads all materials.
func LoadMaterials(tx *gorm.DB) (Materials, error) {
	var rows []Material
	if err := tx.Order("material_key").Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading the materials: %w", err)
	}
	materials := make(Materials, len(rows))
	for _, m := range rows {
		materials[m.MaterialKey] = m
	}
	return materials, nil
}
