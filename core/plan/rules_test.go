package plan_test

import (
	"context"
	"fmt"
	"strings"
	"testing"
	"time"

	"tidykiln/core/fault"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/plan"
)

// hours is a resource of one that is open on each of the given days of March 2027, in whole hours.
func hours(id string, from, to int, days ...int) string {
	var open []string
	for _, d := range days {
		open = append(open, fmt.Sprintf(`["2027-03-%02dT%02d:00:00Z","2027-03-%02dT%02d:00:00Z"]`, d, from, d, to))
	}
	return fmt.Sprintf(`{"id":%q,"capacity":1,"open":[%s]}`, id, strings.Join(open, ","))
}

func job(id string, more string, steps ...string) string {
	return fmt.Sprintf(`{"id":%q,%s"steps":[%s]}`, id, more, strings.Join(steps, ","))
}

// step is hands-on work of some minutes, with a rest written as JSON or none.
func step(id string, minutes int, rest string) string {
	if rest != "" {
		rest = `,"rest":` + rest
	}
	return fmt.Sprintf(`{"id":%q,"minutes":%d,"uses":{"hands":1}%s}`, id, minutes, rest)
}

func TestEachRuleByItself(t *testing.T) {
	week := hours("hands", 9, 15, 1, 2, 3, 4, 5)
	for name, c := range map[string]struct {
		resources, jobs string
		want            map[string]string
	}{
		"a step is not split over the end of the day": {
			week, job("A", "", step("a", 240, ""), step("b", 240, "")),
			map[string]string{"A/a": "1 09:00", "A/b": "2 09:00"},
		},
		"a rest runs through the night": {
			week, job("A", "", step("a", 60, `{"min":1080}`), step("b", 60, "")),
			map[string]string{"A/a": "1 09:00", "A/b": "2 09:00"},
		},
		"touching open intervals count as one": {
			`{"id":"hands","capacity":1,"open":[["2027-03-01T09:00:00Z","2027-03-01T11:00:00Z"],["2027-03-01T11:00:00Z","2027-03-01T13:00:00Z"]]}`,
			job("A", "", step("a", 200, "")),
			map[string]string{"A/a": "1 09:00"},
		},
		"overlapping open intervals count as one": {
			`{"id":"hands","capacity":1,"open":[["2027-03-01T10:00:00Z","2027-03-01T13:00:00Z"],["2027-03-01T09:00:00Z","2027-03-01T11:00:00Z"]]}`,
			job("A", "", step("a", 240, "")),
			map[string]string{"A/a": "1 09:00"},
		},
		"a release is waited for": {
			week, job("A", `"release":"2027-03-02T10:30:00Z",`, step("a", 60, "")),
			map[string]string{"A/a": "2 10:30"},
		},
		"a release before from means from": {
			week, job("A", `"release":"2027-02-02T10:30:00Z",`, step("a", 60, "")),
			map[string]string{"A/a": "1 09:00"},
		},
		"what ends at a moment frees it for what begins then": {
			week, job("A", "", step("a", 60, "")) + "," + job("B", "", step("a", 60, "")),
			map[string]string{"A/a": "1 09:00", "B/a": "1 10:00"},
		},
		"sooner due goes first, whatever the order given": {
			week, job("A", `"due":"2027-03-04T12:00:00Z",`, step("a", 60, "")) + "," + job("B", `"due":"2027-03-02T12:00:00Z",`, step("a", 60, "")),
			map[string]string{"A/a": "1 10:00", "B/a": "1 09:00"},
		},
		"of the same due the heavier goes first": {
			week, job("A", `"due":"2027-03-04T12:00:00Z",`, step("a", 60, "")) + "," + job("B", `"due":"2027-03-04T12:00:00Z","weight":3,`, step("a", 60, "")),
			map[string]string{"A/a": "1 10:00", "B/a": "1 09:00"},
		},
		"a job without a due comes after those with one": {
			week, job("A", "", step("a", 60, "")) + "," + job("B", `"due":"2027-03-20T12:00:00Z",`, step("a", 60, "")),
			map[string]string{"A/a": "1 10:00", "B/a": "1 09:00"},
		},
		"a ceiling that the night would break begins the first step the next day": {
			week, job("A", "", step("a", 60, `{"min":60,"max":120}`), step("b", 300, "")),
			map[string]string{"A/a": "2 08:00"},
		},
		"a full rack moves the step before it": {
			week + `,{"id":"rack","capacity":4}`,
			job("A", `"due":"2027-03-01T13:30:00Z",`, step("a", 60, `{"min":180,"uses":{"rack":3}}`), step("b", 30, "")) + "," +
				job("B", "", step("a", 30, `{"min":30,"uses":{"rack":2}}`), step("b", 30, "")),
			map[string]string{"A/a": "1 09:00", "A/b": "1 13:00", "B/a": "1 12:30", "B/b": "1 13:30"},
		},
		"a step that uses the rack and rests on it is counted once at a time": {
			week + `,{"id":"rack","capacity":2}`,
			`{"id":"A","steps":[{"id":"a","minutes":60,"uses":{"hands":1,"rack":2},"rest":{"min":60,"uses":{"rack":2}}},{"id":"b","minutes":60,"uses":{"hands":1,"rack":2}}]}`,
			map[string]string{"A/a": "1 09:00", "A/b": "1 11:00"},
		},
		"a resource in uses and taken by oneOf adds up": {
			`{"id":"ana","capacity":2,"open":[["2027-03-01T09:00:00Z","2027-03-01T15:00:00Z"]]}`,
			`{"id":"A","steps":[{"id":"a","minutes":60,"uses":{"ana":1},"oneOf":["ana"]}]},{"id":"B","steps":[{"id":"a","minutes":60,"oneOf":["ana"]}]}`,
			map[string]string{"A/a": "1 09:00", "B/a": "1 10:00"},
		},
	} {
		if name == "a ceiling that the night would break begins the first step the next day" {
			// 60 + 60 + 300 min do not fit six hours, so the first step waits where the second can follow at nine.
			c.resources = `{"id":"hands","capacity":1,"open":[["2027-03-01T09:00:00Z","2027-03-01T15:00:00Z"],["2027-03-02T08:00:00Z","2027-03-02T15:00:00Z"]]}`
			c.want["A/b"] = "2 10:00"
		}
		text := problem(c.resources, c.jobs)
		a := solve(t, text)
		assert.Equal(t, c.want, starts(a), name)
		assert.Empty(t, brokenRules(read(t, text), a), name)
	}
}

