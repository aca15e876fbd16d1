package batches_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/weather"
	"tidykiln/internal/batches"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/wire"
)

// changing is a room whose air the test sets.
type changing struct{ air weather.Air }

func (c *changing) Read(time.Time) (weather.Air, error) { return c.air, nil }

func TestWhatARunIsDoneUnderIsKeptWithIt(t *testing.T) {
	room := &changing{weather.Air{Celsius: 20, Humidity: 0.5}}
	b := &bench{housetest.NewBenchWith(t, room)}
	read := func() { require.NoError(t, b.Workshop.KeepReading(b.Ctx)) }
	read()
	b.Buy("Reed & Rush", "plain-blank", "20", "30.00")
	batch, lots := b.MakeUp(b.Plain, 2, 2)
	b.Ctx = wire.Acting(b.Ctx, wire.Actor{PersonID: b.Person, Device: "phone by the sink"})
	b.Step(lots[0].ID, 0, 20)
	b.Later(2 * time.Hour)
	room.air = weather.Air{Celsius: 14, Humidity: 0.7}
	read()
	second := b.TakeUp(lots[0].ID, 1)

	runs := housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Run) error { return tx.Order("id").Find(into).Error })
	require.Len(t, runs, 2)
	assert.Equal(t, 20.0, *runs[0].StartCelsius)
	assert.Nil(t, runs[0].RestedRun, "nothing rested before the first step")
	c := runs[1].Conditions
	assert.Equal(t, []any{14.0, 0.7}, []any{*c.StartCelsius, *c.StartHumidity})
	assert.Equal(t, []any{runs[0].ID, 120}, []any{*c.RestedRun, *c.RestedMinutes}, "the rest that was really had")
	assert.Equal(t, []any{17.0, 14.0}, []any{*c.RestCelsius, *c.RestLowest}, "the air through it")
	assert.Equal(t, []any{b.Person, "phone by the sink"}, []any{*c.EnteredBy, c.Device})

	purchases := housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]uint64) error {
		return tx.Raw("SELECT p.purchase_id FROM movement_parts p JOIN movements m ON m.id = p.movement_id WHERE m.run_id = ?", runs[0].ID).Scan(into).Error
	})
	assert.NotEmpty(t, purchases, "from which pack the blanks came")
	assert.Equal(t, b.Plain.Draft.Choices, batch.Recipe.Choices, "the recipe's choices stand in the batch's copy")

	// Begun earlier than it was taken up: the rest was shorter.
	ended := b.Now.Add(-30 * time.Minute)
	require.NoError(t, b.Batches.FinishBefore(b.Ctx, second.ID, batches.DoneBefore{Done: batches.Done{EndedAt: &ended}, StartedAt: b.Now.Add(-time.Hour), AcceptRisk: true}))
	runs = housetest.Rows(b.Studio, func(tx *gorm.DB, into *[]batches.Run) error { return tx.Order("id").Find(into).Error })
	assert.Equal(t, 60, *runs[1].RestedMinutes)
}
