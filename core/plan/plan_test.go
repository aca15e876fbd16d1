package plan_test

import (
	"context"
	"encoding/json"
	"strings"
	"testing"
	"time"

	"tidykiln/core/fault"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/plan"
)

const example = `{"format":"tidykiln/plan-problem@1","from":"2027-03-01T08:00:00Z","budgetMs":1000,
 "resources":[
  {"id":"hands","capacity":1,"open":[["2027-03-01T09:00:00Z","2027-03-01T15:00:00Z"],["2027-03-02T09:00:00Z","2027-03-02T15:00:00Z"]]},
  {"id":"press","capacity":1},{"id":"rack","capacity":24}],
 "jobs":[{"id":"B-101","release":"2027-03-01T08:00:00Z","due":"2027-03-02T15:00:00Z","weight":2,
  "steps":[
   {"id":"lay","minutes":65,"uses":{"hands":1},"rest":{"min":480,"ideal":1200,"max":4320,"uses":{"rack":10}}},
   {"id":"remove","minutes":90,"uses":{"hands":1},"rest":{"min":60,"ideal":120,"max":null,"uses":{"rack":10}}},
   {"id":"seal","minutes":30,"uses":{"hands":1},"rest":{"min":120,"ideal":120,"max":null,"uses":{"rack":10}}}]}]}`

func read(t require.TestingT, text string) plan.Problem {
	var p plan.Problem
	require.NoError(t, json.Unmarshal([]byte(text), &p))
	return p
}

func solve(t require.TestingT, text string) plan.Answer {
	a, err := plan.Solve(context.Background(), read(t, text), nil)
	require.NoError(t, err)
	return a
}

func TestWorkedExample(t *testing.T) {
	got, err := json.Marshal(solve(t, example))
	require.NoError(t, err)
	assert.JSONEq(t, `{"format":"tidykiln/plan@1",
 "steps":[{"job":"B-101","step":"lay","start":"2027-03-01T09:00:00Z","end":"2027-03-01T10:05:00Z","because":"opening hours"},
          {"job":"B-101","step":"remove","start":"2027-03-02T09:00:00Z","end":"2027-03-02T10:30:00Z","because":"opening hours"},
          {"job":"B-101","step":"seal","start":"2027-03-02T12:30:00Z","end":"2027-03-02T13:00:00Z","because":"ideal rest after remove"}],
 "jobs":[{"job":"B-101","done":"2027-03-02T15:00:00Z","lateMinutes":0}],
 "objective":{"weightedLateMinutes":0,"restShortfallMinutes":0,"completionMinutes":1860},"unplanned":[]}`, string(got))
}

// problem wraps resources and jobs in a problem that starts on 1 March 2027 at midnight UTC.
func problem(resources, jobs string) string {
	return `{"format":"tidykiln/plan-problem@1","from":"2027-03-01T00:00:00Z","resources":[` + resources + `],"jobs":[` + jobs + `]}`
}

func starts(a plan.Answer) map[string]string {
	at := map[string]string{}
	for _, s := range a.Steps {
		at[s.Job+"/"+s.Step] = s.Start.Format("2 15:04")
	}
	return at
}

const twoDays = `{"id":"hands","capacity":1,"open":[["2027-03-01T09:00:00Z","2027-03-01T15:00:00Z"],["2027-03-02T09:00:00Z","2027-03-02T15:00:00Z"]]}`

func TestUsualRestsGiveWayToADueAndOnlyAsFarAsNeeded(t *testing.T) {
	job := `{"id":"A","due":"2027-03-01T14:00:00Z","steps":[
	  {"id":"a","minutes":30,"uses":{"hands":1},"rest":{"min":60,"ideal":180}},
	  {"id":"b","minutes":30,"uses":{"hands":1},"rest":{"min":60,"ideal":120}},
	  {"id":"c","minutes":30,"uses":{"hands":1}}]}`
	a := solve(t, problem(twoDays, job))
	assert.Equal(t, "1 13:30", starts(a)["A/c"], "all the time there is until the due is rested")
	assert.Equal(t, 90, a.Objective.RestShortfallMinutes)
	assert.Zero(t, a.Objective.WeightedLateMinutes)
}

