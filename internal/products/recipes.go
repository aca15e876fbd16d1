package products

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Version is one version of a recipe.
type Version struct {
	Number    int       `json:"number"`
	CreatedAt time.Time `json:"createdAt"`
	// Changed says what is other than in the version before it; empty of the first.
	Changed []string `json:"changed" nullable:"false"`
}

// shownVersions is how many of the newest are listed.
const shownVersions = 20

// RecipeForm is a recipe as the strip holds it.
type RecipeForm struct {
	Look    craft.Look        `json:"look" enum:"crisp,weathered"`
	Sheen   craft.Sheen       `json:"sheen,omitempty" enum:"matt,satin,gloss"`
	Choices map[string]string `json:"choices,omitempty" maxProperties:"20"`
	Steps   []craft.Step      `json:"steps" minItems:"1" maxItems:"200" nullable:"false"`
}

// RecipeChange saves a recipe as a new version.
type RecipeChange struct {
	RecipeForm
	Version int `json:"version" minimum:"1"`
}

// RecipeEdit is a change to a recipe that is being worked on.
type RecipeEdit struct {
	RecipeForm
	Edit craft.Edit `json:"edit"`
}

// Reproposal asks for the method's own recipe again, with other choices.
type Reproposal struct {
	Look    craft.Look        `json:"look" enum:"crisp,weathered"`
	Choices map[string]string `json:"choices,omitempty" maxProperties:"20"`
}

// Draft is what a recipe would come to, without saving it.
type Draft struct {
	RecipeForm
	Findings             []Finding  `json:"findings" nullable:"false"`
	Lines                []CostLine `json:"lines" nullable:"false"`
	Curve                Curve      `json:"curve"`
	Cost                 string     `json:"cost"`
	TargetPrice          string     `json:"targetPrice"`
	EarnedPerHour        string     `json:"earnedPerHour"`
	LayToHandOverMinutes int        `json:"layToHandOverMinutes"`
	// HandInHand names steps that are worked as one, piece by piece.
	HandInHand []string `json:"handInHand" nullable:"false"`
	// StepCautions are those of each step, its own first.
	StepCautions [][]string `json:"stepCautions" nullable:"false"`
	// StepOutcomes are what can become of a piece in each step beside good.
	StepOutcomes [][]craft.Outcome `json:"stepOutcomes" nullable:"false"`
}

// recipe is the form as a recipe. What steps are joined from is said at the bench
// only, and lists that were left out are empty.
func (f RecipeForm) recipe(method string) craft.Recipe {
	for i := range f.Steps {
		s := &f.Steps[i]
		s.Parts = nil
		s.Uses, s.Checklist, s.Cautions = orEmpty(s.Uses), orEmpty(s.Checklist), orEmpty(s.Cautions)
	}
	return craft.Recipe{Method: method, Look: f.Look, Sheen: f.Sheen, Choices: f.Choices, Steps: f.Steps}
}

func orEmpty[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// checkRecipe refuses a recipe that cannot be, by the field.
func (b Basis) checkRecipe(r craft.Recipe) error {
	if err := r.Validate(); err != nil {
		return problem.Faulty("", err)
	}
	return b.knowMaterials(r)
}

func (b Basis) knowMaterials(r craft.Recipe) error {
	for i, s := range r.Steps {
		for j, u := range s.Uses {
			if _, known := b.Materials[u.Material]; !known {
				return problem.Invalid(fmt.Sprintf("steps[%d].uses[%d].material", i, j), "%q is not in the stores", u.Material)
			}
		}
	}
	return nil
}

// ChangeRecipe saves a new version of the recipe. Batches keep the one they were started with.
func (a *Area) ChangeRecipe(ctx context.Context, id uint64, c RecipeChange) (d Detail, err error) {
	return a.changeRecipe(ctx, id, c.Version, func(p Product, _ Basis) (craft.Recipe, error) { return c.recipe(p.Method), nil })
}

// RestoreRecipe makes an older version the current one, as a new version.
func (a *Area) RestoreRecipe(ctx context.Context, id uint64, number, version int) (d Detail, err error) {
	return database.Answer(ctx, a.db, database.Products, func(tx *gorm.DB) (d Detail, err error) {
		old, err := loadVersion(tx, id, number)
		if err != nil {
			return d, err
		}
		d, err = a.saveRecipe(tx, id, version, func(Product, Basis) (craft.Recipe, error) { return old.Document, nil })
		return d, err
	})
}

func (a *Area) changeRecipe(ctx context.Context, id uint64, version int, to func(Product, Basis) (craft.Recipe, error)) (d Detail, err error) {
	return database.Answer(ctx, a.db, database.Products, func(tx *gorm.DB) (d Detail, err error) {
		d, err = a.saveRecipe(tx, id, version, to)
		return d, err
	})
}

func (a *Area) saveRecipe(tx *gorm.DB, id uint64, version int, to func(Product, Basis) (craft.Recipe, error)) (d Detail, err error) {
	p, basis, err := a.load(tx, id)
	if err != nil {
		return d, err
	}
	recipe, err := to(p, basis)
	if err != nil {
		return d, err
	}
	if err := basis.checkRecipe(recipe); err != nil {
		return d, err
	}
	if err := update(tx, p, version, map[string]any{"look": recipe.Look}); err != nil {
		return d, err
	}
	p.Recipe = Recipe{ProductID: id, Number: p.Recipe.Number + 1, Document: recipe, CreatedAt: a.now()}
	if err := setRecipe(tx, &p); err != nil {
		return d, err
	}
	return a.detail(tx, id)
}

// TryRecipe works out what a recipe would come to.
func (a *Area) TryRecipe(ctx context.Context, id uint64, f RecipeForm) (d Draft, err error) {
	return a.draft(ctx, id, func(p Product, _ Basis) (craft.Recipe, error) { return f.recipe(p.Method), nil })
}

// EditRecipe makes an edit in a recipe that is being worked on, without saving
// it; what is then wrong with it TryRecipe tells.
func (a *Area) EditRecipe(ctx context.Context, id uint64, in RecipeEdit) (edited RecipeForm, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		p, basis, err := a.load(tx, id)
		if err != nil {
			return err
		}
		r, _, err := in.recipe(p.Method).Edited(in.Edit, basis.askOf(p))
		if err != nil {
			return problem.Faulty("edit", err)
		}
		edited = RecipeForm{Look: r.Look, Sheen: r.Sheen, Choices: r.Choices, Steps: r.Steps}
		return nil
	})
	return edited, err
}

