package wrap_test

import (
	"math"
	"strings"
	"testing"

	"tidykiln/core/fault"
	"tidykiln/core/wrap"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func lay(t require.TestingT, w wrap.Wall) wrap.Template {
	got, err := wrap.Compute(w)
	require.NoError(t, err)
	return got
}

func TestATaperedWallIsAPartOfARing(t *testing.T) {
	got := lay(t, wrap.Wall{Top: 88, Bottom: 64, Height: 170})
	outer, inner := 624.88, 454.46
	assert.Equal(t, wrap.Template{SlantMm: 170.42, OuterRadiusMm: &outer, InnerRadiusMm: &inner, AngleDeg: 25.35, BoxWidthMm: 274.21, BoxHeightMm: 181.50}, got)
	assert.Equal(t, got, lay(t, wrap.Wall{Top: 64, Bottom: 88, Height: 170}), "turned over it is the same")
}

func TestAStraightWallIsARectangleThatTheSeamMakesWider(t *testing.T) {
	assert.Equal(t, wrap.Template{SlantMm: 120, BoxWidthMm: 251.33, BoxHeightMm: 120}, lay(t, wrap.Wall{Top: 80, Bottom: 80, Height: 120}))
	assert.Equal(t, 257.33, lay(t, wrap.Wall{Top: 80, Bottom: 80, Height: 120, Seam: 6}).BoxWidthMm)
}

func TestPastAHalfCircleTheBoxIsTwoRadiiWide(t *testing.T) {
	got := lay(t, wrap.Wall{Top: 300, Bottom: 20, Height: 40})
	assert.Greater(t, got.AngleDeg, 180.0)
	assert.InDelta(t, 2**got.OuterRadiusMm, got.BoxWidthMm, 0.011)
}

// The edges of the template are as long as the wall is round, and its area is the wall's.
func TestATemplateIsTheWallItself(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		measure := rapid.Float64Range(5, 400)
		w := wrap.Wall{Top: measure.Draw(t, "top"), Bottom: measure.Draw(t, "bottom"), Height: measure.Draw(t, "height")}
		got := lay(t, w)
		if got.OuterRadiusMm == nil || math.Abs(w.Top-w.Bottom) < 1 {
			return // so flat a curve that two decimals say little of it
		}
		angle := got.AngleDeg * math.Pi / 180
		// Radius and angle are each told to half a hundredth.
		within := 0.005*angle + *got.OuterRadiusMm*0.005*math.Pi/180 + 1e-4
		assert.InDelta(t, math.Pi*max(w.Top, w.Bottom), *got.OuterRadiusMm*angle, within)
		assert.InDelta(t, math.Pi*min(w.Top, w.Bottom), *got.InnerRadiusMm*angle, within)
		assert.InDelta(t, *got.OuterRadiusMm-*got.InnerRadiusMm, got.SlantMm, 0.011)
		assert.GreaterOrEqual(t, lay(t, wrap.Wall{Top: w.Top, Bottom: w.Bottom, Height: w.Height, Seam: 4}).BoxWidthMm, got.BoxWidthMm)
	})
}

func TestAMeasureThatNoWallHasIsNamed(t *testing.T) {
	sound := wrap.Wall{Top: 88, Bottom: 64, Height: 170}
	for name, spoil := range map[string]func(*wrap.Wall){
		"top":    func(w *wrap.Wall) { w.Top = 0 },
		"bottom": func(w *wrap.Wall) { w.Bottom = -3 },
		"height": func(w *wrap.Wall) { w.Height = math.NaN() },
		"seam":   func(w *wrap.Wall) { w.Seam = 202 },
	} {
		w := sound
		spoil(&w)
		_, err := wrap.Compute(w)
		require.Error(t, err, name)
		assert.Equal(t, name, fault.Of(err).Path)
		_, err = wrap.SVG(w)
		assert.Error(t, err, name)
	}
	_, err := wrap.Compute(wrap.Wall{Top: math.Inf(1), Bottom: 64, Height: 170})
	assert.Error(t, err)
}

func TestTheTemplateIsDrawnAtTrueSize(t *testing.T) {
	drawn, err := wrap.SVG(wrap.Wall{Top: 88, Bottom: 64, Height: 170})
	require.NoError(t, err)
	assert.Contains(t, drawn, `width="274.51mm" height="181.80mm" viewBox="-0.15 -0.15 274.51 181.80"`)
	assert.Contains(t, drawn, `d="M0.000 15.227A624.884 624.884 0 0 1 274.211 15.227L236.819 181.497A454.461 454.461 0 0 0 37.392 181.497Z"`)
	assert.NotContains(t, drawn, "dasharray")
	turned, err := wrap.SVG(wrap.Wall{Top: 64, Bottom: 88, Height: 170, Seam: 6})
	require.NoError(t, err)
	assert.Contains(t, turned, `transform="matrix(1 0 0 -1 0 `)
	assert.Equal(t, 1, strings.Count(turned, "dasharray"))
	straight, err := wrap.SVG(wrap.Wall{Top: 80, Bottom: 80, Height: 120, Seam: 6})
	require.NoError(t, err)
	assert.Contains(t, straight, `d="M0.000 0.000L251.327 0.000L257.327 0.000L257.327 120.000L251.327 120.000L0.000 120.000Z"`)
}
