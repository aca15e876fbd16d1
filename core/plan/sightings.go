package plan

import (
	"fmt"
	"strings"
)

// sightings remember, for jobs that ask for the same and the waits they were
// tried with, before which moment there is no start: what is held only grows,
// so the next of them need not look there again.
type sightings map[string]bound

// kindOf writes down all that the placing of an unbegun job depends on.
func kindOf(j *jobState) string {
	var b strings.Builder
	fmt.Fprint(&b, j.release)
	for _, s := range j.Steps {
		fmt.Fprint(&b, "|", s.ID, s.Minutes, s.Uses, s.OneOf, s.Apart, s.Inside)
		if s.Rest != nil {
			fmt.Fprint(&b, s.Rest.Min, s.Rest.Uses)
			if s.Rest.Max != nil {
				fmt.Fprint(&b, *s.Rest.Max)
			}
		}
	}
	return b.String()
}

func (s sightings) key(j *jobState, wait []int) string { return fmt.Sprint(j.kind, wait) }

// of is where the search for a start may begin.
func (s sightings) of(j *jobState, wait []int) (bound, bool) {
	if j.kind == "" {
		return bound{}, false
	}
	b, known := s[s.key(j, wait)]
	return b, known
}

// note keeps what a trial came to.
func (s sightings) note(j *jobState, wait []int, r *run, o outcome) {
	if j.kind == "" {
		return
	}
	if o.placed == nil {
		s[s.key(j, wait)] = bound{at: never, because: o.failure}
		return
	}
	s[s.key(j, wait)] = r.began
}

// forget drops everything: something that was held has been given back.
func (s sightings) forget() { clear(s) }
