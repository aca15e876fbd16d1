package products

import (
	"slices"

	"github.com/shopspring/decimal"

	"tidykiln/core/craft"
)

// Lighter is what a product on a dark base, which needs the solvent way, would be on a light one.
type Lighter struct {
	Method string
	// Cost and Minutes are of one good piece less than on the dark base.
	Cost, Minutes decimal.Decimal
}

// solvent are the works of the solvent way.
var solvent = []craft.Do{craft.SprayGround, craft.WipeSolvent}

// Lighter says what a product would be on a light base, where its dark one needs the solvent
// way; false where it does not, or where nothing would be won.
func (b Basis) Lighter(p Product, good int) (l Lighter, is bool) {
	needs := slices.ContainsFunc(p.Recipe.Document.Steps, func(s craft.Step) bool { return slices.Contains(solvent, s.Do) })
	if !needs || p.Blank.Tone == craft.Light {
		return l, false
	}
	now, err := b.Cost(p, good)
	if err != nil {
		return l, false
	}
	light := p
	light.Blank.Tone = craft.Light
	// The same decal, with its ground of ink instead of one sprayed and wiped back.
	m, known := b.Methods["decal-ink-backed"]
	if !known || !slices.Contains(m.Surfaces, p.Blank.Surface) {
		return l, false
	}
	if light.Recipe.Document, err = m.Propose(b.askOf(light)); err != nil {
		return l, false
	}
	then, err := b.Cost(light, good)
	if err != nil {
		return l, false
	}
	l = Lighter{Method: m.Name, Cost: now.Total().Sub(then.Total()), Minutes: now.Piece().HandsMinutes.Sub(then.Piece().HandsMinutes)}
	return l, l.Cost.IsPositive() || l.Minutes.IsPositive()
}
