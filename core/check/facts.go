package check

import (
	"fmt"
	"slices"

	"tidykiln/core/craft"
)

// facts are a problem with its method, as the rules ask for them.
type facts struct {
	Problem
	method craft.Method
	steps  []Step
	// recipe says that the steps are known.
	recipe bool
}

func newFacts(p Problem) facts {
	f := facts{Problem: p}
	f.method, _ = craft.MethodByKey(p.Method)
	if p.Steps != nil {
		f.steps, f.recipe = *p.Steps, true
	}
	return f
}

// hit is one firing of a rule. args fill the places in the rule's reason.
type hit struct {
	level Level
	step  *int
	args  []any
	// fix is what to do instead of what the rule says, where that does not hold here.
	fix string
}

func (h hit) say(why string) string {
	if len(h.args) == 0 {
		return why
	}
	return fmt.Sprintf(why, h.args...)
}

// whole fires for the product as a whole; at for one step.
func whole(l Level, args ...any) []hit      { return []hit{{level: l, args: args}} }
func at(l Level, i int, args ...any) []hit  { return []hit{{level: l, step: &i, args: args}} }
func when(fires bool, l Level) []hit        { return whenAll(fires, whole(l)) }
func is[T comparable](fact *T, is T) bool   { return fact != nil && *fact == is }
func oneOf[T comparable](f *T, l ...T) bool { return f != nil && slices.Contains(l, *f) }

func whenAll(fires bool, hits []hit) []hit {
	if fires {
		return hits
	}
	return nil
}

// perStep fires for every step that offends.
func (f facts) perStep(l Level, offends func(i int, s Step) bool) (hits []hit) {
	for i, s := range f.steps {
		if offends(i, s) {
			hits = append(hits, at(l, i)...)
		}
	}
	return hits
}

func (f facts) mustMirror() bool { return f.method.MustMirror(is(f.View.ThroughBlank, true)) }

// graver is a stop with lettering, else a tip.
func (f facts) graver() Level {
	if is(f.Artwork.Lettering, true) {
		return Stop
	}
	return Tip
}

// of are the facts of the method; nothing is true of one that is not known.
func (f facts) of() craft.Facts {
	if f.method.Facts == nil {
		return craft.Facts{}
	}
	return *f.method.Facts
}

// clear tells whether what is under the picture shows through it.
func (f facts) clear() bool {
	carrier := craft.Carrier("")
	if f.Print.Carrier != nil {
		carrier = *f.Print.Carrier
	}
	return f.of().ShowsThrough(carrier)
}

// first and last find a step of any of the kinds of work in steps[from:to]; -1 when there is none.
func (f facts) first(from, to int, dos ...craft.Do) int {
	for i := max(0, from); i < to; i++ {
		if slices.Contains(dos, f.steps[i].Do) {
			return i
		}
	}
	return -1
}

func (f facts) last(from, to int, dos ...craft.Do) int {
	for i := to - 1; i >= max(0, from); i-- {
		if slices.Contains(dos, f.steps[i].Do) {
			return i
		}
	}
	return -1
}

// has tells whether the recipe has any of the kinds of work.
func (f facts) has(dos ...craft.Do) bool { return f.first(0, len(f.steps), dos...) >= 0 }

// rest is the minutes of rest from step i up to, not including, step k.
func (f facts) rest(i, k int) float64 {
	total := 0.0
	for _, s := range f.steps[i:k] {
		total += s.RestMinutes
	}
	return total
}

// tone is how light it is under the picture: as the last base coat before it
// leaves it, or else as the blank is.
func (f facts) tone() *craft.Tone {
	on := f.first(0, len(f.steps), puttings...)
	if on < 0 {
		on = len(f.steps)
	}
	for i := on - 1; i >= 0; i-- {
		if s := f.steps[i]; s.Do == craft.PaintBase && s.Tone != "" {
			return &s.Tone
		}
	}
	return f.Blank.Tone
}

// paintable tells whether a base coat can lighten what is under the picture.
func (f facts) paintable() bool {
	return oneOf(f.Blank.Surface, craft.WoodBare, craft.WoodPainted, craft.BoardPainted, craft.Stone, craft.StonePainted, craft.Canvas, craft.CeramicUnglazed, craft.Metal)
}

// layWith is the medium of the last lay before step i.
func (f facts) layWith(i int) craft.With {
	if lay := f.last(0, i, craft.Lay); lay >= 0 {
		return f.steps[lay].With
	}
	return ""
}

// kinds are the kinds of work of which something is true.
func kinds(is func(craft.Do) bool) (all []craft.Do) {
	for _, d := range craft.Dos() {
		if is(d) {
			all = append(all, d)
		}
	}
	return all
}

var (
	waxes    = kinds(craft.Do.Wax)
	heats    = kinds(craft.Do.Hot)
	puttings = kinds(craft.Do.Carries)
	wetWork  = kinds(craft.Do.FormsFilm)
)

func (s Step) flammable() bool { return s.Do.Sprays(s.With) }
