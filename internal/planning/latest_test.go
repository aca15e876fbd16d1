package planning_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/house/housetest"
	"tidykiln/internal/planning"
)

func TestABatchIsToBeBegunWhileThereIsTime(t *testing.T) {
	s := housetest.NewSmall(t)
	s.At(1, "08:00")
	o := s.OrderFor("2027-03-12", 4)
	list, err := s.Planning.Suggestions(s.Ctx)
	require.NoError(t, err)
	require.Len(t, list, 1)
	by := list[0].StartBy
	require.NotNil(t, by)
	assert.True(t, by.After(s.Now))

	standing := func(at time.Time) (state planning.ReadyState, short int) {
		s.Now = at
		page, err := s.Desk.Order(s.Ctx, o.ID)
		require.NoError(t, err)
		return page.Readiness.State, len(page.ShortRests)
	}
	state, short := standing(by.Add(-time.Minute))
	assert.NotEqual(t, planning.ReadyLate, state)
	assert.Zero(t, short, "begun by then every rest is as long as usual")
	state, short = standing(by.Add(time.Hour))
	assert.True(t, state == planning.ReadyLate || short > 0, "begun later it is late, or rests are cut")
}
