package shape

import (
	"math"
	"testing"

	"tidykiln/core/measure"

	"github.com/stretchr/testify/assert"
)

// Whatever is given as an outline, it is refused in words or becomes one that fills its box.
func FuzzPath(f *testing.F) {
	for _, text := range []string{"M0 0H10V10H0Z", "M5 0A5 5 0 1 1 5 10A5 5 0 1 1 5 0Z", "m1,1c2-3 4-3 6 0s4 9-3 9-6-5-3-9z", "M0 0L1e9 0L0 1e-9Z", "M0 0"} {
		f.Add(text, 90.0, 60.0)
	}
	f.Fuzz(func(t *testing.T, text string, width, height float64) {
		if !(width >= 1 && width <= 3000 && height >= 1 && height <= 3000) {
			return // blanks have sizes
		}
		o, err := Path(text).polygon(measure.Length(width), measure.Length(height))
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		least, most := BoxOf(o)
		for _, v := range []float64{least.X, least.Y, most.X - width, most.Y - height} {
			assert.Less(t, math.Abs(v), 0.1*max(width, height))
		}
	})
}
