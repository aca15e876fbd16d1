package check

import (
	"cmp"
	"slices"

	"tidykiln/core/craft"
)

// Wish is what somebody wants to make, and with what.
type Wish struct {
	Blank craft.Blank
	Look  craft.Look
	// Lettered, Photo and White say what is in the picture; White are areas that must stay white.
	Lettered, Photo, White bool
	// Printers are those at hand. Toner can also be had at a copy shop.
	Printers []craft.PrintKind
	// Picture is its size, as far as it is known.
	Picture craft.Picture
	// Material is the key of the blank's own material.
	Material string
	// Labels are what the materials' own labels say.
	Labels craft.Labels
}

// Choice is a method weighed for a wish, with reasons in words.
type Choice struct {
	Method craft.Method
	Recipe craft.Recipe
	Print  craft.Print
	// Fits says that nothing stops it.
	Fits    bool
	For     []string
	Against []string
	// Fixes are what would have to be different for it to fit.
	Fixes []string
	score int
}

// Choose weighs the methods, best first; what does not fit comes last.
func Choose(w Wish, methods []craft.Method) []Choice {
	choices := make([]Choice, 0, len(methods))
	for _, m := range methods {
		choices = append(choices, weigh(w, m))
	}
	slices.SortStableFunc(choices, func(a, b Choice) int {
		return cmp.Or(compareBool(b.Fits, a.Fits), cmp.Compare(b.score, a.score))
	})
	return choices
}

func compareBool(a, b bool) int {
	switch {
	case a == b:
		return 0
	case a:
		return 1
	}
	return -1
}

// Instead lists what to do when no method fits: what would have to change for
// those that are made for the surface, each once.
func Instead(choices []Choice, surface craft.Surface) (advice []string) {
	for _, c := range choices {
		if c.Fits {
			return nil
		}
		if !slices.Contains(c.Method.Surfaces, surface) {
			continue
		}
		for _, fix := range c.Fixes {
			if !slices.Contains(advice, fix) {
				advice = append(advice, fix)
			}
		}
	}
	return advice
}

func weigh(w Wish, m craft.Method) Choice {
	c := Choice{Method: m, Fits: true, For: []string{}, Against: []string{}, Fixes: []string{}}
	c.choosePrint(w)
	if !slices.Contains(m.Surfaces, w.Blank.Surface) {
		c.stop("It does not hold on "+w.Blank.Surface.Words()+".", "Choose a blank that it holds on: "+m.Surfaces[0].Words()+", for one.")
		return c
	}
	recipe, err := m.Propose(craft.Ask{Blank: w.Blank, Picture: w.Picture, Look: w.Look, Material: w.Material, Labels: w.Labels})
	if err != nil {
		c.stop("No recipe can be made of it: "+err.Error()+".", "Mend the method in the library.")
		return c
	}
	c.Recipe = recipe
	c.lookAhead(w)
	c.judgeThePicture(w)
	c.judgeTheWork()
	return c
}

func (c *Choice) stop(why, fix string) {
	c.Fits = false
	c.Against = append(c.Against, why)
	c.Fixes = append(c.Fixes, fix)
}

func (c *Choice) pro(points int, why string) { c.score += points; c.For = append(c.For, why) }
func (c *Choice) con(points int, why string) { c.score -= points; c.Against = append(c.Against, why) }

// choosePrint picks the print that the printers at hand can make, white film for what is not light.
func (c *Choice) choosePrint(w Wish) {
	prints := slices.Clone(c.Method.Prints)
	if w.Blank.Tone == craft.Medium || w.Blank.Tone == craft.Dark {
		slices.SortStableFunc(prints, func(a, b craft.Print) int {
			return compareBool(b.Carrier == craft.DecalWhite, a.Carrier == craft.DecalWhite)
		})
	}
	c.Print = prints[0]
	for _, p := range prints {
		if slices.Contains(w.Printers, p.Kind) {
			c.Print = p
			c.pro(2, "Your "+string(p.Kind)+" printer prints it.")
			return
		}
	}
	switch c.Print.Kind {
	case craft.Sublimation:
		c.stop("It needs a printer with sublimation ink.", "Have the transfers printed by someone with sublimation ink.")
	case craft.Toner:
		c.con(2, "It needs toner: a copy shop prints it, or photocopies your inkjet print.")
	}
}

// lookAhead runs the checks on the recipe as it would be.
func (c *Choice) lookAhead(w Wish) {
	mirrored := c.Method.MustMirror(w.Blank.ThroughBlank)
	p := Product{Family: c.Method.Family, Blank: w.Blank, Lettered: w.Lettered, Recipe: c.Recipe,
		Picture: w.Picture}
	p.Picture.Kind, p.Picture.Carrier, p.Picture.Gsm, p.Picture.Mirrored = c.Print.Kind, c.Print.Carrier, usualGsm, &mirrored
	for _, f := range Find(p.Problem(Room{})) {
		switch f.Level {
		case Stop:
			c.stop(f.Why, f.Fix)
		case Caution:
			c.con(3, f.Why)
		default:
			c.con(1, f.Why)
		}
	}
}

// usualGsm is the weight, in g/m², of the plain paper that a method is weighed with.
const usualGsm = 80

func (c *Choice) judgeThePicture(w Wish) {
	f := newFacts(Problem{Method: c.Method.Family}).of()
	lift, white := f.PaperLift, f.LosesWhite(c.Print.Carrier)
	switch {
	case w.White && white:
		c.con(3, "White in the picture will be the colour of the blank.")
	case w.White:
		c.pro(2, "White in the picture stays white.")
	}
	if w.Photo {
		switch {
		case f.LosesTones() && w.Look == craft.Crisp:
			c.con(2, "A lift loses fine tones of a photo here and there.")
		case !f.LosesTones():
			c.pro(2, "Photos keep their tones.")
		}
	}
	if w.Lettered {
		switch f.Lettering {
		case "crisp":
			c.pro(2, "Lettering comes out crisp and tough.")
		case "lifts":
			c.con(2, "Lettering lifts easily when it is too wet.")
		}
	}
	switch {
	case w.Look == craft.Weathered && lift:
		c.pro(2, "Small losses belong to a weathered look.")
	case w.Look == craft.Weathered && !lift:
		c.con(1, "It comes out crisp: a weathered look has to be sanded in.")
	case w.Look == craft.Crisp && f.CrispEdge:
		c.pro(1, "Crisp from edge to edge.")
	}
}

func (c *Choice) judgeTheWork() {
	hands, solvent := 0.0, false
	for _, s := range c.Recipe.Steps {
		hands += s.MinutesPerPiece + s.SetupMinutes/12
		step := Step{Do: s.Do, With: s.With}
		solvent = solvent || step.flammable()
	}
	c.score -= int(hands / 8)
	if c.Method.Removal == "" {
		c.pro(1, "No paper to rub away.")
	}
	if solvent {
		c.con(1, "It takes spray or solvent: fresh air, and an hour away from heat.")
	}
	if c.Recipe.LayToHandOver(1) < 12*60 {
		c.pro(1, "Done within the day.")
	}
}