func TestACeilingPullsTheStepBeforeItLater(t *testing.T) {
	job := `{"id":"A","steps":[
	  {"id":"a","minutes":300,"uses":{"hands":1},"rest":{"min":60,"max":90}},
	  {"id":"b","minutes":120,"uses":{"hands":1}}]}`
	resources := `{"id":"hands","capacity":1,"open":[["2027-03-01T09:00:00Z","2027-03-01T15:00:00Z"],["2027-03-02T09:00:00Z","2027-03-02T18:00:00Z"]]}`
	a := solve(t, problem(resources, job))
	assert.Equal(t, map[string]string{"A/a": "2 09:00", "A/b": "2 15:00"}, starts(a))
}

func TestARackIsHeldUntilTheNextStepReallyStarts(t *testing.T) {
	step := `"steps":[{"id":"a","minutes":60,"uses":{"hands":1},"rest":{"min":120,"uses":{"rack":6}}},{"id":"b","minutes":60,"uses":{"hands":1}}]`
	resources := twoDays + `,{"id":"rack","capacity":10}`
	a := solve(t, problem(resources, `{"id":"A","due":"2027-03-01T18:00:00Z",`+step+`},{"id":"B",`+step+`}`))
	assert.Equal(t, map[string]string{"A/a": "1 09:00", "A/b": "1 12:00", "B/a": "1 11:00", "B/b": "1 14:00"}, starts(a))
	for _, s := range a.Steps {
		if s.Job == "B" && s.Step == "a" {
			assert.Equal(t, "rack full", s.Because.String())
		}
	}
	full := solve(t, problem(twoDays+`,{"id":"rack","capacity":5}`, `{"id":"A",`+step+`}`))
	require.Len(t, full.Unplanned, 1)
	assert.Contains(t, full.Unplanned[0].Reason.String(), "rack")
}

func TestAStepThatFitsNoOpeningIsUnplannedWithTheReason(t *testing.T) {
	a := solve(t, problem(`{"id":"hands","capacity":1,"open":[["2027-03-01T09:00:00Z","2027-03-01T11:00:00Z"]]}`,
		`{"id":"B-9","steps":[{"id":"press","minutes":140,"uses":{"hands":1}}]},{"id":"B-10","steps":[{"id":"press","minutes":90,"uses":{"hands":1}}]}`))
	assert.Equal(t, []plan.Unplanned{{Job: "B-9", Reason: plan.Reason{Kind: plan.TooLong, Step: "press", Resource: "hands", Minutes: 140, Most: 120}}}, a.Unplanned)
	assert.Equal(t, "step press needs 140 min of hands in one go; the longest open interval is 120 min", a.Unplanned[0].Reason.String())
	assert.Equal(t, map[string]string{"B-10/press": "1 09:00"}, starts(a))
}

func TestOneOfTakesWhoeverIsFreeFirstAndNamesThem(t *testing.T) {
	resources := `{"id":"ana","capacity":1,"open":[["2027-03-01T10:00:00Z","2027-03-01T16:00:00Z"]]},{"id":"ben","capacity":1,"open":[["2027-03-01T09:00:00Z","2027-03-01T12:00:00Z"]]}`
	a := solve(t, problem(resources, `{"id":"A","steps":[{"id":"a","minutes":60,"oneOf":["ana","ben"]}]},{"id":"B","steps":[{"id":"a","minutes":150,"oneOf":["ana","ben"]}]}`))
	assert.Equal(t, "ben", a.Steps[0].By)
	assert.Equal(t, "ana", a.Steps[1].By)
	assert.Equal(t, "ana's hours", a.Steps[1].Because.String())
}