// Whoever is quicker does it, unless who is slower would be done sooner.
func TestPacesDecideWhoDoesIt(t *testing.T) {
	day := func(id string, from int) string { return hours(id, from, 15, 1) }
	for name, c := range map[string]struct {
		ben  int
		by   string
		ends string
	}{
		"the quicker one, though they begin later":   {10, "ana", "1 09:40"},
		"the slower one, where they are done sooner": {9, "ben", "1 09:30"},
	} {
		p := read(t, problem(day("ana", 9)+","+day("ben", c.ben), `{"id":"A","steps":[{"id":"a","minutes":60,"oneOf":["ana","ben"]}]}`))
		p.Jobs[0].Steps[0].MinutesBy = map[string]int{"ana": 40}
		if c.by == "ben" {
			p.Jobs[0].Steps[0].MinutesBy = map[string]int{"ana": 90, "ben": 30}
		}
		a, err := plan.Solve(context.Background(), p, nil)
		require.NoError(t, err)
		require.Len(t, a.Steps, 1)
		assert.Equal(t, c.by, a.Steps[0].By, name)
		assert.Equal(t, c.ends, a.Steps[0].End.Format("2 15:04"), name)
		assert.Empty(t, brokenRules(p, a), name)
		a.Steps[0].End = a.Steps[0].End.Add(time.Minute)
		assert.NotEmpty(t, brokenRules(p, a), "the checker minds whose pace it is")
	}
	p := read(t, problem(day("ana", 9), `{"id":"A","steps":[{"id":"a","minutes":60,"oneOf":["ana"]}]}`))
	p.Jobs[0].Steps[0].MinutesBy = map[string]int{"ana": 0}
	_, err := plan.Solve(context.Background(), p, nil)
	assert.Equal(t, "jobs[0].steps[0].minutesBy.ana", fault.Of(err).Path)
}

