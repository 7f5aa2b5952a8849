package store

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// slowSQL is how long a statement may take before the log names it.
const slowSQL = 250 * time.Millisecond

// sqlLog writes statements that failed or were slow to the program's log, without their
// values: a customer's name has no business there. What the shop expects and answers itself is
// no failure: nothing found, written twice, a caller that left.
type sqlLog struct{}

func (l sqlLog) LogMode(logger.LogLevel) logger.Interface { return l }

func (sqlLog) Info(context.Context, string, ...any) {}

func (sqlLog) Warn(ctx context.Context, text string, args ...any) {
	slog.WarnContext(ctx, "store", "says", fmt.Sprintf(text, args...))
}

func (sqlLog) Error(ctx context.Context, text string, args ...any) {
	slog.ErrorContext(ctx, "store", "says", fmt.Sprintf(text, args...))
}

// ParamsFilter leaves the values out of the statements that are logged.
func (sqlLog) ParamsFilter(_ context.Context, statement string, _ ...any) (string, []any) {
	return statement, nil
}

func (sqlLog) Trace(
	ctx context.Context, begun time.Time, told func() (statement string, rows int64), err error,
) {
	took := time.Since(begun)
	switch {
	case err != nil && !expected(err):
		statement, _ := told()
		slog.ErrorContext(ctx, "store", "error", err, "statement", statement, "ms", took.Milliseconds())
	case took > slowSQL:
		statement, rows := told()
		slog.WarnContext(ctx, "store is slow", "statement", statement, "rows", rows, "ms", took.Milliseconds())
	}
}

func expected(err error) bool {
	for _, e := range []error{
		gorm.ErrRecordNotFound, gorm.ErrDuplicatedKey, context.Canceled, context.DeadlineExceeded,
	} {
		if errors.Is(err, e) {
			return true
		}
	}
	return false
}
