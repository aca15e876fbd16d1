package products

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/check"
	"tidykiln/core/cost"
	"tidykiln/core/craft"
	"tidykiln/internal/library"
	"tidykiln/internal/problem"
)

// usualBatch is the number of pieces in which costs are compared.
const usualBatch = 12

// Card is a product in the gallery.
type Card struct {
	Product
	Describe      string `json:"describe" doc:"method, blank and look in words"`
	Cost          string `json:"cost" doc:"of one good piece, in twelves"`
	EarnedPerHour string `json:"earnedPerHour" doc:"at the product's price; empty without hands-on time"`
	HandsMinutes  string `json:"handsMinutes" doc:"hands-on minutes of one good piece, in twelves"`
	// LayToHandOverMinutes is for twelve pieces at usual rests.
	LayToHandOverMinutes int    `json:"layToHandOverMinutes"`
	MethodName           string `json:"methodName"`
	// Opaque tells that nothing of the blank shows through the picture.
	Opaque bool `json:"opaque"`
	// Worst is the gravest level among the findings nobody has overruled, the
	// room's aside; empty without any.
	Worst check.Level `json:"worst"`
}

// Detail is a product with all that its page shows.
type Detail struct {
	Card
	RecipeNumber int       `json:"recipeNumber"`
	Versions     []Version `json:"versions" nullable:"false" doc:"of the recipe, newest first"`
	// Draft is the recipe as it is saved, with what it comes to.
	Draft     Draft          `json:"draft"`
	Mirror    string         `json:"mirror" enum:"mirrored,as-is" doc:"what the print must be"`
	Schools   []craft.School `json:"schools" nullable:"false"`
	Overrides []Override     `json:"overrides" nullable:"false" doc:"withdrawn ones too"`
}

// Costing is a cost with the price that is really asked.
type Costing struct {
	cost.Reckoning
	Work cost.Work
	// TargetPrice is what the main way of selling aims at.
	TargetPrice decimal.Decimal
	// EarnedPerHour is at the product's own price; empty without hands-on time.
	EarnedPerHour string
}

// Total is what a good piece costs.
func (c Costing) Total() decimal.Decimal { return c.Piece().Total }

// work translates a product's recipe into the core's question.
func (b Basis) work(p Product) cost.Work {
	w := b.Workshop
	work := cost.Work{
		Currency: w.Currency, LabourPerHour: cost.MoneyOf(w.LabourPerHour), OverheadPerHour: cost.MoneyOf(w.OverheadPerHour),
		LotSize: w.LotSize(p.Bench(), p.Blank),
	}
	if b.Main.Target == cost.ForMargin {
		work.Selling = b.Main.Selling(b.Main.Value)
	}
	used := map[string]bool{}
	extent := craft.ExtentOf(p.Blank, p.Picture)
	for _, s := range p.Recipe.Document.Steps {
		yield := cost.QuantityOf(s.Yield)
		stage := cost.WorkStage{Stage: cost.Stage{ID: s.ID, Yield: &yield, SetupMinutes: cost.QuantityOf(s.SetupMinutes), MinutesPerPiece: cost.QuantityOf(s.MinutesPerPiece)}}
		if s.Outside != nil {
			stage.Outside = &cost.Outside{PerPiece: cost.MoneyOf(s.Outside.PerPiece), PerBatch: cost.MoneyOf(s.Outside.PerBatch)}
		}
		for _, u := range s.Uses {
			used[u.Material] = true
			addUse(&stage, u.Material, u.Amount(s, extent, b.Materials[u.Material].Supply()))
		}
		work.Stages = append(work.Stages, stage)
	}
	for _, key := range slices.Sorted(maps.Keys(used)) {
		m := b.Materials[key]
		work.Materials = append(work.Materials, cost.Material{ID: key, Unit: string(m.Unit), Purchases: m.Purchases})
		if m.Pack.IsPositive() {
			work.Packs = append(work.Packs, cost.Pack{Material: key, Quantity: cost.Quantity{Decimal: m.Pack}})
		}
	}
	return work
}