func TestInsideStepsLieInTheRestAndPushItsEnd(t *testing.T) {
	job := `{"id":"A","steps":[
	  {"id":"lay","minutes":60,"uses":{"hands":1},"rest":{"min":30,"uses":{"rack":1}}},
	  {"id":"rims","minutes":40,"uses":{"hands":1},"inside":"lay"},
	  {"id":"backs","minutes":20,"uses":{"hands":1},"inside":"lay"},
	  {"id":"clear","minutes":60,"uses":{"hands":1}}]}`
	a := solve(t, problem(twoDays+`,{"id":"rack","capacity":1}`, job))
	assert.Equal(t, map[string]string{"A/lay": "1 09:00", "A/rims": "1 10:00", "A/backs": "1 10:40", "A/clear": "1 11:00"}, starts(a))
	last := `{"id":"A","steps":[
	  {"id":"lay","minutes":60,"uses":{"hands":1},"rest":{"min":120}},
	  {"id":"rims","minutes":40,"uses":{"hands":1,"press":1},"inside":"lay"}]}`
	a = solve(t, problem(twoDays+`,{"id":"press","capacity":1,"open":[["2027-03-02T10:00:00Z","2027-03-02T20:00:00Z"]]}`, last))
	assert.Equal(t, "2 10:00", starts(a)["A/rims"], "the job waits until its inside step can run")
	assert.Empty(t, brokenRules(read(t, problem(twoDays+`,{"id":"press","capacity":1,"open":[["2027-03-02T10:00:00Z","2027-03-02T20:00:00Z"]]}`, last)), a))
}

func TestPinnedStepsStayAndSayWhatTheyBreak(t *testing.T) {
	job := `{"id":"A","steps":[
	  {"id":"a","minutes":30,"uses":{"hands":1},"startedAt":"2027-02-28T20:00:00Z","endedAt":"2027-02-28T20:40:00Z","rest":{"min":60,"max":120}},
	  {"id":"b","minutes":30,"uses":{"hands":1},"rest":{"min":60}},
	  {"id":"c","minutes":30,"uses":{"hands":1}}]}`
	a := solve(t, problem(twoDays, job))
	assert.Equal(t, map[string]string{"A/a": "28 20:00", "A/b": "1 09:00", "A/c": "1 10:30"}, starts(a))
	require.Len(t, a.Warnings, 2)
	assert.Contains(t, a.Warnings[0], "passed its ceiling")
	assert.Contains(t, a.Warnings[1], "outside the open hours")
}

func TestAStartedStepWithoutAnEndEndsNowAtTheSoonest(t *testing.T) {
	a := solve(t, problem(twoDays, `{"id":"A","steps":[{"id":"a","minutes":30,"startedAt":"2027-02-28T20:00:00Z"},{"id":"b","minutes":30}]}`))
	assert.Equal(t, "2027-03-01T00:00:00Z", a.Steps[0].End.Format(time.RFC3339))
	assert.Equal(t, "1 00:00", starts(a)["A/b"])
}

func TestWhatRestsNowKeepsItsRoomFromJobsDueSooner(t *testing.T) {
	resting := `{"id":"A","steps":[{"id":"a","minutes":30,"startedAt":"2027-02-28T20:00:00Z","endedAt":"2027-02-28T20:30:00Z","rest":{"min":720,"uses":{"rack":8}}},{"id":"b","minutes":60,"uses":{"hands":1},"rest":{"min":0,"uses":{"rack":8}}}]}`
	done := `{"id":"Z","steps":[{"id":"a","minutes":30,"startedAt":"2027-02-28T20:00:00Z","endedAt":"2027-02-28T20:30:00Z","rest":{"min":300,"uses":{"rack":2}}}]}`
	sooner := `{"id":"B","due":"2027-03-01T12:00:00Z","steps":[{"id":"a","minutes":60,"uses":{"hands":1},"rest":{"min":60,"uses":{"rack":5}}}]}`
	a := solve(t, problem(twoDays+`,{"id":"rack","capacity":10}`, sooner+","+resting+","+done))
	assert.Equal(t, "1 09:00", starts(a)["A/b"])
	assert.Equal(t, "1 10:00", starts(a)["B/a"])
}

