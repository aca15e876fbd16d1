package desk

import (
	"context"
	"fmt"
	"slices"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/check"
	"tidykiln/core/craft"
	"tidykiln/internal/planning"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

// Wish is what somebody wants to make, for the chooser.
type Wish struct {
	Blank    products.BlankForm   `json:"blank"`
	Picture  products.PictureForm `json:"picture"`
	Look     craft.Look           `json:"look" enum:"crisp,weathered"`
	Lettered bool                 `json:"lettered,omitempty"`
	Photo    bool                 `json:"photo,omitempty"`
	White    bool                 `json:"white,omitempty" doc:"areas of the picture must stay white"`
	Printers []craft.PrintKind    `json:"printers" enum:"toner,inkjet,sublimation" maxItems:"3" nullable:"false"`
	Pieces   int                  `json:"pieces" minimum:"1" maximum:"500"`
	// Days is how many days there are until the hand-over; 0 when it does not matter.
	Days int `json:"days,omitempty" minimum:"0" maximum:"120"`
}

// Chosen is what the chooser says to a wish.
type Chosen struct {
	Now     time.Time `json:"now"`
	Methods []Ranked  `json:"methods" nullable:"false" doc:"best first; what does not fit last"`
	// Instead is what to do when none fits.
	Instead []string `json:"instead" nullable:"false"`
}

// Ranked is a method weighed for a wish.
type Ranked struct {
	Key     string      `json:"key"`
	Name    string      `json:"name"`
	About   string      `json:"about"`
	Fits    bool        `json:"fits"`
	InTime  bool        `json:"inTime" doc:"ready within the days there are"`
	For     []string    `json:"for" nullable:"false"`
	Against []string    `json:"against" nullable:"false"`
	Print   craft.Print `json:"print"`
	Mirror  bool        `json:"mirror" doc:"the print must be mirrored"`
	// ReadyAt is when the pieces could be handed over if they were begun now and
	// nothing else were made; LayToHandOver the minutes of that from the lay on.
	ReadyAt       *time.Time           `json:"readyAt,omitempty"`
	LayToHandOver int                  `json:"layToHandOver"`
	HandsMinutes  int                  `json:"handsMinutes" doc:"for all pieces"`
	Bars          []planning.RecipeBar `json:"bars" nullable:"false"`
	recipe        craft.Recipe
}

// Choose ranks the methods for a wish, with how long each takes in this studio's hours.
func (a *Area) Choose(ctx context.Context, wish Wish) (c Chosen, err error) {
	now := a.now()
	var basis products.Basis
	var blank craft.Blank
	var picture craft.Picture
	err = a.db.Read(ctx, func(tx *gorm.DB) (err error) {
		if basis, err = a.products.Basis(tx, now); err != nil {
			return err
		}
		if blank, err = wish.Blank.Blank("blank", basis.Workshop.Units); err != nil {
			return err
		}
		picture, _, err = products.Picture(tx, "picture", wish.Picture, basis.Workshop.Units)
		return err
	})
	if err != nil {
		return c, err
	}
	choices := check.Choose(check.Wish{Blank: blank, Picture: picture, Look: wish.Look, Lettered: wish.Lettered, Photo: wish.Photo, White: wish.White, Printers: wish.Printers, Material: "plain-blank", Labels: basis.Materials.Labels()}, basis.Methods.InOrder())
	c = Chosen{Now: now, Methods: []Ranked{}, Instead: append([]string{}, check.Instead(choices, blank.Surface)...)}
	for _, choice := range choices {
		m := choice.Method
		r := Ranked{Key: m.Key, Name: m.Name, About: m.About, Fits: choice.Fits, InTime: true, For: choice.For, Against: choice.Against, Print: choice.Print,
			Mirror: m.MustMirror(blank.ThroughBlank), Bars: []planning.RecipeBar{}}
		if len(choice.Recipe.Steps) > 0 {
			r.recipe = choice.Recipe.ForBench(blank)
			if err := r.time(ctx, basis.Workshop, now, blank, wish); err != nil {
				return c, fmt.Errorf("timing %s: %w", m.Key, err)
			}
		}
		c.Methods = append(c.Methods, r)
	}
	slices.SortStableFunc(c.Methods, func(a, b Ranked) int { return b.rank() - a.rank() })
	return c, nil
}

func (r Ranked) rank() int {
	switch {
	case !r.Fits:
		return 0
	case !r.InTime:
		return 1
	}
	return 2
}

// time places the pieces alone in the studio's hours, from now on.
func (r *Ranked) time(ctx context.Context, w workshop.Workshop, now time.Time, blank craft.Blank, wish Wish) error {
	lots := craft.Lots(wish.Pieces, w.LotSize(r.recipe, blank))
	for _, step := range r.recipe.Steps {
		r.HandsMinutes += step.Minutes(wish.Pieces)
	}
	r.Bars = planning.RecipeBars(r.recipe, wish.Pieces)
	if len(lots) == 0 {
		r.Against, r.InTime = append(r.Against, "Not even one piece fits a sitting and its racks."), false
		return nil
	}
	alone, err := planning.PlanAlone(ctx, w, now, r.recipe, blank, lots)
	if err != nil {
		return err
	}
	if alone.ReadyAt == nil {
		r.Against, r.InTime = append(r.Against, "It finds no place in your working hours."), false
		return nil
	}
	r.ReadyAt = alone.ReadyAt
	if alone.LaidAt != nil {
		r.LayToHandOver = int(r.ReadyAt.Sub(*alone.LaidAt) / time.Minute)
	}
	if until := calendar.DateOf(now, w.Location()).Add(wish.Days); wish.Days > 0 && r.ReadyAt.After(w.DueAt(until)) {
		r.InTime = false
		r.Against = append(r.Against, fmt.Sprintf("It takes longer than the %d days there are.", wish.Days))
	}
	return nil
}
