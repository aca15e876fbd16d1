package database

import (
	"context"
	"log/slog"
	"time"

	"gorm.io/gorm/logger"
)

// log tells of statements that failed or took long, never with what they were
// about: names and prices are nobody's business in a log.
type log struct{ logger.Interface }

func newLog() log {
	return log{logger.NewSlogLogger(slog.Default(), logger.Config{LogLevel: logger.Error, IgnoreRecordNotFoundError: true, SlowThreshold: time.Second})}
}

// Trace leaves out what failed because its asker has gone: that is no fault.
func (l log) Trace(ctx context.Context, begin time.Time, statement func() (sql string, rows int64), err error) {
	if ctx.Err() == nil {
		l.Interface.Trace(ctx, begin, statement, err)
	}
}

// LogMode keeps the log as it is at another level.
func (l log) LogMode(level logger.LogLevel) logger.Interface { return log{l.Interface.LogMode(level)} }

// ParamsFilter is how gorm asks what of a statement may be logged.
func (log) ParamsFilter(_ context.Context, sql string, _ ...any) (string, []any) { return sql, nil }
