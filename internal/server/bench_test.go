package server_test

import (
	"context"
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/demo/demotest"
)

// BenchmarkAnswers times each answer that can be read on the demo studio, right
// after a change, when no plan is kept, and again while it is.
func BenchmarkAnswers(b *testing.B) {
	db := demotest.New(b, now, "Etc/UTC")
	s := studio{readDocument(b), b, handler(db)}
	for _, op := range s.operations() {
		if op.method != http.MethodGet {
			continue
		}
		address := s.address(op)
		b.Run(op.ID+"/after-a-change", func(b *testing.B) {
			for range b.N {
				b.StopTimer()
				require.NoError(b, db.Write(context.Background(), func(*gorm.DB) error { return nil }))
				b.StartTimer()
				ask(s.h, "GET", address, "")
			}
		})
		b.Run(op.ID+"/again", func(b *testing.B) {
			for b.Loop() {
				ask(s.h, "GET", address, "")
			}
		})
	}
}
