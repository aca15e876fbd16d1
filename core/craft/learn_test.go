package craft_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/craft"
)

func TestAStepLearnsFromWhatWasSeen(t *testing.T) {
	lay := craft.Step{SetupMinutes: 12, MinutesPerPiece: 3, Yield: 0.95}
	// Two sittings of 12: planned 2 × 12 + 24 × 3 = 96 min.
	l := lay.Learn(craft.Seen{Setups: 2, Pieces: 24, Minutes: 132, Through: 20})
	require.NotNil(t, l.MinutesPerPiece)
	assert.Equal(t, 4.5, *l.MinutesPerPiece, "(132 − 24) ÷ 24")
	require.NotNil(t, l.Yield)
	assert.Equal(t, 0.82, *l.Yield, "20.5 ÷ 25")

	near := lay.Learn(craft.Seen{Setups: 2, Pieces: 24, Minutes: 100, Through: 23})
	assert.Nil(t, near.MinutesPerPiece, "4 % more")
	assert.Nil(t, near.Yield, "0.94 is near 0.95")

	brief := craft.Step{SetupMinutes: 0, MinutesPerPiece: 0.3}.Learn(craft.Seen{Setups: 2, Pieces: 24, Minutes: 10})
	assert.Nil(t, brief.MinutesPerPiece, "2.8 min over two sittings are the tapping of timers")

	few := lay.Learn(craft.Seen{Setups: 1, Pieces: 11, Minutes: 200, Through: 3})
	assert.Equal(t, craft.Lesson{}, few, "eleven pieces say little")
	minutes := lay.Learn(craft.Seen{Setups: 1, Pieces: 19, Minutes: 200, Through: 3})
	assert.NotNil(t, minutes.MinutesPerPiece)
	assert.Nil(t, minutes.Yield)

	quick := lay.Learn(craft.Seen{Setups: 2, Pieces: 24, Minutes: 10, Through: 24})
	assert.Equal(t, 0.1, *quick.MinutesPerPiece, "never nothing")
}
