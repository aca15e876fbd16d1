package products

import (
	"maps"
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

// bySolvent tells whether a recipe goes the solvent way.
func bySolvent(r craft.Recipe) bool {
	return slices.ContainsFunc(r.Steps, func(s craft.Step) bool { return slices.Contains(solvent, s.Do) })
}

// Lighter says what a product would be on a light base, where its dark one needs the solvent
// way: by the method that then costs least of those that take the same print and that no check
// stops. False where it needs no solvent, or where nothing would be won.
func (b Basis) Lighter(p Product, good int) (l Lighter, is bool, err error) {
	if !bySolvent(p.Recipe.Document) || p.Blank.Tone == craft.Light {
		return l, false, nil
	}
	now, err := b.Cost(p, good)
	if err != nil {
		return l, false, err
	}
	for _, key := range slices.Sorted(maps.Keys(b.Methods)) {
		m, light := b.Methods[key], p
		light.Method, light.Blank.Tone = key, craft.Light
		print := craft.Print{Kind: p.Picture.Kind, Carrier: p.Picture.Carrier}
		if !slices.Contains(m.Surfaces, p.Blank.Surface) || !slices.Contains(m.Prints, print) {
			continue
		}
		if light.Recipe.Document, err = m.Propose(b.askOf(light)); err != nil || bySolvent(light.Recipe.Document) || b.Stopped(light, nil) != nil {
			continue
		}
		then, err := b.Cost(light, good)
		if err != nil {
			return l, false, err
		}
		if less := now.Total().Sub(then.Total()); !is || less.GreaterThan(l.Cost) {
			l, is = Lighter{Method: m.Name, Cost: less, Minutes: now.Piece().HandsMinutes.Sub(then.Piece().HandsMinutes)}, true
		}
	}
	return l, is && (l.Cost.IsPositive() || l.Minutes.IsPositive()), nil
}
