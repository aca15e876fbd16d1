package document_test

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/lettering"
	"tidykiln/core/shape"
	"tidykiln/internal/document"
)

// half is a picture whose left half is one colour and whose right half another.
func half(left, right color.Color, grey bool) []byte {
	var img interface {
		image.Image
		Set(x, y int, c color.Color)
	} = image.NewRGBA(image.Rect(0, 0, 200, 100))
	if grey {
		img = image.NewGray(image.Rect(0, 0, 200, 100))
	}
	for y := range 100 {
		for x := range 200 {
			img.Set(x, y, left)
			if x >= 100 {
				img.Set(x, y, right)
			}
		}
	}
	var out bytes.Buffer
	if grey {
		if err := png.Encode(&out, img); err != nil {
			panic(err)
		}
	} else if err := jpeg.Encode(&out, img, &jpeg.Options{Quality: 98}); err != nil {
		panic(err)
	}
	return out.Bytes()
}

var (
	red   = color.RGBA{220, 0, 0, 255}
	blue  = color.RGBA{0, 0, 220, 255}
	black = color.RGBA{0, 0, 0, 255}
	pale  = color.RGBA{180, 180, 180, 255}
)

func box(w, h float64) []shape.Point { return []shape.Point{{}, {X: w}, {X: w, Y: h}, {Y: h}} }

// sheetAt renders the first page of the sheets by poppler at so many pixels an inch.
func sheetAt(t *testing.T, s document.PrintSheets, ppi int) (image.Image, string) {
	var out bytes.Buffer
	pages := 0
	require.NoError(t, document.WritePrintSheets(t.Context(), &out, s, func(int) { pages++ }))
	assert.Len(t, s.Pages, pages)
	file := filepath.Join(t.TempDir(), "sheets.pdf")
	require.NoError(t, os.WriteFile(file, out.Bytes(), 0o600))
	page, err := exec.CommandContext(t.Context(), "pdftoppm", "-png", "-r", fmt.Sprint(ppi), "-f", "1", "-l", "1", file).Output()
	require.NoError(t, err)
	img, err := png.Decode(bytes.NewReader(page))
	require.NoError(t, err)
	return img, file
}

func reading(_ context.Context, key string) (document.PrintImage, error) {
	if key == "grey" {
		return document.PrintImage{Content: half(black, pale, true)}, nil
	}
	return document.PrintImage{Content: half(red, blue, false), JPEG: true}, nil
}

// reach is the box of the pixels that are so, in mm.
func reach(img image.Image, ppi float64, is func(r, g, b uint32) bool) (left, top, right, foot float64) {
	left, top = 1e9, 1e9
	b := img.Bounds()
	for y := b.Min.Y; y < b.Max.Y; y++ {
		for x := b.Min.X; x < b.Max.X; x++ {
			if r, g, bl, _ := img.At(x, y).RGBA(); is(r>>8, g>>8, bl>>8) {
				mm := 25.4 / ppi
				left, top = min(left, float64(x)*mm), min(top, float64(y)*mm)
				right, foot = max(right, float64(x+1)*mm), max(foot, float64(y+1)*mm)
			}
		}
	}
	return left, top, right, foot
}

func isRed(r, g, b uint32) bool  { return r > 150 && g < 90 && b < 90 }
func isBlue(r, g, b uint32) bool { return b > 150 && g < 90 && r < 90 }

func TestPrintsComeOutAtTheirTrueSizeAndTheRightWayRound(t *testing.T) {
	const ppi = 508 // a pixel is 0.05 mm
	at := func(turned, mirrored bool) document.PrintSheets {
		return document.PrintSheets{Title: "Sheet", Width: 210, Height: 297, Rule: 100, Image: reading, Pages: []document.PrintPage{{Prints: []document.PrintAt{{
			X: 20, Y: 30, Width: 70, Height: 40, Turned: turned,
			Print: document.PrintBox{X: 5, Y: 5, Width: 60, Height: 30, Mirrored: mirrored, Outline: box(60, 30), Picture: "halves"},
		}}}}}
	}
	for name, c := range map[string]struct {
		turned, mirrored bool
		// red and blue are the boxes of the two halves as they come out, in mm.
		red, blue [4]float64
	}{
		"as it is":            {false, false, [4]float64{25, 35, 55, 65}, [4]float64{55, 35, 85, 65}},
		"mirrored":            {false, true, [4]float64{55, 35, 85, 65}, [4]float64{25, 35, 55, 65}},
		"turned":              {true, false, [4]float64{25, 35, 55, 65}, [4]float64{25, 65, 55, 95}},
		"turned and mirrored": {true, true, [4]float64{25, 65, 55, 95}, [4]float64{25, 35, 55, 65}},
	} {
		t.Run(name, func(t *testing.T) {
			img, _ := sheetAt(t, at(c.turned, c.mirrored), ppi)
			assert.InDelta(t, 210.0/25.4*ppi, img.Bounds().Dx(), 1)
			l, tp, r, f := reach(img, ppi, isRed)
			assert.InDeltaSlice(t, c.red[:], []float64{l, tp, r, f}, 0.1)
			l, tp, r, f = reach(img, ppi, isBlue)
			assert.InDeltaSlice(t, c.blue[:], []float64{l, tp, r, f}, 0.1)
		})
	}
}

