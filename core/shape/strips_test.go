package shape

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// What is found strip by strip is what all sides together say.
func TestStripsLeaveNoSideOut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		point := rapid.Custom(func(t *rapid.T) Point {
			return Point{float64(rapid.IntRange(-50, 50).Draw(t, "x")) / 2, float64(rapid.IntRange(-50, 50).Draw(t, "y")) / 2}
		})
		of := rapid.SliceOfN(point, 3, 60).Draw(t, "polygon")
		p := point.Draw(t, "point")
		reach := float64(rapid.IntRange(1, 40).Draw(t, "reach")) / 4
		near := false
		for i, a := range of {
			near = near || nearer(a, of[(i+1)%len(of)], p, reach)
		}
		for _, s := range []strips{stripsOf(of), stripsOf(slices.Concat(of, of[:1]))} {
			assert.Equal(t, inside(of, p), s.inside(p))
			assert.Equal(t, near, s.comesWithin(p, reach))
		}
	})
}
