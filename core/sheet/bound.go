package sheet

import "math"

// lowerBound is a number of sheets that no layout can be under: the best of the
// area bound and of bounds that round sides up or down to what can stand beside
// them (dual feasible functions: Fekete and Schepers, "New classes of fast lower
// bounds for bin packing problems", 2001). A rectangle counts with its gap, a circle
// with half the gap round it; in the rounded bounds a circle is the square within it.
func (t *table) lowerBound() int {
	if len(t.kinds) == 0 {
		return 0
	}
	w, h := t.width+t.gap, t.height+t.gap
	best := ceiling(t.needed() / (w * h))
	across, down := t.thresholds(w), t.thresholds(h)
	for _, fx := range across {
		for _, fy := range down {
			best = max(best, t.roundedBound(fx, fy, w, h))
		}
	}
	return max(best, 1)
}

// needed is the area that all prints take with their share of the gaps.
func (t *table) needed() (area float64) {
	for _, k := range t.kinds {
		each := (k.w + t.gap) * (k.h + t.gap)
		if k.circle {
			each = math.Pi * (k.r + t.gap/2) * (k.r + t.gap/2)
		}
		area += each * float64(k.count)
	}
	return area
}

// leastOver is the least that the outlines on the last of so many sheets can measure.
func (t *table) leastOver(sheets int) float64 {
	return t.needed() - float64(sheets-1)*(t.width+t.gap)*(t.height+t.gap) + 1e-3
}

// rounding maps a share of a side, 0 to 1, so that whatever fits in 1 still does.
type rounding func(share float64) float64

func asItIs(share float64) float64 { return share }

// beside drops what is under a threshold and lets what leaves less than that count
// for all.
func without(threshold float64) rounding {
	return func(share float64) float64 {
		switch {
		case share > 1-threshold+1e-9:
			return 1
		case share < threshold-1e-9:
			return 0
		}
		return share
	}
}

// inParts counts how many whole parts of a side a share takes, where k+1 of them
// make the side.
func inParts(k int) rounding {
	return func(share float64) float64 {
		parts := share * float64(k+1)
		if whole := math.Round(parts); math.Abs(parts-whole) < 1e-9 {
			return share
		}
		return math.Floor(parts) / float64(k)
	}
}

// thresholds are the roundings worth trying along one side of the sheet.
func (t *table) thresholds(side float64) []rounding {
	all := []rounding{asItIs, inParts(1), inParts(2), inParts(3), inParts(4), inParts(5)}
	seen := map[int]bool{}
	add := func(share float64) {
		if share > 0.5 {
			share = 1 - share
		}
		if key := int(share * 1e6); share > 0.01 && !seen[key] && len(seen) < 24 {
			seen[key] = true
			all = append(all, without(share))
		}
	}
	for _, k := range t.kinds {
		if k.circle {
			add((k.w + t.gap) / math.Sqrt2 / side)
			continue
		}
		add((k.w + t.gap) / side)
		add((k.h + t.gap) / side)
	}
	return all
}

func (t *table) roundedBound(fx, fy rounding, w, h float64) int {
	sum := 0.0
	for _, k := range t.kinds {
		least := math.Inf(1)
		for _, i := range k.forms {
			f := &t.forms[i]
			fw, fh := f.w+t.gap, f.h+t.gap
			if f.circle {
				fw, fh = fw/math.Sqrt2, fh/math.Sqrt2
			}
			least = min(least, fx(min(fw/w, 1))*fy(min(fh/h, 1)))
		}
		sum += least * float64(k.count)
	}
	return ceiling(sum)
}

// ceiling rounds up but for the noise of binary sums.
func ceiling(v float64) int { return int(math.Ceil(v - 1e-9)) }
