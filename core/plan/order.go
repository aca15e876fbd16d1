package plan

import "cmp"

// order is a way to line jobs up for placing, first come first served.
type order func(p *planner, a, b *jobState) int

// orders are tried in turn. Being under way gives no right of way beyond the
// ceiling of the rest a job is in.
var orders = []order{
	// The least time to spare first.
	func(p *planner, a, b *jobState) int {
		return cmp.Or(cmp.Compare(a.latestStart(), b.latestStart()), cmp.Compare(a.due, b.due), -cmp.Compare(a.weight, b.weight))
	},
	// The soonest due first.
	func(p *planner, a, b *jobState) int {
		return cmp.Or(cmp.Compare(min(a.due, a.ceiling), min(b.due, b.ceiling)), -cmp.Compare(a.weight, b.weight))
	},
}

// latestStart is when a job must go on at the latest, were it alone: for its
// due, and for the ceiling of the rest it is in.
func (j *jobState) latestStart() moment {
	if j.due >= never {
		return j.ceiling
	}
	return min(j.ceiling, j.due-j.left)
}
