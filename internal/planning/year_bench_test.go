package planning_test

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/house"
	"tidykiln/internal/orders"
	"tidykiln/internal/planning"
	"tidykiln/internal/products"
	"tidykiln/internal/standin"
	"tidykiln/internal/workshop"
)

// year is a year of the demo studio as things go: orders come in and are
// promised for the day that is held nine times in ten, and two people work off
// what the plan puts first, in the minutes it really takes, with rounds more,
// spoils and sick days.
type year struct {
	*testing.B
	db     *database.DB
	rooms  *house.House
	now    time.Time
	random *rand.Rand
	plain  []products.Product
	due    map[uint64]calendar.Date // of promises that are open
	given  int
	held   int
	// bars are what the bench goes by until they are planned anew.
	bars   []planning.Hands
	anew   time.Time
	inHand map[uint64]*stint // by person
	// idleUntil is when somebody who found nothing looks again, by person, and
	// readyAt when the usual rest of a lot is over.
	idleUntil, readyAt map[uint64]time.Time
}

// stint is a step that somebody has in hand.
type stint struct {
	run  uint64
	step craft.Step
	lot  uint64
	ends time.Time
}

const (
	ordersADay = 0.6
	spread     = 0.3 // of the logarithm of what a step takes
	roundMore  = 0.15
	sick       = 0.015
	replanned  = 2 * time.Hour
	lookAgain  = 10 * time.Minute
	yearEnds   = calendar.Date("2028-05-04")
)

// How often promises hold that are given for nine times in ten.
func BenchmarkAYearOfPromises(b *testing.B) {
	for b.Loop() {
		y := &year{B: b, db: demotest.New(b, busyMorning, "Etc/UTC"), random: rand.New(rand.NewPCG(2027, 9)), due: map[uint64]calendar.Date{}, inHand: map[uint64]*stint{}, idleUntil: map[uint64]time.Time{}, readyAt: map[uint64]time.Time{}}
		y.rooms = house.New(y.db, func() time.Time { return y.now }, &standin.Hygrometer{}, standin.NewPrinter(time.Now))
		y.readPlain()
		for day := calendar.DateOf(busyMorning, time.UTC).Add(1); day <= yearEnds || len(y.due) > 0 && day <= yearEnds.Add(60); day = day.Add(1) {
			y.live(day)
		}
		require.Positive(b, y.given)
		b.ReportMetric(float64(y.given), "promises")
		b.ReportMetric(100*float64(y.held)/float64(y.given), "%held")
	}
}

func (y *year) must(err error) {
	y.Helper()
	require.NoError(y, err)
}

// readPlain finds the products that need neither names nor pictures of their own.
func (y *year) readPlain() {
	y.must(y.db.Read(y.Context(), func(tx *gorm.DB) error {
		all, err := products.LoadAll(tx)
		for _, p := range all {
			if !p.Lettered && !p.OwnPictures {
				y.plain = append(y.plain, p)
			}
		}
		return err
	}))
}

// live is one day: who is ill says so, orders come in, and hands work until they go home.
func (y *year) live(day calendar.Date) {
	y.now = day.At(8*60, time.UTC)
	w, err := y.rooms.Workshop.Get(y.Context())
	y.must(err)
	for i := range w.People {
		if y.random.Float64() < sick {
			w.People[i].DaysOff = append(w.People[i].DaysOff, calendar.DaysOff{FirstDay: day, LastDay: day})
		}
	}
	w, err = y.rooms.Workshop.Save(y.Context(), w)
	y.must(err)
	if day <= yearEnds {
		for range y.poisson(ordersADay) {
			y.takeOrder()
		}
	}
	y.makeUp()
	y.anew = time.Time{}
	for at, who := y.nextFree(w, day); who != 0; at, who = y.nextFree(w, day) {
		y.now = at
		y.work(who, closes(w, who, day))
	}
	y.now = w.DueAt(day)
	y.handOver(day)
}

func (y *year) poisson(mean float64) (n int) {
	for p := y.random.Float64(); p > math.Exp(-mean); n++ {
		p *= y.random.Float64()
	}
	return n
}

// takeOrder promises a few pieces for the day that is held nine times in ten.
func (y *year) takeOrder() {
	ask := planning.Ask{Lines: []planning.AskLine{{ProductID: y.plain[y.random.IntN(len(y.plain))].ID, Quantity: 4 + y.random.IntN(17)}}}
	p, err := y.rooms.Planning.Promise(y.Context(), ask)
	y.must(err)
	if p.Odds == nil || p.Odds.SureOn == "" {
		return
	}
	ask.DueOn = p.Odds.SureOn
	p, err = y.rooms.Planning.Promise(y.Context(), ask)
	y.must(err)
	in := planning.NewOrder{NewOrder: orders.NewOrder{Customer: "Heron Club", DueOn: ask.DueOn, Lines: []orders.NewLine{{ProductID: ask.Lines[0].ProductID, Quantity: ask.Lines[0].Quantity}}}}
	for _, m := range p.Moves {
		in.Agreed.Agreed = append(in.Agreed.Agreed, planning.AgreedMove{OrderID: m.OrderID, ToOn: m.ToOn, ToLate: m.ToLate})
	}
	made, err := y.rooms.Planning.TakeOrder(y.Context(), in)
	y.must(err)
	y.due[made.ID] = ask.DueOn
	y.given++
}

