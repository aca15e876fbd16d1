package lettering_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/lettering"
	"tidykiln/core/shape"
)

var disc = shape.Shape{Kind: shape.Disc, Diameter: 90}.Outline()

func TestWordsStandInTheMiddleAtTheHeightAskedFor(t *testing.T) {
	s := lettering.Usual()
	for _, where := range []lettering.Where{lettering.Below, lettering.Above} {
		s.Where = where
		set := s.Set("HALE", disc)
		require.True(t, set.Fits)
		assert.False(t, set.Shrunk)
		least, most := set.Outline.Box()
		assert.InDelta(t, 6, most[1]-least[1], 0.05, "capitals are 6 mm high")
		assert.InDelta(t, 45, (least[0]+most[0])/2, 0.6)
		assert.Equal(t, where == lettering.Below, least[1] > 45)
		for _, x := range []float64{least[0], most[0]} {
			for _, y := range []float64{least[1], most[1]} {
				assert.Less(t, math.Hypot(x-45, y-45), 40.01, "5 mm from the edge")
			}
		}
	}
}

func TestWordsFollowTheEdge(t *testing.T) {
	s := lettering.Usual()
	s.Lies = lettering.Along
	for _, where := range []lettering.Where{lettering.Below, lettering.Above} {
		s.Where = where
		set := s.Set("HHHHHHHHHHHH", disc)
		require.True(t, set.Fits)
		farthest, nearest := 0.0, math.Inf(1)
		for _, seg := range set.Outline {
			r := math.Hypot(seg.End()[0]-45, seg.End()[1]-45)
			farthest, nearest = max(farthest, r), min(nearest, r)
		}
		// Tails would reach to 5 mm from the edge, marks over capitals likewise.
		want := 45 - 5 - 0.28*6
		if where == lettering.Above {
			want = 45 - 5 - 0.2*6
		}
		assert.InDelta(t, want, farthest, 0.3)
		assert.InDelta(t, want-6, nearest, 0.3)
		least, most := set.Outline.Box()
		assert.InDelta(t, 45, (least[0]+most[0])/2, 0.5)
		assert.Equal(t, where == lettering.Below, most[1] > 75)
	}
}

func TestLinesStandBelowEachOther(t *testing.T) {
	s := lettering.Usual()
	for _, s.Lies = range []lettering.Lies{lettering.Straight, lettering.Along} {
		for _, s.Where = range []lettering.Where{lettering.Below, lettering.Above} {
			one, two := s.Set("HHHH", disc), s.Set("HHHH\nHHHH", disc)
			require.True(t, two.Fits, "%s %s", s.Lies, s.Where)
			_, foot := two.Outline[:len(one.Outline)].Box()
			head, _ := two.Outline[len(one.Outline):].Box()
			assert.Greater(t, head[1], foot[1]-2, "%s %s: the second is under the first", s.Lies, s.Where)
			least, most := two.Outline.Box()
			assert.InDelta(t, 45, (least[0]+most[0])/2, 0.6)
			for _, seg := range two.Outline {
				assert.Less(t, math.Hypot(seg.End()[0]-45, seg.End()[1]-45), 40.01, "5 mm from the edge")
			}
			assert.Equal(t, one.Outline, s.Set("\n HHHH \n\n", disc).Outline, "empty lines take no room")
			over := s.Set("A very long line that has no room at all on this print\nH", disc)
			assert.False(t, over.Fits)
			assert.Less(t, s.Set("Boatwright T.\nof the Upper Lock", disc).Height, 6.01)
		}
	}
}

func TestWordsReadFromLeftToRight(t *testing.T) {
	s := lettering.Usual()
	for _, s.Lies = range []lettering.Lies{lettering.Straight, lettering.Along} {
		for _, s.Where = range []lettering.Where{lettering.Below, lettering.Above} {
			// A full stop is small and low: it is at the end, and at the letters' feet.
			least, most := s.Set("I .", disc).Outline.Box()
			high, low := least[0], most[0]
			i := s.Set("I", disc).Outline
			first, _ := i.Box()
			assert.Less(t, high, first[0], "%s %s", s.Lies, s.Where)
			assert.Greater(t, low, 45.0)
		}
	}
}

func TestTooLongShrinksAndThenIsListed(t *testing.T) {
	s := lettering.Usual()
	for _, s.Lies = range []lettering.Lies{lettering.Straight, lettering.Along} {
		shrunk := s.Set("Boatwright Theodolinda the Elder", disc)
		if s.Lies == lettering.Straight {
			shrunk = s.Set("Boatwright Theodolinda", disc)
		}
		assert.True(t, shrunk.Fits, s.Lies)
		assert.True(t, shrunk.Shrunk, s.Lies)
		assert.Less(t, shrunk.Height, 6.0)
		assert.GreaterOrEqual(t, shrunk.Height, 3.5)
		over := s.Set("Boatwright Theodolinda of the Upper Lock and the Lower Quay, with all her crew", disc)
		assert.False(t, over.Fits)
		assert.InDelta(t, 3.5, over.Height, 1e-9)
	}
}

