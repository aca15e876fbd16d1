package sheet

import (
	"context"
	"math"
	"math/bits"
)

// Sheets that are filled without a rest are found from their edges: of two
// rectangles that lay side by side and were cut through, a whole edge of the one is
// as long as a whole edge of the other, which by chance is rare. So rectangles whose
// edges match are built into blocks, blocks into larger ones, and blocks that reach
// across the sheet into whole sheets. All lengths here carry the gap.

const (
	// mostLeaves is how many rectangles are tried for this at most.
	mostLeaves = 512
	// mostBlocks ends the building where edges match too often to mean anything.
	mostBlocks = 120000
	// mostStrips is how many strips are sought for them.
	mostStrips = 20000
	// mostSheets is how many sheets without a rest are compared.
	mostSheets = 4000
	// mostJoined is how many strips across a sheet make one at the most.
	mostJoined = 6
)

type leafSet [mostLeaves / 64]uint64

func (s *leafSet) meets(o *leafSet) bool {
	for i := range s {
		if s[i]&o[i] != 0 {
			return true
		}
	}
	return false
}

func (s *leafSet) with(o *leafSet) (both leafSet) {
	for i := range s {
		both[i] = s[i] | o[i]
	}
	return both
}

func (s *leafSet) each(do func(leaf int)) {
	for i, word := range s {
		for ; word != 0; word &= word - 1 {
			do(i*64 + bits.TrailingZeros64(word))
		}
	}
}

// block is a rectangle, or two blocks along an edge that they share.
type block struct {
	leaves leafSet
	mark   uint64
	w, h   float64
	// turns tells that it may be turned as a whole.
	turns bool
	kind  int
	// parts are nil for a single rectangle; partTurned says which lies turned within.
	parts      [2]*block
	partTurned [2]bool
	beside     bool
}

// matcher builds blocks.
type matcher struct {
	t             *table
	width, height float64
	leaves        []*block
	blocks        []*block
	// edges lists the blocks by the length of an edge.
	edges map[int64][]*block
	seen  map[[2]uint64]bool
	// across and down are the strips that reach over the sheet's height and width.
	across, down []*block
	sheets       []*block
}

// length is an edge's length as what matches: to a hundred-thousandth of a millimetre.
func length(v float64) int64 { return int64(math.Round(v * 1e5)) }

// matched finds sheets without a rest, as many as go together; nil where there are
// circles or too many prints.
func (t *table) matched(ctx context.Context) layout {
	m := &matcher{t: t, width: t.width + t.gap, height: t.height + t.gap, edges: map[int64][]*block{}, seen: map[[2]uint64]bool{}}
	if !m.plant() {
		return nil
	}
	if !m.build(ctx) {
		m.complete(ctx)
	}
	m.join(ctx, m.across, m.width, true)
	m.join(ctx, m.down, m.height, false)
	var l layout
	for _, b := range m.cover(ctx) {
		l = append(l, t.newPattern(m.spots(b)))
	}
	return l
}

// plant makes a block of every print, and tells whether that is worth it: where many
// are alike, their edges match without meaning anything.
func (m *matcher) plant() bool {
	prints := 0
	for _, k := range m.t.kinds {
		prints += k.count
	}
	if 4*len(m.t.kinds) < 3*prints {
		return false
	}
	for i, k := range m.t.kinds {
		if k.circle || len(m.leaves)+k.count > mostLeaves {
			return false
		}
		for range k.count {
			n := len(m.leaves)
			b := &block{w: k.w + m.t.gap, h: k.h + m.t.gap, turns: k.turns || k.w == k.h, kind: i, mark: scatter(uint64(n + 1))}
			b.leaves[n/64] = 1 << (n % 64)
			m.leaves = append(m.leaves, b)
			m.add(b)
		}
	}
	return true
}

// scatter makes of a number one whose bits look random (SplitMix64).
func scatter(v uint64) uint64 {
	v *= 0x9e3779b97f4a7c15
	v = (v ^ v>>30) * 0xbf58476d1ce4e5b9
	v = (v ^ v>>27) * 0x94d049bb133111eb
	return v ^ v>>31
}