func TestBadProblemsNameTheField(t *testing.T) {
	for name, c := range map[string]struct{ from, to, at string }{
		"format":            {`plan-problem@1`, `plan-problem@9`, "format"},
		"no from":           {`"from":"2027-03-01T08:00:00Z",`, ``, "from"},
		"no minutes":        {`"minutes":65`, `"minutes":0`, "jobs[0].steps[0].minutes"},
		"ideal under min":   {`"ideal":1200`, `"ideal":100`, "jobs[0].steps[0].rest.ideal"},
		"max under min":     {`"max":4320`, `"max":100`, "jobs[0].steps[0].rest.max"},
		"ideal over max":    {`"max":4320`, `"max":1000`, "jobs[0].steps[0].rest.ideal"},
		"unknown resource":  {`"uses":{"hands":1},"rest":{"min":480`, `"uses":{"hand":1},"rest":{"min":480`, "jobs[0].steps[0].uses.hand"},
		"negative use":      {`{"rack":10}}},`, `{"rack":-1}}},`, "jobs[0].steps[0].rest.uses.rack"},
		"same step":         {`"id":"remove"`, `"id":"lay"`, "jobs[0].steps[1].id"},
		"same resource":     {`"id":"press"`, `"id":"hands"`, "resources[1].id"},
		"negative capacity": {`"capacity":24`, `"capacity":-1`, "resources[2].capacity"},
		"open backwards":    {`["2027-03-01T09:00:00Z","2027-03-01T15:00:00Z"]`, `["2027-03-01T15:00:00Z","2027-03-01T09:00:00Z"]`, "resources[0].open[0]"},
		"year 9999":         {`"due":"2027-03-02T15:00:00Z"`, `"due":"9999-03-02T15:00:00Z"`, "jobs[0].due"},
		"negative weight":   {`"weight":2`, `"weight":-2`, "jobs[0].weight"},
		"inside nothing":    {`{"id":"remove",`, `{"id":"remove","inside":"seal",`, "jobs[0].steps[1].inside"},
		"rest inside":       {`{"id":"remove",`, `{"id":"remove","inside":"lay",`, "jobs[0].steps[1].rest"},
		"end, no start":     {`{"id":"remove",`, `{"id":"remove","endedAt":"2027-03-01T09:00:00Z",`, "jobs[0].steps[1].endedAt"},
		"nobody":            {`{"id":"remove",`, `{"id":"remove","oneOf":[],`, "jobs[0].steps[1].oneOf"},
		"unknown person":    {`{"id":"remove",`, `{"id":"remove","oneOf":["ana"],`, "jobs[0].steps[1].oneOf[0]"},
		"negative budget":   {`"budgetMs":1000`, `"budgetMs":-1`, "budgetMs"},
	} {
		require.Contains(t, example, c.from, name)
		_, err := plan.Solve(context.Background(), read(t, strings.Replace(example, c.from, c.to, 1)), nil)
		assert.Equal(t, c.at, fault.Of(err).Path, name)
	}
}

func randomProblem(t *rapid.T) plan.Problem {
	from := time.Date(2027, 3, 1, 6, 0, 0, 0, time.UTC)
	p := plan.Problem{Format: plan.ProblemFormat, From: from, Resources: []plan.Resource{
		{ID: "rack", Capacity: rapid.IntRange(2, 12).Draw(t, "rack")}, {ID: "press", Capacity: 1}}}
	for _, who := range []string{"ana", "ben"} {
		r := plan.Resource{ID: who, Capacity: 1, Open: [][2]time.Time{}}
		for day := range rapid.IntRange(1, 9).Draw(t, "days") {
			start := from.AddDate(0, 0, day).Add(minutes(rapid.IntRange(0, 300).Draw(t, "opens")))
			r.Open = append(r.Open, [2]time.Time{start, start.Add(minutes(rapid.IntRange(0, 500).Draw(t, "open for")))})
		}
		p.Resources = append(p.Resources, r)
	}
	if rapid.Bool().Draw(t, "says join within") {
		p.JoinWithin = new(rapid.IntRange(0, 60).Draw(t, "join within"))
	}
	for n := range rapid.IntRange(1, 7).Draw(t, "jobs") {
		p.Jobs = append(p.Jobs, randomJob(t, string(rune('A'+n)), from))
	}
	return p
}

