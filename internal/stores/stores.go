// Package stores holds the materials and what a unit of each costs.
package stores

import (
	"context"
	"fmt"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/internal/database"
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

// Area answers for stores.
type Area struct{ db *database.DB }

// New makes the area on its database.
func New(db *database.DB) *Area { return &Area{db} }

// List reads the materials, by kind and name.
func (a *Area) List(ctx context.Context) (list []Material, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		if err := tx.Order("kind, name").Find(&list).Error; err != nil {
			return fmt.Errorf("reading the materials: %w", err)
		}
		return nil
	})
	return list, err
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
