package document_test

import (
	"bytes"
	"image"
	"image/jpeg"
	"image/png"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/document"
)

// onPaper is a paper as a PDF, and how many pages it has.
func onPaper(t *testing.T, p document.Paper) ([]byte, int) {
	var out bytes.Buffer
	require.NoError(t, document.WritePaper(&out, p))
	return out.Bytes(), len(regexp.MustCompile(`/Type /Page\b[^s]`).FindAll(out.Bytes(), -1))
}

func TestAPaperTakesAsManyPagesAsItsLinesNeed(t *testing.T) {
	p := document.Paper{Title: "Quote 101", From: "Withy Landing", To: "Tern Boathouse\n2 Slip", About: "Of Monday", Words: []string{"Ready on Friday."},
		Sums: []document.PaperSum{{Name: "To be paid", Amount: "€12.00", Main: true}}}
	pdf, pages := onPaper(t, p)
	assert.Equal(t, 1, pages)
	assert.Contains(t, string(pdf), "/FontFile2", "the fonts are in it")
	for range 30 {
		p.Lines = append(p.Lines, document.PaperLine{Name: "Sign", Quantity: "1", Each: "€1.00", Amount: "€1.00"})
	}
	_, pages = onPaper(t, p)
	assert.Equal(t, 2, pages)
	var picture bytes.Buffer
	require.NoError(t, png.Encode(&picture, image.NewGray(image.Rect(0, 0, 10, 10))))
	for i := range p.Lines {
		p.Lines[i].Picture = picture.Bytes()
	}
	_, pages = onPaper(t, p)
	assert.Equal(t, 3, pages, "pictures take room")
}

func TestAPaperBearsAnyWordsAndPictures(t *testing.T) {
	var asJPEG, asPNG bytes.Buffer
	require.NoError(t, jpeg.Encode(&asJPEG, image.NewRGBA(image.Rect(0, 0, 30, 10)), nil))
	require.NoError(t, png.Encode(&asPNG, image.NewGray(image.Rect(0, 0, 10, 30))))
	p := document.Paper{Title: "=1+1", To: strings.Repeat("very long ", 300), Words: []string{"李娜 مريم \x00 👩‍🌾"}}
	for _, picture := range [][]byte{nil, asJPEG.Bytes(), asPNG.Bytes(), []byte("no picture"), asPNG.Bytes()[:60]} {
		p.Lines = append(p.Lines, document.PaperLine{Name: strings.Repeat("w", 400), About: "Ada, Bea", Quantity: "500", Each: "€1", Amount: "€500", Picture: picture})
	}
	pdf, _ := onPaper(t, p)
	assert.Equal(t, 2, bytes.Count(pdf, []byte("/Subtype /Image")), "what is no picture, or a damaged one, is left out")
}
