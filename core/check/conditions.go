package check

import (
	"tidykiln/core/craft"
	"tidykiln/core/measure"
)

// Conditions that take more than a line in the table of rules.

func inkjetBleeds(f facts) []hit {
	level := Level(f.of().Inkjet)
	return when(is(f.Print.Kind, craft.Inkjet) && level != "", level)
}

func decalUnsealed(f facts) []hit {
	if !f.recipe || !is(f.Print.Kind, craft.Inkjet) || !oneOf(f.Print.Carrier, craft.DecalClear, craft.DecalWhite) {
		return nil
	}
	soak := f.first(0, len(f.steps), craft.SoakPrint, craft.ApplyDecal)
	switch {
	case soak < 0:
		return when(!f.has(craft.SpraySealPrint), Stop)
	case f.first(0, soak, craft.SpraySealPrint) < 0:
		return at(Stop, soak)
	}
	return nil
}

func surfaceHit(f facts) []hit {
	if f.Blank.Surface == nil {
		return nil
	}
	return whole(Stop, f.method.Name, f.Blank.Surface.Words())
}

// byTone fires by how dark the blank is under the picture.
func byTone(f facts, applies bool, dark, medium Level) []hit {
	switch {
	case !applies:
		return nil
	case is(f.tone(), craft.Dark):
		return whole(dark)
	}
	return when(is(f.tone(), craft.Medium), medium)
}

// darkBase says what can be done about it on this surface, in this method.
func darkBase(f facts) []hit {
	hits := byTone(f, f.clear(), Stop, Tip)
	for i := range hits {
		switch {
		case f.of().OnDark != "":
			hits[i].fix = f.of().OnDark
		case f.Blank.Surface != nil && !f.paintable():
			hits[i].fix = "Choose a light blank, or a method whose ground is white: photo medium, white film, ink-backed film."
		}
	}
	return hits
}

// pictureTooBig compares the picture, as it lies, with the face it must lie within.
func pictureTooBig(f facts) []hit {
	if is(f.Blank.holds, true) {
		return nil
	}
	w, wKnown := f.border(f.Blank.WidthMm, f.Artwork.WidthMm)
	h, hKnown := f.border(f.Blank.HeightMm, f.Artwork.HeightMm)
	if wKnown && w < -hair || hKnown && h < -hair {
		return whole(Stop)
	}
	if is(f.Blank.holds, false) {
		hits := whole(Stop)
		hits[0].fix = "Make the picture smaller so that it lies within the outline, or cut it to the outline."
		return hits
	}
	if !is(f.Blank.Outline, Disc) || !wKnown || !hKnown {
		return nil
	}
	// A corner of the picture lies within the ellipse, or runs over the rim.
	x, y := *f.Artwork.WidthMm / *f.Blank.WidthMm, *f.Artwork.HeightMm / *f.Blank.HeightMm
	hits := when(x*x+y*y > 1+hair, Stop)
	for i := range hits {
		hits[i].fix = "Make the picture smaller so that its corners lie on the disc, or cut it round."
	}
	return hits
}

func baseNotCured(f facts) []hit {
	cure := f.of().BaseCureMinutes
	if cure == 0 {
		return nil
	}
	return f.perStep(Stop, func(i int, s Step) bool {
		base := f.last(0, i, craft.PaintBase)
		return s.Do == craft.Lay && base >= 0 && f.rest(base, i) < float64(cure)
	})
}

func restUnderFloor(f facts) []hit {
	end := len(f.steps)
	lay := f.last(0, end, craft.Lay)
	if lay < 0 || f.method.Floor == nil {
		return nil
	}
	until, offends := end, lay
	for _, do := range []craft.Do{craft.Seal, craft.RemovePaper} {
		if next := f.first(lay, end, do); next >= 0 {
			until, offends = next, next
		}
	}
	rest := f.rest(lay, until)
	return whenAll(rest < float64(*f.method.Floor), at(Stop, offends, measure.Duration(int(rest)), f.method.Name, measure.Duration(*f.method.Floor)))
}

func stainLeft(f facts) (hits []hit) {
	for i, s := range f.steps {
		switch {
		case s.Do != craft.Stain:
		case i+1 == len(f.steps) || f.steps[i+1].Do != craft.WipeStain:
			hits = append(hits, at(Stop, i)...)
		case max(s.RestMinutes, s.LongestMinutes) > 10:
			hits = append(hits, at(Stop, i+1)...)
		}
	}
	return hits
}

func edgeUnsealed(f facts) []hit {
	if !f.recipe || !f.of().OpenEdge {
		return nil
	}
	seal := f.last(0, len(f.steps), craft.Seal)
	if seal < 0 {
		return when(!f.has(craft.WaxLight), Caution)
	}
	return whenAll(is(f.steps[seal].CoversEdges, false), at(Caution, seal))
}

func candleNoLabel(f facts) []hit {
	if !f.recipe || !(is(f.Blank.Surface, craft.CandleWax) || is(f.Blank.HoldsFlame, true)) {
		return nil
	}
	pack := f.first(0, len(f.steps), craft.Pack)
	switch {
	case pack < 0:
		return when(!f.has(craft.LabelCaution), Stop)
	case f.first(0, pack, craft.LabelCaution) < 0:
		return at(Stop, pack)
	}
	return nil
}

func washBeforeCure(f facts) []hit {
	return f.perStep(Stop, func(i int, s Step) bool {
		on := f.last(0, i, puttings...)
		switch {
		case s.Do != craft.Wash || on < 0:
			return false
		case f.of().WashAfterMinutes > 0:
			lay := f.last(0, i, craft.Lay)
			return lay >= 0 && f.rest(lay, i) < float64(f.of().WashAfterMinutes)
		}
		return f.first(on, i, craft.FinalCure) < 0
	})
}

// border is what is left beside a centred picture, on one side.
func (f facts) border(blank, picture *float64) (mm float64, known bool) {
	if blank == nil || picture == nil {
		return 0, false
	}
	return (*blank - *picture) / 2, true
}

// hair is a difference in mm that no ruler shows.
const hair = 1e-6

func thin(border float64) bool { return border > hair && border < 2-hair }

func pictureCoarse(f facts) []hit {
	switch ppi := f.Artwork.Ppi; {
	case ppi == nil:
		return nil
	case *ppi < 150:
		return whole(Stop, *ppi)
	case *ppi < 200:
		return whole(Caution, *ppi)
	case *ppi < 300 && is(f.Look, craft.Crisp):
		return whole(Tip, *ppi)
	}
	return nil
}

func oilUnderWater(f facts) []hit {
	return f.perStep(Stop, func(i int, s Step) bool {
		oil := f.last(0, i, craft.OilHaze)
		water := s.Do == craft.Seal && s.With.Water()
		return water && oil >= 0 && f.rest(oil, i) < day/2
	})
}
