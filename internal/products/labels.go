package products

import (
	"context"
	"slices"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/stores"
)

// Labelled is a product's recipe held against the labels of its materials.
type Labelled struct {
	Materials []LabelledMaterial `json:"materials" nullable:"false" doc:"that the recipe lays or coats with"`
	// Changes say what would be other with the labels' figures; then Recipe has them.
	Changes []string   `json:"changes" nullable:"false"`
	Recipe  RecipeForm `json:"recipe"`
}

// LabelledMaterial is a material with what its label says.
type LabelledMaterial struct {
	ID   uint64 `json:"id"`
	Name string `json:"name"`
	stores.LabelForm
	Version int `json:"version"`
}

// LabelledRecipe is a product whose recipe is other than the label of a material.
type LabelledRecipe struct {
	ProductID uint64   `json:"productId"`
	Name      string   `json:"name"`
	Version   int      `json:"version"`
	Changes   []string `json:"changes" nullable:"false"`
}

// LabelFollowing names the products whose recipes are to be as the labels say.
type LabelFollowing struct {
	Products []ProductAsRead `json:"products" minItems:"1" maxItems:"500" nullable:"false"`
}

// ProductAsRead is a product at the version it was read.
type ProductAsRead struct {
	ID      uint64 `json:"id"`
	Version int    `json:"version" minimum:"1" maximum:"2000000000"`
}

// asLabelled is the product's recipe as the labels of its materials say; films
// that are the library's own become the owner's.
func (b Basis) asLabelled(p Product) craft.Recipe {
	labels := b.Materials.Labels()
	r := p.Recipe.Document.AsLabelled(labels)
	ask := b.askOf(p)
	ask.Choices = r.Choices
	own, ownErr := b.Methods[p.Method].Propose(ask)
	ask.Labels = nil
	library, err := b.Methods[p.Method].Propose(ask)
	if err != nil || ownErr != nil {
		return r // a blank the method no longer suits: nothing is proposed for it
	}
	for i := range r.Steps {
		s := &r.Steps[i]
		was, is := stepByID(library, s.ID), stepByID(own, s.ID)
		s.Uses = slices.Clone(s.Uses)
		for k, u := range s.Uses {
			if u.Per == craft.PerCoat && k < len(was.Uses) && k < len(is.Uses) && was.Uses[k].Material == u.Material && was.Uses[k].Film == u.Film {
				s.Uses[k].Film = is.Uses[k].Film
			}
		}
	}
	return r
}

func stepByID(r craft.Recipe, id string) craft.Step {
	i := slices.IndexFunc(r.Steps, func(s craft.Step) bool { return s.ID == id })
	if i < 0 {
		return craft.Step{}
	}
	return r.Steps[i]
}

// Labelled holds a product's recipe against the labels of its materials.
func (a *Area) Labelled(ctx context.Context, id uint64) (l Labelled, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		p, b, err := a.load(tx, id)
		if err != nil {
			return err
		}
		r := b.asLabelled(p)
		l = Labelled{Materials: []LabelledMaterial{}, Changes: orEmpty(b.Workshop.Habit.Sentences(r.DiffersFrom(p.Recipe.Document))), Recipe: RecipeForm{r.Look, r.Sheen, r.Choices, r.Steps}}
		for _, key := range r.Coats() {
			if m, known := b.Materials[key]; known {
				l.Materials = append(l.Materials, LabelledMaterial{m.ID, m.Name, m.LabelForm, m.Version})
			}
		}
		return nil
	})
	return l, err
}

// OtherThanLabel lists the products whose recipes are other than the labels of
// their materials, of those that lay or coat with a material.
func (a *Area) OtherThanLabel(ctx context.Context, materialID uint64) (list []LabelledRecipe, err error) {
	list = []LabelledRecipe{}
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		b, err := a.Basis(tx, a.now())
		if err != nil {
			return err
		}
		if !b.Materials.Has(materialID) {
			return problem.NotFound("material")
		}
		made, err := LoadAll(tx)
		if err != nil {
			return err
		}
		for _, p := range made {
			laid := slices.ContainsFunc(p.Recipe.Document.Coats(), func(key string) bool { return b.Materials[key].ID == materialID })
			if !laid {
				continue
			}
			if changes := b.Workshop.Habit.Sentences(b.asLabelled(p).DiffersFrom(p.Recipe.Document)); len(changes) > 0 {
				list = append(list, LabelledRecipe{p.ID, p.Name, p.Version, changes})
			}
		}
		return nil
	})
	return list, err
}

// FollowLabels saves recipes as the labels of their materials say, each as a
// new version, all of them or none; one that is so already stays. Batches under way keep theirs.
func (a *Area) FollowLabels(ctx context.Context, in LabelFollowing) error {
	return a.db.Write(ctx, database.Products, func(tx *gorm.DB) error {
		b, err := a.Basis(tx, a.now())
		if err != nil {
			return err
		}
		for _, read := range in.Products {
			p, err := Load(tx, read.ID)
			if err != nil {
				return err
			}
			r := b.asLabelled(p)
			if len(r.DiffersFrom(p.Recipe.Document)) == 0 {
				continue
			}
			if _, err := a.saveRecipe(tx, p.ID, read.Version, func(Product, Basis) (craft.Recipe, error) { return r, nil }); err != nil {
				return err
			}
		}
		return nil
	})
}
