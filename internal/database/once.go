package database

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
)

// ErrKeyReused refuses a key that stands for another request already.
var ErrKeyReused = errors.New("the key of this request was used for another one")

// request is a row: a request that was carried out.
type request struct {
	RequestKey string
	Content    []byte
	Answer     *string
	DoneAt     time.Time
	// kept tells that a use case has kept the key: further ones of the same
	// request run as if there were none.
	kept bool
}

// keptFor is how long a request sent again is recognised.
const keptFor = 7 * 24 * time.Hour

type onceKey struct{}

// Once marks a context with the key of its request and the SHA-256 of its
// content. The first use case that writes under it keeps the key in its own
// transaction; when the request comes again, that use case is not run but
// answers as it did.
func Once(ctx context.Context, key string, content [32]byte) context.Context {
	return context.WithValue(ctx, onceKey{}, &request{RequestKey: key, Content: content[:]})
}

// once runs fn unless the request was carried out before; into is nil or
// points at the answer.
func once(ctx context.Context, tx *gorm.DB, into any, fn func(tx *gorm.DB) error) error {
	r, keyed := ctx.Value(onceKey{}).(*request)
	if !keyed || r.kept {
		return fn(tx)
	}
	var before []request
	if err := tx.Where("request_key = ?", r.RequestKey).Find(&before).Error; err != nil {
		return fmt.Errorf("looking for the request: %w", err)
	}
	if len(before) > 0 {
		return before[0].repeat(*r, into)
	}
	if err := fn(tx); err != nil {
		return err
	}
	return r.keep(tx, into)
}

// committed notes that the key of the request, if it has one, is kept for good.
func committed(ctx context.Context) {
	if r, keyed := ctx.Value(onceKey{}).(*request); keyed {
		r.kept = true
	}
}

// repeat answers as the first time.
func (r request) repeat(again request, into any) error {
	if string(r.Content) != string(again.Content) {
		return ErrKeyReused
	}
	if into == nil || r.Answer == nil {
		return nil
	}
	if err := json.Unmarshal([]byte(*r.Answer), into); err != nil {
		return fmt.Errorf("reading the answer given before: %w", err)
	}
	return nil
}

func (r request) keep(tx *gorm.DB, into any) error {
	r.Answer = nil
	if into != nil {
		text, err := json.Marshal(into)
		if err != nil {
			return fmt.Errorf("keeping the answer: %w", err)
		}
		r.Answer = new(string(text))
	}
	r.DoneAt = tx.NowFunc()
	if err := tx.Create(&r).Error; err != nil {
		return fmt.Errorf("keeping the request: %w", err)
	}
	if err := tx.Where("done_at < ?", r.DoneAt.Add(-keptFor)).Limit(100).Delete(&request{}).Error; err != nil {
		return fmt.Errorf("clearing old requests: %w", err)
	}
	return nil
}