// add keeps a block for building, or as a strip or sheet where it is one.
func (m *matcher) add(b *block) {
	upright := b.w <= m.width+slack && b.h <= m.height+slack
	turned := b.turns && b.h <= m.width+slack && b.w <= m.height+slack
	if !upright && !turned {
		return
	}
	key := [2]uint64{b.mark, uint64(length(b.w))}
	if m.seen[key] {
		return
	}
	m.seen[key] = true
	w, h, width, height := length(b.w), length(b.h), length(m.width), length(m.height)
	strip := false
	if h == height || b.turns && w == height {
		m.across, strip = append(m.across, b), true
	}
	if w == width || b.turns && h == width {
		m.down, strip = append(m.down, b), true
	}
	if !strip {
		m.blocks = append(m.blocks, b)
	}
}

// build joins every block with those before it whose edges match, and tells whether
// it came to an end.
func (m *matcher) build(ctx context.Context) bool {
	for i := 0; i < len(m.blocks); i++ {
		if len(m.blocks) > mostBlocks || ctx.Err() != nil {
			return false
		}
		b := m.blocks[i]
		m.along(b, b.w)
		if length(b.w) != length(b.h) {
			m.along(b, b.h)
		}
		m.edges[length(b.w)] = append(m.edges[length(b.w)], b)
		if length(b.w) != length(b.h) {
			m.edges[length(b.h)] = append(m.edges[length(b.h)], b)
		}
	}
	return true
}

// complete joins only what makes a strip at once: two blocks with an edge in common
// that together reach over the sheet.
func (m *matcher) complete(ctx context.Context) {
	type size struct{ w, h int64 }
	by := map[size][]*block{}
	join := func(b, a *block, turnB, turnA, beside bool) {
		if !a.leaves.meets(&b.leaves) {
			m.add(joined(a, b, turnA, turnB, beside))
		}
	}
	for _, b := range m.blocks[:min(len(m.blocks), mostBlocks)] {
		if len(m.across)+len(m.down) > mostStrips || ctx.Err() != nil {
			return
		}
		for _, turn := range [2]bool{false, true} {
			if turn && !b.turns {
				continue
			}
			w, h := b.size(turn)
			for _, turnA := range [2]bool{false, true} {
				below, right := size{length(w), length(m.height - h)}, size{length(m.width - w), length(h)}
				if turnA {
					below, right = size{below.h, below.w}, size{right.h, right.w}
				}
				for _, a := range by[below] {
					if a.turns || !turnA {
						join(b, a, turn, turnA, false)
					}
				}
				for _, a := range by[right] {
					if a.turns || !turnA {
						join(b, a, turn, turnA, true)
					}
				}
			}
		}
		key := size{length(b.w), length(b.h)}
		by[key] = append(by[key], b)
	}
}

// along joins a block with all that share an edge of this length.
func (m *matcher) along(b *block, edge float64) {
	for _, a := range m.edges[length(edge)] {
		if a.leaves.meets(&b.leaves) {
			continue
		}
		// A block that may not be turned says how the two lie; of two such, both do.
		for _, stacked := range [2]bool{true, false} {
			if !stacked && a.turns && b.turns {
				continue
			}
			turnA, isA := a.lies(edge, stacked)
			turnB, isB := b.lies(edge, stacked)
			if isA && isB {
				m.add(joined(a, b, turnA, turnB, !stacked))
			}
		}
	}
}

// lies tells whether a block can lie with an edge of this length level (or upright),
// and whether it is turned for that.
func (b *block) lies(edge float64, level bool) (turned, can bool) {
	w, h := length(b.w), length(b.h)
	if !level {
		w, h = h, w
	}
	if w == length(edge) {
		return false, true
	}
	return true, b.turns && h == length(edge)
}

func (b *block) size(turned bool) (w, h float64) {
	if turned {
		return b.h, b.w
	}
	return b.w, b.h
}

