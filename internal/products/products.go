// Package products holds what the studio makes: blanks, recipes and prices,
// and what a piece of each costs.
package products

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/core/shape"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/stores"
	"tidykiln/internal/workshop"
)

// Product is a thing the studio makes and sells.
type Product struct {
	ID     uint64      `json:"id"`
	Name   string      `json:"name"`
	Method string      `json:"method"`
	Look   craft.Look  `json:"look"`
	Blank  craft.Blank `json:"blank" gorm:"serializer:json"`
	// Lettered products have a line of lettering on each piece.
	Lettered   bool            `json:"lettered"`
	Price      decimal.Decimal `json:"price"`
	RecipeID   *uint64         `json:"-"`
	CreatedAt  time.Time       `json:"createdAt"`
	ArchivedAt *time.Time      `json:"-"`
	Version    int             `json:"version"`
	Recipe     Recipe          `json:"-" gorm:"-"`
}

// Recipe is one version of a product's recipe. It is never changed.
type Recipe struct {
	ID        uint64
	ProductID uint64
	Number    int
	Document  craft.Recipe `gorm:"serializer:json"`
	CreatedAt time.Time
}

// NewProduct is what a product begins from.
type NewProduct struct {
	Name      string     `json:"name" minLength:"1" maxLength:"120"`
	Shape     shape.Kind `json:"shape" enum:"rectangle,disc"`
	Width     string     `json:"width,omitempty" maxLength:"40" doc:"as people type it, such as 9.5 cm or 3 3/4 in; a disc's diameter"`
	Height    string     `json:"height,omitempty" maxLength:"40"`
	Thickness string     `json:"thickness" maxLength:"40"`
	Painted   bool       `json:"painted"`
	Look      craft.Look `json:"look" enum:"crisp,weathered"`
	Lettered  bool       `json:"lettered"`
	// Price may be left out; it is then the one that leaves the workshop's margin.
	Price    string `json:"price,omitempty" pattern:"^(\\d{1,6}(\\.\\d{1,2})?)?$" patternDescription:"an amount such as 10.50"`
	Material string `json:"material,omitempty" maxLength:"60" doc:"key of the blank's material"`
}

// ProductChange is what can be changed of a product without a new recipe.
type ProductChange struct {
	Name    string          `json:"name" minLength:"1" maxLength:"120"`
	Price   decimal.Decimal `json:"price" pattern:"^\\d{1,6}(\\.\\d{1,2})?$" patternDescription:"an amount such as 10.50"`
	Version int             `json:"version" minimum:"1"`
}

// Area answers for products.
type Area struct {
	db  *database.DB
	now func() time.Time
}

// New makes the area on its database and clock.
func New(db *database.DB, now func() time.Time) *Area { return &Area{db, now} }

// Gallery lists the products with what each costs, in twelves.
func (a *Area) Gallery(ctx context.Context) (cards []Card, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		products, basis, err := load(tx)
		if err != nil {
			return err
		}
		cards = make([]Card, 0, len(products))
		for _, p := range products {
			card, err := basis.Card(p)
			if err != nil {
				return err
			}
			cards = append(cards, card)
		}
		return nil
	})
	return cards, err
}

// Get reads one product with its recipe and costing.
func (a *Area) Get(ctx context.Context, id uint64) (d Detail, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		d, err = detail(tx, id)
		return err
	})
	return d, err
}

// Make adds a product with the recipe its method proposes for the blank.
func (a *Area) Make(ctx context.Context, in NewProduct) (d Detail, err error) {
	err = a.db.Write(ctx, func(tx *gorm.DB) error {
		p, err := a.propose(tx, in)
		if err != nil {
			return err
		}
		if err := create(tx, &p); err != nil {
			return err
		}
		d, err = detail(tx, p.ID)
		return err
	})
	return d, err
}

func (a *Area) propose(tx *gorm.DB, in NewProduct) (p Product, err error) {
	basis, err := LoadBasis(tx)
	if err != nil {
		return p, err
	}
	name := strings.TrimSpace(in.Name)
	if name == "" {
		return p, problem.Invalid("name", "give the product a name")
	}
	blank, err := in.blank(basis.Workshop.Units)
	if err != nil {
		return p, err
	}
	material := in.Material
	if material == "" {
		material = "plain-blank"
	}
	if m, known := basis.Materials[material]; !known || m.Kind != "blank" {
		return p, problem.Invalid("material", "%q is not a blank in the stores", material)
	}
	method, _ := craft.MethodByKey("gel-lift")
	recipe, err := method.Propose(blank, in.Look, material)
	if err != nil {
		return p, problem.InvalidPath("", err)
	}
	now := a.now()
	p = Product{Name: name, Method: method.Key, Look: in.Look, Blank: blank, Lettered: in.Lettered, CreatedAt: now, Version: 1,
		Recipe: Recipe{Number: 1, Document: recipe, CreatedAt: now}}
	if in.Price != "" {
		p.Price, err = decimal.NewFromString(in.Price)
		return p, err
	}
	costing, err := basis.Cost(p, usualBatch)
	if err != nil {
		return p, err
	}
	p.Price, err = decimal.NewFromString(*costing.Answer.Price)
	return p, err
}

func (in NewProduct) blank(units measure.System) (craft.Blank, error) {
	blank := craft.Blank{Surface: craft.WoodBare, Shape: shape.Shape{Kind: in.Shape}}
	if in.Painted {
		blank.Surface = craft.WoodPainted
	}
	width, err := readLength("width", in.Width, units)
	if err != nil {
		return blank, err
	}
	if in.Shape == shape.Disc {
		blank.Shape.Diameter = width
	} else {
		blank.Shape.Width = width
		if blank.Shape.Height, err = readLength("height", in.Height, units); err != nil {
			return blank, err
		}
	}
	if blank.Shape.Thickness, err = readLength("thickness", in.Thickness, units); err != nil {
		return blank, err
	}
	if err := blank.Shape.Validate(); err != nil {
		fields := strings.NewReplacer("widthMm", "width", "diameterMm", "width", "heightMm", "height", "thicknessMm", "thickness")
		return blank, problem.InvalidPath("", fmt.Errorf("%s", fields.Replace(err.Error())))
	}
	return blank, nil
}

func readLength(field, text string, units measure.System) (measure.Length, error) {
	l, err := measure.ParseLength(text, units)
	if err != nil {
		return 0, problem.Invalid(field, "%s", err.Error())
	}
	return l, nil
}

// Change renames a product or sets its price.
func (a *Area) Change(ctx context.Context, id uint64, c ProductChange) (d Detail, err error) {
	c.Name = strings.TrimSpace(c.Name)
	if c.Name == "" {
		return d, problem.Invalid("name", "give the product a name")
	}
	err = a.db.Write(ctx, func(tx *gorm.DB) error {
		if err := update(tx, id, c); err != nil {
			return err
		}
		d, err = detail(tx, id)
		return err
	})
	return d, err
}

// Basis is what every costing rests on.
type Basis struct {
	Workshop  workshop.Workshop
	Materials stores.Materials
}

// LoadBasis reads it.
func LoadBasis(tx *gorm.DB) (b Basis, err error) {
	if b.Workshop, err = workshop.Load(tx); err != nil {
		return b, err
	}
	b.Materials, err = stores.LoadMaterials(tx)
	return b, err
}
