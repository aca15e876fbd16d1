package chance_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/chance"
)

// days are open from nine to three on so many days.
func days(n int) (open []chance.Stretch) {
	for d := range n {
		open = append(open, chance.Stretch{From: d*1440 + 540, To: d*1440 + 900, Day: d})
	}
	return open
}

func play(t require.TestingT, s chance.Studio, runs int) []int {
	all := make([]int, len(s.Jobs))
	for i := range all {
		all[i] = i
	}
	done, err := chance.Play(context.Background(), s, [][]int{all}, runs, 7)
	require.NoError(t, err)
	return done[0]
}

// onRack is one place of the first there are.
var onRack = []chance.Use{{Place: 0, N: 1}}

// roomy are places of which there are more than anything takes.
func roomy() []chance.Place { return []chance.Place{{Capacity: 1000}} }

// lift is laid, rests and is cleared; ten pieces.
func lift() chance.Job {
	return chance.Job{Pieces: 10, Need: 10, Steps: []chance.Step{{Setup: 10, Each: 5, Rest: 600, Keeps: onRack}, {Planned: 1, Setup: 0, Each: 3, Rest: 60}}}
}

func TestWithoutChanceEverythingGoesAsPlanned(t *testing.T) {
	s := chance.Studio{Hands: []chance.Hand{{Open: days(3)}}, Places: roomy(), Jobs: []chance.Job{lift()}}
	done := play(t, s, 20)
	assert.Equal(t, 1440+540+30+60, done[0], "laid till 10:00, rested at 20:00, cleared from 9:00 on, and an hour of rest")
	assert.Equal(t, done[0], done[19])

	short := lift()
	short.Steps[0].Rest = 120
	s.Jobs = []chance.Job{short}
	assert.Equal(t, 540+60+120+30+60, play(t, s, 1)[0], "the same day when the rest is over in time")

	s.Jobs = []chance.Job{lift(), lift()}
	s.Hands = append(s.Hands, chance.Hand{Open: days(3)})
	assert.Equal(t, 1440+540+30+60, play(t, s, 1)[0], "two people lay side by side")
	s.Places[0].Capacity = 10
	assert.Equal(t, 2*1440+540+30+60, play(t, s, 1)[0], "one lot waits for the rack until the other leaves it")
}

func TestWhatIsPlannedFirstIsDoneFirst(t *testing.T) {
	late, soon := lift(), lift()
	late.Steps[0].Planned, late.Steps[1].Planned, soon.Steps[0].Planned = 900, 901, 5
	s := chance.Studio{Hands: []chance.Hand{{Open: days(3)}}, Places: roomy(), Jobs: []chance.Job{late, soon}}
	done, err := chance.Play(context.Background(), s, [][]int{{0}, {1}}, 1, 1)
	require.NoError(t, err)
	assert.Less(t, done[1][0], done[0][0])
}

func TestAStepInsideARestDoesNotWaitForIt(t *testing.T) {
	job := chance.Job{Pieces: 1, Need: 1, Steps: []chance.Step{{Each: 10, Rest: 120}, {Planned: 1, Each: 30, Inside: true}, {Planned: 2, Each: 5}}}
	s := chance.Studio{Hands: []chance.Hand{{Open: days(1)}}, Jobs: []chance.Job{job}}
	assert.Equal(t, 540+10+120+5, play(t, s, 1)[0])
	job.Steps[1].Each = 200
	assert.Equal(t, 540+10+200+5, play(t, s, 1)[0], "nor is it cut short")
}

func TestIllnessMinutesRoundsAndSpoilsCostTime(t *testing.T) {
	sure := chance.Studio{Hands: []chance.Hand{{Open: days(40)}}, Places: roomy(), Jobs: []chance.Job{lift()}}
	planned := play(t, sure, 1)[0]
	worse := func(name string, change func(*chance.Studio)) {
		s := chance.Studio{Hands: sure.Hands, Places: roomy(), Jobs: []chance.Job{lift()}}
		change(&s)
		done := play(t, s, 400)
		assert.Equal(t, planned, done[0], "%s: it may go well", name)
		assert.Greater(t, done[399], planned, "%s: or not", name)
		assert.Less(t, done[399], chance.Never, name)
	}
	worse("illness", func(s *chance.Studio) { s.Ill = 0.3 })
	worse("another round", func(s *chance.Studio) { s.Jobs[0].Steps[1].Again = 0.3 })
	worse("spoils", func(s *chance.Studio) {
		s.Jobs[0].Steps[1].Yield, s.Jobs[0].Remake = 0.9, lift().Steps
	})
	spare := lift()
	spare.Need, spare.Steps[1].Yield, spare.Remake = 1, 0.9, lift().Steps
	assert.Equal(t, planned, play(t, chance.Studio{Hands: sure.Hands, Places: roomy(), Jobs: []chance.Job{spare}}, 200)[199], "spare pieces take their place")

	paced := lift()
	paced.Steps[1].Pace = chance.Pace{Mean: 0, Sd: 0.4}
	done := play(t, chance.Studio{Hands: sure.Hands, Places: roomy(), Jobs: []chance.Job{paced}}, 401)
	assert.InDelta(t, planned, done[200], 2, "as often sooner as later")
	assert.Less(t, done[40], done[360])
}

