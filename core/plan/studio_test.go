package plan_test

import (
	"fmt"
	"math/rand/v2"
	"time"

	"tidykiln/core/plan"
)

// busyStudio has so many jobs of six steps for two people, two racks and a
// press, over as many days as the jobs need; grid is what all minutes are a
// multiple of.
func busyStudio(jobs, grid int) plan.Problem {
	r := rand.New(rand.NewPCG(uint64(jobs), uint64(grid)))
	from := time.Date(2027, 3, 1, 8, 0, 0, 0, time.UTC)
	days := 60 * jobs / 150
	p := plan.Problem{Format: plan.ProblemFormat, From: from, Resources: []plan.Resource{{ID: "rack", Capacity: 120}, {ID: "shelf", Capacity: 60}, {ID: "press", Capacity: 1}}}
	for _, who := range []string{"ana", "ben"} {
		hands := plan.Resource{ID: who, Capacity: 1}
		for day := range days {
			opens := from.AddDate(0, 0, day).Add(time.Hour)
			hands.Open = append(hands.Open, [2]time.Time{opens, opens.Add(minutes(360 + grid*r.IntN(120/grid)))})
		}
		p.Resources = append(p.Resources, hands)
	}
	some := func(low, most int) int { return (low + r.IntN(most-low)) / grid * grid }
	for n := range jobs {
		pieces := 4 + r.IntN(9)
		j := plan.Job{ID: fmt.Sprint("B-", n), Weight: new(float64(1 + r.IntN(3)))}
		for i, name := range []string{"base", "lay", "clear", "press", "seal", "pack"} {
			s := plan.Step{ID: name, Minutes: some(15, 60), OneOf: []string{"ana", "ben"}, Setup: &plan.Setup{Kin: name, Minutes: grid * (1 + 10/grid)}}
			room := map[string]int{"rack": pieces}
			if i == 3 {
				s.Uses, room = map[string]int{"press": 1}, map[string]int{"shelf": pieces}
			}
			low := some(60, 500)
			s.Rest = &plan.Rest{Min: low, Ideal: new(low + some(0, 400)), Uses: room}
			if i == 1 {
				s.Rest.Max = new(*s.Rest.Ideal + 4320)
			}
			j.Steps = append(j.Steps, s)
		}
		j.Due = new(from.Add(time.Duration(3+r.IntN(days*4/5)) * 24 * time.Hour))
		p.Jobs = append(p.Jobs, j)
	}
	return p
}
