package measure_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"tidykiln/core/measure"
)

// Whatever is typed, a measure is refused or is a number that can be reckoned
// with; and what is shown of it is read again as much the same.
func FuzzParseLength(f *testing.F) {
	for _, text := range []string{"9.5 cm", "3 3/4 in", "½ in", "1'2\"", "1,5 m", "1e9 mm", "-3", "٣ cm"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		for _, system := range []measure.System{measure.Metric, measure.US} {
			l, err := measure.ParseLength(text, system)
			if err != nil {
				continue
			}
			mm := float64(l)
			assert.False(t, math.IsNaN(mm) || math.IsInf(mm, 0) || mm < 0, "%q", text)
			again, err := measure.ParseLength(l.Format(system), system)
			assert.NoError(t, err, "%q shown as %q", text, l.Format(system))
			assert.InDelta(t, mm, float64(again), max(0.8, mm*0.01), "%q shown as %q", text, l.Format(system))
		}
	})
}
