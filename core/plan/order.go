package plan

import "cmp"

// order is a way to line jobs up for placing, first come first served.
type order func(p *planner, a, b *jobState) int

// orders are tried in turn, the last only where something is overfull. Being
// under way gives no right of way beyond the ceiling of the rest a job is in.
var orders = []struct {
	order        order
	onlyOverfull bool
}{{order: leastToSpare}, {order: soonestDue}, {order: clearing, onlyOverfull: true}}

func leastToSpare(_ *planner, a, b *jobState) int {
	return cmp.Or(cmp.Compare(a.latestStart(), b.latestStart()), cmp.Compare(a.due, b.due), -cmp.Compare(a.weight, b.weight))
}

func soonestDue(_ *planner, a, b *jobState) int {
	return cmp.Or(cmp.Compare(min(a.due, a.ceiling), min(b.due, b.ceiling)), -cmp.Compare(a.weight, b.weight))
}

// clearing lets go on first what stands on an overfull resource, so that
// whatever else needs it waits less; of that, what will rest on more of it than now comes last.
func clearing(p *planner, a, b *jobState) int {
	rank := func(j *jobState) int {
		switch {
		case !p.standsOver(j):
			return 2
		case p.outgrows(j):
			return 1
		}
		return 0
	}
	return cmp.Or(cmp.Compare(rank(a), rank(b)), leastToSpare(p, a, b))
}

// latestStart is when a job must go on at the latest, were it alone: for its
// due, and for the ceiling of the rest it is in.
func (j *jobState) latestStart() moment {
	if j.due >= never {
		return j.ceiling
	}
	return min(j.ceiling, j.due-j.left)
}
