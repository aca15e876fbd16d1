package plan

import (
	"encoding/binary"
	"fmt"
	"slices"
	"strings"
)

// sightings remember, for jobs that ask for the same and the waits they were
// tried with, before which moment there is no start: what is held only grows,
// so the next of them need not look there again.
type sightings map[sighting]bound

// sighting is a kind of job with the waits it was tried with, in minutes.
type sighting struct {
	kind int
	wait string
}

// noKind is the kind of jobs that have begun: no two of them are alike.
const noKind = -1

// kindsOf numbers the jobs by all that the placing of an unbegun one depends on.
func kindsOf(jobs []Job) []int {
	kinds := make([]int, len(jobs))
	known := map[string]int{}
	for i, j := range jobs {
		kinds[i] = noKind
		if slices.ContainsFunc(j.Steps, func(s Step) bool { return s.StartedAt != nil }) {
			continue
		}
		text := asked(j)
		if _, seen := known[text]; !seen {
			known[text] = len(known)
		}
		kinds[i] = known[text]
	}
	return kinds
}

// asked writes a job down without its name, due and weight.
func asked(j Job) string {
	var b strings.Builder
	if j.Release != nil {
		fmt.Fprint(&b, j.Release.UnixNano())
	}
	for _, s := range j.Steps {
		fmt.Fprint(&b, "|", s.ID, s.Minutes, s.Uses, s.OneOf, s.Apart, s.Inside)
		if s.NotBefore != nil {
			fmt.Fprint(&b, s.NotBefore.UnixNano())
		}
		if s.Rest != nil {
			fmt.Fprint(&b, s.Rest.Min, s.Rest.Uses)
			if s.Rest.Max != nil {
				fmt.Fprint(&b, *s.Rest.Max)
			}
		}
	}
	return b.String()
}

func sightingOf(j *jobState, wait []int) sighting {
	text := make([]byte, 0, 5*len(wait))
	for _, minutes := range wait {
		text = binary.AppendUvarint(text, uint64(minutes))
	}
	return sighting{j.kind, string(text)}
}

// of is where the search for a start may begin.
func (s sightings) of(j *jobState, wait []int) (bound, bool) {
	if j.kind == noKind {
		return bound{}, false
	}
	b, known := s[sightingOf(j, wait)]
	return b, known
}

// note keeps what a trial came to.
func (s sightings) note(j *jobState, wait []int, r *run, o outcome) {
	switch {
	case j.kind == noKind:
	case o.placed == nil:
		s[sightingOf(j, wait)] = bound{at: never, because: o.failure}
	default:
		s[sightingOf(j, wait)] = r.began
	}
}

// forget drops everything: something that was held has been given back.
func (s sightings) forget() { clear(s) }
