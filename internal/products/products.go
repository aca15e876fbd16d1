// Package products holds what the studio makes: blanks, pictures, recipes, what
// a piece of each costs, and what is about to go wrong with it.
package products

import (
	"context"
	"strings"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/cost"
	"tidykiln/core/craft"
	"tidykiln/core/design"
	"tidykiln/core/picture"
	"tidykiln/internal/artwork"
	"tidykiln/internal/database"
	"tidykiln/internal/library"
	"tidykiln/internal/problem"
	"tidykiln/internal/stores"
	"tidykiln/internal/workshop"
)

// Product is a thing the studio makes and sells.
type Product struct {
	ID      uint64        `json:"id"`
	Name    string        `json:"name"`
	Method  string        `json:"method"`
	Look    craft.Look    `json:"look" enum:"crisp,weathered"`
	Blank   craft.Blank   `json:"blank" gorm:"serializer:json"`
	Picture craft.Picture `json:"picture" gorm:"serializer:json"`
	// ArtworkID is the picture on it, whose pixels and rights say what Picture does not
	// have to; nil where none was put in.
	ArtworkID *uint64 `json:"artworkId,omitempty"`
	// Artwork is that picture.
	Artwork *artwork.Artwork `json:"artwork,omitempty" gorm:"-"`
	// Design is how the picture lies on the blank; nil before anybody said so.
	Design *design.Design `json:"design,omitempty" gorm:"serializer:json"`
	// Printed is what the pixels of that print say.
	Printed *Printed `json:"printed,omitempty" gorm:"serializer:json"`
	// Lettered products have a line of lettering on each piece.
	Lettered bool `json:"lettered"`
	// OwnPictures: each piece has a picture of its customer's.
	OwnPictures bool `json:"ownPictures"`
	// GoalPieces are to lie ready on the shelf by GoalOn; nil where there is no goal.
	GoalPieces int             `json:"goalPieces"`
	GoalOn     *calendar.Date  `json:"goalOn,omitempty" format:"date"`
	Price      decimal.Decimal `json:"price"`
	RecipeID   *uint64         `json:"-"`
	CreatedAt  time.Time       `json:"createdAt"`
	ArchivedAt *time.Time      `json:"-"`
	Version    int             `json:"version"`
	Recipe     Recipe          `json:"-" gorm:"-"`
}

// Distinct tells that no piece can stand in for another: each has a name or a picture
// of its own.
func (p Product) Distinct() bool { return p.Lettered || p.OwnPictures }

// Recipe is one version of a product's recipe. It is never changed.
type Recipe struct {
	ID        uint64
	ProductID uint64
	Number    int
	Document  craft.Recipe `gorm:"serializer:json"`
	CreatedAt time.Time
}

// Bench is the recipe as it is worked.
func (p Product) Bench() craft.Recipe { return p.Recipe.Document.ForBench(p.Blank) }

// NewProduct is what a product begins from.
type NewProduct struct {
	Name     string            `json:"name" minLength:"1" maxLength:"120"`
	Method   string            `json:"method" minLength:"1" maxLength:"40"`
	Blank    BlankForm         `json:"blank"`
	Picture  PictureForm       `json:"picture"`
	Look     craft.Look        `json:"look" enum:"crisp,weathered"`
	Lettered bool              `json:"lettered"`
	Choices  map[string]string `json:"choices,omitempty" maxProperties:"20" doc:"answers where practitioners differ, by the key of the question"`
	// Price may be left out; it is then the one that the main way of selling aims at.
	Price    string `json:"price,omitempty" pattern:"^(\\d{1,6}(\\.\\d{1,2})?)?$" patternDescription:"an amount such as 10.50"`
	Material string `json:"material,omitempty" maxLength:"60" doc:"key of the blank's material"`
}

