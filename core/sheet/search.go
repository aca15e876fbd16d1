package sheet

import (
	"context"
	"math"
	"math/rand/v2"
	"slices"
	"sync"
)

// Where nothing better was found for so many rounds, or for some after the bound was
// met and only the last sheet could be emptier, nothing better is expected.
const (
	patience        = 300
	patienceAtBound = 30
)

// search looks for the best layout: first plain ones, then ever better ones on two
// islands that each take some sheets of their layout apart and fill them anew, until
// the context ends, the rounds are done, or nothing better is expected.
func (t *table) search(ctx context.Context, bound int, rounds *int) layout {
	if len(t.kinds) == 0 {
		return nil
	}
	best := t.first(ctx)
	islands := [2]*island{t.newIsland(best, 0), t.newIsland(best, 1)}
	for r, since := 0, 0; (rounds == nil || r < *rounds) && ctx.Err() == nil && len(best) > 1; r++ {
		if since++; since > patience || len(best) == bound && (since > patienceAtBound || best.last() <= t.leastOver(bound)) {
			break
		}
		var wait sync.WaitGroup
		for _, is := range islands {
			wait.Go(func() { is.round(ctx) })
		}
		wait.Wait()
		for _, is := range islands {
			if is.best.betterThan(best) {
				best, since = is.best, 0
			}
		}
		for _, is := range islands {
			if len(best) < len(is.now) {
				is.now = best
			}
		}
	}
	return best
}

// first is the best of the plain layouts and of the one that begins with sheets
// without a rest.
func (t *table) first(ctx context.Context) layout {
	best := t.shelves(t.lowest)
	keep := func(l layout) {
		if l.betterThan(best) {
			best = l
		}
	}
	keep(t.shelves(t.highest))
	is := t.newIsland(best, 2)
	keep(is.regular())
	for by := range rules {
		if ctx.Err() != nil {
			return best
		}
		is.all()
		keep(is.straight(ctx, nil, by))
	}
	if full := t.matched(ctx); full != nil {
		is.all()
		for _, p := range full {
			is.without(p)
		}
		keep(is.straight(ctx, full, byRows))
	}
	return best
}

// island is one place where the search goes on, with its own chance and memory.
type island struct {
	t         *table
	chance    *rand.Rand
	now, best layout
	f         *filler
	left      []int
	used      []int
	weight    []float64
	beds      [][][]spot
}

func (t *table) newIsland(l layout, seed uint64) *island {
	is := &island{t: t, chance: rand.New(rand.NewPCG(seed, 20261126)), now: l, best: l, f: t.newFiller(),
		left: make([]int, len(t.kinds)), used: make([]int, len(t.kinds)), weight: make([]float64, len(t.kinds))}
	is.beds = make([][][]spot, len(t.kinds))
	for k := range t.kinds {
		is.beds[k] = t.beds(k)
	}
	return is
}

// all takes every print up to be laid.
func (is *island) all() {
	for k := range is.t.kinds {
		is.left[k] = is.t.kinds[k].count
	}
}

func (is *island) without(p *pattern) {
	for k, n := range p.counts {
		is.left[k] -= n
	}
}

// regular covers sheets with one kind each, in the best of its regular ways.
func (is *island) regular() (l layout) {
	is.all()
	for k := range is.t.kinds {
		best := slices.MaxFunc(is.beds[k], func(a, b []spot) int { return len(a) - len(b) })
		for is.left[k] > 0 {
			l = is.take(l, is.t.newPattern(best[:min(len(best), is.left[k])]))
		}
	}
	return l
}

// straight adds sheet after sheet for what is left, the largest kinds first and every
// sheet as often as there are prints for it; nil where the context ends before.
func (is *island) straight(ctx context.Context, l layout, by rule) layout {
	r := recipe{rule: by, stages: is.bySize()}
	for slices.Max(is.left) > 0 {
		if ctx.Err() != nil {
			return nil
		}
		spots := is.f.fill(ctx, r, is.left, is.used)
		l = is.take(l, is.t.newPattern(slices.Clone(spots)))
	}
	return l
}

// take puts a filled sheet into a layout as often as there are prints for it.
func (is *island) take(l layout, p *pattern) layout {
	for {
		is.without(p)
		l = append(l, p)
		for k, n := range p.counts {
			if is.left[k] < n {
				return l
			}
		}
	}
}

func (is *island) bySize() []stage {
	stages := make([]stage, len(is.t.kinds))
	for k := range stages {
		stages[k] = stage{k, MostPrints}
	}
	slices.SortStableFunc(stages, func(a, b stage) int {
		return compareFloats(is.t.kinds[b.kind].area, is.t.kinds[a.kind].area)
	})
	return stages
}

// stepsARound is how often an island tries before the islands compare.
const stepsARound = 12

func (is *island) round(ctx context.Context) {
	for range stepsARound {
		if ctx.Err() != nil {
			return
		}
		is.step(ctx)
	}
}