// Repropose works out the method's own recipe with other choices.
func (a *Area) Repropose(ctx context.Context, id uint64, in Reproposal) (d Draft, err error) {
	return a.draft(ctx, id, func(p Product, b Basis) (craft.Recipe, error) {
		method, known := b.Methods[p.Method]
		if !known {
			return craft.Recipe{}, problem.Conflict(problem.Moved, "The method of this product is no longer in the library.")
		}
		r, err := method.Propose(craft.Ask{Blank: p.Blank, Picture: p.Picture, Look: in.Look, Material: b.blankMaterial(p), Choices: in.Choices, Labels: b.Materials.Labels()})
		if err != nil {
			return r, problem.Faulty("", err)
		}
		r.Sheen = p.Recipe.Document.Sheen
		return r, nil
	})
}

// askOf is what a step of the product's recipe is made for.
func (b Basis) askOf(p Product) craft.Ask {
	return craft.Ask{Blank: p.Blank, Picture: p.Picture, Look: p.Look, Material: b.blankMaterial(p), Labels: b.Materials.Labels()}
}

// blankMaterial is the key of the blank that the product's recipe takes.
func (b Basis) blankMaterial(p Product) string {
	for _, s := range p.Recipe.Document.Steps {
		for _, u := range s.Uses {
			if b.Materials[u.Material].Kind == "blank" {
				return u.Material
			}
		}
	}
	return "plain-blank"
}

func (a *Area) draft(ctx context.Context, id uint64, to func(Product, Basis) (craft.Recipe, error)) (d Draft, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		p, basis, err := a.load(tx, id)
		if err != nil {
			return err
		}
		if p.Recipe.Document, err = to(p, basis); err != nil {
			return err
		}
		if err := basis.checkRecipe(p.Recipe.Document); err != nil {
			return err
		}
		overrides, err := OverridesInForce(tx, id)
		if err != nil {
			return err
		}
		d, err = basis.draftOf(p, overrides)
		return err
	})
	return d, err
}

func (b Basis) draftOf(p Product, overrides []Override) (d Draft, err error) {
	r := p.Recipe.Document
	costing, err := b.Usual(p)
	if err != nil {
		return d, err
	}
	d = Draft{RecipeForm: RecipeForm{r.Look, r.Sheen, maps.Clone(r.Choices), r.Steps}, Findings: b.Findings(p, overrides), Lines: b.Lines(p, costing),
		Cost: costing.Total().StringFixed(2), TargetPrice: costing.TargetPrice.StringFixed(2), EarnedPerHour: costing.EarnedPerHour,
		LayToHandOverMinutes: r.LayToHandOver(usualBatch), HandInHand: []string{}, StepCautions: [][]string{}, StepOutcomes: [][]craft.Outcome{}}
	for _, s := range r.Steps {
		d.StepOutcomes = append(d.StepOutcomes, s.OutcomeChoices())
		d.StepCautions = append(d.StepCautions, append(slices.Clone(s.Cautions), craft.CautionsFor(s, p.Blank)...))
	}
	for _, s := range r.ForBench(p.Blank).Steps {
		if len(s.Parts) > 0 {
			d.HandInHand = append(d.HandInHand, s.Name)
		}
	}
	d.Curve, err = b.Curve(costing.Work, LongestCurve)
	return d, err
}

// BlocksFor lists the building blocks, with their minutes for the product's blank.
func (a *Area) BlocksFor(ctx context.Context, id uint64) (blocks []BlockFor, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		p, basis, err := a.load(tx, id)
		if err != nil {
			return err
		}
		for _, b := range craft.Blocks() {
			blocks = append(blocks, BlockFor{b.Stage, b.For(basis.askOf(p))})
		}
		return nil
	})
	return blocks, err
}

// BlockFor is a building block for one product.
type BlockFor struct {
	Stage craft.Stage `json:"stage" enum:"prepare,print,lay,remove,seal,finish"`
	Step  craft.Step  `json:"step"`
}
