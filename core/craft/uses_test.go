package craft_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/core/picture"
	"tidykiln/core/shape"
)

var tile = craft.Blank{Surface: craft.CeramicGlazed, Shape: shape.Shape{Kind: shape.Rectangle, Width: 102, Height: 102}}

func extent(width, height float64, ink float64) craft.Extent {
	return craft.Extent{Shape: tile.Shape, Width: measure.Length(width), Height: measure.Length(height), InkShare: ink}
}

// 9025 mm² at 40 % are 5.79 % of an A4 page, of which a rated one covers 5 %.
func TestTonerGoesByWhatThePictureCovers(t *testing.T) {
	toner := craft.Use{Quantity: 1, Per: craft.PerPrint}
	assert.InDelta(t, 1.1576, toner.Amount(craft.Step{}, extent(95, 95, 0.4), craft.Supply{}).PerPiece, 0.0001)
	unmeasured := craft.ExtentOf(tile, craft.Picture{Width: 95, Height: 95})
	assert.InDelta(t, 1.1576, toner.Amount(craft.Step{}, unmeasured, craft.Supply{}).PerPiece, 0.0001, "as usual when nobody has measured it")
	unsized := craft.ExtentOf(tile, craft.Picture{InkShare: 0.2})
	assert.InDelta(t, 102*102*0.2/62370/0.05, toner.Amount(craft.Step{}, unsized, craft.Supply{}).PerPiece, 0.0001, "the face, when the picture's size is not known")
}

func TestEachInkGoesByItsOwnShare(t *testing.T) {
	blank := craft.Blank{Shape: shape.Shape{Kind: shape.Rectangle, Width: 210, Height: 297}}
	inks := picture.Ink{Cyan: 0.1, Magenta: 0.2, Yellow: 0.05, Black: 0.01, Alone: 0.3}
	pages := func(ink craft.Ink, p craft.Picture) float64 {
		return craft.Use{Quantity: 1, Per: craft.PerPrint, Ink: ink}.Amount(craft.Step{}, craft.ExtentOf(blank, p), craft.Supply{}).PerPiece
	}
	inColours := craft.Picture{Width: 210, Height: 297, InkShare: inks.Alone, Inks: &inks}
	for ink, want := range map[craft.Ink]float64{craft.Cyan: 2, craft.Magenta: 4, craft.Yellow: 1, craft.Black: 0.2, "": 7.2} {
		assert.InDelta(t, want, pages(ink, inColours), 1e-9, ink)
	}
	grey := craft.Picture{Width: 210, Height: 297, InkShare: inks.Alone, Inks: new(inks.Printed(true))}
	for ink, want := range map[craft.Ink]float64{craft.Cyan: 0, craft.Magenta: 0, craft.Yellow: 0, craft.Black: 6, "": 6} {
		assert.InDelta(t, want, pages(ink, grey), 1e-9, ink)
	}
	typed := craft.Picture{Width: 210, Height: 297, InkShare: 0.4}
	together := 0.0
	for _, ink := range craft.Inks() {
		together += pages(ink, typed)
	}
	assert.InDelta(t, pages("", typed), together, 1e-9, "what nobody has measured is as much by four as by one")
}

func TestPrintsLieOnWholeSheets(t *testing.T) {
	for name, c := range map[string]struct {
		use    craft.Use
		extent craft.Extent
		supply craft.Supply
		pieces int
		want   float64
	}{
		// 198 × 285 mm hold 2 × 2 prints of 95 mm with gaps of 3
		"four to an A4":             {craft.Use{Quantity: 1}, extent(95, 95, 0), craft.Supply{}, 8, 2},
		"a fifth begins another":    {craft.Use{Quantity: 1}, extent(95, 95, 0), craft.Supply{}, 9, 3},
		"two prints a piece":        {craft.Use{Quantity: 2}, extent(95, 95, 0), craft.Supply{}, 5, 3},
		"turned, one more fits":     {craft.Use{Quantity: 1}, extent(180, 90, 0), craft.Supply{}, 6, 2},
		"a sheet of another size":   {craft.Use{Quantity: 1}, extent(95, 95, 0), craft.Supply{SheetWidth: 297, SheetHeight: 420}, 8, 1},
		"as many as the owner says": {craft.Use{Quantity: 1, OnSheet: 6}, extent(95, 95, 0), craft.Supply{}, 12, 2},
		"fits only turned":          {craft.Use{Quantity: 1}, extent(260, 110, 0), craft.Supply{}, 3, 3},
		"four sheets for a big one": {craft.Use{Quantity: 1}, extent(350, 500, 0), craft.Supply{}, 2, 8},
		"with paper round them":     {craft.Use{Quantity: 1, Margin: 10}, extent(95, 95, 0), craft.Supply{}, 8, 4},
		"no prints, no sheets":      {craft.Use{Quantity: 0}, extent(95, 95, 0), craft.Supply{}, 4, 0},
	} {
		c.use.Per = craft.PerSheet
		assert.InDelta(t, c.want, c.use.Amount(craft.Step{}, c.extent, c.supply).For(c.pieces, true), 1e-9, name)
	}
}

func TestThePrintsThatRideFree(t *testing.T) {
	a := craft.Use{Quantity: 1, Per: craft.PerSheet}.Amount(craft.Step{}, extent(95, 95, 0), craft.Supply{})
	for pieces, free := range map[int]int{0: 0, 1: 3, 4: 0, 5: 3, 7: 1} {
		assert.Equal(t, free, a.Free(pieces), "four to a sheet, %d wanted", pieces)
	}
	assert.Zero(t, craft.Amount{PerPiece: 1}.Free(3))
}

func TestPowerGoesByTheMinutesOfTheStep(t *testing.T) {
	press := craft.Step{SetupMinutes: 12, MinutesPerPiece: 2.5}
	a := craft.Use{Quantity: 1400, Per: craft.PerPower}.Amount(press, craft.Extent{}, craft.Supply{})
	assert.InDelta(t, 1.4*(12+4*2.5)/60, a.For(4, true), 1e-9)
	assert.InDelta(t, 1.4*(4*2.5)/60, a.For(4, false), 1e-9, "warmed up already")
}

func TestAConsumableIsUsedUpByWhatItLasts(t *testing.T) {
	brush := craft.Use{Quantity: 1, Per: craft.PerPiece}
	assert.InDelta(t, 0.5, brush.Amount(craft.Step{}, craft.Extent{}, craft.Supply{Lasts: 24}).For(12, true), 1e-9)
	brush.Per = craft.PerBatch
	assert.InDelta(t, 0.25, brush.Amount(craft.Step{}, craft.Extent{}, craft.Supply{Lasts: 4}).For(12, true), 1e-9)
	assert.Zero(t, brush.Amount(craft.Step{}, craft.Extent{}, craft.Supply{}).For(12, false))
	assert.Zero(t, craft.Use{Quantity: 1, Per: "moon"}.Amount(craft.Step{}, craft.Extent{}, craft.Supply{}))
}