func TestTheShareOfRunsDoneByAMoment(t *testing.T) {
	done := []int{10, 20, 20, 30, 40, 50, 60, 70, 80, chance.Never}
	assert.Equal(t, 0.3, chance.Chance(done, 20))
	assert.Equal(t, 0.0, chance.Chance(done, 9))
	assert.Equal(t, 0.9, chance.Chance(done, 1e6))
	assert.Equal(t, 80, chance.By(done, 0.9))
	assert.Equal(t, 10, chance.By(done, 0.01))
	assert.Equal(t, chance.Never, chance.By(done, 1))
	assert.Equal(t, 1.0, chance.Chance(nil, 0))
}

func TestWhatFindsNoHoursIsNeverDone(t *testing.T) {
	s := chance.Studio{Hands: []chance.Hand{{Open: days(1)}}, Places: roomy(), Jobs: []chance.Job{lift()}}
	assert.Equal(t, chance.Never, play(t, s, 1)[0])
	s.Hands = nil
	assert.Equal(t, chance.Never, play(t, s, 1)[0])
	long := chance.Job{Pieces: 100, Need: 100, Steps: []chance.Step{{Each: 10}}}
	assert.Equal(t, 540+1000, play(t, chance.Studio{Hands: []chance.Hand{{Open: days(1)}}, Jobs: []chance.Job{long}}, 1)[0], "what is longer than any hours is begun with them")
	done, err := chance.Play(context.Background(), s, [][]int{{}}, 3, 1)
	require.NoError(t, err)
	assert.Equal(t, []int{0, 0, 0}, done[0], "nothing to wait for")
	ended, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = chance.Play(ended, s, [][]int{{0}}, 3, 1)
	assert.Error(t, err)
}

// Whatever is played ends, and comes out the same by the same seed.
func TestEveryPlayingEndsAndIsTheSameAgain(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		s := chance.Studio{Ill: rapid.Float64Range(0, 0.5).Draw(rt, "ill")}
		for range 2 {
			place := chance.Place{Capacity: rapid.IntRange(0, 30).Draw(rt, "capacity")}
			if rapid.Bool().Draw(rt, "has hours") {
				place.Open = days(rapid.IntRange(0, 20).Draw(rt, "hours"))
			}
			s.Places = append(s.Places, place)
		}
		uses := func(most int) (uses []chance.Use) {
			for k := range s.Places {
				if n := rapid.IntRange(0, most).Draw(rt, "use"); n > 0 {
					uses = append(uses, chance.Use{Place: k, N: n})
				}
			}
			return uses
		}
		for range rapid.IntRange(0, 3).Draw(rt, "hands") {
			s.Hands = append(s.Hands, chance.Hand{Open: days(rapid.IntRange(0, 20).Draw(rt, "days"))})
		}
		for range rapid.IntRange(1, 6).Draw(rt, "jobs") {
			j := chance.Job{Pieces: rapid.IntRange(1, 12).Draw(rt, "pieces"), Rested: rapid.IntRange(0, 3000).Draw(rt, "rested"), Held: uses(12)}
			j.Need = rapid.IntRange(0, j.Pieces).Draw(rt, "need")
			for k := range rapid.IntRange(0, 4).Draw(rt, "steps") {
				step := chance.Step{Planned: rapid.IntRange(0, 5000).Draw(rt, "planned"), Setup: rapid.Float64Range(0, 30).Draw(rt, "setup"), Each: rapid.Float64Range(0, 20).Draw(rt, "each"), Rest: rapid.IntRange(0, 2000).Draw(rt, "rest"),
					Uses: uses(1), Keeps: uses(2), Inside: k > 0 && rapid.Bool().Draw(rt, "inside"), Yield: rapid.Float64Range(0, 1).Draw(rt, "yield"), Again: rapid.Float64Range(0, 0.6).Draw(rt, "again"),
					Pace: chance.Pace{Mean: rapid.Float64Range(-1, 1).Draw(rt, "mean"), Sd: rapid.Float64Range(0, 1).Draw(rt, "sd")}}
				j.Steps = append(j.Steps, step)
			}
			if len(j.Steps) > 0 && rapid.Bool().Draw(rt, "made again") {
				j.Remake = j.Steps
			}
			s.Jobs = append(s.Jobs, j)
		}
		assert.Equal(rt, play(rt, s, 4), play(rt, s, 4))
	})
}

