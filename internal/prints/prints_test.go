package prints_test

import (
	"bytes"
	"context"
	"fmt"
	"os/exec"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/design"
	"tidykiln/core/lettering"
	"tidykiln/core/picture"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/library"
	"tidykiln/internal/prints"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

func TestPrintsOfABatchComeOutOnSheets(t *testing.T) {
	s := newStudio(t)
	p := s.lamp(nil, design.Design{Border: 3}, false)
	b := s.batch(p, 12)
	j, file := s.sheets(request(b.ID))
	assert.Equal(t, 12, j.Prints)
	assert.Equal(t, len(j.Layout.Sheets), j.Sheets)
	assert.Equal(t, j.Sheets, j.Done)
	assert.Equal(t, "Batch 1", j.Title)
	k := j.Layout.Kinds[0]
	assert.InDelta(t, 84+2*2.4, k.Diameter, 0.05)
	assert.True(t, k.Mirrored)
	assert.Contains(t, k.Why, "the side the paper was on")

	const ppi = 254
	page := rendered(t, file, 1, ppi)
	first := j.Layout.Sheets[0].Items[0]
	assert.Equal(t, "blue", leftColour(page, j, first, ppi), "mirrored: what is on the left is printed on the right")
	// The print is 84 mm: red and blue reach that far, and no farther.
	x0, y := first.X+k.X, first.Y+k.Y+42
	assert.Equal(t, "paper", colourAt(page, x0-0.2, y, ppi))
	assert.Equal(t, "blue", colourAt(page, x0+0.2, y, ppi))
	assert.Equal(t, "red", colourAt(page, x0+84-0.2, y, ppi))
	assert.Equal(t, "paper", colourAt(page, x0+84+0.2, y, ppi))
	list, err := exec.CommandContext(t.Context(), "pdfimages", "-list", file).Output()
	require.NoError(t, err)
	for _, row := range strings.Split(strings.TrimSpace(string(list)), "\n")[2:] {
		var ppi int
		_, err := fmt.Sscan(strings.Fields(row)[12], &ppi)
		require.NoError(t, err)
		assert.LessOrEqual(t, ppi, 301)
	}
}

func TestEveryMethodPrintsTheWayItIsSaid(t *testing.T) {
	s := newStudio(t)
	methods, err := database.Look(s.Ctx, s.DB, library.Load)
	require.NoError(t, err)
	seen := map[bool]int{}
	for _, method := range methods.InOrder() {
		for _, through := range []bool{false, true} {
			blank := products.BlankForm{Surface: method.Surfaces[0], Shape: "rectangle", Width: "60", Height: "40", Thickness: "4", Tone: "light"}
			if through {
				if i := clearSurface(method.Surfaces); i >= 0 {
					blank.Surface, blank.ThroughBlank = method.Surfaces[i], true
				} else {
					continue
				}
			}
			in := products.NewProduct{Name: method.Name, Method: method.Key, Look: "crisp", Blank: blank,
				Picture: products.PictureForm{ArtworkID: new(s.picture("halves.png", halves(t, 900, 600, red, blue))), Kind: method.Prints[0].Kind, Carrier: method.Prints[0].Carrier}}
			p, err := s.Products.ChangeDesign(s.Ctx, s.Make(in).ID, products.DesignChange{Version: 1})
			require.NoError(t, err)
			j, file := s.sheets(request(s.batch(p, 1).ID))
			must := method.MustMirror(through)
			seen[must]++
			page := rendered(t, file, 1, 100)
			assert.Equal(t, map[bool]string{true: "blue", false: "red"}[must], leftColour(page, j, j.Layout.Sheets[0].Items[0], 100), "%s, through %v", method.Key, through)
			assert.Equal(t, !must, strings.HasPrefix(j.Layout.Kinds[0].Why, "not mirrored"))
		}
	}
	assert.GreaterOrEqual(t, seen[true]+seen[false], 15)
	assert.Positive(t, seen[false])
}

func TestAMarginThatTheRecipeWantsIsLeftRoundEachPrint(t *testing.T) {
	s := newStudio(t)
	p := s.lamp(func(in *products.NewProduct) { in.Choices = map[string]string{"trim": "margin"} }, design.Design{Border: 3}, false)
	r := request(s.batch(p, 3).ID)
	r.Trim = 2
	ask, err := s.Prints.Ask(s.Ctx, r)
	require.NoError(t, err)
	assert.InDelta(t, 10, ask.Layout.Kinds[0].Trim, 1e-9)
	assert.InDelta(t, 84+2*(10+2.4), ask.Layout.Kinds[0].Diameter, 0.05)
	r.Trim = 15
	ask, err = s.Prints.Ask(s.Ctx, r)
	require.NoError(t, err)
	assert.InDelta(t, 84+2*(15+2.4), ask.Layout.Kinds[0].Diameter, 0.05)
}

// clearSurface is the first surface that people can look through; -1 without one.
func clearSurface(surfaces []craft.Surface) int {
	return slices.IndexFunc(surfaces, craft.Surface.Clear)
}

func TestNamesAreOnThePrintsAndBesideThem(t *testing.T) {
	s := newStudio(t)
	style := lettering.Usual()
	style.Height, style.Colour = 8, "#00ff00"
	p := s.lamp(func(in *products.NewProduct) { in.Lettered = true }, design.Design{Border: 3, Lettering: &style}, false)
	s.Order(p, 2, "Marit", "Osric")
	b, _ := s.MakeUp(p, 0, 2)
	j, file := s.sheets(request(b.ID))
	page := rendered(t, file, 1, 254)
	green := 0
	for y := range page.Bounds().Dy() {
		for x := range page.Bounds().Dx() {
			if r, g, bl, _ := page.At(x, y).RGBA(); g > 0xe000 && r < 0x3000 && bl < 0x3000 {
				green++
			}
		}
	}
	assert.Greater(t, green, 4000)
	names := []string{j.Layout.Sheets[0].Items[0].Name, j.Layout.Sheets[0].Items[1].Name}
	assert.ElementsMatch(t, []string{"“Marit”", "“Osric”"}, names)
}

func TestWordsThatDoNotComeOutAreDecidedFirst(t *testing.T) {
	s := newStudio(t)
	style := lettering.Usual()
	p := s.lamp(func(in *products.NewProduct) { in.Lettered = true }, design.Design{Border: 3, Lettering: &style}, false)
	s.Order(p, 3, "Marit", "船", "Boatwright Theodolinda of the Upper Lock and the Lower Quay, with her crew")
	b, _ := s.MakeUp(p, 0, 3)
	ask, err := s.Prints.Ask(s.Ctx, request(b.ID))
	require.NoError(t, err)
	require.Len(t, ask.Concerns, 2)
	assert.Contains(t, ask.Concerns[0].Text, "船")
	assert.Contains(t, ask.Concerns[1].Text, "does not fit")
	_, err = s.Prints.Make(s.Ctx, request(b.ID))
	housetest.RefusedAs(t, err, problem.NotPrintable)
	r := request(b.ID)
	r.AcceptWords = true
	_, err = s.Prints.Make(s.Ctx, r)
	require.NoError(t, err)
}

func TestEachPieceHasItsCustomersPicture(t *testing.T) {
	s := newStudio(t)
	p := s.lamp(func(in *products.NewProduct) { in.Picture.ArtworkID = nil }, design.Design{Border: 3}, true)
	o := s.Order(p, 3)
	for _, f := range p.Draft.Findings {
		if f.Level == "stop" {
			require.NoError(t, s.overrule(p.ID, f))
		}
	}
	b, lots := s.MakeUp(p, 0, 3)
	printable, err := s.Prints.ListPrintable(s.Ctx)
	require.NoError(t, err)
	require.Len(t, printable, 1)
	assert.Equal(t, []int{3, 3}, []int{printable[0].Pieces, printable[0].Missing})
	_, err = s.Prints.Make(s.Ctx, request(b.ID))
	housetest.RefusedAs(t, err, problem.NotPrintable)
	printStep := stepOf(b, "print")
	for i := range printStep {
		s.Step(lots[0].ID, i, 5)
		s.Later(24 * time.Hour)
	}
	_, err = s.Batches.TakeUp(s.Ctx, lots[0].ID, batches.TakeUp{PersonID: s.Person, Step: printStep, AcceptRisk: true})
	housetest.RefusedAs(t, err, problem.NoPicture)

	wants := s.OrderNow(o.ID).Lines[0].Wants
	pictures := []uint64{s.picture("a.png", halves(t, 900, 900, red, red)), s.picture("b.png", halves(t, 900, 900, blue, blue)), s.picture("c.png", halves(t, 900, 900, red, blue))}
	var in fulfilment.WantPictures
	for i, w := range wants {
		in.Pictures = append(in.Pictures, fulfilment.WantPicture{WantID: w.ID, ArtworkID: &pictures[i]})
	}
	in.Version = s.OrderNow(o.ID).Version
	require.NoError(t, s.Fulfilment.SetPictures(s.Ctx, o.ID, in))
	pic, err := s.Artwork.Get(s.Ctx, pictures[0])
	require.NoError(t, err)
	assert.EqualValues(t, "customer", pic.Rights)
	require.Error(t, s.Artwork.Archive(s.Ctx, pictures[0]), "an open order wants it")

	j, file := s.sheets(request(b.ID))
	page := rendered(t, file, 1, 100)
	var colours []string
	for _, it := range j.Layout.Sheets[0].Items {
		colours = append(colours, leftColour(page, j, it, 100))
	}
	assert.ElementsMatch(t, []string{"red", "blue", "blue"}, colours)
	s.TakeUp(lots[0].ID, printStep)
	in.Version, in.Pictures[0].ArtworkID = s.OrderNow(o.ID).Version, &pictures[2]
	assert.Equal(t, "pictures[0].artworkId", housetest.AtFault(t, s.Fulfilment.SetPictures(s.Ctx, o.ID, in)), "what is printed keeps its picture")
}

func stepOf(b batches.Batch, do string) int {
	for i, step := range b.Recipe.Steps {
		if string(step.Do) == do {
			return i
		}
	}
	return -1
}

func TestFrontsAndBacksMatch(t *testing.T) {
	s := newStudio(t)
	p := s.lamp(func(in *products.NewProduct) { in.Blank.Sides = 2 }, design.Design{Border: 3}, false)
	j, file := s.sheets(request(s.batch(p, 4).ID))
	require.Equal(t, 2, j.Sheets)
	assert.Equal(t, 8, j.Prints)
	front, back := j.Layout.Sheets[0].Items, j.Layout.Sheets[1].Items
	for i := range front {
		assert.Equal(t, []float64{front[i].X, front[i].Y}, []float64{back[i].X, back[i].Y})
		assert.Equal(t, []int{1, 2}, []int{front[i].Side, back[i].Side})
	}
	rendered(t, file, 2, 50)
}

func TestSparesFillTheSheetAndTakeNoOther(t *testing.T) {
	s := newStudio(t)
	p := s.lamp(nil, design.Design{Border: 3}, false)
	b := s.batch(p, 4)
	r := request(b.ID)
	plain, err := s.Prints.Ask(s.Ctx, r)
	require.NoError(t, err)
	r.Spare = true
	spare, err := s.Prints.Ask(s.Ctx, r)
	require.NoError(t, err)
	assert.Equal(t, plain.Sheets, spare.Sheets)
	assert.Greater(t, spare.Prints, plain.Prints)
	r.Spare, r.Paper.Up = false, 2
	r.Paper.Width, r.Paper.Height = 297, 420
	up, err := s.Prints.Ask(s.Ctx, r)
	require.NoError(t, err)
	assert.Equal(t, 1, up.Sheets, "two sheets of A4 from one of A3")
}

func TestWhatDoesNotFitThePaperIsSaid(t *testing.T) {
	s := newStudio(t)
	p := s.lamp(nil, design.Design{Border: 3}, false)
	r := request(s.batch(p, 1).ID)
	r.Paper.Width, r.Paper.Height = 100, 90
	_, err := s.Prints.Ask(s.Ctx, r)
	assert.Equal(t, "paper.widthMm", housetest.AtFault(t, err))
	r.Paper.Margin = 60
	_, err = s.Prints.Ask(s.Ctx, r)
	assert.Equal(t, "paper.widthMm", housetest.AtFault(t, err))
}

func TestMakingIsStoppedAndMadeAgain(t *testing.T) {
	s := newStudio(t)
	p := s.lamp(nil, design.Design{Border: 3, CleanUp: picture.CleanUp{Colours: picture.BlackOnly}}, false)
	j, err := s.Prints.Make(s.Ctx, request(s.batch(p, 2).ID))
	require.NoError(t, err)
	require.NoError(t, s.Prints.Stop(s.Ctx, j.ID))
	more, err := s.Prints.MakeNext(s.Ctx)
	require.NoError(t, err)
	assert.False(t, more)
	_, _, err = s.Prints.Sheets(s.Ctx, j.ID)
	housetest.RefusedAs(t, err, problem.Moved)
	require.NoError(t, s.Prints.MakeAgain(s.Ctx, j.ID))
	// A server that takes it up and is killed leaves it to another.
	ctx, kill := context.WithCancel(s.Ctx)
	kill()
	_, err = s.Prints.MakeNext(ctx)
	require.Error(t, err)
	more, err = s.Prints.MakeNext(s.Ctx)
	require.NoError(t, err)
	require.True(t, more)
	_, content, err := s.Prints.Sheets(s.Ctx, j.ID)
	require.NoError(t, err)
	assert.True(t, bytes.HasPrefix(content, []byte("%PDF")))
	outlines, err := s.Prints.Outlines(s.Ctx, j.ID, 1)
	require.NoError(t, err)
	assert.Equal(t, 2, strings.Count(outlines, "<path"))
	assert.Contains(t, outlines, `width="210mm"`)
	_, err = s.Prints.Outlines(s.Ctx, j.ID, 2)
	housetest.Missing(t, err)
	require.NoError(t, s.Prints.Remove(s.Ctx, j.ID))
	_, err = s.Prints.Get(s.Ctx, j.ID)
	housetest.Missing(t, err)
}

func TestTheFilesOfJobsAreKept(t *testing.T) {
	s := newStudio(t)
	p := s.lamp(nil, design.Design{Border: 3}, false)
	j, _ := s.sheets(request(s.batch(p, 1).ID))
	held, err := database.Look(s.Ctx, s.DB, func(tx *gorm.DB) ([]string, error) {
		return prints.HeldFiles(tx, []string{*j.File, strings.Repeat("0", 64)})
	})
	require.NoError(t, err)
	assert.Equal(t, []string{*j.File}, held)
}

func TestSheetsThatEndTheServerEachTimeAreGivenUp(t *testing.T) {
	s := newStudio(t)
	p := s.lamp(nil, design.Design{Border: 3}, false)
	j, err := s.Prints.Make(s.Ctx, request(s.batch(p, 2).ID))
	require.NoError(t, err)
	begun := func(tries int, heldFor time.Duration) {
		require.NoError(t, s.DB.Write(s.Ctx, database.Nothing, func(tx *gorm.DB) error {
			return tx.Exec("UPDATE print_jobs SET claimed_until = ?, tries = ? WHERE id = ?", s.Now.Add(heldFor), tries, j.ID).Error
		}))
	}
	begun(1, time.Minute)
	more, err := s.Prints.MakeNext(s.Ctx)
	require.NoError(t, err)
	assert.False(t, more, "another server has it in hand")
	begun(3, -time.Minute)
	_, err = s.Prints.MakeNext(s.Ctx)
	require.NoError(t, err)
	j, err = s.Prints.Get(s.Ctx, j.ID)
	require.NoError(t, err)
	assert.Equal(t, prints.Failed, j.State)
	assert.Contains(t, j.Failure, "begun 3 times")
	require.NoError(t, s.Prints.MakeAgain(s.Ctx, j.ID))
	_, err = s.Prints.MakeNext(s.Ctx)
	require.NoError(t, err)
	j, err = s.Prints.Get(s.Ctx, j.ID)
	require.NoError(t, err)
	assert.Equal(t, prints.Ready, j.State, "asked for again it is made")
}
