package lettering

import (
	"slices"
	"strings"
	"unicode"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/font"
	ot "github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/shaping"
	"golang.org/x/image/math/fixed"
	"golang.org/x/text/unicode/bidi"
	"golang.org/x/text/unicode/norm"
)

// set is words shaped in units of their capitals' height: a glyph after the other as
// they are seen, each with where it begins.
type set struct {
	glyphs []glyph
	width  float64
}

// glyph is a cluster of letters that stands and turns as one. Its outline starts at 0
// and has y down from the baseline.
type glyph struct {
	outline Outline
	at      float64
	advance float64
}

// fontSize is the size that words are shaped in: one em in units of a 64th.
const fontSize = 1000

// shaped shapes words: ligatures, marks over and under, right-to-left runs in their
// order (Unicode Bidirectional Algorithm, UAX #9).
func shaped(text string, c chain) set {
	runes := []rune(clean(text))
	if len(runes) == 0 {
		return set{}
	}
	var seg shaping.Segmenter
	base := direction(runes)
	inputs := seg.Split(shaping.Input{Text: runes, RunEnd: len(runes), Direction: base, Face: c[0], Size: fixed.I(fontSize)}, c)
	var shaper shaping.HarfbuzzShaper
	runs := make([]shaping.Output, len(inputs))
	for i, in := range inputs {
		runs[i] = shaper.Shape(in)
	}
	var wrapper shaping.LineWrapper
	lines, _ := wrapper.WrapParagraphF(shaping.WrapConfig{Direction: base}, fixed.Int26_6(1<<31-1), runes, shaping.NewSliceIterator(runs))
	var s set
	capital := capitals(c[0])
	for _, line := range lines {
		visual := slices.Clone(line)
		slices.SortStableFunc(visual, func(a, b shaping.Output) int { return int(a.VisualIndex) - int(b.VisualIndex) })
		for _, run := range visual {
			s.add(run, capital)
		}
	}
	return s
}

// lines are the lines of a text, shaped; those of which nothing is left fall away.
func (c chain) lines(text string) (lines []set) {
	for l := range strings.Lines(text) {
		if words := shaped(strings.TrimSpace(l), c); len(words.glyphs) > 0 {
			lines = append(lines, words)
		}
	}
	return lines
}

// capitals is how high a face's capitals are, at the size that words are shaped in.
func capitals(f *font.Face) float64 {
	return float64(f.LineMetric(font.CapHeight)) / float64(f.Upem()) * fontSize
}

// add puts a run's clusters after what stands there.
func (s *set) add(run shaping.Output, capital float64) {
	scale := fontSize / float64(run.Face.Upem()) / capital
	for i, g := range run.Glyphs {
		if i == 0 || g.TextIndex() != run.Glyphs[i-1].TextIndex() {
			s.glyphs = append(s.glyphs, glyph{at: s.width})
		}
		cluster := &s.glyphs[len(s.glyphs)-1]
		dx, dy := cluster.advance+float64(g.XOffset)/64/capital, -float64(g.YOffset)/64/capital
		if o, has := run.Face.GlyphDataOutline(g.GlyphID); has {
			cluster.outline = append(cluster.outline, drawn(o, scale, dx, dy)...)
		}
		cluster.advance += float64(g.Advance) / 64 / capital
		s.width += float64(g.Advance) / 64 / capital
	}
}

var ops = map[ot.SegmentOp]Op{ot.SegmentOpMoveTo: Move, ot.SegmentOpLineTo: Line, ot.SegmentOpQuadTo: Quad, ot.SegmentOpCubeTo: Cubic}

func drawn(glyph font.GlyphOutline, scale, dx, dy float64) Outline {
	var o Outline
	for _, s := range glyph.Segments {
		to := Segment{Op: ops[s.Op]}
		for k, p := range s.ArgsSlice() {
			to.Points[k] = [2]float64{float64(p.X)*scale + dx, -float64(p.Y)*scale + dy}
		}
		o = append(o, to)
	}
	return o
}

// clean is a text as it is set: composed, on one line, without what cannot be seen.
func clean(text string) string {
	var b []rune
	for _, r := range norm.NFC.String(text) {
		switch {
		case unicode.IsSpace(r):
			b = append(b, ' ')
		case unicode.IsControl(r):
		default:
			b = append(b, r)
		}
	}
	return string(b)
}

// direction is which way a text runs as a whole: that of its first letter.
func direction(runes []rune) di.Direction {
	for _, r := range runes {
		p, _ := bidi.LookupRune(r)
		switch p.Class() {
		case bidi.L:
			return di.DirectionLTR
		case bidi.R, bidi.AL:
			return di.DirectionRTL
		}
	}
	return di.DirectionLTR
}

// Missing are the letters of a text that no shipped face has, each once.
func (f Face) Missing(text string) []string { return f.chain().missing(text) }

func (c chain) missing(text string) []string {
	missing := []string{}
	for _, r := range clean(text) {
		if r == ' ' || c.has(r) || unicode.Is(unicode.Cf, r) || unicode.Is(unicode.Variation_Selector, r) || slices.Contains(missing, string(r)) {
			continue
		}
		missing = append(missing, string(r))
	}
	return missing
}