func TestLettersThatNoFaceHasAreFound(t *testing.T) {
	assert.Equal(t, []string{"船", "🛶"}, lettering.SansBold.Missing("Café 船 Ωμέγα 🛶船 Лодка"))
	for _, f := range lettering.Faces() {
		assert.Empty(t, f.Missing("Ærøskøbing Łódź Ñandú ΔΙΟΝΥΣΟΣ Шлюз שלום سلام Հայ ქარ e\u0301 — “’”"), f)
	}
	assert.Equal(t, []string{"船"}, lettering.Usual().Set("船", disc).Missing)
}

func TestWhatRunsFromRightToLeftDoes(t *testing.T) {
	s := lettering.Usual()
	s.Face = lettering.Sans
	// A dot that ends Hebrew words stands at their left.
	word, _ := s.Set("שלום", disc).Outline.Box()
	ended, most := s.Set("שלום .", disc).Outline.Box()
	assert.Less(t, ended[0], word[0]-0.5)
	_, wordMost := s.Set("שלום", disc).Outline.Box()
	assert.Greater(t, most[0], wordMost[0], "the words themselves moved right to stay in the middle")
	// Arabic letters join: four joined are narrower than the four alone.
	width := func(text string) float64 {
		least, most := s.Set(text, disc).Outline.Box()
		return most[0] - least[0]
	}
	assert.Less(t, width("سلام"), width("س ل ا م")*0.8)
	assert.NotEqual(t, s.Set("بيت", disc).Outline.Path(), s.Set("تيب", disc).Outline.Path())
}

func TestCombiningMarksStandOnTheirLetters(t *testing.T) {
	s := lettering.Usual()
	assert.Equal(t, s.Set("\u00c9tude", disc).Outline.Path(), s.Set("E\u0301tude", disc).Outline.Path())
	// A mark that has no composed letter is put over its letter, and takes no room.
	plain, plainMost := s.Set("xx", disc).Outline.Box()
	marked, markedMost := s.Set("x\u0301x", disc).Outline.Box()
	assert.InDelta(t, plainMost[0]-plain[0], markedMost[0]-marked[0], 0.3)
	assert.Less(t, marked[1], plain[1]-0.5)
}

func TestFieldsAreFilledIn(t *testing.T) {
	s := lettering.Style{Text: "{name} · {date} · {number}"}
	assert.Equal(t, "Marit · 7 March · 3", s.For(lettering.Fields{Name: "Marit", Date: "7 March", Number: "3"}))
	assert.Equal(t, "Marit", lettering.Style{}.For(lettering.Fields{Name: " Marit "}))
	assert.Equal(t, "{name}", lettering.Style{}.For(lettering.Fields{Name: "{name}"}))
}

func TestAnyWordsAreSetOnAnyPrint(t *testing.T) {
	prints := [][]shape.Point{disc, shape.Shape{Kind: shape.Heart, Width: 80, Height: 70}.Outline(), shape.Shape{Kind: shape.Rectangle, Width: 60, Height: 20}.Outline(),
		shape.Shape{Kind: shape.Arch, Width: 60, Height: 90}.Outline(), shape.Shape{Kind: shape.Disc, Diameter: 6}.Outline()}
	rapid.Check(t, func(t *rapid.T) {
		s := lettering.Usual()
		s.Lies, s.Where = rapid.SampledFrom([]lettering.Lies{lettering.Straight, lettering.Along}).Draw(t, "lies"), rapid.SampledFrom([]lettering.Where{lettering.Below, lettering.Above}).Draw(t, "where")
		s.Face = rapid.SampledFrom(lettering.Faces()).Draw(t, "face")
		s.Edge = rapid.Float64Range(0, 20).Draw(t, "edge")
		require.NoError(t, s.Validate())
		text := rapid.OneOf(rapid.String(), rapid.StringMatching(`[a-zA-Zא-תء-ي 0-9.,()-]{0,40}`)).Draw(t, "text")
		set := s.Set(text, rapid.SampledFrom(prints).Draw(t, "print"))
		assert.True(t, set.Height >= s.Least && set.Height <= s.Height)
		for _, seg := range set.Outline {
			p := seg.End()
			if math.IsNaN(p[0]) || math.IsNaN(p[1]) {
				t.Fatal("a letter stands nowhere")
			}
		}
	})
}

func TestStylesThatCannotBe(t *testing.T) {
	for field, change := range map[string]func(*lettering.Style){
		"face": func(s *lettering.Style) { s.Face = "wedding" }, "heightMm": func(s *lettering.Style) { s.Height = math.NaN() }, "leastMm": func(s *lettering.Style) { s.Least = 7 },
		"colour": func(s *lettering.Style) { s.Colour = "red" }, "lies": func(s *lettering.Style) { s.Lies = "askew" }, "where": func(s *lettering.Style) { s.Where = "left" },
		"edgeMm": func(s *lettering.Style) { s.Edge = -1 }, "haloMm": func(s *lettering.Style) { s.Halo = 9 },
	} {
		s := lettering.Usual()
		change(&s)
		assert.ErrorContains(t, s.Validate(), field)
	}
	assert.NoError(t, lettering.Usual().Validate())
}
