package prints_test

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"tidykiln/core/design"
	"tidykiln/internal/batches"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/prints"
	"tidykiln/internal/products"
	"tidykiln/internal/wire"
)

var (
	red  = color.RGBA{220, 0, 0, 255}
	blue = color.RGBA{0, 0, 220, 255}
)

// halves is a picture that is one colour on the left and another on the right.
func halves(t testing.TB, w, h int, left, right color.Color) []byte {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(img, image.Rect(0, 0, w/2, h), image.NewUniform(left), image.Point{}, draw.Src)
	draw.Draw(img, image.Rect(w/2, 0, w, h), image.NewUniform(right), image.Point{}, draw.Src)
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, img))
	return out.Bytes()
}

type studio struct{ *housetest.Studio }

func newStudio(t *testing.T) studio {
	s := studio{housetest.New(t)}
	s.Hire(9, 17, 1, 2, 3, 4, 5)
	return s
}

// picture puts a picture in that is ours.
func (s studio) picture(name string, content []byte) uint64 {
	s.Helper()
	taken, err := s.Artwork.Take(s.Ctx, name, content)
	require.NoError(s, err)
	for more := true; more; {
		more, err = s.Artwork.ReadNext(s.Ctx)
		require.NoError(s, err)
	}
	return taken.ID
}

// lamp is a product on a disc of 90 mm with a picture and 3 mm of border.
func (s studio) lamp(change func(*products.NewProduct), d design.Design, own bool) products.Detail {
	s.Helper()
	in := housetest.Lamp("90")
	in.Picture = products.PictureForm{ArtworkID: new(s.picture("halves.png", halves(s, 900, 900, red, blue))), Kind: "toner", Carrier: "paper"}
	if change != nil {
		change(&in)
	}
	p, err := s.Products.ChangeDesign(s.Ctx, s.Make(in).ID, products.DesignChange{Design: d, OwnPictures: own, Version: 1})
	require.NoError(s, err)
	return p
}

// batch makes up a batch of plain pieces, whatever speaks against it.
func (s studio) batch(p products.Detail, pieces int) batches.Batch {
	s.Helper()
	for _, f := range p.Draft.Findings {
		if f.Level == "stop" && f.Override == nil {
			require.NoError(s, s.overrule(p.ID, f))
		}
	}
	b, err := s.Batches.Make(s.Ctx, batches.NewBatch{ProductID: p.ID, WantIDs: []uint64{}, Extras: pieces, Lots: []int{pieces}})
	require.NoError(s, err)
	return b
}

func (s studio) overrule(id uint64, f products.Finding) error {
	_, err := s.Products.Overrule(wire.Acting(s.Ctx, wire.Actor{PersonID: s.Person}), id, products.NewOverride{Rule: f.Rule, StepID: f.StepID, Reason: "a test"})
	return err
}

var a4 = prints.Paper{Width: 210, Height: 297, Margin: 8, Gap: 3}

func request(ids ...uint64) prints.JobRequest {
	return prints.JobRequest{BatchIDs: ids, Paper: a4, Cut: prints.CutNone}
}

// sheets makes a job and gives it with the file of its PDF.
func (s studio) sheets(r prints.JobRequest) (prints.PrintJob, string) {
	s.Helper()
	j, err := s.Prints.Make(s.Ctx, r)
	require.NoError(s, err)
	more, err := s.Prints.MakeNext(s.Ctx)
	require.NoError(s, err)
	require.True(s, more)
	j, err = s.Prints.Get(s.Ctx, j.ID)
	require.NoError(s, err)
	require.Equal(s, prints.Ready, j.State)
	_, content, err := s.Prints.Sheets(s.Ctx, j.ID)
	require.NoError(s, err)
	file := filepath.Join(s.TempDir(), "sheets.pdf")
	require.NoError(s, os.WriteFile(file, content, 0o600))
	return j, file
}

// rendered is a page of a PDF as poppler draws it.
func rendered(t testing.TB, file string, page, ppi int) image.Image {
	out, err := exec.CommandContext(t.Context(), "pdftoppm", "-png", "-r", fmt.Sprint(ppi), "-f", fmt.Sprint(page), "-l", fmt.Sprint(page), file).Output()
	require.NoError(t, err)
	img, err := png.Decode(bytes.NewReader(out))
	require.NoError(t, err)
	return img
}

func colourAt(img image.Image, xMm, yMm, ppi float64) string {
	r, g, b, _ := img.At(int(xMm/25.4*ppi), int(yMm/25.4*ppi)).RGBA()
	switch {
	case r > 0x9000 && g < 0x5000 && b < 0x5000:
		return "red"
	case b > 0x9000 && g < 0x5000 && r < 0x5000:
		return "blue"
	case r > 0xf000 && g > 0xf000 && b > 0xf000:
		return "paper"
	}
	return fmt.Sprintf("%x %x %x", r>>8, g>>8, b>>8)
}

// leftColour is what is printed at the left of an item's print, as the file holds it.
func leftColour(img image.Image, j prints.PrintJob, it prints.Item, ppi float64) string {
	k := j.Layout.Kinds[it.Kind]
	x, y := k.X+10, k.Height/2-1
	if it.Turned {
		x, y = k.Height-y, x
	}
	return colourAt(img, it.X+x, it.Y+y, ppi)
}