// ProductChange is what can be changed of a product without a new recipe.
type ProductChange struct {
	Name    string          `json:"name" minLength:"1" maxLength:"120"`
	Price   decimal.Decimal `json:"price" pattern:"^\\d{1,6}(\\.\\d{1,2})?$" patternDescription:"an amount such as 10.50"`
	Version int             `json:"version" minimum:"1"`
}

// FactsChange is what a product is made of and shows. The recipe stays as it is.
type FactsChange struct {
	Blank    BlankForm   `json:"blank"`
	Picture  PictureForm `json:"picture"`
	Lettered bool        `json:"lettered"`
	Version  int         `json:"version" minimum:"1"`
}

// Area answers for products.
type Area struct {
	db       *database.DB
	now      func() time.Time
	library  *library.Area
	artworks *artwork.Area
	// mainTerms reads the way of selling at which the products' own prices are asked.
	mainTerms func(tx *gorm.DB) (cost.Terms, error)
	// measured are the prints measured last, by picture, blank and design.
	measured *lru.Cache[string, picture.Pixels]
}

// New makes the area on its database and clock; mainTerms reads the way of
// selling at which the products' own prices are asked.
func New(db *database.DB, now func() time.Time, library *library.Area, artworks *artwork.Area, mainTerms func(tx *gorm.DB) (cost.Terms, error)) *Area {
	measured, _ := lru.New[string, picture.Pixels](mostMeasured) // only a size under 1 fails
	return &Area{db, now, library, artworks, mainTerms, measured}
}

// Gallery lists the products with what each costs, in twelves.
func (a *Area) Gallery(ctx context.Context) (cards []Card, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		basis, err := a.Basis(tx, a.now())
		if err != nil {
			return err
		}
		products, err := LoadAll(tx)
		if err != nil {
			return err
		}
		overrides, err := AllOverridesInForce(tx)
		if err != nil {
			return err
		}
		cards = make([]Card, 0, len(products))
		for _, p := range products {
			card, err := basis.Card(p, overrides[p.ID])
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
		d, err = a.detail(tx, id)
		return err
	})
	return d, err
}

// Make adds a product with the recipe its method proposes for the blank.
func (a *Area) Make(ctx context.Context, in NewProduct) (d Detail, err error) {
	return database.Answer(ctx, a.db, database.Products, func(tx *gorm.DB) (d Detail, err error) {
		p, err := a.propose(tx, in)
		if err != nil {
			return d, err
		}
		if err := create(tx, &p); err != nil {
			return d, err
		}
		d, err = a.detail(tx, p.ID)
		return d, err
	})
}

func (a *Area) propose(tx *gorm.DB, in NewProduct) (p Product, err error) {
	basis, err := a.Basis(tx, a.now())
	if err != nil {
		return p, err
	}
	name := strings.TrimSpace(in.Name)
	if name == "" {
		return p, problem.Invalid("name", "give the product a name")
	}
	method, known := basis.Methods[in.Method]
	if !known {
		return p, problem.Invalid("method", "%q is not a method in the library", in.Method)
	}
	blank, err := in.Blank.Blank("blank", basis.Workshop.Units)
	if err != nil {
		return p, err
	}
	picture, pic, err := Picture(tx, "picture", in.Picture, basis.Workshop.Units)
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
	recipe, err := method.Propose(craft.Ask{Blank: blank, Picture: picture, Look: in.Look, Material: material, Choices: in.Choices, Labels: basis.Materials.Labels()})
	if err != nil {
		return p, problem.Faulty("", err)
	}
	if err := basis.knowMaterials(recipe); err != nil {
		return p, err
	}
	now := a.now()
	p = Product{Name: name, Method: method.Key, Look: in.Look, Blank: blank, Picture: picture, ArtworkID: in.Picture.ArtworkID, Artwork: pic, Lettered: in.Lettered, CreatedAt: now, Version: 1,
		Recipe: Recipe{Number: 1, Document: recipe, CreatedAt: now}}
	if in.Price != "" {
		p.Price, err = decimal.NewFromString(in.Price)
		return p, err
	}
	costing, err := basis.Usual(p)
	if err != nil {
		return p, err
	}
	p.Price = costing.TargetPrice
	return p, nil
}

