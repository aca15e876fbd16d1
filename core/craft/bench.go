package craft

import (
	"slices"
	"strings"
)

// HandInHandCeiling is the longest ceiling, in minutes, that cannot be kept by
// planning: steps on either side of it are done piece by piece, in one go.
const HandInHandCeiling = 30

// handInHand tells whether the step after s follows at once, piece by piece.
func (s Step) handInHand() bool {
	return s.Rest != nil && s.Rest.Ceiling != nil && *s.Rest.Ceiling <= HandInHandCeiling
}

// ForBench is the recipe as it is worked: steps that go hand in hand are one,
// and every step carries the cautions that belong to it on this blank.
func (r Recipe) ForBench(b Blank) Recipe {
	bench := r
	bench.Steps = nil
	for i := 0; i < len(r.Steps); i++ {
		step := r.Steps[i]
		if !b.Surface.Sandable() {
			// What cannot be sanded back cannot be reworked.
			step.Outcomes = slices.DeleteFunc(slices.Clone(step.OutcomeChoices()), func(o Outcome) bool { return o == Rework })
		}
		step.Cautions = append(slices.Clone(step.Cautions), CautionsFor(step, b)...)
		for step.handInHand() && i+1 < len(r.Steps) {
			i++
			next := r.Steps[i]
			next.Cautions = append(slices.Clone(next.Cautions), CautionsFor(next, b)...)
			step = step.joined(next)
		}
		bench.Steps = append(bench.Steps, step)
	}
	for i, s := range bench.Steps {
		if k := slices.IndexFunc(bench.Steps, func(host Step) bool { return host.hasPart(s.Inside) }); s.Inside != "" && k >= 0 {
			bench.Steps[i].Inside = bench.Steps[k].ID
		}
	}
	return bench
}

func (s Step) hasPart(id string) bool {
	return slices.ContainsFunc(s.Parts, func(p Part) bool { return p.ID == id })
}

// joined is s and next done piece by piece. The rest between is waited once,
// for the first piece; the others wait while hands are on their neighbours.
func (s Step) joined(next Step) Step {
	if len(s.Parts) == 0 {
		s.Parts = []Part{s.part()}
	}
	s.Parts = append(slices.Clone(s.Parts), next.part())
	if name, _, sided := strings.Cut(s.Name, ", side "); sided && s.Do == next.Do {
		s.Name = name + ", each side"
	} else if s.Do != next.Do || !strings.HasSuffix(s.Name, ", each side") {
		s.Name = s.Name + ", then " + strings.ToLower(next.Name[:1]) + next.Name[1:]
	}
	s.SetupMinutes += next.SetupMinutes + float64(s.Rest.Floor)
	s.MinutesPerPiece += next.MinutesPerPiece
	s.Yield *= next.Yield
	for _, o := range next.OutcomeChoices() {
		if !slices.Contains(s.OutcomeChoices(), o) {
			s.Outcomes = append(slices.Clone(s.OutcomeChoices()), o)
		}
	}
	s.Uses = slices.Concat(s.Uses, next.Uses)
	s.Outside = s.Outside.and(next.Outside)
	s.Checklist = slices.Concat(s.Checklist, next.Checklist)
	for _, c := range next.Cautions {
		if !slices.Contains(s.Cautions, c) {
			s.Cautions = append(s.Cautions, c)
		}
	}
	for _, h := range next.Holds {
		if !slices.Contains(s.Holds, h) {
			s.Holds = append(slices.Clone(s.Holds), h)
		}
	}
	s.Rest = next.Rest
	return s
}

// and is the work bought in for two steps; nil when neither has any.
func (o *Outside) and(other *Outside) *Outside {
	switch {
	case o == nil:
		return other
	case other == nil:
		return o
	}
	return &Outside{o.PerPiece.Add(other.PerPiece), o.PerBatch.Add(other.PerBatch)}
}

func (s Step) part() Part { return Part{s.ID, s.Do, s.With, s.Name} }