func TestWhatCannotBePlannedSaysWhyAndTheRestIsPlanned(t *testing.T) {
	fine := job("Z", "", step("a", 60, ""))
	for says, c := range map[string]struct{ resources, bad string }{
		"the longest open interval is 360 min": {hours("hands", 9, 15, 1), job("A", "", step("a", 400, ""))},
		"finds no open time of hands left":     {hours("hands", 9, 15, 1), job("A", `"release":"2027-03-01T14:30:00Z",`, step("a", 60, ""))},
		"step b finds no open time of hands":   {hours("hands", 9, 15, 1, 2), job("A", "", step("a", 300, `{"min":10,"max":30}`), step("b", 300, ""))},
		"needs 3 of press, which has 1":        {hours("hands", 9, 15, 1) + `,{"id":"press","capacity":1}`, `{"id":"A","steps":[{"id":"a","minutes":60,"uses":{"press":3}}]}`},
		"longer than the last rest":            {hours("hands", 9, 15, 1), `{"id":"A","steps":[{"id":"a","minutes":60,"rest":{"min":30}},{"id":"b","minutes":60,"inside":"a"}]}`},
		"finds no room on rack":                {hours("hands", 9, 15, 1) + `,{"id":"rack","capacity":1}`, job("A", "", step("a", 60, `{"min":30,"uses":{"rack":2}}`))},
		"is never open":                        {`{"id":"hands","capacity":1,"open":[]}`, ""},
	} {
		if c.bad == "" {
			a := solve(t, problem(c.resources, fine))
			require.Len(t, a.Unplanned, 1, says)
			assert.Contains(t, a.Unplanned[0].Reason.String(), "the longest open interval is 0 min")
			continue
		}
		a := solve(t, problem(c.resources, c.bad+","+fine))
		require.Len(t, a.Unplanned, 1, says)
		assert.Equal(t, "A", a.Unplanned[0].Job)
		assert.Contains(t, a.Unplanned[0].Reason.String(), says)
		assert.Equal(t, map[string]string{"Z/a": "1 09:00"}, starts(a), says)
	}
}

func TestWhatFoundNoRoomIsGivenFirstChoice(t *testing.T) {
	// B must start within a narrow release and the day's end; A, due sooner, could go any day.
	resources := hours("hands", 9, 10, 1) + `,` + hours("spare", 9, 10, 2)
	a := solve(t, problem(resources, `{"id":"A","due":"2027-03-01T12:00:00Z","steps":[{"id":"a","minutes":60,"oneOf":["hands","spare"]}]},{"id":"B","steps":[{"id":"a","minutes":60,"uses":{"hands":1}}]}`))
	assert.Empty(t, a.Unplanned)
	assert.Equal(t, map[string]string{"A/a": "2 09:00", "B/a": "1 09:00"}, starts(a))
	assert.Equal(t, 22*60.0, a.Objective.WeightedLateMinutes, "fewest unplanned comes before lateness")
}

func TestTheObjectiveAddsUp(t *testing.T) {
	a := solve(t, problem(hours("hands", 9, 15, 1, 2),
		job("A", `"due":"2027-03-01T10:00:00Z","weight":2.5,`, step("a", 60, `{"min":60,"ideal":180}`), step("b", 60, `{"min":30,"ideal":300}`))))
	// Done at 12:30 with the floor, 150 min late; the first rest falls 120 short, the last does not count.
	assert.Equal(t, plan.Objective{WeightedLateMinutes: 375, RestShortfallMinutes: 120, CompletionMinutes: 750}, a.Objective)
	assert.Equal(t, 150, a.Jobs[0].LateMinutes)
}

func TestPinsThatBreakTheirRestsAreListed(t *testing.T) {
	pin := func(id, from, to, rest string) string {
		return fmt.Sprintf(`{"id":%q,"minutes":30,"startedAt":"2027-02-28T%s:00Z","endedAt":"2027-02-28T%s:00Z"%s}`, id, from, to, rest)
	}
	a := solve(t, problem(twoDays, job("A", "", pin("a", "09:00", "09:30", `,"rest":{"min":60}`), pin("b", "10:00", "10:30", `,"rest":{"min":10,"max":20}`), pin("c", "12:00", "12:30", ""))))
	assert.Equal(t, []string{
		"A: step b started 30 min after step a ended; the floor is 60 min",
		"A: step c started 90 min after step b ended; the ceiling is 20 min",
	}, a.Warnings)
	assert.Equal(t, "2027-02-28T12:30:00Z", a.Jobs[0].Done.Format(time.RFC3339))
}

func TestTwoOpenPinsOnOneHandRunOneAfterTheOther(t *testing.T) {
	pinned := func(id, at string) string {
		return job(id, "", `{"id":"a","minutes":60,"uses":{"hands":1},"startedAt":"2027-03-01T`+at+`:00Z"}`)
	}
	a := solve(t, strings.Replace(problem(twoDays, pinned("A", "09:05")+","+pinned("B", "09:00")+","+pinned("C", "09:05")+","+job("D", "", step("a", 60, ""))), "T00:00:00Z", "T09:30:00Z", 1))
	assert.Equal(t, map[string]string{"A/a": "1 09:05", "B/a": "1 09:00", "C/a": "1 09:05", "D/a": "1 12:00"}, starts(a))
	ends := map[string]string{}
	for _, s := range a.Steps {
		ends[s.Job] = s.End.Format("15:04")
	}
	assert.Equal(t, map[string]string{"B": "10:00", "A": "11:00", "C": "12:00", "D": "13:00"}, ends, "by start, then as in the problem")
	assert.Empty(t, a.Warnings)
}

