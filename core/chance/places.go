package chance

import "sort"

// Place is something of which there are so many at once: a rack, spindles, a machine,
// or the times at which work is liked to be done.
type Place struct {
	Capacity int
	// Open are its hours, in order; nil where it has none of its own.
	Open []Stretch
}

// Use is how much is taken of a place, by its number in the studio.
type Use struct{ Place, N int }

// fits is the first moment from another on at which something so long fits the hours:
// what is longer than they ever are begins with them.
func (p Place) fits(at int, length float64) int {
	if p.Open == nil {
		return at
	}
	for i := sort.Search(len(p.Open), func(i int) bool { return p.Open[i].To > at }); i < len(p.Open); i++ {
		o := p.Open[i]
		if at <= o.From {
			return o.From
		}
		if float64(at)+length <= float64(o.To) {
			return at
		}
	}
	return Never
}

// opens is when the places that a step takes have hours for it.
func (p *play) opens(s *Step, at int, length float64) int {
	for from := at; ; {
		for _, u := range s.Uses {
			from = max(from, p.studio.Places[u.Place].fits(from, length))
		}
		if from == at || from == Never {
			return from
		}
		at = from
	}
}

// hasRoom tells whether what a step takes, and what its pieces keep through the rest
// after it, is free. What a lot has already it may go on having.
func (p *play) hasRoom(l *lot, s *Step) bool {
	keeps, held := s.Keeps, l.held
	if s.Inside { // the rest that it lies in goes on
		keeps, held = nil, nil
	}
	for _, u := range keeps {
		more := u.N*l.pieces - amount(held, u.Place)*l.times
		if more > 0 && more > p.free[u.Place] {
			return false
		}
	}
	for _, u := range s.Uses {
		more := u.N + amount(keeps, u.Place)*l.pieces - amount(held, u.Place)*l.times
		if more > 0 && more > p.free[u.Place] {
			return false
		}
	}
	return true
}

// amount is how much uses take of a place.
func amount(uses []Use, place int) (n int) {
	for _, u := range uses {
		if u.Place == place {
			n += u.N
		}
	}
	return n
}

// hold lets a lot have something of places, so many times, rather than what it had.
func (p *play) hold(l *lot, uses []Use, times int) {
	p.use(l.held, -l.times)
	p.use(uses, times)
	l.held, l.times = uses, times
}

func (p *play) use(uses []Use, times int) {
	for _, u := range uses {
		p.free[u.Place] -= u.N * times
	}
}
