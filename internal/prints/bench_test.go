package prints

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/jpeg"
	"math/rand/v2"
	"runtime"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"tidykiln/core/design"
	"tidykiln/core/shape"
	"tidykiln/internal/document"
)

// photo is a JPEG of 12 megapixels with something everywhere.
func photo(b *testing.B, seed uint64) []byte {
	r := rand.New(rand.NewPCG(seed, 7))
	img := image.NewRGBA(image.Rect(0, 0, 4000, 3000))
	for y := range 3000 {
		for x := range 4000 {
			p := img.Pix[y*img.Stride+4*x:]
			p[0], p[1], p[2], p[3] = uint8(x/16+int(r.Uint32()%24)), uint8(y/12+int(r.Uint32()%24)), uint8((x+y)/28), 255
		}
	}
	var out bytes.Buffer
	require.NoError(b, jpeg.Encode(&out, img, &jpeg.Options{Quality: 92}))
	return out.Bytes()
}

// BenchmarkSixtySheets makes the PDF of 400 prints of 20 photos of 12 megapixels, each
// placed twenty times, on sixty sheets, and says how much memory the process took at most.
func BenchmarkSixtySheets(b *testing.B) {
	photos := make([][]byte, 20)
	for i := range photos {
		photos[i] = photo(b, uint64(i))
	}
	d := design.Design{Border: 3}
	blank := shape.Shape{Kind: shape.Disc, Diameter: 96}
	print := d.Print(blank)
	s := document.PrintSheets{Title: "Sixty sheets", Width: 210, Height: 297, Rule: 100}
	for i := range 60 {
		var p document.PrintPage
		for k := range 7 {
			if n := i*7 + k; n < 400 {
				p.Prints = append(p.Prints, document.PrintAt{X: 8 + 97*float64(k%2), Y: 8 + 68*float64(k/2), Width: 95, Height: 95,
					Print: document.PrintBox{X: 2, Y: 2, Width: print.Width, Height: print.Height, Mirrored: true, Outline: print.Outline, Picture: fmt.Sprint(n % 20)}})
			}
		}
		s.Pages = append(s.Pages, p)
	}
	s.Image = func(_ context.Context, key string) (document.PrintImage, error) {
		var i int
		if _, err := fmt.Sscan(key, &i); err != nil {
			return document.PrintImage{}, err
		}
		src, err := jpeg.Decode(bytes.NewReader(photos[i]))
		if err != nil {
			return document.PrintImage{}, err
		}
		return drawn(src, d, print, sharpest)
	}
	runtime.GC()
	var most atomic.Uint64
	stop := make(chan struct{})
	go func() {
		for tick := time.NewTicker(20 * time.Millisecond); ; {
			select {
			case <-stop:
				tick.Stop()
				return
			case <-tick.C:
				var m runtime.MemStats
				runtime.ReadMemStats(&m)
				most.Store(max(most.Load(), m.HeapInuse+m.StackInuse))
			}
		}
	}()
	for b.Loop() {
		var out bytes.Buffer
		require.NoError(b, document.WritePrintSheets(b.Context(), &out, s, func(int) {}))
		b.ReportMetric(float64(out.Len())/1e6, "MB/PDF")
	}
	close(stop)
	b.ReportMetric(float64(most.Load())/1e6, "MB-most")
}
