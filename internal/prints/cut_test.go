package prints

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/design"
	"tidykiln/core/measure"
	"tidykiln/core/shape"
)

// Two marks where the handle is and one opposite, above and below the print, and none
// reaches onto what lies beside it.
func TestTheHandleIsMarkedBeyondThePrint(t *testing.T) {
	handle := measure.Length(30)
	for _, mirrored := range []bool{false, true} {
		for _, blank := range []shape.Shape{{Kind: shape.Cylinder, Diameter: 82, Height: 95}, {Kind: shape.Tapered, Diameter: 85, Foot: 68, Height: 120}} {
			d := design.Design{Border: 8, Handle: &handle}
			k := laidKind{design: d, blank: blank, print: d.Print(blank), cut: CutNone}
			k.Mirrored = mirrored
			const gap = 2
			k.measure(gap)
			outlines, marks := cutLines(k)
			assert.Empty(t, outlines)
			require.Len(t, marks, 6)
			for i, m := range marks {
				for _, p := range m {
					assert.True(t, p.X > -gap && p.X < k.Width+gap && p.Y > -gap && p.Y < k.Height+gap, "%s: %v", blank.Kind, p)
				}
				left := m[0].X < k.Width/2
				assert.Equal(t, (i < 4) != mirrored, left, "%s: the handle is left of the middle, the place opposite right of it", blank.Kind)
			}
		}
	}
	plain := laidKind{design: design.Design{}, blank: shape.Shape{Kind: shape.Disc, Diameter: 90}, cut: CutNone}
	_, marks := cutLines(plain)
	assert.Empty(t, marks)
}
