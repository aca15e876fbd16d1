package database_test

import (
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/database/dbtest"
)

// answer is what the use case of these tests answers.
type answer struct{ Number int }

func TestARequestSentAgainIsAnsweredAndNotDoneAgain(t *testing.T) {
	db := dbtest.New(t)
	runs := 0
	do := func(key, content string) (a answer, err error) {
		ctx := database.Once(context.Background(), key, sha256.Sum256([]byte(content)))
		err = db.Answer(ctx, &a, func(*gorm.DB) error {
			runs++
			a.Number = runs
			return nil
		})
		return a, err
	}
	for range 3 {
		a, err := do("key-one-1", "an order")
		require.NoError(t, err)
		assert.Equal(t, answer{1}, a)
	}
	a, err := do("key-two-2", "an order")
	require.NoError(t, err)
	assert.Equal(t, answer{2}, a, "another key is another request")
	_, err = do("key-one-1", "another order")
	assert.ErrorIs(t, err, database.ErrKeyReused)
	assert.Equal(t, 2, runs)
}

func TestARequestThatWasRefusedMayBeSentAgain(t *testing.T) {
	db := dbtest.New(t)
	ctx := func() context.Context { return database.Once(context.Background(), "key-one-1", [32]byte{1}) }
	refused := errors.New("not yet")
	assert.ErrorIs(t, db.Write(ctx(), func(*gorm.DB) error { return refused }), refused)
	ran := false
	require.NoError(t, db.Write(ctx(), func(*gorm.DB) error { ran = true; return nil }))
	assert.True(t, ran)
}

func TestTheSecondUseCaseOfARequestIsRunToo(t *testing.T) {
	db := dbtest.New(t)
	ctx := database.Once(context.Background(), "key-one-1", [32]byte{1})
	runs := 0
	for range 2 {
		require.NoError(t, db.Write(ctx, func(*gorm.DB) error { runs++; return nil }))
	}
	assert.Equal(t, 2, runs)
}

func TestOneKeyAtOnceFromManyHandsIsDoneOnce(t *testing.T) {
	db := dbtest.New(t)
	var runs, wrong sync.Map
	var hands sync.WaitGroup
	for hand := range 12 {
		hands.Go(func() {
			var a answer
			ctx := database.Once(context.Background(), "key-one-1", [32]byte{1})
			err := db.Answer(ctx, &a, func(*gorm.DB) error {
				runs.Store(hand, true)
				a.Number = 7
				return nil
			})
			if err != nil || a.Number != 7 {
				wrong.Store(hand, fmt.Sprint(a, err))
			}
		})
	}
	hands.Wait()
	assert.Equal(t, 1, size(&runs))
	assert.Zero(t, size(&wrong))
}

func size(m *sync.Map) (n int) {
	m.Range(func(any, any) bool { n++; return true })
	return n
}

func TestAWriteIsTold(t *testing.T) {
	db := dbtest.New(t)
	before, err := db.RevisionNow(context.Background())
	require.NoError(t, err)
	changed := db.Changed()
	select {
	case <-changed:
		t.Fatal("nothing has been written yet")
	default:
	}
	require.NoError(t, db.Write(context.Background(), func(*gorm.DB) error { return nil }))
	<-changed
	after, err := db.RevisionNow(context.Background())
	require.NoError(t, err)
	assert.Equal(t, before+1, after)
}