// addUse puts an amount of a material where the core counts it: for each piece,
// once a batch, or for every so many pieces.
func addUse(stage *cost.WorkStage, material string, a craft.Amount) {
	if a.PerPiece > 0 {
		stage.PerPiece = append(stage.PerPiece, cost.Use{Material: material, Quantity: cost.QuantityOf(a.PerPiece)})
	}
	if a.PerBatch > 0 {
		stage.PerBatch = append(stage.PerBatch, cost.Use{Material: material, Quantity: cost.QuantityOf(a.PerBatch)})
	}
	if a.Every > 0 {
		stage.PerWhole = append(stage.PerWhole, cost.WholeUse{Use: cost.Use{Material: material, Quantity: cost.QuantityOf(a.Whole)}, Every: cost.QuantityOf(a.Every)})
	}
}

// Usual costs a product in the number of pieces in which costs are compared.
func (b Basis) Usual(p Product) (Costing, error) { return b.Cost(p, usualBatch) }

// Cost works out what good pieces of a product cost, made in one batch.
func (b Basis) Cost(p Product, good int) (c Costing, err error) {
	c.Work = b.work(p)
	if c.Reckoning, err = cost.Reckon(c.Work.Problem(good)); err != nil {
		return c, fmt.Errorf("costing %s: %w", p.Name, err)
	}
	if c.TargetPrice, err = b.Main.Proposal(c.Piece(), p.Price); err != nil {
		return c, fmt.Errorf("pricing %s: %w", p.Name, err)
	}
	if earned := b.Main.Sell(c.Piece(), p.Price).EarnedPerHour; earned != nil {
		c.EarnedPerHour = earned.StringFixed(2)
	}
	return c, nil
}

// Card sums a product up.
func (b Basis) Card(p Product, overrides []Override) (Card, error) {
	costing, err := b.Usual(p)
	if err != nil {
		return Card{}, err
	}
	method := b.Methods[p.Method]
	return Card{
		Product:              p,
		Describe:             b.Describe(p),
		Cost:                 costing.Total().StringFixed(2),
		EarnedPerHour:        costing.EarnedPerHour,
		HandsMinutes:         costing.Piece().HandsMinutes.StringFixed(1),
		LayToHandOverMinutes: p.Recipe.Document.LayToHandOver(usualBatch),
		MethodName:           method.Name,
		Opaque:               method.Facts != nil && !method.Facts.LosesWhite(p.Picture.Carrier),
		Worst:                worst(b.withoutRoom().Findings(p, overrides)),
	}, nil
}

// Describe is the method, blank and look in words.
func (b Basis) Describe(p Product) string {
	return fmt.Sprintf("%s on %s, %s, %s", b.Methods[p.Method].Name, p.Blank.Surface.Words(), p.Blank.Shape.Describe(b.Workshop.Units), p.Look)
}

// worst is the gravest level among the findings that nobody has overruled.
func worst(findings []Finding) check.Level {
	var open []check.Finding
	for _, f := range findings {
		if f.Override == nil {
			open = append(open, f.Finding)
		}
	}
	return check.Worst(open)
}

func (a *Area) detail(tx *gorm.DB, id uint64) (d Detail, err error) {
	p, b, err := a.load(tx, id)
	if err != nil {
		return d, err
	}
	if d.Overrides, err = allOverrides(tx, id); err != nil {
		return d, err
	}
	if d.Versions, err = versions(tx, id); err != nil {
		return d, err
	}
	if d.Card, err = b.Card(p, d.Overrides); err != nil {
		return d, err
	}
	if d.Draft, err = b.draftOf(p, d.Overrides); err != nil {
		return d, err
	}
	method := b.Methods[p.Method]
	d.RecipeNumber, d.Mirror, d.Schools = p.Recipe.Number, mirror(method, p.Blank), library.SchoolsOf(method)
	return d, nil
}

// CostProblem writes a product's recipe as the cost problem that the command answers.
func (a *Area) CostProblem(ctx context.Context, id uint64, pieces int) (text []byte, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		p, b, err := a.load(tx, id)
		if err != nil {
			return err
		}
		if pieces < 1 || pieces > craft.MostPieces {
			return problem.Invalid("pieces", "from 1 to %d pieces", craft.MostPieces)
		}
		text, err = json.MarshalIndent(b.work(p).Problem(pieces), "", " ")
		return err
	})
	return text, err
}
