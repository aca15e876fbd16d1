package prints_test

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/design"
	"tidykiln/core/lettering"
	"tidykiln/internal/database"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/orders"
	"tidykiln/internal/prints"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/workshop"
)

func TestAProofIsShownAndApproved(t *testing.T) {
	s := newStudio(t)
	style := lettering.Usual()
	p := s.lamp(func(in *products.NewProduct) { in.Lettered = true }, design.Design{Border: 3, Lettering: &style}, false)
	o := s.Order(p, 2, "Marit", "Osric")
	proof, err := s.Prints.Proof(s.Ctx, o.ID)
	require.NoError(t, err)
	require.Len(t, proof.Pieces, 2)
	assert.Equal(t, prints.Unshown, proof.Pieces[0].State)
	assert.NotEmpty(t, proof.Pieces[0].Path)
	name, content, err := s.Prints.ProofPDF(s.Ctx, o.ID)
	require.NoError(t, err)
	assert.Equal(t, "proof-1001.pdf", name)
	file := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(file, content, 0o600))
	page := rendered(t, file, 1, 100)
	// As people see it: red, on the left, over the wood.
	at := func(mm float64) int { return int(mm / 25.4 * 100) }
	r, g, b, _ := page.At(at(14+26), at(34+20)).RGBA()
	assert.True(t, r > 0x8000 && g < 0x3000 && b < 0x3000, "%x %x %x", r, g, b)

	batch, _ := s.MakeUp(p, 0, 2)
	concerns := func() (texts []string) {
		ask, err := s.Prints.Ask(s.Ctx, request(batch.ID))
		require.NoError(t, err)
		for _, c := range ask.Concerns {
			texts = append(texts, c.Text)
		}
		return texts
	}
	assert.Empty(t, concerns(), "nobody has asked for a proof")
	say := func(state prints.ProofState, note string, pieces ...prints.ProofPiece) error {
		in := prints.ProofAnswers{}
		for _, p := range pieces {
			in.Answers = append(in.Answers, prints.ProofAnswer{WantID: p.WantID, State: state, Note: note})
		}
		return s.Prints.AnswerProof(s.Ctx, o.ID, in)
	}
	require.NoError(t, say(prints.Shown, "", proof.Pieces...))
	assert.Equal(t, []string{"Of 2 pieces the customer has not approved the proof."}, concerns())
	assert.Equal(t, "answers[0].note", housetest.AtFault(t, say(prints.Change, " ", proof.Pieces[1])))
	require.NoError(t, say(prints.Approved, "", proof.Pieces[0]))
	require.NoError(t, say(prints.Change, "Osrick, with a k", proof.Pieces[1]))
	assert.Equal(t, []string{"Of 1 piece the customer has not approved the proof."}, concerns())
	require.NoError(t, say(prints.Approved, "", proof.Pieces...))
	assert.Empty(t, concerns())
	assert.Contains(t, s.HappenedTo(o.ID), "Proof: 2 of 2 approved by the customer")
	// What is changed after that is not what was approved.
	_, err = s.Products.ChangeDesign(s.Ctx, p.ID, products.DesignChange{Design: design.Design{Border: 5, Lettering: &style}, Version: 2})
	require.NoError(t, err)
	proof, err = s.Prints.Proof(s.Ctx, o.ID)
	require.NoError(t, err)
	assert.Equal(t, prints.Unshown, proof.Pieces[0].State)
	err = s.Prints.AnswerProof(s.Ctx, o.ID, prints.ProofAnswers{Answers: []prints.ProofAnswer{{WantID: 999, State: prints.Approved}}})
	housetest.RefusedAs(t, err, problem.Moved)
}

func TestAPictureRoundATumblerIsPrinted(t *testing.T) {
	s := newStudio(t)
	p := s.lamp(func(in *products.NewProduct) {
		in.Blank = products.BlankForm{Surface: "metal-coated", Shape: "tapered", Width: "80", Foot: "70", Height: "60", Tone: "light"}
		in.Method, in.Picture.Kind, in.Picture.Carrier = "decal-face-up", "toner", "decal-clear"
	}, design.Design{Border: 5, Seam: 4}, false)
	b := s.batch(p, 1)
	r := request(b.ID)
	r.Paper.Width, r.Paper.Height = 148, 210
	_, err := s.Prints.Ask(s.Ctx, r)
	assert.Equal(t, "paper.widthMm", housetest.AtFault(t, err), "it is 251 mm round")
	r.Paper.Width, r.Paper.Height = 420, 297
	j, file := s.sheets(r)
	const ppi = 100
	page := rendered(t, file, 1, ppi)
	it, k := j.Layout.Sheets[0].Items[0], j.Layout.Kinds[0]
	require.False(t, it.Turned)
	assert.False(t, k.Mirrored)
	wall, _ := p.Blank.Shape.Wall()
	sector := wall.Sector()
	print := design.Design{Border: 5, Seam: 4}.Print(p.Blank.Shape)
	for round, want := range map[float64]string{0.02: "red", 0.48: "red", 0.52: "blue", 0.98: "blue", 1.005: "red"} {
		x, y := sector.Place(round, 0.5)
		assert.Equal(t, want, colourAt(page, it.X+k.X+x-print.X, it.Y+k.Y+y-print.Y, ppi), "%g of the way round", round)
	}
	x, y := sector.Place(0.5, 0.01)
	assert.Equal(t, "paper", colourAt(page, it.X+k.X+x-print.X, it.Y+k.Y+y-print.Y, ppi), "the rim stays free")
}

