package server_test

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"testing"

	"tidykiln/internal/database"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"
)

// Every answer that can be read takes as many statements with a full studio as with a small one.
func TestAnAnswerTakesAsManyStatementsHoweverMuchThereIs(t *testing.T) {
	t.Parallel()
	db, cable := throughCable(t)
	s := studio{readDocument(t), t, handler(t, db)}
	count := func(op operation) int64 {
		address := s.address(op)
		for _, p := range op.Parameters {
			if p.Name == "text" {
				address += "?text=e"
			}
			if p.Name == "design" {
				address += "?design=%7B%7D"
			}
		}
		require.NoError(t, db.Write(context.Background(), database.Everything, func(*gorm.DB) error { return nil })) // so that no plan is kept
		before := cable.statements.Load()
		require.Equal(t, http.StatusOK, ask(s.h, op.method, address, "").Code, address)
		return cable.statements.Load() - before
	}
	small := map[string]int64{}
	read := slices.DeleteFunc(s.operations(), func(op operation) bool {
		return op.method != http.MethodGet || op.ID == "printed-sheet" || op.ID == "get-backup-file" // which come out of the printer, and of a folder
	})
	// A plan notes once which promises it moves.
	planned := func() { require.Equal(t, http.StatusOK, ask(s.h, http.MethodGet, "/api/plan", "").Code) }
	planned()
	// Who reads the trail first reads the facts of its tables, once for all.
	require.Equal(t, http.StatusOK, ask(s.h, http.MethodGet, "/api/trail", "").Code)
	for _, op := range read {
		small[op.ID] = count(op)
	}
	s.fill(t)
	planned()
	for _, op := range read {
		full := count(op)
		if full != small[op.ID] {
			full = count(op) // what is noted since is noted now
		}
		assert.Equal(t, small[op.ID], full, op.ID)
	}
	assert.Greater(t, len(small), 15)
	for id, n := range small {
		assert.LessOrEqual(t, n, int64(40), id)
	}
}

// fill takes many orders, makes many products and batches, and does much at the bench.
func (s studio) fill(t *testing.T) {
	made := func(method, path, body string) {
		answer := ask(s.h, method, path, body)
		require.Less(t, answer.Code, 300, "%s %s %s: %s", method, path, body, answer.Body)
	}
	for i := range 25 {
		made("POST", "/api/orders", fmt.Sprintf(`{"agreed":[`+everybody()+`],"customer":"Customer %d","dueOn":"2027-06-%02d","lines":[{"productId":3,"quantity":6},{"productId":3,"quantity":1}]}`, i, i+1))
		made("POST", "/api/products/1/method", fmt.Sprintf(`{"name":"way number %d"}`, i))
	}
	for _, op := range s.operations() {
		if op.ID != "make-product" && op.ID != "make-batch" && op.ID != "take-up" {
			continue
		}
		for range 12 {
			address, body := s.request(op)
			ask(s.h, op.method, address, body)
		}
	}
}
