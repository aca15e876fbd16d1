package prints

import (
	"strconv"

	"tidykiln/core/calendar"
	"tidykiln/core/design"
	"tidykiln/core/lettering"
	"tidykiln/core/shape"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/workshop"
)

// fieldsOf is what can be lettered on a piece: what it is called, a day, and its number.
func fieldsOf(w workshop.Workshop, name string, on calendar.Date, number int) lettering.Fields {
	day := w.Habit.DayAndYear(on.At(12*60, w.Location()))
	return lettering.Fields{Name: name, Date: day, Number: strconv.Itoa(number)}
}

// fields are those of a piece in a batch: of a wanted one the day its order is due and
// its place in the order's line, as the proof shows them; of another the day of the
// batch and the piece's number in it.
func (m matter) fields(b batches.Batch, p batches.Piece) lettering.Fields {
	if p.WantID != nil {
		if w, open := m.wants[*p.WantID]; open {
			return fieldsOf(m.workshop, p.Lettering, w.DueOn, w.Number)
		}
	}
	return fieldsOf(m.workshop, p.Lettering, calendar.DateOf(b.CreatedAt, m.workshop.Location()), p.Number)
}

// texts is what stands on each piece of a kind.
func (m matter) texts(k laidKind) map[uint64]string {
	texts := make(map[uint64]string, len(k.batch.Pieces))
	for _, p := range k.batch.Pieces {
		texts[p.ID] = textOf(k.design, m.fields(k.batch.Batch, p))
	}
	return texts
}

// textOf is what stands on a piece; its name where the print has no lettering and it
// is put on in another way.
func textOf(d design.Design, f lettering.Fields) string {
	if d.Lettering == nil {
		return f.Name
	}
	return d.Lettering.For(f)
}

// mostLettered bounds how many words are remembered as they were set: pages and proofs ask
// for the same names over and over, and each is tried at many sizes.
const mostLettered = 2048

// lettered sets words on the print of a design that has lettering.
func (a *Area) lettered(s shape.Shape, d design.Design, text string) lettering.Set {
	key := database.JSON(s) + database.JSON(d) + text
	set, known := a.set.Get(key)
	if !known {
		set = d.Setter(d.Print(s)).Set(text)
		a.set.Add(key, set)
	}
	return set
}
