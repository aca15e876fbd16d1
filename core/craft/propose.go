package craft

import (
	"fmt"
	"slices"
)

// takes tells whether a kind of work can be done on the blank, or need be: a
// hole is drilled only where there is none, and nothing is strung without one.
func (b Blank) takes(d Do) bool {
	switch d {
	case Drill:
		return b.Surface.Drillable() && !b.Holed
	case String:
		return b.Surface.Drillable() || b.Holed
	}
	return true
}

// sides writes the steps for what is asked. Steps that every printed side has
// to itself are done one side after the other, each whole.
func (m Method) sides(steps []MethodStep, ask Ask) (written []Step) {
	for i := 0; i < len(steps); i++ {
		if !steps[i].eachSideAlone(ask.Blank) || ask.Blank.PrintedSides() == 1 {
			written = append(written, m.write(steps[i], ask))
			continue
		}
		last := i
		for last+1 < len(steps) && steps[last+1].eachSideAlone(ask.Blank) {
			last++
		}
		for side := range ask.Blank.PrintedSides() {
			for _, s := range steps[i : last+1] {
				written = append(written, m.write(s, ask).onSide(side+1, ask))
			}
		}
		i = last
	}
	return written
}

// eachSideAlone tells whether every printed side has the step to itself: not
// where the sides do not touch what they lie on, as on anything round that
// stands, but always in the press.
func (s MethodStep) eachSideAlone(b Blank) bool {
	apart := b.SidesApart || b.Shape.Upright()
	return s.EachSide && (!apart || s.Do == Press)
}

// write is a step of the method for what is asked.
func (m Method) write(s MethodStep, ask Ask) Step {
	if s.Do == Drill && ask.Blank.Surface.Hard() {
		if hard, known := BlockByKey("drill-hard"); known {
			hard.When, s = s.When, hard.MethodStep
		}
	}
	step := s.For(ask)
	if step.Do == PrintOut {
		step.Checklist = append([]string{m.mirrorCheck(ask.Blank.ThroughBlank)}, step.Checklist...)
	}
	return step
}

// onSide is the step for one of several printed sides; the blank is taken once.
func (s Step) onSide(side int, ask Ask) Step {
	s.Name = fmt.Sprintf("%s, side %d", s.Name, side)
	if side == 1 {
		return s
	}
	s.ID = fmt.Sprintf("%s-%d", s.ID, side)
	s.Uses = slices.DeleteFunc(slices.Clone(s.Uses), func(u Use) bool { return u.Material == ask.Material })
	return s
}

// finishFor settles what follows from the steps together, whatever was chosen.
func (r *Recipe) finishFor(ask Ask) {
	*r = r.AsLabelled(ask.Labels)
	r.freeInside()
	r.dropIdleCeilings()
	r.label(ask)
	r.takeBlankFirst(ask.Material)
	r.shareSetup()
}

// freeInside lets a step stand by itself where there is no rest for it to lie in.
func (r *Recipe) freeInside() {
	for i := range r.Steps {
		host := slices.IndexFunc(r.Steps[:i], func(s Step) bool { return s.ID == r.Steps[i].Inside })
		if host < 0 || validInside(r.Steps, i, "") != nil {
			r.Steps[i].Inside = ""
		}
	}
}

// dropIdleCeilings takes the recoat window from a coat that no other follows.
func (r *Recipe) dropIdleCeilings() {
	for i := range r.Steps {
		s := &r.Steps[i]
		coatFollows := slices.ContainsFunc(r.Steps[i+1:], func(n Step) bool { return n.Do == Seal })
		if s.Do == Seal && s.Rest != nil && s.Rest.Ceiling != nil && !coatFollows {
			rest := *s.Rest
			rest.Ceiling = nil
			s.Rest = &rest
		}
	}
}

// label puts the caution label and the care card in that belong to what the piece is for.
func (r *Recipe) label(ask Ask) {
	b := ask.Blank
	has := func(id string) bool {
		return slices.ContainsFunc(r.Steps, func(s Step) bool { return s.ID == id || string(s.Do) == id })
	}
	add := func(id string) {
		if block, known := BlockByKey(id); known && !has(id) {
			at := slices.IndexFunc(r.Steps, func(s Step) bool { return s.Do == Pack })
			if at < 0 {
				at = len(r.Steps) - 1
			}
			r.Steps = slices.Insert(r.Steps, at, block.For(ask))
		}
	}
	if b.HoldsFlame || b.Surface == CandleWax {
		add("label-caution")
	}
	if b.Drinkware || b.FoodContact || b.Surface.Fabric() {
		add("care-card")
	}
}

// takeBlankFirst takes the blank where it enters the work rather than where
// the picture goes on, so that what is spoiled before that has been taken.
func (r *Recipe) takeBlankFirst(material string) {
	onPrint := []Do{PrintOut, SpraySealPrint, Trim, InkBack}
	first := slices.IndexFunc(r.Steps, func(s Step) bool { return !slices.Contains(onPrint, s.Do) && s.Inside == "" })
	if first < 0 {
		return
	}
	for i := range r.Steps {
		for k, u := range r.Steps[i].Uses {
			if u.Material != material || u.Per != PerPiece || i == first {
				continue
			}
			r.Steps[i].Uses = slices.Delete(slices.Clone(r.Steps[i].Uses), k, k+1)
			r.Steps[first].Uses = append([]Use{u}, r.Steps[first].Uses...)
			return
		}
	}
}

// shareSetup lets a step that follows another without a rest between pay only
// what its set-up takes beyond what is out already.
func (r *Recipe) shareSetup() {
	out := 0.0
	for i := range r.Steps {
		s := &r.Steps[i]
		if s.Inside != "" {
			continue
		}
		own := s.SetupMinutes
		s.SetupMinutes = max(0, own-out)
		out = max(out, own)
		if s.Rest != nil && !s.handInHand() {
			out = 0
		}
	}
}

// sealWith lets a coat be of another sealer: with that sealer's film, rest and
// place where the library has a coat of it, else with its own film.
func (s *Step) sealWith(with With, material string, ask Ask) {
	s.With = with
	i := slices.IndexFunc(library.blocks, func(b Block) bool { return b.Do == Seal && b.With == with })
	if i < 0 {
		for k, u := range s.Uses {
			if u.Per == PerCoat {
				s.Uses[k].Material = material
			}
		}
		return
	}
	block := library.blocks[i].MethodStep.For(ask)
	s.Uses, s.Holds, s.Sheen, s.MinutesPerPiece = block.Uses, block.Holds, block.Sheen, block.MinutesPerPiece
	if block.Rest != nil && s.Rest != nil {
		rest := *block.Rest
		if s.Rest.Ceiling == nil {
			rest.Ceiling = nil
		}
		s.Rest = &rest
	}
}