// roomyProblem is one in which like work lies about everywhere and there are
// hours for all of it.
func roomyProblem(t *rapid.T) plan.Problem {
	from := time.Date(2027, 3, 1, 6, 0, 0, 0, time.UTC)
	p := plan.Problem{Format: plan.ProblemFormat, From: from, Iterations: new(30), Resources: []plan.Resource{{ID: "rack", Capacity: rapid.IntRange(12, 30).Draw(t, "rack")}}}
	for _, who := range []string{"ana", "ben"} {
		r := plan.Resource{ID: who, Capacity: 1}
		for day := range 12 {
			opens := from.AddDate(0, 0, day).Add(minutes(rapid.IntRange(0, 60).Draw(t, "opens")))
			r.Open = append(r.Open, [2]time.Time{opens, opens.Add(minutes(rapid.IntRange(120, 400).Draw(t, "open for")))})
		}
		p.Resources = append(p.Resources, r)
	}
	for n := range rapid.IntRange(2, 9).Draw(t, "jobs") {
		j := plan.Job{ID: string(rune('A' + n)), Due: new(from.Add(minutes(rapid.IntRange(300, 6000).Draw(t, "due"))))}
		for i := range rapid.IntRange(1, 4).Draw(t, "steps") {
			low := rapid.IntRange(0, 300).Draw(t, "min")
			s := plan.Step{ID: string(rune('a' + i)), Minutes: rapid.IntRange(5, 60).Draw(t, "minutes"), OneOf: []string{"ana", "ben"},
				Setup: &plan.Setup{Kin: rapid.SampledFrom([]string{"seal", "lay"}).Draw(t, "kin"), Minutes: rapid.IntRange(5, 20).Draw(t, "set-up minutes")},
				Rest:  &plan.Rest{Min: low, Ideal: new(low + rapid.IntRange(0, 200).Draw(t, "ideal")), Uses: map[string]int{"rack": rapid.IntRange(0, 9).Draw(t, "places")}}}
			setPaces(t, &s)
			if rapid.IntRange(0, 3).Draw(t, "has max") == 0 {
				s.Rest.Max = new(*s.Rest.Ideal + rapid.IntRange(300, 3000).Draw(t, "max"))
			}
			j.Steps = append(j.Steps, s)
		}
		p.Jobs = append(p.Jobs, j)
	}
	return p
}

func TestRandomSittingsBreakNoRule(t *testing.T) {
	joined := 0
	rapid.Check(t, func(t *rapid.T) {
		p := roomyProblem(t)
		a, err := plan.Solve(context.Background(), p, nil)
		require.NoError(t, err)
		assert.Empty(t, brokenRules(p, a))
		for _, s := range a.Steps {
			if s.Joined {
				joined++
			}
		}
		again, err := plan.Solve(context.Background(), p, &a)
		require.NoError(t, err)
		assert.Empty(t, brokenRules(p, again))
		assert.LessOrEqual(t, worse(again, a), 0.0, "the plan that stands is never made worse")
		cut := pinned(p, a, p.From.Add(minutes(rapid.IntRange(0, 4000).Draw(t, "now"))))
		later, err := plan.Solve(context.Background(), cut, &a)
		require.NoError(t, err)
		assert.Empty(t, brokenRules(cut, later))
	})
	assert.Positive(t, joined)
}

// worse compares two plans as the objective does: over 0 where the first is worse.
func worse(a, b plan.Answer) float64 {
	p, q := a.Objective, b.Objective
	setup := func(o plan.Objective) int {
		if o.SetupMinutes == nil {
			return 0
		}
		return *o.SetupMinutes
	}
	for _, d := range []float64{float64(len(a.Unplanned) - len(b.Unplanned)), p.WeightedLateMinutes - q.WeightedLateMinutes, float64(p.RestShortfallMinutes - q.RestShortfallMinutes),
		float64(p.CompletionMinutes + 60*setup(p) - q.CompletionMinutes - 60*setup(q))} {
		if d > 1e-6 || d < -1e-6 {
			return d
		}
	}
	return 0
}

// setPaces lets somebody be quicker or slower at one step in three.
func setPaces(t *rapid.T, s *plan.Step) {
	if len(s.OneOf) > 0 && rapid.IntRange(0, 2).Draw(t, "own pace") == 0 {
		s.MinutesBy = map[string]int{rapid.SampledFrom(s.OneOf).Draw(t, "whose pace"): rapid.IntRange(1, 250).Draw(t, "own minutes")}
	}
}