// joined is two blocks beside or below each other.
func joined(a, b *block, turnA, turnB, beside bool) *block {
	aw, ah := a.size(turnA)
	bw, bh := b.size(turnB)
	j := &block{leaves: a.leaves.with(&b.leaves), mark: a.mark ^ b.mark, turns: a.turns && b.turns,
		parts: [2]*block{a, b}, partTurned: [2]bool{turnA, turnB}, beside: beside}
	if beside {
		j.w, j.h = aw+bw, max(ah, bh)
	} else {
		j.w, j.h = max(aw, bw), ah+bh
	}
	return j
}

// join finds the strips that together make a sheet: side is what they fill, beside
// says that they stand side by side.
func (m *matcher) join(ctx context.Context, strips []*block, side float64, beside bool) {
	j := joiner{m: m, strips: strips, beside: beside, by: map[int64][]int{}, tries: 4000000}
	for i, s := range strips {
		j.by[length(j.thick(s))] = append(j.by[length(j.thick(s))], i)
	}
	for many := 1; many <= mostJoined; many++ {
		j.grow(ctx, nil, -1, side, many)
	}
}

type joiner struct {
	m      *matcher
	strips []*block
	beside bool
	// by finds strips by how much of the side they take.
	by    map[int64][]int
	tries int
}

// turned tells whether a strip has to be turned to reach over the sheet.
func (j *joiner) turned(s *block) bool {
	if j.beside {
		return length(s.h) != length(j.m.height)
	}
	return length(s.w) != length(j.m.width)
}

func (j *joiner) thick(s *block) float64 {
	w, h := s.size(j.turned(s))
	if j.beside {
		return w
	}
	return h
}

// grow adds so many strips to what is joined, the last of which ends it.
func (j *joiner) grow(ctx context.Context, have *block, last int, rest float64, many int) {
	if len(j.m.sheets) >= mostSheets || ctx.Err() != nil {
		return
	}
	if many == 1 {
		for _, i := range j.by[length(rest)] {
			if i <= last {
				continue
			}
			if b := j.add(have, j.strips[i]); b != nil {
				j.m.sheets = append(j.m.sheets, b)
			}
		}
		return
	}
	for i := last + 1; i < len(j.strips); i++ {
		if j.tries--; j.tries < 0 {
			return
		}
		s := j.strips[i]
		left := rest - j.thick(s)
		if left < slack {
			continue
		}
		if b := j.add(have, s); b != nil {
			j.grow(ctx, b, i, left, many-1)
		}
	}
}

func (j *joiner) add(have, s *block) *block {
	if have == nil {
		if !j.turned(s) {
			return s
		}
		// A strip alone that lies turned, as a block that does not.
		t := *s
		t.w, t.h = s.h, s.w
		t.parts, t.partTurned = [2]*block{s, nil}, [2]bool{true, false}
		return &t
	}
	if have.leaves.meets(&s.leaves) {
		return nil
	}
	return joined(have, s, false, j.turned(s), j.beside)
}

// spots are where the prints of a block lie on the sheet.
func (m *matcher) spots(b *block) (spots []spot) {
	m.lay(b, 0, 0, false, &spots)
	return spots
}

func (m *matcher) lay(b *block, x, y float64, turned bool, into *[]spot) {
	if b.parts[0] == nil {
		*into = append(*into, spot{m.t.formOf(b.kind, turned), x, y})
		return
	}
	first, second := b.parts[0], b.parts[1]
	m.lay(first, x, y, b.partTurned[0] != turned, into)
	if second == nil {
		return
	}
	w, h := first.size(b.partTurned[0] != turned)
	if b.beside != turned {
		x += w
	} else {
		y += h
	}
	m.lay(second, x, y, b.partTurned[1] != turned, into)
}

// formOf is the form of a kind that lies turned or not; a square has only one.
func (t *table) formOf(kind int, turned bool) int {
	for _, f := range t.kinds[kind].forms {
		if t.forms[f].turned == turned {
			return f
		}
	}
	return t.kinds[kind].forms[0]
}
