package planning_test

import (
	"context"
	"strings"
	"testing"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/wire"
)

// body is what a file holds.
func body(t *testing.T, f *wire.File) string {
	t.Helper()
	return string(f.Body)
}

func TestThePlanInACalendarAndOnPaper(t *testing.T) {
	rooms := loaded(t)
	file, err := rooms.Planning.InCalendar(context.Background())
	require.NoError(t, err)
	assert.Contains(t, file.Type, "text/calendar")
	text := body(t, file)
	for line := range strings.SplitSeq(text, "\r\n") {
		assert.LessOrEqual(t, len(line), 75, "a long line is folded")
	}
	read, err := ics.ParseCalendar(strings.NewReader(text))
	require.NoError(t, err)
	events := read.Events()
	require.Greater(t, len(events), 10)
	plan, err := rooms.Planning.Days(context.Background(), "", 42)
	require.NoError(t, err)
	steps, together, ids := 0, 0, map[string]bool{}
	for _, h := range plan.Hands {
		if h.LotID > 0 && (h.State == "planned" || h.State == "inHand") {
			steps++
		}
	}
	for _, e := range events {
		start, err := e.GetStartAt()
		require.NoError(t, err)
		end, err := e.GetEndAt()
		require.NoError(t, err)
		assert.True(t, start.Before(end))
		assert.False(t, ids[e.Id()], "%s is there twice", e.Id())
		ids[e.Id()] = true
		if strings.Contains(e.GetProperty(ics.ComponentPropertyDescription).Value, "\n") {
			together++
		}
	}
	assert.Less(t, len(events), steps, "like work is one entry")
	assert.Positive(t, together)

	paper, err := rooms.Planning.WeekOnPaper(context.Background(), "")
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(body(t, paper), "%PDF-"))
	_, err = rooms.Planning.WeekOnPaper(context.Background(), "1999-01-01")
	assert.Error(t, err)
}
