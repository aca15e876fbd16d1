package craft

import (
	"slices"
	"strings"
)

// Trouble is a sign that something went wrong, with its likely cause, what to
// do now, and what to do next time.
type Trouble struct {
	Key   string `json:"key"`
	Sign  string `json:"sign"`
	Cause string `json:"cause"`
	Now   string `json:"now"`
	Next  string `json:"next"`
	// Change is what a recipe does differently next time: the first of these that changes anything.
	Change []Edit `json:"change"`
}

// Troubles lists the signs in the order of the guide.
func Troubles() []Trouble { return slices.Clone(library.troubles) }

// TroubleByKey finds a sign.
func TroubleByKey(key string) (Trouble, bool) {
	i := slices.IndexFunc(library.troubles, func(t Trouble) bool { return t.Key == key })
	if i < 0 {
		return Trouble{}, false
	}
	return library.troubles[i], true
}

// Offer is the recipe as it would be next time, and what changes in words;
// empty words when the recipe has no step that would change, or has it already.
func (t Trouble) Offer(r Recipe, ask Ask) (Recipe, string) {
	for _, e := range t.Change {
		changed, words, err := r.Edited(e, ask)
		if err == nil && len(words) > 0 && changed.Validate() == nil {
			return changed, strings.Join(words, "; ")
		}
	}
	return r, ""
}
