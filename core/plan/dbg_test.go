package plan_test

import (
	"context"
	"fmt"
	"os"
	"testing"
	"tidykiln/core/plan"
	"time"
)

func TestDbg(t *testing.T) {
	zero, opt, un, nodes := 0, 0, 0, 0
	ms := 100
	fmt.Sscan(os.Getenv("MS"), &ms)
	for seed := range uint64(200) {
		p := smallCase(seed)
		p.BudgetMs = &ms
		a, _ := plan.Solve(context.Background(), p, nil)
		if len(a.Unplanned) > 0 {
			un++
			continue
		}
		if a.Objective.WeightedLateMinutes == 0 {
			zero++
		}
		b := time.Now()
		e := newExact(p, a.Objective.WeightedLateMinutes)
		e.search(nil)
		nodes += e.nodes
		if e.best >= a.Objective.WeightedLateMinutes-1e-6 {
			opt++
		} else {
			fmt.Println("case", seed, len(p.Jobs), a.Objective.WeightedLateMinutes, "best", e.best, e.nodes)
		}
		if time.Since(b) > 2*time.Second {
			fmt.Println("slow", seed, e.nodes, time.Since(b), a.Objective.WeightedLateMinutes)
		}
	}
	fmt.Println("zero", zero, "opt", opt, "un", un, nodes)
}