// Change renames a product or sets its price.
func (a *Area) Change(ctx context.Context, id uint64, c ProductChange) (d Detail, err error) {
	c.Name = strings.TrimSpace(c.Name)
	if c.Name == "" {
		return d, problem.Invalid("name", "give the product a name")
	}
	return a.change(ctx, id, c.Version, func(*gorm.DB, Product, Basis) (map[string]any, error) {
		return map[string]any{"name": c.Name, "price": c.Price}, nil
	})
}

// ChangeFacts sets what the product is made of and shows.
func (a *Area) ChangeFacts(ctx context.Context, id uint64, c FactsChange) (d Detail, err error) {
	return a.change(ctx, id, c.Version, func(tx *gorm.DB, p Product, b Basis) (map[string]any, error) {
		blank, err := c.Blank.Blank("blank", b.Workshop.Units)
		if err != nil {
			return nil, err
		}
		picture, _, err := Picture(tx, "picture", c.Picture, b.Workshop.Units)
		if err != nil {
			return nil, err
		}
		if err := fitsBlank(p, blank); err != nil {
			return nil, err
		}
		if p.Design != nil {
			picture = LaidOut(picture, *p.Design, blank.Shape)
		}
		return map[string]any{"blank": database.JSON(blank), "picture": database.JSON(picture), "artwork_id": c.Picture.ArtworkID, "lettered": c.Lettered}, nil
	})
}

// change is an edit of the product as it was read at a version.
func (a *Area) change(ctx context.Context, id uint64, version int, edit func(*gorm.DB, Product, Basis) (map[string]any, error)) (d Detail, err error) {
	return database.Answer(ctx, a.db, database.Products, func(tx *gorm.DB) (d Detail, err error) {
		p, basis, err := a.load(tx, id)
		if err != nil {
			return d, err
		}
		columns, err := edit(tx, p, basis)
		if err != nil {
			return d, err
		}
		if err := update(tx, p, version, columns); err != nil {
			return d, err
		}
		d, err = a.detail(tx, id)
		return d, err
	})
}

// Reprice moves a product on for a price that is set for it somewhere: the main
// one, or, where that is nil, another that is kept elsewhere.
func (a *Area) Reprice(tx *gorm.DB, id uint64, version int, main *decimal.Decimal) (d Detail, err error) {
	p, err := Load(tx, id)
	if err != nil {
		return d, err
	}
	columns := map[string]any{}
	if main != nil {
		columns["price"] = *main
	}
	if err := update(tx, p, version, columns); err != nil {
		return d, err
	}
	return a.detail(tx, id)
}

// load reads a product that is made, and what its costing and findings rest on.
func (a *Area) load(tx *gorm.DB, id uint64) (p Product, b Basis, err error) {
	if p, err = Load(tx, id); err != nil {
		return p, b, err
	}
	b, err = a.Basis(tx, a.now())
	return p, b, err
}

// Basis is what every costing and every finding rests on.
type Basis struct {
	Workshop  workshop.Workshop
	Room      workshop.Room
	Materials stores.Materials
	Methods   library.Methods
	// Main is the way of selling at which the products' own prices are asked.
	Main cost.Terms
}

// Basis reads it as of a moment.
func (a *Area) Basis(tx *gorm.DB, now time.Time) (b Basis, err error) {
	if b.Workshop, err = workshop.Load(tx); err != nil {
		return b, err
	}
	if b.Room, err = workshop.LoadRoom(tx, now); err != nil {
		return b, err
	}
	if b.Materials, err = stores.LoadMaterials(tx); err != nil {
		return b, err
	}
	if b.Main, err = a.mainTerms(tx); err != nil {
		return b, err
	}
	b.Methods, err = library.Load(tx)
	return b, err
}
