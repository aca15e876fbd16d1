package craft

import "strings"

// Kin names the kind of work of a step of the recipe for which things are got
// out and put away: lots whose steps are of one kin can be done in one
// sitting, with one set-up.
func (r Recipe) Kin(i int) string {
	s := r.Steps[i]
	if len(s.Parts) == 0 {
		return r.kinOf(i, s.Do, s.With, s.Tone)
	}
	kins := make([]string, len(s.Parts))
	for k, p := range s.Parts {
		kins[k] = r.kinOf(i, p.Do, p.With, s.Tone)
	}
	return strings.Join(kins, ", ")
}

// kinOf is the kind of work and what is got out for it: sealing with what the
// picture was laid in is sealing with that, and a base coat is of its tone.
func (r Recipe) kinOf(i int, do Do, with With, tone Tone) string {
	if with == Same {
		with = r.laidWith(i)
	}
	return strings.TrimRight(strings.Join([]string{string(do), string(with), string(tone)}, " "), " ")
}

// laidWith is the medium of the last lay before step i; empty without one.
func (r Recipe) laidWith(i int) With {
	for i--; i >= 0; i-- {
		s := r.Steps[i]
		if s.Do.Carries() && s.With != "" {
			return s.With
		}
		for _, p := range s.Parts {
			if p.Do.Carries() && p.With != "" {
				return p.With
			}
		}
	}
	return ""
}

// WholeSetup is the part of Minutes, in whole minutes, that a sitting pays
// once, however many lots are done in it.
func (s Step) WholeSetup(pieces int) int {
	return min(int(s.SetupMinutes+minuteDust), s.Minutes(pieces)-1)
}

// MinutesTogether is the hands-on time of like steps done in one sitting, in
// whole minutes: the longest set-up once, and every lot's pieces. pieces[i]
// go through steps[i].
func MinutesTogether(steps []Step, pieces []int) int {
	setup, all := 0, 0
	for i, s := range steps {
		mine := s.WholeSetup(pieces[i])
		setup = max(setup, mine)
		all += s.Minutes(pieces[i]) - mine
	}
	return setup + all
}

// NeedTogether is what one of so many lots needs of a sitting's time, in
// minutes: its own pieces', and its share of the set-up. Over 0.
func (s Step) NeedTogether(pieces, lots int) float64 {
	return max(minuteDust, s.SetupMinutes/float64(lots)+s.MinutesPerPiece*float64(pieces))
}
