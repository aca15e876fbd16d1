package plan_test

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"runtime"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"tidykiln/core/plan"
)

// earliestDue is the weighted lateness of the overloaded cases where jobs are
// placed one after the other by their due, each by exact insertion: the figure
// that the search is measured by. It came with the cases.
const earliestDue = 7451135

func cases(b *testing.B, pattern string) (problems []plan.Problem) {
	files, err := filepath.Glob("testdata/plan-" + pattern + "-*.json")
	require.NoError(b, err)
	require.NotEmpty(b, files)
	for _, file := range files {
		text, err := os.ReadFile(file)
		require.NoError(b, err)
		var p plan.Problem
		require.NoError(b, json.Unmarshal(text, &p))
		problems = append(problems, p)
	}
	return problems
}

func within(b *testing.B, p plan.Problem, ms int) plan.Answer {
	p.BudgetMs = &ms
	a, err := plan.Solve(context.Background(), p, nil)
	require.NoError(b, err)
	require.Empty(b, brokenRules(p, a))
	return a
}

func BenchmarkOverloadedStudios(b *testing.B) {
	for _, ms := range []int{1000, 5000} {
		b.Run(fmt.Sprintf("%dms", ms), func(b *testing.B) {
			for b.Loop() {
				late := 0.0
				for _, p := range cases(b, "overloaded") {
					late += within(b, p, ms).Objective.WeightedLateMinutes
				}
				b.ReportMetric(late/earliestDue, "of-earliest-due")
			}
		})
	}
}

func BenchmarkSittings(b *testing.B) {
	for b.Loop() {
		var paid, all, joining, without float64
		for _, p := range cases(b, "sittings") {
			a := within(b, p, 2000)
			paid += float64(*a.Objective.SetupMinutes)
			joining += a.Objective.WeightedLateMinutes
			for i := range p.Jobs {
				for k := range p.Jobs[i].Steps {
					s := &p.Jobs[i].Steps[k]
					all += float64(s.Setup.Minutes)
					s.Minutes, s.Setup = s.Minutes+s.Setup.Minutes, nil
				}
			}
			without += within(b, p, 2000).Objective.WeightedLateMinutes
		}
		b.ReportMetric(paid/all, "of-set-ups-paid")
		b.ReportMetric(joining/without, "of-lateness-without")
	}
}

// smallCases are how many the benchmarks prove.
const smallCases = 200

func BenchmarkSmallCases(b *testing.B) {
	for _, ms := range []int{100, 1000} {
		b.Run(fmt.Sprintf("%dms", ms), func(b *testing.B) {
			for b.Loop() {
				proven, missed := 0, 0
				for seed := uint64(0); proven < smallCases; seed++ {
					p := smallCase(seed)
					a := within(b, p, ms)
					if len(a.Unplanned) > 0 {
						continue // some job cannot be made at all
					}
					e := newExact(p, a.Objective.WeightedLateMinutes)
					e.search(nil)
					proven++
					if e.best < a.Objective.WeightedLateMinutes-1e-6 {
						missed++
					}
				}
				b.ReportMetric(float64(missed), "missed-of-200")
			}
		})
	}
}

func BenchmarkFirstPlan(b *testing.B) {
	for _, c := range []struct{ jobs, grid int }{{150, 5}, {150, 1}, {600, 5}, {2400, 5}} {
		b.Run(fmt.Sprintf("%djobs-%dmin", c.jobs, c.grid), func(b *testing.B) {
			p := busyStudio(c.jobs, c.grid)
			p.BudgetMs = new(0)
			unplanned := 0
			for b.Loop() {
				a, err := plan.Solve(context.Background(), p, nil)
				require.NoError(b, err)
				unplanned = len(a.Unplanned)
			}
			b.ReportMetric(float64(unplanned), "unplanned")
			var m runtime.MemStats
			runtime.ReadMemStats(&m)
			b.ReportMetric(float64(m.Sys)/1e6, "MB-of-system")
		})
	}
}

func BenchmarkBudgetIsKept(b *testing.B) {
	p := busyStudio(150, 1)
	p.BudgetMs = new(1000)
	for b.Loop() {
		begun := time.Now()
		_, err := plan.Solve(context.Background(), p, nil)
		require.NoError(b, err)
		b.ReportMetric(time.Since(begun).Seconds(), "s-for-1-s")
	}
}

// BenchmarkAfterAnEvent plans anew, from the plan that stands, when what is in
// hand takes 40 minutes longer, at twelve moments of four days. Of the coming
// day's steps it tells how many are given to somebody else or to another place in
// their order; how many of these had to be, since without any search, as what
// stands is pushed on, they no longer fit their day; and how many minutes late
// the others save.
func BenchmarkAfterAnEvent(b *testing.B) {
	p := busyStudio(150, 5)
	before := within(b, p, 2000)
	for b.Loop() {
		var longest time.Duration
		moved, pushedOn, saved, events := 0.0, 0.0, 0.0, 0
		for day := range 4 {
			for _, hour := range []int{2, 4, 6} {
				now := p.From.Add(time.Duration(24*(day+1)+hour) * time.Hour)
				late := delayed(pinned(p, before, now), now.Add(minutes(40)))
				pushed := late
				pushed.Iterations = new(0)
				strict := solved(b, pushed, &before)
				late.BudgetMs = new(200)
				begun := time.Now()
				after := solved(b, late, &before)
				longest = max(longest, time.Since(begun))
				require.Empty(b, brokenRules(late, after))
				events++
				moved += movedShare(before, after, now)
				pushedOn += movedShare(before, strict, now)
				saved += strict.Objective.WeightedLateMinutes - after.Objective.WeightedLateMinutes
			}
		}
		b.ReportMetric(float64(longest.Milliseconds()), "ms-to-the-new-plan")
		b.ReportMetric(moved/float64(events), "of-steps-moved")
		b.ReportMetric(pushedOn/float64(events), "of-steps-had-to")
		b.ReportMetric(saved/float64(events), "late-minutes-saved")
	}
}

// delayed lets what is in hand be done only then.
func delayed(p plan.Problem, until time.Time) plan.Problem {
	for i := range p.Jobs {
		for k := range p.Jobs[i].Steps {
			if s := &p.Jobs[i].Steps[k]; s.StartedAt != nil && s.EndedAt == nil {
				s.EndedAt = &until
			}
		}
	}
	return p
}