func BenchmarkPlay(b *testing.B) {
	s := chance.Studio{Hands: []chance.Hand{{Open: days(60)}, {Open: days(60)}}, Places: []chance.Place{{Capacity: 300}}, Ill: 0.02}
	for i := range 150 {
		j := chance.Job{Pieces: 10, Need: 9}
		for k := range 6 {
			j.Steps = append(j.Steps, chance.Step{Planned: i*30 + k*900, Setup: 3, Each: 1.5, Rest: 240, Keeps: onRack, Yield: 0.98, Again: 0.1, Pace: chance.Pace{Sd: 0.3}})
		}
		j.Remake = j.Steps
		s.Jobs = append(s.Jobs, j)
	}
	for b.Loop() {
		if _, err := chance.Play(context.Background(), s, [][]int{{10}}, 1000, 1); err != nil {
			b.Fatal(err)
		}
	}
}

func TestPlacesAreWaitedForAndHaveHours(t *testing.T) {
	two := []chance.Hand{{Open: days(3)}, {Open: days(3)}}
	pressed := func() chance.Job {
		return chance.Job{Pieces: 10, Need: 10, Steps: []chance.Step{{Each: 6, Uses: onRack}}}
	}
	s := chance.Studio{Hands: two, Places: []chance.Place{{Capacity: 1}}, Jobs: []chance.Job{pressed(), pressed()}}
	assert.Equal(t, 540+120, play(t, s, 1)[0], "one press: one after the other")
	s.Places[0].Capacity = 2
	assert.Equal(t, 540+60, play(t, s, 1)[0], "two: side by side")

	afternoons := chance.Place{Capacity: 2, Open: []chance.Stretch{{From: 0, To: 570}, {From: 720, To: 850}, {From: 1440 + 720, To: 1440 + 850}}}
	s.Places[0] = afternoons
	assert.Equal(t, 720+60, play(t, s, 1)[0], "not in the half hour before, but in the afternoon")
	long := chance.Job{Pieces: 25, Need: 25, Steps: []chance.Step{{Each: 6, Uses: onRack}}}
	s.Jobs = []chance.Job{long}
	assert.Equal(t, 720+150, play(t, s, 1)[0], "what is longer than its hours is begun with them")
	s.Places[0].Open = []chance.Stretch{}
	assert.Equal(t, chance.Never, play(t, s, 1)[0], "it is never to be had")

	// Large pieces take a place of all and one of the larger rack, small ones of all.
	large, small := lift(), lift()
	large.Steps[0].Keeps = []chance.Use{{Place: 0, N: 1}, {Place: 1, N: 1}}
	s = chance.Studio{Hands: two, Places: []chance.Place{{Capacity: 30}, {Capacity: 10}}, Jobs: []chance.Job{large, small}}
	assert.Equal(t, 1440+540+30+60, play(t, s, 1)[0])
	s.Jobs[1] = large
	assert.Equal(t, 2*1440+540+30+60, play(t, s, 1)[0], "no room for two of the large")

	// What rests on the turner leaves it with its next step, which may use it too.
	turned := lift()
	turned.Steps[1].Uses = []chance.Use{{Place: 0, N: 10}}
	s = chance.Studio{Hands: two, Places: []chance.Place{{Capacity: 10}}, Jobs: []chance.Job{turned}}
	assert.Equal(t, 1440+540+30+60, play(t, s, 1)[0])
	turned.Steps[0].Rest = 120
	assert.Equal(t, 540+60+120+30+60, play(t, s, 1)[0])
	resting := chance.Job{Pieces: 3, Need: 3, Rested: 600, Held: []chance.Use{{Place: 0, N: 3}}, Steps: []chance.Step{{Planned: 900, Each: 1}}}
	s.Jobs = append(s.Jobs, resting)
	assert.Equal(t, 600+60+120+30+60, play(t, s, 1)[0], "seven are too few, until the others are taken off at ten")
}

func TestHandsHaveTheirPaceAndLeaveWorkToOthers(t *testing.T) {
	s := chance.Studio{Hands: []chance.Hand{{Open: days(3), Slow: 2}}, Places: roomy(), Jobs: []chance.Job{lift()}}
	assert.Equal(t, 1440+540+60+60, play(t, s, 1)[0], "cleared in an hour rather than in thirty minutes")

	picky := lift()
	picky.Steps[1].Not = []int{0}
	s.Jobs = []chance.Job{picky}
	assert.Equal(t, chance.Never, play(t, s, 1)[0], "nobody clears it")
	s.Hands = append(s.Hands, chance.Hand{Open: days(3)[1:]})
	assert.Equal(t, 1440+540+30+60, play(t, s, 1)[0], "whoever does it comes on the second day")
}
