package fulfilment_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
)

// changeOf is an order as it stands, written as a change that changes nothing.
func (b *bench) changeOf(id uint64) (c orders.OrderChange) {
	b.Helper()
	o := b.OrderNow(id)
	c = orders.OrderChange{Customer: o.Customer.Name, DueOn: o.DueOn, Note: o.Note, KeepRests: o.KeepRests, Version: o.Version}
	for _, l := range o.Lines {
		line := orders.LineChange{LineID: l.ID, UnitPrice: l.UnitPrice.String()}
		for _, w := range l.Wants {
			line.Wants = append(line.Wants, orders.WantChange{WantID: w.ID, Lettering: w.Lettering})
		}
		c.Lines = append(c.Lines, line)
	}
	return c
}

func (b *bench) changeOrder(id uint64, c orders.OrderChange) error {
	return b.DB.Write(b.Ctx, database.Everything, func(tx *gorm.DB) error { return fulfilment.Change(tx, id, c, b.Now) })
}

func TestAnOrderIsChangedAfterItWasTaken(t *testing.T) {
	b := newBench(t)
	o := b.Order(b.Lettered, 3, "Bow", "Two", "Cox")
	require.NoError(t, b.changeOrder(o.ID, b.changeOf(o.ID)))
	assert.Equal(t, []string{"Order taken, due 2027-04-01"}, b.HappenedTo(o.ID), "nothing was changed")

	c := b.changeOf(o.ID)
	c.Customer = "Sedge Club"
	c.Lines[0].UnitPrice = "17.25"
	c.Lines[0].Wants[1].Lettering = " Stroke "
	c.Lines[0].Wants = append(c.Lines[0].Wants[1:], orders.WantChange{Lettering: "Coach"}, orders.WantChange{Lettering: "Spare"})
	require.NoError(t, b.changeOrder(o.ID, c))
	now := b.OrderNow(o.ID)
	assert.Equal(t, "Sedge Club", now.Customer.Name)
	assert.Equal(t, "17.25", now.Lines[0].UnitPrice.StringFixed(2))
	assert.Equal(t, 4, now.Lines[0].Quantity)
	var names []string
	for _, w := range now.Lines[0].Wants {
		names = append(names, w.Lettering)
	}
	assert.Equal(t, []string{"Stroke", "Cox", "Coach", "Spare"}, names)
	was := o.Lines[0].UnitPrice.StringFixed(2)
	assert.Equal(t, []string{"For Sedge Club now, not Reed Club", "Crew at 17.25\u00a0EUR each now, not " + was + "\u00a0EUR", "“Two” is “Stroke” now", "2 more of Crew", "1 fewer of Crew"}, b.HappenedTo(o.ID)[1:])
	housetest.RefusedAs(t, b.changeOrder(o.ID, c), problem.Stale)
}

func TestWhatIsBegunOfAnOrderIsProtected(t *testing.T) {
	b := newBench(t)
	o := b.Order(b.Lettered, 2, "Bow", "Two")
	_, lots := b.MakeUp(b.Lettered, 0, 2)

	// Made up and not begun: the piece follows the name, and a piece that is taken out serves nobody.
	c := b.changeOf(o.ID)
	c.Lines[0].Wants[0].Lettering = "Stroke"
	require.NoError(t, b.changeOrder(o.ID, c))
	letterings := func() (all []string) {
		for _, p := range b.Pieces(lots[0].BatchID) {
			all = append(all, p.Lettering)
		}
		return all
	}
	assert.ElementsMatch(t, []string{"Stroke", "Two"}, letterings())

	run := b.TakeUp(lots[0].ID, 0)
	for field, change := range map[string]func(*orders.LineChange){
		"lines[0].wants[1].lettering": func(l *orders.LineChange) { l.Wants[1].Lettering = "Cox" },
		"lines[0].wants":              func(l *orders.LineChange) { l.Wants = l.Wants[:1] },
	} {
		c = b.changeOf(o.ID)
		change(&c.Lines[0])
		p := housetest.Refused(t, b.changeOrder(o.ID, c))
		assert.Equal(t, "body."+field, p.Errors[0].Location)
		assert.Contains(t, p.Errors[0].Message, "“Two” is begun already")
	}
	c = b.changeOf(o.ID)
	c.Lines[0].UnitPrice, c.Lines[0].Wants = "20.00", append(c.Lines[0].Wants, orders.WantChange{Lettering: "Cox"})
	require.NoError(t, b.changeOrder(o.ID, c), "price and further pieces are free")

	// What is spoiled is open again, and can be taken out.
	two := b.Pieces(lots[0].BatchID)
	for _, p := range two {
		if p.Lettering == "Two" {
			require.NoError(t, b.Batches.Finish(b.Ctx, run.ID, batches.Done{CameOut: batches.CameOut{Spoiled: []batches.SpoiledPiece{{PieceID: p.ID, Reason: "cracked"}}}}))
		}
	}
	c = b.changeOf(o.ID)
	c.Lines[0].Wants = append(c.Lines[0].Wants[:1:1], c.Lines[0].Wants[2])
	require.NoError(t, b.changeOrder(o.ID, c))
	assert.Equal(t, 2, b.OrderNow(o.ID).Lines[0].Quantity)
	require.NoError(t, b.Batches.Undo(b.Ctx, run.ID), "the piece comes back, and serves nobody")
}

func TestABadChangeOfAnOrderNamesTheField(t *testing.T) {
	b := newBench(t)
	o := b.Order(b.Plain, 2)
	for field, change := range map[string]func(*orders.OrderChange){
		"lines[0].lineId":             func(c *orders.OrderChange) { c.Lines[0].LineID = 99 },
		"lines[1].lineId":             func(c *orders.OrderChange) { c.Lines = append(c.Lines, c.Lines[0]) },
		"lines[0].unitPrice":          func(c *orders.OrderChange) { c.Lines[0].UnitPrice = "a lot" },
		"lines[0].wants":              func(c *orders.OrderChange) { c.Lines[0].Wants = nil },
		"lines[0].wants[1].wantId":    func(c *orders.OrderChange) { c.Lines[0].Wants[1].WantID = c.Lines[0].Wants[0].WantID },
		"lines[0].wants[0].lettering": func(c *orders.OrderChange) { c.Lines[0].Wants[0].Lettering = "Bow" },
		"dueOn":                       func(c *orders.OrderChange) { c.DueOn = "2027-02-01" },
	} {
		c := b.changeOf(o.ID)
		change(&c)
		assert.Equal(t, "body."+field, housetest.Refused(t, b.changeOrder(o.ID, c)).Errors[0].Location, field)
	}
}

func TestAPieceAddedToAnOrderIsTakenFromTheShelf(t *testing.T) {
	b := newBench(t)
	batch, lots := b.MakeUp(b.Plain, 2, 2)
	b.Through(lots[0], 0, len(batch.Recipe.Steps)-1)
	o := b.Order(b.Plain, 1)
	b.Later(time.Minute)
	c := b.changeOf(o.ID)
	c.Lines[0].Wants = append(c.Lines[0].Wants, orders.WantChange{})
	require.NoError(t, b.changeOrder(o.ID, c))
	assert.Contains(t, b.HappenedTo(o.ID), "1 more of Lamp")
	assert.Equal(t, "1 piece taken from the shelf", b.HappenedTo(o.ID)[len(b.HappenedTo(o.ID))-1])
}