func TestAPrintIsCutToItsOutlineAndLettered(t *testing.T) {
	const ppi = 254
	disc := shape.Shape{Kind: shape.Disc, Diameter: 60}.Outline()
	style := lettering.Usual()
	words := style.Set("FENNA", disc)
	s := document.PrintSheets{Title: "Sheet", Width: 297, Height: 210, Rule: 100, Image: reading, Pages: []document.PrintPage{{Foot: "Batch 12", Apart: []float64{148.5}, Prints: []document.PrintAt{{
		X: 100, Y: 50, Width: 60, Height: 60,
		Print: document.PrintBox{Width: 60, Height: 60, Outline: disc, Picture: "halves", Words: []document.PrintWords{{Outline: words.Outline, Colour: "#00ff00", Halo: 0.5}}},
		Cut:   [][]shape.Point{disc},
	}}}}}
	img, file := sheetAt(t, s, ppi)
	l, tp, r, f := reach(img, ppi, isRed)
	assert.InDelta(t, 100, l, 0.15)
	assert.InDelta(t, 50, tp, 0.4)
	assert.InDelta(t, 130, r, 0.1)
	assert.InDelta(t, 110, f, 0.4)
	corner := img.At(int(102/25.4*ppi), int(52/25.4*ppi))
	cr, cg, cb, _ := corner.RGBA()
	assert.Equal(t, []uint32{0xffff, 0xffff, 0xffff}, []uint32{cr, cg, cb}, "what is outside the disc is paper")
	least, most := words.Outline.Box()
	l, tp, r, f = reach(img, ppi, func(r, g, b uint32) bool { return g > 200 && r < 60 && b < 60 })
	assert.InDeltaSlice(t, []float64{100 + least[0], 50 + least[1], 100 + most[0], 50 + most[1]}, []float64{l, tp, r, f}, 0.25)
	// The line at the foot is 100 mm.
	l, _, r, _ = reach(img.(interface {
		SubImage(image.Rectangle) image.Image
	}).SubImage(image.Rect(0, int(203/25.4*ppi), int(140/25.4*ppi), int(204.2/25.4*ppi))), ppi, func(r, g, b uint32) bool { return r < 60 && g < 60 && b < 60 })
	assert.InDelta(t, 100, r-l, 0.3)
	text, err := exec.CommandContext(t.Context(), "pdftotext", file, "-").Output()
	require.NoError(t, err)
	assert.Contains(t, string(text), "Batch 12")
	fonts, err := exec.CommandContext(t.Context(), "pdffonts", file).Output()
	require.NoError(t, err)
	assert.Regexp(t, `utf8text .* yes \S+ \s*yes`, string(fonts), "fonts are embedded")
}

func TestGreysStayGreys(t *testing.T) {
	s := document.PrintSheets{Title: "Sheet", Width: 210, Height: 297, Rule: 100, Image: reading, Pages: []document.PrintPage{{}}}
	for i := range 3 { // thrice on the sheet, once in the file
		s.Pages[0].Prints = append(s.Pages[0].Prints, document.PrintAt{X: 10, Y: 10 + 60*float64(i), Width: 80, Height: 40,
			Print: document.PrintBox{Width: 80, Height: 40, Outline: box(80, 40), Picture: "grey", Words: []document.PrintWords{{Outline: lettering.Usual().Set("HALE", box(80, 40)).Outline, Colour: "#202020"}}}})
	}
	img, file := sheetAt(t, s, 72)
	_, _, _, _ = reach(img, 72, func(r, g, b uint32) bool {
		assert.True(t, r == g && g == b)
		return false
	})
	list, err := exec.CommandContext(t.Context(), "pdfimages", "-list", file).Output()
	require.NoError(t, err)
	rows := strings.Split(strings.TrimSpace(string(list)), "\n")[2:]
	require.Len(t, rows, 3)
	objects := map[string]bool{}
	for _, row := range rows {
		assert.Equal(t, "gray", strings.Fields(row)[5])
		objects[strings.Fields(row)[10]] = true
	}
	assert.Len(t, objects, 1)
}

func TestMakingSheetsCanBeStopped(t *testing.T) {
	ctx, stop := context.WithCancel(t.Context())
	s := document.PrintSheets{Title: "Sheet", Width: 100, Height: 100, Rule: 50, Image: reading, Pages: make([]document.PrintPage, 9)}
	done := 0
	err := document.WritePrintSheets(ctx, &bytes.Buffer{}, s, func(page int) {
		done = page
		if page == 3 {
			stop()
		}
	})
	require.ErrorIs(t, err, context.Canceled)
	assert.Equal(t, 3, done)
}

func TestTissueIsMarkedOnItsCarrier(t *testing.T) {
	s := document.PrintSheets{Title: "Sheet", Width: 210, Height: 297, Rule: 100, Image: reading, Pages: []document.PrintPage{{Carrier: true}}}
	_, file := sheetAt(t, s, 72)
	text, err := exec.CommandContext(t.Context(), "pdftotext", file, "-").Output()
	require.NoError(t, err)
	assert.Contains(t, string(text), "tape all four edges flush")
}
