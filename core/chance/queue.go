package chance

import "slices"

// A key orders lots by a minute and then as they came, in one number.
const keyShift = 24

func key(minute, lot int) int { return max(0, minute)<<keyShift | lot }

func lotOf(key int) int { return key & (1<<keyShift - 1) }

// wait lets a lot wait until it is ready.
func (p *play) wait(i int) {
	k := -key(p.lots[i].ready, i)
	at, _ := slices.BinarySearch(p.waiting, k)
	p.waiting = slices.Insert(p.waiting, at, k)
}

// becomeReady moves what is ready by a moment on to what can be taken up.
func (p *play) becomeReady(by int) {
	for n := len(p.waiting); n > 0 && -p.waiting[n-1]>>keyShift <= by; n-- {
		i := lotOf(-p.waiting[n-1])
		p.waiting = p.waiting[:n-1]
		l := &p.lots[i]
		s := &l.steps[l.next]
		l.minutes = s.Setup + s.Each*float64(l.pieces)
		k := key(s.Planned, i)
		at, _ := slices.BinarySearch(p.ready, k)
		p.ready = slices.Insert(p.ready, at, k)
	}
}

// choose is the place among what is ready of the lot that a hand takes up at a
// moment; -1 when it can take up none, and then when it may. What takes longer
// than is left of the hours waits, unless they have just begun.
func (p *play) choose(h, at int) (best, soonest int) {
	p.becomeReady(at)
	hand := &p.studio.Hands[h]
	open := hand.Open[p.hands[h].stretch]
	left, begins := float64(open.To-at), at == open.From
	crowded := -1
	soonest = Never
	for k, key := range p.ready {
		l := &p.lots[lotOf(key)]
		length := hand.takes(l.minutes)
		if !begins && length > left {
			continue
		}
		s := &l.steps[l.next]
		if slices.Contains(s.Not, h) {
			continue
		}
		if len(s.Uses) > 0 {
			if opens := p.opens(s, at, length); opens > at {
				soonest = min(soonest, opens)
				continue
			}
		}
		if p.hasRoom(l, s) {
			return k, at
		}
		crowded = k
	}
	if n := len(p.waiting); n > 0 {
		soonest = min(soonest, -p.waiting[n-1]>>keyShift)
	}
	for _, e := range p.ending {
		soonest = min(soonest, e.at)
	}
	if soonest == Never {
		return crowded, soonest // nothing will make room: it is laid on top
	}
	return -1, soonest
}
