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
	do := func(key, content string) (answer, error) {
		ctx := database.Once(context.Background(), key, sha256.Sum256([]byte(content)))
		return database.Answer(ctx, db, database.Orders, func(*gorm.DB) (answer, error) {
			runs++
			return answer{runs}, nil
		})
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
	assert.ErrorIs(t, db.Write(ctx(), database.Everything, func(*gorm.DB) error { return refused }), refused)
	ran := false
	require.NoError(t, db.Write(ctx(), database.Everything, func(*gorm.DB) error { ran = true; return nil }))
	assert.True(t, ran)
}

func TestTheSecondUseCaseOfARequestIsRunToo(t *testing.T) {
	db := dbtest.New(t)
	ctx := database.Once(context.Background(), "key-one-1", [32]byte{1})
	runs := 0
	for range 2 {
		require.NoError(t, db.Write(ctx, database.Everything, func(*gorm.DB) error { runs++; return nil }))
	}
	assert.Equal(t, 2, runs)
}

func TestOneKeyAtOnceFromManyHandsIsDoneOnce(t *testing.T) {
	db := dbtest.New(t)
	var runs, wrong sync.Map
	var hands sync.WaitGroup
	for hand := range 12 {
		hands.Go(func() {
			ctx := database.Once(context.Background(), "key-one-1", [32]byte{1})
			a, err := database.Answer(ctx, db, database.Orders, func(*gorm.DB) (answer, error) {
				runs.Store(hand, true)
				return answer{7}, nil
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
	before := revision(t, db)
	changed := db.Changed()
	select {
	case <-changed:
		t.Fatal("nothing has been written yet")
	default:
	}
	require.NoError(t, db.Write(context.Background(), database.Everything, func(*gorm.DB) error { return nil }))
	<-changed
	assert.Equal(t, before+1, revision(t, db))
}

func TestAWriteNamesWhatItTouches(t *testing.T) {
	db := dbtest.New(t)
	ctx := context.Background()
	start, err := db.Stands(ctx)
	require.NoError(t, err)
	plan := func() uint64 {
		number, err := db.PlanRevisionNow(ctx)
		require.NoError(t, err)
		return number
	}
	planned := plan()
	nothing := func(*gorm.DB) error { return nil }
	require.NoError(t, db.Write(ctx, database.Room, nothing))
	at, err := db.Stands(ctx)
	require.NoError(t, err)
	assert.Equal(t, []string{"room"}, at.Since(start.Number).Names())
	assert.Equal(t, planned, plan(), "the room's air changes no plan")
	require.NoError(t, db.Write(ctx, database.Orders|database.Stores, nothing))
	require.NoError(t, db.Write(ctx, database.Promises, nothing))
	later, err := db.Stands(ctx)
	require.NoError(t, err)
	assert.Equal(t, []string{"orders", "stores", "promises"}, later.Since(at.Number).Names())
	assert.Equal(t, []string{"orders", "stores", "room", "promises"}, later.Since(start.Number).Names())
	assert.Empty(t, later.Since(later.Number).Names())
	assert.Equal(t, planned+1, plan())
}