func TestWhatThePrinterUsesLeavesTheStoresOnce(t *testing.T) {
	s := newStudio(t)
	p := s.lamp(nil, design.Design{Border: 3}, false)
	b := s.batch(p, 12)
	s.Buy("Reed Paper", "copy-paper", "100 sheets", "2.00")
	before := s.Material("copy-paper").OnHand
	j, _ := s.sheets(request(b.ID))
	require.NoError(t, s.Prints.Print(s.Ctx, j.ID))
	require.NoError(t, s.Prints.Print(s.Ctx, j.ID), "a second tap prints nothing twice")
	require.NoError(t, s.Prints.Collect(s.Ctx))
	s.Later(4 * time.Second)
	require.NoError(t, s.Prints.Collect(s.Ctx))
	at, err := s.Prints.Get(s.Ctx, j.ID)
	require.NoError(t, err)
	assert.Equal(t, []any{true, 1}, []any{at.Printing, at.Printed})
	s.Later(time.Minute)
	require.NoError(t, s.Prints.Collect(s.Ctx))
	require.NoError(t, s.Prints.Collect(s.Ctx))
	at, err = s.Prints.Get(s.Ctx, j.ID)
	require.NoError(t, err)
	assert.Equal(t, []any{false, j.Sheets}, []any{at.Printing, at.Printed})
	after := s.Material("copy-paper").OnHand
	assert.Equal(t, fmt.Sprint(j.Sheets), before.Sub(after).String())
	_, err = s.Prints.PrintedSheet(j.ID, 1)
	require.NoError(t, err)
	_, err = s.Prints.PrintedSheet(j.ID, 9)
	housetest.Missing(t, err)
	// The step at the bench takes them no second time.
	lot := s.Lots(b.ID)[0]
	for i := range stepOf(b, "print") + 1 {
		s.Step(lot.ID, i, 5)
		s.Later(24 * time.Hour)
	}
	assert.Equal(t, after.String(), s.Material("copy-paper").OnHand.String())
	status, err := s.Prints.ShowPrinter(s.Ctx)
	require.NoError(t, err)
	assert.True(t, status.Simulated)
	assert.Equal(t, 250-j.Sheets, status.Paper)
	require.NoError(t, s.Prints.SetPrinter(s.Ctx, prints.PrinterChange{Paper: 0, Toner: 1, Scale: 98}))
	require.NoError(t, s.Prints.Print(s.Ctx, j.ID))
	require.NoError(t, s.Prints.CancelPrint(s.Ctx, j.ID))
}

func TestWhatAProofShowsIsWhatIsPrinted(t *testing.T) {
	s := newStudio(t)
	style := lettering.Usual()
	style.Text, style.Height, style.Least = "{name}\n{number} · {date}", 4, 2
	p := s.lamp(func(in *products.NewProduct) { in.Lettered = true }, design.Design{Border: 3, Lettering: &style}, false)
	var shown []string
	for _, o := range []orders.Order{s.Order(p, 2, "Marit", "Osric"), s.Order(p, 1, "Wenna")} {
		proof, err := s.Prints.Proof(s.Ctx, o.ID)
		require.NoError(t, err)
		for _, piece := range proof.Pieces {
			shown = append(shown, piece.Text)
		}
	}
	w, err := database.Look(s.Ctx, s.DB, workshop.LoadAlone)
	require.NoError(t, err)
	day := w.Habit.DayAndYear(s.Now.AddDate(0, 0, 31))
	assert.Equal(t, []string{"Marit\n1 · " + day, "Osric\n2 · " + day, "Wenna\n1 · " + day}, shown)
	b, _ := s.MakeUp(p, 0, 3)
	ask, err := s.Prints.Ask(s.Ctx, request(b.ID))
	require.NoError(t, err)
	var printed []string
	for _, it := range ask.Layout.Sheets[0].Items {
		printed = append(printed, it.Lettering)
	}
	assert.ElementsMatch(t, shown, printed)
}
