// Package stores holds the materials: what is bought, what is left of it, where
// it went, and what a unit costs. Every change of stock is a movement with a
// cause; nothing is on hand that no movement brought.
package stores

import (
	"context"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/cost"
	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/core/stock"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Kind of a material.
type Kind string

const (
	Blank  Kind = "blank"
	Energy Kind = "energy"
)

// Kinds lists the kinds, in the order the stores show them.
func Kinds() []Kind {
	return []Kind{Blank, "medium", "paint", "sealer", "paper", "film", "toner", "ink", "consumable", "finish", "packing", Energy}
}

// Material is something pieces are made with, counted in its own unit.
type Material struct {
	ID          uint64 `json:"id"`
	MaterialKey string `json:"materialKey"`
	MaterialForm
	// UnitCost is the average of what is left; the last known while nothing is.
	UnitCost decimal.Decimal `json:"unitCost" seen:"makers"`
	// LatestCost is a unit's at the latest purchase: what it costs to buy again.
	LatestCost *decimal.Decimal `json:"latestCost,omitempty" seen:"makers"`
	// Counted says that its stock is kept count of.
	Counted    bool            `json:"counted"`
	CountedAt  *time.Time      `json:"countedAt,omitempty"`
	OnHand     decimal.Decimal `json:"onHand"`
	ArchivedAt *time.Time      `json:"-"`
	Version    int             `json:"version"`
	// Purchases are what a unit's cost is averaged over: what is left, or one
	// unit at the last known cost.
	Purchases []cost.Purchase `json:"-" gorm:"-"`
	// Pack is what a pack of it holds, as it was bought last of what is left; zero when that is not known.
	Pack decimal.Decimal `json:"-" gorm:"-"`
}

// MaterialForm is what the owner says of a material.
type MaterialForm struct {
	Name string     `json:"name" minLength:"1" maxLength:"120"`
	Kind Kind       `json:"kind" enum:"blank,medium,paint,sealer,paper,film,toner,ink,consumable,finish,packing,energy"`
	Unit stock.Unit `json:"unit" enum:"ml,g,m,piece,sheet,page,kWh"`
	// FilmMm is the wet film of one coat.
	FilmMm *float64 `json:"filmMm,omitempty" minimum:"0.001" maximum:"10"`
	// Density is in grams per millilitre.
	Density *float64 `json:"density,omitempty" minimum:"0.01" maximum:"25"`
	// Lasts is how many pieces, or uses, a unit lasts.
	Lasts         *float64 `json:"lasts,omitempty" minimum:"0.001" maximum:"100000"`
	SheetWidthMm  *float64 `json:"sheetWidthMm,omitempty" minimum:"20" maximum:"3000"`
	SheetHeightMm *float64 `json:"sheetHeightMm,omitempty" minimum:"20" maximum:"3000"`
	ShelfLifeDays *int     `json:"shelfLifeDays,omitempty" minimum:"1" maximum:"36500" doc:"days it keeps from its purchase"`
	OpenLifeDays  *int     `json:"openLifeDays,omitempty" minimum:"1" maximum:"36500" doc:"days it keeps once it is opened"`
	LeadDays      int      `json:"leadDays" minimum:"0" maximum:"365" doc:"days from ordering it until it is there"`
	Hazard        string   `json:"hazard" maxLength:"500"`
	// Sort is what natural blanks of several size classes are bought as, SmallestMm the smallest of this class.
	Sort       string   `json:"sort" maxLength:"80"`
	SmallestMm *float64 `json:"smallestMm,omitempty" minimum:"1" maximum:"3000"`
	LabelForm
}

// NewMaterial is a material being added, with what a unit costs until one is bought.
type NewMaterial struct {
	MaterialForm
	UnitCost string `json:"unitCost" pattern:"^\\d{1,6}(\\.\\d{1,6})?$" patternDescription:"an amount such as 0.92"`
}

// MaterialChange is what the owner says of a material now.
type MaterialChange struct {
	MaterialForm
	// UnitCost may be set while its stock is not kept count of; it is left alone otherwise.
	UnitCost string `json:"unitCost,omitempty" pattern:"^(\\d{1,6}(\\.\\d{1,6})?)?$" patternDescription:"an amount such as 0.92"`
	Version  int    `json:"version" minimum:"1"`
}

// Area answers for stores.
type Area struct {
	db  *database.DB
	now func() time.Time
}

// New makes the area on its database and clock.
func New(db *database.DB, now func() time.Time) *Area { return &Area{db, now} }

// Supply is what a recipe's uses are reckoned by.
func (m Material) Supply() craft.Supply {
	var s craft.Supply
	if m.Lasts != nil {
		s.Lasts = *m.Lasts
	}
	if m.SheetWidthMm != nil && m.SheetHeightMm != nil {
		s.SheetWidth, s.SheetHeight = measure.Length(*m.SheetWidthMm), measure.Length(*m.SheetHeightMm)
	}
	return s
}

// pack reads how much of the material is meant.
func (m Material) pack(field, text string) (decimal.Decimal, error) {
	q, err := stock.Material{Unit: m.Unit, Density: m.Density}.ReadPack(text)
	if err != nil {
		return q, problem.Invalid(field, "%s", err.Error())
	}
	return q, nil
}

// check refuses what no material can be. It tidies the form's texts.
func (f *MaterialForm) check() error {
	f.Name, f.Sort, f.Hazard = strings.TrimSpace(f.Name), strings.TrimSpace(f.Sort), strings.TrimSpace(f.Hazard)
	switch {
	case f.Name == "":
		return problem.Invalid("name", "give the material a name")
	case !slices.Contains(Kinds(), f.Kind):
		return problem.Invalid("kind", "%q is not a kind of material", f.Kind)
	case !f.Unit.Known():
		return problem.Invalid("unit", "%q is not a unit materials are counted in", f.Unit)
	case f.FilmMm != nil && f.Unit != stock.Millilitre:
		return problem.Invalid("filmMm", "only what is counted in ml is laid as a film")
	case (f.SheetWidthMm == nil) != (f.SheetHeightMm == nil):
		return problem.Invalid("sheetHeightMm", "give both the width and the height of a sheet")
	case f.SheetWidthMm != nil && f.Unit != stock.Sheet:
		return problem.Invalid("sheetWidthMm", "only what is counted in sheets has the size of one")
	case f.Sort != "" && f.Kind != Blank:
		return problem.Invalid("sort", "only blanks are sorted into size classes")
	}
	return f.LabelForm.check(f.Kind)
}

// Add adds a material. Its key is made from its name.
func (a *Area) Add(ctx context.Context, in NewMaterial) (m Material, err error) {
	return database.Answer(ctx, a.db, database.Stores, func(tx *gorm.DB) (m Material, err error) {
		if err := in.check(); err != nil {
			return m, err
		}
		unitCost, err := decimal.NewFromString(in.UnitCost)
		if err != nil {
			return m, problem.Invalid("unitCost", "an amount such as 0.92")
		}
		m = Material{MaterialForm: in.MaterialForm, UnitCost: unitCost, Version: 1}
		if err := mustBeOnlyName(tx, m); err != nil {
			return m, err
		}
		if m.MaterialKey, err = freeKey(tx, in.Name); err != nil {
			return m, err
		}
		return m, addMaterial(tx, &m)
	})
}

// Change changes what is said of a material. Its unit stays once anything of it has moved.
func (a *Area) Change(ctx context.Context, id uint64, c MaterialChange) (m Material, err error) {
	return database.Answer(ctx, a.db, database.Stores, func(tx *gorm.DB) (m Material, err error) {
		if err := c.check(); err != nil {
			return m, err
		}
		if m, err = loadMaterial(tx, id); err != nil {
			return m, err
		}
		if err := problem.IfStale(c.Version, m.Version, "%s was changed by someone since you opened it.", m.Name); err != nil {
			return m, err
		}
		if err := mayChangeUnit(tx, m, c.Unit); err != nil {
			return m, err
		}
		m.MaterialForm = c.MaterialForm
		if err := mustBeOnlyName(tx, m); err != nil {
			return m, err
		}
		if c.UnitCost != "" && !m.Counted {
			if m.UnitCost, err = decimal.NewFromString(c.UnitCost); err != nil {
				return m, problem.Invalid("unitCost", "an amount such as 0.92")
			}
		}
		m.Version++
		return m, saveMaterial(tx, m)
	})
}

func mayChangeUnit(tx *gorm.DB, m Material, unit stock.Unit) error {
	if m.Unit == unit {
		return nil
	}
	var moved int64
	if err := tx.Model(&Movement{}).Where("material_id = ?", m.ID).Limit(1).Count(&moved).Error; err != nil {
		return fmt.Errorf("looking for movements: %w", err)
	}
	if moved > 0 {
		return problem.Invalid("unit", "%s has been counted in %s already; add a new material for another unit", m.Name, m.Unit)
	}
	return nil
}

// Archive takes a material out of the stores' lists. What it cost stays known to recipes that name it.
func (a *Area) Archive(ctx context.Context, id uint64, version int) error {
	return a.db.Write(ctx, database.Stores, func(tx *gorm.DB) error {
		m, err := loadMaterial(tx, id)
		if err != nil {
			return err
		}
		if err := problem.IfStale(version, m.Version, "%s was changed by someone since you opened it.", m.Name); err != nil {
			return err
		}
		if m.OnHand.IsPositive() {
			return problem.Conflict(problem.InUse, "%s of %s is still there. Count it as none first.", quantity(m.OnHand, m.Unit), m.Name)
		}
		m.Version++
		m.ArchivedAt = new(a.now())
		return saveMaterial(tx, m)
	})
}

var notInKey = regexp.MustCompile(`[^a-z0-9]+`)

// freeKey makes a key of plain letters from a name, not yet taken.
func freeKey(tx *gorm.DB, name string) (string, error) {
	var taken []string
	base := keyOf(name)
	if err := tx.Model(&Material{}).Where("material_key = ? OR material_key LIKE ?", base, base+"-%").Pluck("material_key", &taken).Error; err != nil {
		return "", fmt.Errorf("reading the materials' keys: %w", err)
	}
	return untaken(base, func(key string) bool { return slices.Contains(taken, key) }), nil
}

// keyOf is a name in plain letters.
func keyOf(name string) string {
	base := strings.Trim(notInKey.ReplaceAllString(strings.ToLower(name), "-"), "-")
	if base = strings.Trim(base[:min(len(base), 50)], "-"); base == "" {
		return "material"
	}
	return base
}

// untaken is the key, with a number after it when it is taken.
func untaken(base string, taken func(string) bool) string {
	key := base
	for i := 2; taken(key); i++ {
		key = fmt.Sprintf("%s-%d", base, i)
	}
	return key
}

// quantity writes an amount with its unit: "3 pieces", "240 ml".
func quantity(d decimal.Decimal, u stock.Unit) string {
	text := d.Round(2).String()
	switch u {
	case stock.Piece, stock.Sheet, stock.Page:
		if text != "1" {
			return text + " " + string(u) + "s"
		}
	}
	return text + " " + string(u)
}
