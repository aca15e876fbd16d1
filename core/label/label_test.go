package label_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/fault"
	"tidykiln/core/label"
)

func a4() label.Sheet {
	return label.Sheet{PageWidth: 210, PageHeight: 297, Columns: 3, Rows: 8, LabelWidth: 70, LabelHeight: 36, MarginTop: 4.5}
}

func TestLabelsLieRowByRow(t *testing.T) {
	s := a4()
	require.NoError(t, s.Validate())
	for at, place := range map[[2]int]label.Place{
		{0, 0}:  {Page: 0, X: 0, Y: 4.5},
		{2, 0}:  {Page: 0, X: 140, Y: 4.5},
		{3, 0}:  {Page: 0, X: 0, Y: 40.5},
		{0, 23}: {Page: 0, X: 140, Y: 256.5},
		{1, 23}: {Page: 1, X: 0, Y: 4.5},
		{24, 0}: {Page: 1, X: 0, Y: 4.5},
	} {
		assert.Equal(t, place, s.At(at[0], at[1]), at)
	}
	s.GapX, s.Columns, s.LabelWidth, s.MarginLeft = 2.5, 3, 60, 10
	assert.Equal(t, 72.5, s.At(1, 0).X)
}

func TestWhatIsNoSheetIsNamed(t *testing.T) {
	for path, spoil := range map[string]func(*label.Sheet){
		"columns":     func(s *label.Sheet) { s.Columns = 4 },
		"rows":        func(s *label.Sheet) { s.Rows = 9 },
		"labelWidth":  func(s *label.Sheet) { s.LabelWidth = 0 },
		"labelHeight": func(s *label.Sheet) { s.LabelHeight = math.NaN() },
		"marginLeft":  func(s *label.Sheet) { s.MarginLeft = -1 },
		"marginTop":   func(s *label.Sheet) { s.MarginTop = math.Inf(1) },
		"gapX":        func(s *label.Sheet) { s.GapX = -0.1 },
		"gapY":        func(s *label.Sheet) { s.GapY = 1e9 },
		"pageWidth":   func(s *label.Sheet) { s.PageWidth = 0 },
		"pageHeight":  func(s *label.Sheet) { s.PageHeight = 900 },
	} {
		s := a4()
		spoil(&s)
		var f *fault.Fault
		require.ErrorAs(t, s.Validate(), &f, path)
		assert.Equal(t, path, f.Path)
	}
	none := a4()
	none.Columns, none.Rows = 0, 0
	assert.Error(t, none.Validate())
}

func TestNoLabelLiesOnAnotherOrOffThePage(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		length := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		s := label.Sheet{PageWidth: length("page width", 50, 400), PageHeight: length("page height", 50, 400), Columns: rapid.IntRange(1, 20).Draw(t, "columns"), Rows: rapid.IntRange(1, 50).Draw(t, "rows"),
			LabelWidth: length("width", 8, 200), LabelHeight: length("height", 8, 200), MarginLeft: length("left", 0, 30), MarginTop: length("top", 0, 30), GapX: length("gap x", 0, 5), GapY: length("gap y", 0, 5)}
		if s.Validate() != nil {
			return
		}
		i, gone := rapid.IntRange(0, 3000).Draw(t, "label"), rapid.IntRange(0, s.PerPage()-1).Draw(t, "gone")
		at, next := s.At(i, gone), s.At(i+1, gone)
		assert.LessOrEqual(t, at.X+s.LabelWidth, s.PageWidth+0.5+1e-9)
		assert.LessOrEqual(t, at.Y+s.LabelHeight, s.PageHeight+0.5+1e-9)
		apart := next.Page > at.Page || next.Y >= at.Y+s.LabelHeight-1e-9 || next.X >= at.X+s.LabelWidth-1e-9
		assert.True(t, apart, "%v then %v", at, next)
	})
}
