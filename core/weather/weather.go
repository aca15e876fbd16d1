// Package weather says what the room's air does to rests. It only advises:
// no rest is ever shortened below its floor. Temperatures are in °C, relative
// humidity from 0 to 1, rests in minutes. Formulas: docs/calculations.md §5.
package weather

import (
	"math"

	"tidykiln/core/craft"
)

// Air is the state of the room.
type Air struct {
	Celsius  float64 `json:"celsius"`
	Humidity float64 `json:"humidity" doc:"relative, from 0 to 1"`
}

// Reference is the air that rests are given for.
var Reference = Air{21, 0.5}

// VPD is the vapour pressure deficit in kPa: how readily the air takes up water
// (Magnus formula over water, as Tetens gave it).
func (a Air) VPD() float64 {
	return 0.6108 * math.Exp(17.27*a.Celsius/(a.Celsius+237.3)) * (1 - a.Humidity)
}

// Slows is the factor, from 1 to 4, by which a kind of rest takes longer than
// in the reference air. Soaking and cooling do not mind the air.
func (a Air) Slows(kind craft.RestKind) float64 {
	switch kind {
	case craft.Dry:
		vpd := a.VPD()
		if vpd <= 0 {
			return 4
		}
		return clamp(Reference.VPD() / vpd)
	case craft.Cure:
		return clamp(math.Pow(2, (Reference.Celsius-a.Celsius)/10))
	}
	return 1
}

// SlowsAfter is the factor for the rest after a step. A water-based film under
// a print both dries and cures: it takes the larger of the two.
func (a Air) SlowsAfter(s craft.Step) float64 {
	if s.LaysWater() {
		return max(a.Slows(craft.Dry), a.Slows(craft.Cure))
	}
	return a.Slows(s.Rest.Kind)
}

// Stretch is the rest after a step, which must have one, as this air would have
// it: floor and usual lengthened alike, never beyond the ceiling, which the air
// does not move.
func (a Air) Stretch(s craft.Step) craft.Rest {
	factor := a.SlowsAfter(s)
	return longer(*s.Rest, func(minutes int) float64 { return float64(minutes) * factor })
}

// Through is the rest after a step, which must have one, as a day's air would
// have it, hour by hour and round again, from whichever hour is the worst to
// begin: a short one falls wholly into the coldest of them, one of days has the
// mean. Without hours it is as it was.
func Through(day []Air, s craft.Step) craft.Rest {
	done := make([]float64, len(day)) // the minutes of the rest that each hour does
	total := 0.0
	for i, a := range day {
		done[i] = 60 / a.SlowsAfter(s)
		total += done[i]
	}
	return longer(*s.Rest, func(minutes int) (worst float64) {
		if len(day) == 0 {
			return float64(minutes)
		}
		rounds := math.Floor(float64(minutes) / total)
		for begins := range done {
			worst = max(worst, from(done, begins, float64(minutes)-rounds*total))
		}
		return rounds*60*float64(len(day)) + worst
	})
}

// from is how many minutes it takes from an hour on until so many are done.
func from(done []float64, hour int, left float64) (minutes float64) {
	for left > done[hour] {
		left -= done[hour]
		minutes += 60
		hour = (hour + 1) % len(done)
	}
	return minutes + 60*left/done[hour]
}

// longer lengthens floor and usual of a rest, never beyond its ceiling.
func longer(r craft.Rest, taking func(minutes int) float64) craft.Rest {
	long := func(minutes int) int {
		slowed := int(math.Ceil(taking(minutes) - 1e-9))
		if r.Ceiling != nil {
			slowed = min(slowed, *r.Ceiling)
		}
		return max(minutes, slowed)
	}
	r.Floor, r.Usual = long(r.Floor), long(r.Usual)
	return r
}

func clamp(factor float64) float64 { return min(4, max(1, factor)) }