// makeUp makes up batches of all that is wanted.
func (y *year) makeUp() {
	demand, err := y.rooms.Fulfilment.Demand(y.Context())
	y.must(err)
	for _, d := range demand {
		var wants []uint64
		for _, w := range d.Wants {
			wants = append(wants, w.WantID)
		}
		if len(wants) > 0 && len(d.Lots) > 0 {
			// What is stopped by a check stays wanted, as in the demo.
			_, _ = y.rooms.Batches.Make(y.Context(), batches.NewBatch{ProductID: d.ProductID, WantIDs: wants, Extras: d.Extras, Lots: d.Lots})
		}
	}
}

// closes is when somebody goes home on a day; the day's beginning when they do not come.
func closes(w workshop.Workshop, who uint64, day calendar.Date) time.Time {
	last := day.At(0, time.UTC)
	for _, p := range w.People {
		if p.ID == who {
			for _, o := range p.Times().Open(day.At(0, time.UTC), day.Add(1).At(0, time.UTC), time.UTC) {
				last = o[1]
			}
		}
	}
	return last
}

// nextFree is who is free next on a day, and when: a step in hand is ended first.
func (y *year) nextFree(w workshop.Workshop, day calendar.Date) (at time.Time, who uint64) {
	for _, p := range w.People {
		for _, o := range p.Times().Open(day.At(0, time.UTC), day.Add(1).At(0, time.UTC), time.UTC) {
			from := o[0]
			if from.Before(y.now) {
				from = y.now
			}
			if in := y.inHand[p.ID]; in != nil {
				from = in.ends
			} else if !from.Before(o[1]) {
				continue
			}
			if idle := y.idleUntil[p.ID]; idle.After(from) {
				from = idle
			}
			if who == 0 || from.Before(at) {
				at, who = from, p.ID
			}
		}
	}
	return at, who
}

// work ends what somebody has in hand, and takes up what comes first in the plan
// of what is ready and can be done before they go home.
func (y *year) work(who uint64, until time.Time) {
	if in := y.inHand[who]; in != nil {
		y.finish(in)
		delete(y.inHand, who)
	}
	if !y.now.Before(until) {
		return
	}
	if y.now.After(y.anew.Add(replanned)) {
		p, err := y.rooms.Planning.Days(y.Context(), "", 4)
		y.must(err)
		y.bars = slices.DeleteFunc(p.Hands, func(h planning.Hands) bool { return h.State != planning.BarPlanned })
		slices.SortStableFunc(y.bars, func(a, b planning.Hands) int { return cmp.Compare(a.Start.Unix(), b.Start.Unix()) })
		y.anew = y.now
	}
	for i, h := range y.bars {
		length := h.End.Sub(h.Start)
		if h.Start.After(y.now) && !y.rested(h) || y.now.Add(length).After(until) {
			continue
		}
		run, err := y.rooms.Batches.TakeUp(y.Context(), h.LotID, batches.TakeUp{PersonID: who, Step: h.Step})
		if err != nil {
			continue // its rest is not over, or another step of it is in hand
		}
		y.bars = slices.Delete(y.bars, i, i+1)
		times := math.Exp(spread * y.random.NormFloat64())
		y.inHand[who] = &stint{run: run.ID, lot: h.LotID, step: y.stepOf(h.LotID, h.Step), ends: y.now.Add(time.Duration(float64(length)*times).Truncate(time.Minute) + time.Minute)}
		return
	}
	y.idleUntil[who] = y.now.Add(lookAgain)
}

// rested tells whether the usual rest of a lot is over.
func (y *year) rested(h planning.Hands) bool { return !y.readyAt[h.LotID].After(y.now) }

// finish ends a step: some pieces are lost by its yield, and now and then the
// lot has to go through it again.
func (y *year) finish(in *stint) {
	var pieces []batches.Piece
	y.must(y.db.Read(y.Context(), func(tx *gorm.DB) error {
		return tx.Where("lot_id = ? AND state = ?", in.lot, batches.PieceWorking).Find(&pieces).Error
	}))
	done := batches.Done{AcceptShort: true, AcceptLong: true}
	again := slices.Contains(in.step.OutcomeChoices(), craft.Again) && y.random.Float64() < roundMore
	for _, p := range pieces {
		switch {
		case y.random.Float64() >= in.step.Yield:
			done.Spoiled = append(done.Spoiled, batches.SpoiledPiece{PieceID: p.ID, Reason: "lost"})
		case again:
			done.Again = append(done.Again, p.ID)
		}
	}
	y.must(y.rooms.Batches.Finish(y.Context(), in.run, done))
	if in.step.Rest != nil {
		y.readyAt[in.lot] = y.now.Add(time.Duration(in.step.Rest.Usual) * time.Minute)
	}
}

// stepOf is a step of a lot's recipe.
func (y *year) stepOf(lot uint64, step int) craft.Step {
	var b batches.Batch
	y.must(y.db.Read(y.Context(), func(tx *gorm.DB) error {
		return tx.Where("id = (SELECT batch_id FROM lots WHERE id = ?)", lot).First(&b).Error
	}))
	return b.Recipe.Steps[step]
}

// handOver gives away what is ready by the hand-over of a day, and counts what was promised.
func (y *year) handOver(day calendar.Date) {
	rows, err := y.rooms.Desk.Ledger(y.Context())
	y.must(err)
	for _, r := range rows {
		if r.State != orders.Open || r.Readiness.State != planning.ReadyNow {
			continue
		}
		var version int
		y.must(y.db.Read(y.Context(), func(tx *gorm.DB) error {
			return tx.Model(&orders.Order{}).Select("version").Where("id = ?", r.ID).Scan(&version).Error
		}))
		y.must(y.rooms.Fulfilment.HandOver(y.Context(), r.ID, version))
		if due, promised := y.due[r.ID]; promised {
			delete(y.due, r.ID)
			if day <= due {
				y.held++
			}
		}
	}
}
