package papers_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/house"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/papers"
	"tidykiln/internal/standin"
)

// BenchmarkInvoice issues an invoice, its file and all, and reads it; crediting it, so that
// the next can be issued, is not counted.
func BenchmarkInvoice(b *testing.B) {
	at := time.Date(2027, 5, 4, 10, 26, 0, 0, time.UTC)
	db := demotest.New(b, at, "Etc/UTC")
	rooms := house.New(db, func() time.Time { return at }, &standin.Hygrometer{}, standin.NewPrinter(time.Now))
	rooms.Artwork.KeepIn(housetest.Files(b, db))
	for b.Loop() {
		p, err := rooms.Papers.Issue(b.Context(), 5, papers.PaperForm{Kind: papers.Invoice})
		require.NoError(b, err)
		_, err = rooms.Papers.PDF(b.Context(), p.ID)
		require.NoError(b, err)
		b.StopTimer()
		_, err = rooms.Papers.Credit(b.Context(), p.ID, papers.CreditForm{Whole: true, Reason: "the next"})
		require.NoError(b, err)
		b.StartTimer()
	}
}