func TestTwoPinsOnOneMachineAreListedNotMoved(t *testing.T) {
	pinned := func(id string) string {
		return job(id, "", `{"id":"a","minutes":60,"uses":{"press":1},"startedAt":"2027-03-01T09:00:00Z"}`)
	}
	a := solve(t, problem(twoDays+`,{"id":"press","capacity":1}`, pinned("A")+","+pinned("B")))
	assert.Equal(t, map[string]string{"A/a": "1 09:00", "B/a": "1 09:00"}, starts(a))
	assert.Len(t, a.Warnings, 2)
	assert.Contains(t, a.Warnings[0], "press is overfull")
}

func TestWhatWasPutDownQueuesIntoOpenHours(t *testing.T) {
	down := `{"id":"a","minutes":200,"oneOf":["ana","ben"],"startedAt":"2027-02-28T20:00:00Z","minutesLeft":90,"by":"ana","rest":{"min":30}}`
	a := solve(t, problem(hours("ana", 9, 15, 1, 2)+","+hours("ben", 12, 15, 1), job("A", "", down, `{"id":"b","minutes":30,"oneOf":["ana"]}`)+","+
		job("B", `"due":"2027-03-01T10:00:00Z",`, `{"id":"a","minutes":60,"oneOf":["ana"]}`)))
	assert.Equal(t, map[string]string{"A/a": "1 10:00", "A/b": "1 12:00", "B/a": "1 09:00"}, starts(a), "the urgent job has the hand first")
	for _, c := range []struct{ pin, at string }{
		{`"minutesLeft":90`, "minutesLeft"},
		{`"by":"ana"`, "by"},
		{`"startedAt":"2027-02-28T20:00:00Z","endedAt":"2027-02-28T21:00:00Z","minutesLeft":90`, "minutesLeft"},
		{`"startedAt":"2027-02-28T20:00:00Z","minutesLeft":-1`, "minutesLeft"},
		{`"startedAt":"2027-02-28T20:00:00Z","by":"cat"`, "by"},
	} {
		_, err := plan.Solve(context.Background(), read(t, problem(twoDays, job("A", "", `{"id":"a","minutes":9,`+c.pin+`}`))), nil)
		assert.Equal(t, "jobs[0].steps[0]."+c.at, fault.Of(err).Path, c.pin)
	}
}

func TestWhoDidAPinnedStepIsAsTold(t *testing.T) {
	a := solve(t, problem(hours("ana", 9, 15, 1)+","+hours("ben", 9, 15, 1), job("A", "", `{"id":"a","minutes":60,"oneOf":["ana","ben"],"by":"ben","startedAt":"2027-03-01T09:00:00Z"}`)+","+
		job("B", "", `{"id":"b","minutes":60,"oneOf":["ben"]}`)))
	assert.Equal(t, "1 10:00", starts(a)["B/b"])
	assert.Equal(t, "ben", a.Steps[0].By)
}

func TestAPinAheadIsKeptFree(t *testing.T) {
	held := job("A", "", step("a", 30, `{"min":30}`), `{"id":"b","minutes":60,"uses":{"hands":1},"startedAt":"2027-03-01T11:00:00Z","endedAt":"2027-03-01T12:00:00Z"}`)
	a := solve(t, problem(twoDays, held+","+job("B", `"due":"2027-03-01T10:00:00Z",`, step("a", 120, ""))))
	assert.Equal(t, map[string]string{"A/a": "1 09:00", "A/b": "1 11:00", "B/a": "1 12:00"}, starts(a))
	late := job("A", `"release":"2027-03-01T10:45:00Z",`, step("a", 30, `{"min":30}`), `{"id":"b","minutes":60,"startedAt":"2027-03-01T11:00:00Z"}`)
	a = solve(t, problem(twoDays, late))
	require.Len(t, a.Unplanned, 1)
	assert.Contains(t, a.Unplanned[0].Reason.String(), "pinned before the rest")
}

func TestTimesAreAnsweredInTheOffsetOfFrom(t *testing.T) {
	a := solve(t, strings.Replace(problem(`{"id":"hands","capacity":1,"open":[["2027-03-01T09:00:00Z","2027-03-01T15:00:00Z"]]}`, job("A", "", step("a", 60, ""))), "2027-03-01T00:00:00Z", "2027-03-01T00:00:00+05:30", 1))
	assert.Equal(t, "2027-03-01T14:30:00+05:30", a.Steps[0].Start.Format(time.RFC3339))
}
