package check

import (
	"slices"

	"tidykiln/core/craft"
	"tidykiln/core/shape"
)

// Product is what the studio knows of a thing it makes.
type Product struct {
	// Family is the built-in method that the product's method is a way of doing.
	Family   string
	Blank    craft.Blank
	Picture  craft.Picture
	Lettered bool
	Recipe   craft.Recipe
}

// Problem is the question that a product and the room (zero: not known) ask.
// A step's rest counts as its floor, since a promise at risk may take it there.
func (p Product) Problem(room Room) Problem {
	b, pic := p.Blank, p.Picture
	width, height := b.Shape.Box()
	w, h, sides := float64(width), float64(height), b.PrintedSides()
	lettering := p.Lettered || pic.Slogan
	steps := []Step{}
	for _, s := range p.Recipe.Steps {
		steps = append(steps, stepOf(s, b))
	}
	q := Problem{
		Format: ProblemFormat, Method: p.Family, Look: known(p.Recipe.Look), Sheen: known(p.Recipe.Sheen),
		Blank:   Blank{Surface: known(b.Surface), Tone: known(b.Tone), WidthMm: &w, HeightMm: &h, PrintedSides: &sides, Drinkware: &b.Drinkware, FoodContact: &b.FoodContact, HoldsFlame: &b.HoldsFlame},
		View:    View{ThroughBlank: &b.ThroughBlank},
		Print:   Print{Kind: known(pic.Kind), Carrier: known(pic.Carrier), Gsm: known(pic.Gsm), Mirrored: pic.Mirrored},
		Artwork: Artwork{Lettering: &lettering, WidthMm: known(float64(pic.Width)), HeightMm: known(float64(pic.Height)), Ppi: known(pic.Ppi), Rights: known(pic.Rights), WhiteShare: known(pic.WhiteShare)},
		Room:    room,
		Steps:   &steps,
	}
	if b.Shape.Kind == shape.Disc && !pic.Round && !pic.FollowsBlank {
		q.Blank.Outline = new(Disc)
	}
	if pic.Width > 0 && pic.Height > 0 && b.Shape.Kind != shape.Disc {
		q.Blank.holds = new(b.Shape.Holds(pic.Width, pic.Height, pic.Round))
	}
	if pic.FollowsBlank {
		q.Blank.holds = new(true)
	}
	if b.RimGap != nil {
		gap := float64(*b.RimGap)
		q.Blank.RimGapMm = &gap
	}
	return q
}

// known is a fact, or nil for the zero that means it is not known.
func known[T comparable](fact T) *T {
	var unknown T
	if fact == unknown {
		return nil
	}
	return &fact
}

func stepOf(s craft.Step, b craft.Blank) Step {
	step := Step{Do: s.Do, With: s.With, CoversEdges: s.CoversEdges, FoodSafe: s.FoodSafe, Tone: s.Tone, Sheen: s.Sheen}
	cautioned := len(s.Cautions)+len(craft.CautionsFor(s, b)) > 0
	step.Cautioned = &cautioned
	if s.Rest == nil {
		return step
	}
	step.RestMinutes, step.LongestMinutes = float64(s.Rest.Floor), float64(s.Rest.Usual)
	if s.Rest.Ceiling != nil {
		ceiling := float64(*s.Rest.Ceiling)
		step.CeilingMinutes, step.LongestMinutes = &ceiling, ceiling
	}
	return step
}

// Worst is the gravest level among findings; empty without any.
func Worst(found []Finding) Level {
	for _, l := range []Level{Stop, Caution, Tip} {
		if slices.ContainsFunc(found, func(f Finding) bool { return f.Level == l }) {
			return l
		}
	}
	return ""
}