func randomJob(t *rapid.T, id string, from time.Time) plan.Job {
	j := plan.Job{ID: id}
	if rapid.Bool().Draw(t, "has due") {
		due := from.Add(minutes(rapid.IntRange(0, 8000).Draw(t, "due")))
		j.Due = &due
	}
	if rapid.Bool().Draw(t, "has release") {
		release := from.Add(minutes(rapid.IntRange(-500, 3000).Draw(t, "release")))
		j.Release = &release
	}
	outer := ""
	for i := range rapid.IntRange(1, 6).Draw(t, "steps") {
		s := plan.Step{ID: string(rune('a' + i)), Minutes: rapid.IntRange(1, 200).Draw(t, "minutes"), OneOf: []string{"ana", "ben"}}
		switch rapid.IntRange(0, 9).Draw(t, "set-up") {
		case 0, 1, 2, 3:
			s.Setup = &plan.Setup{Kin: rapid.SampledFrom([]string{"seal", "lay"}).Draw(t, "kin"), Minutes: rapid.IntRange(0, 25).Draw(t, "set-up minutes")}
		case 4:
			s.OneOf, s.Uses, s.Setup = nil, map[string]int{"ana": 1}, &plan.Setup{Kin: "seal", Minutes: 12}
		}
		setPaces(t, &s)
		if s.Uses == nil && rapid.IntRange(0, 3).Draw(t, "presses") == 0 {
			s.Uses = map[string]int{"press": 1, "rack": rapid.IntRange(0, 2).Draw(t, "rack in step")}
		}
		if outer != "" && rapid.IntRange(0, 3).Draw(t, "is inside") == 0 {
			s.Inside = outer
			j.Steps = append(j.Steps, s)
			continue
		}
		outer = s.ID
		if rapid.IntRange(0, 4).Draw(t, "rests") > 0 {
			low := rapid.IntRange(0, 900).Draw(t, "min")
			ideal := low + rapid.IntRange(0, 900).Draw(t, "ideal")
			s.Rest = &plan.Rest{Min: low, Ideal: &ideal, Uses: map[string]int{"rack": rapid.IntRange(0, 8).Draw(t, "rack")}}
			if rapid.IntRange(0, 2).Draw(t, "has max") == 0 {
				most := ideal + rapid.IntRange(0, 600).Draw(t, "max")
				s.Rest.Max = &most
			}
		}
		j.Steps = append(j.Steps, s)
	}
	return j
}

func TestRandomPlansBreakNoRule(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := randomProblem(t)
		p.Iterations = new(rapid.IntRange(0, 60).Draw(t, "iterations"))
		a, err := plan.Solve(context.Background(), p, nil)
		require.NoError(t, err)
		assert.Empty(t, brokenRules(p, a))
		again, err := plan.Solve(context.Background(), p, nil)
		require.NoError(t, err)
		assert.Equal(t, a, again, "the same question has the same answer")
	})
}

// A plan cut off in the middle of its execution goes on without breaking a rule:
// what had started is pinned, and the rest is planned around it.
func TestPlansGoOnFromAnyMoment(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := randomProblem(t)
		p.Iterations = new(20)
		before, err := plan.Solve(context.Background(), p, nil)
		require.NoError(t, err)
		now := p.From.Add(minutes(rapid.IntRange(0, 6000).Draw(t, "now")))
		cut := pinned(p, before, now)
		after, err := plan.Solve(context.Background(), cut, rapid.SampledFrom([]*plan.Answer{nil, &before}).Draw(t, "standing"))
		require.NoError(t, err)
		assert.Empty(t, brokenRules(cut, after))
		for _, s := range after.Steps {
			if s.Because.Kind != plan.Done && s.Because.Kind != plan.UnderWay {
				assert.False(t, s.Start.Before(now))
			}
		}
	})
}

func pinned(p plan.Problem, a plan.Answer, now time.Time) plan.Problem {
	later := p
	later.From = now
	later.Jobs = nil
	for _, j := range p.Jobs {
		steps := append([]plan.Step(nil), j.Steps...)
		for i := range steps {
			for _, at := range a.Steps {
				if at.Job != j.ID || at.Step != steps[i].ID || !at.Start.Before(now) {
					continue
				}
				start, end := at.Start, at.End
				steps[i].StartedAt = &start
				if at.By != "" {
					steps[i].OneOf = []string{at.By}
				}
				if !end.After(now) {
					steps[i].EndedAt = &end
				}
			}
		}
		j.Steps = steps
		later.Jobs = append(later.Jobs, j)
	}
	return later
}
