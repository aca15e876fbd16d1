package server_test

import (
	"bytes"
	"image"
	"image/jpeg"
	"math/rand/v2"
	"net/http"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/server"
)

// largePhoto is one of 33 megapixels with so much noise that it takes more than 30 MB.
func largePhoto(b *testing.B) []byte {
	r := rand.New(rand.NewPCG(1, 2))
	img := image.NewRGBA(image.Rect(0, 0, 7000, 4700))
	for i := 0; i < len(img.Pix); i += 4 {
		x, y := i/4%7000, i/4/7000
		img.Pix[i], img.Pix[i+1], img.Pix[i+2], img.Pix[i+3] = uint8(x/32+int(r.Uint32()%90)), uint8(y/24+int(r.Uint32()%90)), uint8((x+y)/64+int(r.Uint32()%60)), 255
	}
	var out bytes.Buffer
	require.NoError(b, jpeg.Encode(&out, img, &jpeg.Options{Quality: 98}))
	return out.Bytes()
}

// BenchmarkPagesWhileALargePhotoIsRead times what the first pages ask for while a photo
// of more than 30 MB is taken in and read, and while nothing is.
func BenchmarkPagesWhileALargePhotoIsRead(b *testing.B) {
	db := demotest.New(b, now, "Etc/UTC")
	rooms := housed(b, db)
	h := server.Handler(server.Options{DB: db, Now: clock, House: rooms, Pages: built, Address: at(b, "127.0.0.1:8420")})
	content := largePhoto(b)
	asked := func(until <-chan struct{}) (took []time.Duration) {
		for {
			for _, path := range []string{"/api/today", "/api/plan", "/api/orders", "/api/artworks"} {
				begun := time.Now()
				require.Equal(b, http.StatusOK, ask(h, "GET", path, "").Code)
				took = append(took, time.Since(begun))
			}
			select {
			case <-until:
				return took
			default:
			}
		}
	}
	report := func(b *testing.B, name string, took []time.Duration) {
		slices.Sort(took)
		ms := func(share float64) float64 { return took[int(share*float64(len(took)-1))].Seconds() * 1000 }
		b.ReportMetric(ms(0.5), name+"-median-ms")
		b.ReportMetric(ms(0.95), name+"-p95-ms")
		b.ReportMetric(ms(1), name+"-most-ms")
	}
	over := make(chan struct{})
	time.AfterFunc(3*time.Second, func() { close(over) })
	quiet := asked(over)
	var reading []time.Duration
	for b.Loop() {
		read := make(chan struct{})
		var err error
		go func() {
			defer close(read)
			if _, err = rooms.Artwork.Take(b.Context(), "large.jpg", content); err == nil {
				_, err = rooms.Artwork.ReadNext(b.Context())
			}
		}()
		reading = append(reading, asked(read)...)
		require.NoError(b, err)
	}
	b.ReportMetric(float64(len(content))/1e6, "MB")
	report(b, "quiet", quiet)
	report(b, "reading", reading)
}