// Following is the index of the next step that counts for the order, after i:
// steps inside a rest do not. It is len(Steps) after the last.
func (r Recipe) Following(i int) int {
	for i++; i < len(r.Steps) && r.Steps[i].Inside != ""; i++ {
	}
	return i
}

// InsideOf lists the indexes of the steps done within the rest after step i.
func (r Recipe) InsideOf(i int) []int {
	var inside []int
	for k := i + 1; k < len(r.Steps); k++ {
		if r.Steps[k].Inside == r.Steps[i].ID {
			inside = append(inside, k)
		}
	}
	return inside
}

// AgainFrom is where pieces that go again from step i take up the work: the
// step itself, and from a look the round of removal before it.
func (r Recipe) AgainFrom(i int) int {
	if !r.Steps[i].Does(Inspect) {
		return i
	}
	for k := i; k >= 0; k-- {
		if r.Steps[k].Does(RemovePaper) {
			return k
		}
	}
	return i
}

// ReworkFrom is where pieces sanded back at step i take up the work again,
// their blank saved and their print lost; -1 when the recipe has no such place.
func (r Recipe) ReworkFrom(i int) int {
	for _, d := range []Do{Sand, Clean, Degrease, PaintBase, PrintOut} {
		if k := slices.IndexFunc(r.Steps[:i], func(s Step) bool { return s.Does(d) }); k >= 0 {
			return k
		}
	}
	return -1
}

// LastRemoval is the index of the last step that takes paper off, or of the
// step that puts the picture on where none does; a pilot piece goes through it
// before the others are laid.
func (r Recipe) LastRemoval() int {
	for k := len(r.Steps) - 1; k >= 0; k-- {
		if r.Steps[k].Does(RemovePaper) {
			return k
		}
	}
	return slices.IndexFunc(r.Steps, func(s Step) bool { return s.Do.Carries() })
}

// OutcomesAt are what can become of a piece in step i beside good: rework only
// where the recipe has a place to take it up again.
func (r Recipe) OutcomesAt(i int) []Outcome {
	choices := r.Steps[i].OutcomeChoices()
	if r.ReworkFrom(i) < 0 {
		return slices.DeleteFunc(slices.Clone(choices), func(o Outcome) bool { return o == Rework })
	}
	return choices
}

// ApartMinutes is how long spraying and solvents keep from heat.
const ApartMinutes = 60

// Kinds are the kinds of work of the step and of the steps it stands for.
func (s Step) Kinds() []Do {
	kinds := []Do{s.Do}
	for _, p := range s.Parts {
		if !slices.Contains(kinds, p.Do) {
			kinds = append(kinds, p.Do)
		}
	}
	return kinds
}

// Flammable tells whether the step gives off fumes that can catch fire.
func (s Step) Flammable() bool {
	fumes := func(d Do, w With) bool { return d.Sprays(w) || d.facts().Solvent }
	return fumes(s.Do, s.With) || slices.ContainsFunc(s.Parts, func(p Part) bool { return fumes(p.Do, p.With) })
}

// LaysWater tells whether the step, or a part of it, lays a print in a
// water-based film, from which water has to leave as well as the film to harden.
func (s Step) LaysWater() bool {
	lays := func(d Do, w With) bool { return d == Lay && w.Water() }
	return lays(s.Do, s.With) || slices.ContainsFunc(s.Parts, func(p Part) bool { return lays(p.Do, p.With) })
}

// Hot tells whether the step brings a flame's worth of heat.
func (s Step) Hot() bool { return slices.ContainsFunc(s.Kinds(), Do.Hot) }

// FormsFilm tells whether the step lays a film that does not form in the cold.
func (s Step) FormsFilm() bool { return slices.ContainsFunc(s.Kinds(), Do.FormsFilm) }

// Places are the places and machines that the step has to itself while it runs.
func (s Step) Places() []Holding {
	places := slices.Clone(s.Holds)
	hold := func(h Holding) {
		if h != "" && !slices.Contains(places, h) {
			places = append(places, h)
		}
	}
	if s.Flammable() {
		hold(SprayPlace)
	}
	for _, d := range s.Kinds() {
		hold(d.facts().Place)
	}
	return places
}