// step takes some sheets apart, the emptiest most likely, and keeps what is no worse.
func (is *island) step(ctx context.Context) {
	chosen := is.choose()
	clear(is.left)
	before := 0.0
	for _, i := range chosen {
		for k, n := range is.now[i].counts {
			is.left[k] += n
		}
		before += is.now[i].area * is.now[i].area
	}
	anew := is.refill(ctx, len(chosen))
	if anew == nil {
		return
	}
	after := 0.0
	for _, p := range anew {
		after += p.area * p.area
	}
	if len(anew) == len(chosen) && after < before*(1-1e-4*is.chance.ExpFloat64()) {
		return
	}
	next := make(layout, 0, len(is.now))
	for i, p := range is.now {
		if !slices.Contains(chosen, i) {
			next = append(next, p)
		}
	}
	is.now = append(next, anew...)
	if is.now.betterThan(is.best) {
		is.best = is.now
	}
}

func (is *island) choose() []int {
	n := len(is.now)
	many := min(n, 2+is.chance.IntN(4))
	order := is.chance.Perm(n)
	emptiest := 0
	for i, p := range is.now {
		if p.area < is.now[emptiest].area {
			emptiest = i
		}
	}
	chosen := order[:many]
	if !slices.Contains(chosen, emptiest) && is.chance.Float64() < 0.8 {
		chosen[0] = emptiest
	}
	return chosen
}

// refill lays what is left on sheets, at most so many; nil where they do not do.
func (is *island) refill(ctx context.Context, most int) (l layout) {
	bias := is.chance.Float64() * 0.25
	for k := range is.weight {
		is.weight[k] = math.Pow(is.t.kinds[k].area, 1+bias) * (1 + 0.1*is.chance.NormFloat64())
	}
	for slices.Max(is.left) > 0 {
		if len(l) == most || ctx.Err() != nil {
			return nil
		}
		l = append(l, is.bestFilling(ctx))
		is.without(l[len(l)-1])
	}
	return l
}

// triesASheet is how many fillings of a sheet are compared.
const triesASheet = 12

// bestFilling fills one sheet as well as some tries can.
func (is *island) bestFilling(ctx context.Context) *pattern {
	var best []spot
	var by recipe
	most := -1.0
	for try := range triesASheet {
		r := by
		if try == 0 || is.chance.Float64() < 0.3 {
			r = is.anyRecipe()
		} else {
			r = is.changed(by)
		}
		spots := is.f.fill(ctx, r, is.left, is.used)
		worth := 0.0
		for k, n := range is.used {
			worth += is.weight[k] * float64(n)
		}
		if worth > most {
			most, by = worth, r
			best = append(best[:0], spots...)
		}
		if most > 0 && ctx.Err() != nil {
			break
		}
	}
	return is.t.newPattern(slices.Clone(best))
}

// anyRecipe is a random way of filling a sheet with what is left.
func (is *island) anyRecipe() recipe {
	var kinds []int
	for k, n := range is.left {
		if n > 0 {
			kinds = append(kinds, k)
		}
	}
	keys := make(map[int]float64, len(kinds))
	noise := is.chance.Float64()
	for _, k := range kinds {
		keys[k] = math.Log(is.t.kinds[k].area) + noise*is.chance.NormFloat64()
	}
	slices.SortStableFunc(kinds, func(a, b int) int { return compareFloats(keys[b], keys[a]) })
	r := recipe{rule: rule(is.chance.IntN(int(rules)))}
	for _, k := range kinds {
		s := stage{k, MostPrints}
		if is.chance.Float64() < 0.4 {
			s.most = 1 + is.chance.IntN(is.left[k])
		}
		r.stages = append(r.stages, s)
	}
	r.begin = is.anyBed(r.stages[0].kind)
	return r.closed(is)
}

// anyBed is the beginning of a regular layout of a kind, or nothing.
func (is *island) anyBed(kind int) []spot {
	if is.chance.Float64() < 0.5 {
		return nil
	}
	beds := is.beds[kind]
	bed := beds[is.chance.IntN(len(beds))]
	return bed[:min(len(bed), is.left[kind], 1+is.chance.IntN(len(bed)+8))]
}

// closed adds that whatever still fits is taken, the largest first.
func (r recipe) closed(is *island) recipe {
	r.stages = append(r.stages, is.bySize()...)
	return r
}

// changed is a recipe with one thing about it different.
func (is *island) changed(r recipe) recipe {
	own := len(r.stages) - len(is.t.kinds)
	r.stages = slices.Clone(r.stages)
	switch c := is.chance.IntN(4); {
	case c == 0 && own > 1:
		i, j := is.chance.IntN(own), is.chance.IntN(own)
		r.stages[i], r.stages[j] = r.stages[j], r.stages[i]
	case c == 1:
		r.rule = rule(is.chance.IntN(int(rules)))
	case c == 2:
		r.begin = is.anyBed(r.stages[0].kind)
	default:
		s := &r.stages[is.chance.IntN(own)]
		s.most = 1 + is.chance.IntN(is.left[s.kind])
	}
	return r
}
