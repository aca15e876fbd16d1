package desk_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/planning"
	"tidykiln/internal/workshop"
)

func (b *bench) ribbon() planning.Plan {
	b.Helper()
	p, err := b.Planning.Ribbon(b.Ctx)
	require.NoError(b, err)
	require.Len(b, p.Days, 1)
	return p
}

// day of the month and clock, as the tests say them
func said(t time.Time) string { return t.Format("2 15:04") }

func TestOnceHandsAreOverTheRibbonTurnsToTheNightAndTheNextWorkingDay(t *testing.T) {
	b := newBench(t)
	lot := b.MakeLot(6)
	b.At(1, "14:59")
	r := b.ribbon()
	assert.Nil(t, r.Opens)
	assert.Equal(t, []string{"1 05:00", "2 05:00"}, []string{said(r.Days[0].Start), said(r.Days[0].End)})
	require.Len(t, r.Days[0].People, 1)
	assert.Equal(t, "Maren", r.Days[0].People[0].Name)
	assert.Equal(t, "1 09:00", said(r.Days[0].People[0].Open[0].Start))
	assert.Nil(t, b.Today().Opens)

	b.At(1, "15:00")
	r = b.ribbon()
	require.NotNil(t, r.Opens)
	assert.Equal(t, "2 09:00", said(*r.Opens))
	assert.Equal(t, []string{"1 15:00", "3 05:00"}, []string{said(r.Days[0].Start), said(r.Days[0].End)})
	require.NotEmpty(t, r.Hands)
	assert.Equal(t, "Sand", r.Hands[0].Work)
	today := b.Today()
	assert.Equal(t, "2 09:00", said(*today.Opens))
	require.NotNil(t, today.First)
	assert.Equal(t, []any{lot, "Sand and wipe", 6, "2 09:00"}, []any{today.First.LotID, today.First.StepName, today.First.Pieces, said(today.First.At)})

	b.At(5, "16:00")
	r = b.ribbon()
	assert.Equal(t, []string{"8 09:00", "5 15:00", "9 05:00"}, []string{said(*r.Opens), said(r.Days[0].Start), said(r.Days[0].End)}, "over the weekend to Monday")
	b.At(6, "10:00")
	assert.Equal(t, "6 05:00", said(b.ribbon().Days[0].Start), "a day off is over from its morning on")
	b.At(8, "04:00")
	assert.Equal(t, "8 09:00", said(*b.ribbon().Opens), "before five it is still yesterday")
	b.At(8, "05:00")
	assert.Nil(t, b.ribbon().Opens)
}

func TestWhereNobodyWorksTheRibbonStaysOnToday(t *testing.T) {
	b := newBench(t)
	b.Change(func(w *workshop.Workshop) { w.People[0].Hours = nil })
	r := b.ribbon()
	assert.Nil(t, r.Opens)
	assert.Equal(t, "1 05:00", said(r.Days[0].Start))
	assert.Nil(t, b.Today().Opens)
}

func TestARibbonSaysWhoseBarsAreWhoseAndHowMuchOfTheRackTheyTake(t *testing.T) {
	b := newBench(t)
	places := 37
	b.Change(func(w *workshop.Workshop) { w.Racks = []workshop.Rack{{Name: "Rack", Places: places}} })
	o := b.OrderFor("2027-03-20", 4)
	lot := b.MakeLot(2)
	b.Step(lot, 0, 15)
	b.Step(lot, 1, 15)
	r := b.ribbon()
	assert.Equal(t, places, r.RackPlaces)
	require.NotEmpty(t, r.Hands)
	for _, h := range r.Hands {
		assert.Equal(t, []uint64{o.ID}, h.Orders)
		assert.Equal(t, b.Product, h.ProductID)
		assert.Equal(t, b.Person, h.PersonID)
	}
	require.NotEmpty(t, r.Rests)
	assert.Equal(t, 6, r.Rests[0].Places, "four wanted and two more rest, a place each")
}
