package standin_test

import (
	"bytes"
	"context"
	"image/png"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/document"
	"tidykiln/internal/standin"
)

func sheetsOf(t *testing.T, pages int) []byte {
	var out bytes.Buffer
	s := document.PrintSheets{Title: "Sheets", Width: 210, Height: 297, Rule: 100, Pages: make([]document.PrintPage, pages)}
	require.NoError(t, document.WritePrintSheets(context.Background(), &out, s, func(int) {}))
	return out.Bytes()
}

func TestAPrinterTakesItsTimeAndWhatItNeeds(t *testing.T) {
	now := time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC)
	p := standin.NewPrinter(func() time.Time { return now })
	later := func(d time.Duration) []standin.PageOut {
		now = now.Add(d)
		return p.Out()
	}
	p.Send(7, sheetsOf(t, 3), 3)
	assert.Empty(t, later(2*time.Second))
	assert.Equal(t, []standin.PageOut{{Job: 7, Page: 1}}, later(time.Second))
	s := p.Status()
	assert.Equal(t, []any{uint64(7), 2, 249}, []any{s.Job, s.Page, s.Paper})

	s.Jammed = true
	p.Set(s)
	assert.Empty(t, later(time.Minute))
	assert.Contains(t, p.Status().Says, "jammed")
	s.Jammed, s.Paper = false, 1
	p.Set(s)
	assert.Len(t, later(time.Minute), 1)
	assert.Contains(t, p.Status().Says, "tray")
	s.Paper, s.Toner = 10, 0
	p.Set(s)
	assert.Empty(t, later(time.Minute))
	assert.Contains(t, p.Status().Says, "cartridge")
	s.Toner = 1
	p.Set(s)
	assert.Equal(t, []standin.PageOut{{Job: 7, Page: 3}}, later(time.Minute))
	assert.Zero(t, p.Status().Job)

	p.Send(8, sheetsOf(t, 5), 5)
	assert.True(t, p.Knows(8))
	later(3 * time.Second)
	p.Cancel(8)
	assert.Empty(t, later(time.Minute))
	assert.False(t, p.Knows(8))
	_, err := p.Sheet(8, 2)
	assert.ErrorIs(t, err, standin.ErrNotPrinted)
}

func TestTheCheckLineShowsAPrinterThatScales(t *testing.T) {
	now := time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC)
	p := standin.NewPrinter(func() time.Time { return now })
	t.Cleanup(func() { assert.NoError(t, p.Close()) })
	length := func(job uint64) float64 {
		p.Send(job, sheetsOf(t, 1), 1)
		now = now.Add(time.Minute)
		require.Len(t, p.Out(), 1)
		content, err := p.Sheet(job, 1)
		require.NoError(t, err)
		img, err := png.Decode(bytes.NewReader(content))
		require.NoError(t, err)
		longest := 0
		for y := range img.Bounds().Dy() {
			run := 0
			for x := range img.Bounds().Dx() {
				if r, _, _, _ := img.At(x, y).RGBA(); r < 0xc000 {
					run++
				} else {
					run = 0
				}
				longest = max(longest, run)
			}
		}
		return float64(longest) / 100 * 25.4
	}
	assert.InDelta(t, 100, length(1), 0.6)
	s := p.Status()
	s.Scale = 98
	p.Set(s)
	assert.InDelta(t, 98, length(2), 0.6)
}
