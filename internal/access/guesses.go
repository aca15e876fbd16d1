package access

import (
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
)

// Somebody who guesses is slowed down, and never those who do not. Wrong tries are
// counted by whoever makes them: a device that has come in by the member before,
// the machine itself, or else an address. Those of addresses nobody knows are
// counted for the member together as well, so that many of them find no more than
// one; and that never locks a device which has been in before.
const (
	// freeTries are wrong ones without a wait: anybody mistypes.
	freeTries = 5
	// manyTries are those of all strange addresses together, for one member.
	manyTries = 50
	// shortestWait doubles with each wrong try after that, up to the longest.
	shortestWait = 15 * time.Second
	longestWait  = 15 * time.Minute
	// forgotten is how long after the last wrong try all of them are.
	forgotten = 2 * time.Hour
)

// mostGuessers bounds what is kept; the oldest are forgotten.
const mostGuessers = 20_000

type guesses struct {
	now func() time.Time
	mu  sync.Mutex
	by  *lru.Cache[string, guesser]
}

type guesser struct {
	wrong int
	last  time.Time
}

func newGuesses(now func() time.Time) *guesses {
	by, _ := lru.New[string, guesser](mostGuessers) // only a size under 1 fails
	return &guesses{now: now, by: by}
}

// limit is one count that a try falls under.
type limit struct {
	key  string
	free int
}

// try counts a try under its limits before it is judged, so that many at once are
// not let through together; right takes it back. Where one of them is used up it
// counts nothing, and gives how long it stays so.
func (g *guesses) try(under ...limit) (wait time.Duration) {
	g.mu.Lock()
	defer g.mu.Unlock()
	now := g.now()
	for _, l := range under {
		wait = max(wait, g.fresh(l, now).waits(l, now))
	}
	if wait > 0 {
		return wait
	}
	for _, l := range under {
		g.by.Add(l.key, guesser{g.fresh(l, now).wrong + 1, now})
	}
	return 0
}

// fresh is what is remembered under a limit.
func (g *guesses) fresh(l limit, now time.Time) guesser {
	seen, _ := g.by.Get(l.key)
	if now.Sub(seen.last) > forgotten {
		return guesser{}
	}
	return seen
}

func (seen guesser) waits(l limit, now time.Time) time.Duration {
	over := seen.wrong - l.free
	if over < 0 {
		return 0
	}
	return seen.last.Add(min(longestWait, shortestWait<<min(over, 10))).Sub(now)
}

// right forgets whoever has come in; what strangers tried for the member together stays counted.
func (g *guesses) right(under ...limit) {
	g.mu.Lock()
	defer g.mu.Unlock()
	for _, l := range under {
		if l.free == freeTries {
			g.by.Remove(l.key)
			continue
		}
		if seen, there := g.by.Get(l.key); there && seen.wrong > 0 {
			g.by.Add(l.key, guesser{seen.wrong - 1, seen.last})
		}
	}
}
