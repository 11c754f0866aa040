package tx

import (
	"context"
	"sync/atomic"

	"brightchalk/internal/store"
)

type progressKey struct{}

// Progress is how far a background job has come.
type Progress struct{ done, total, note atomic.Int64 }

// WithProgress returns a context whose work reports to p.
func WithProgress(ctx context.Context, p *Progress) context.Context {
	return context.WithValue(ctx, progressKey{}, p)
}

// Snapshot returns the progress as it is stored.
func (p *Progress) Snapshot() store.JobProgress {
	return store.JobProgress{Done: int(p.done.Load()), OfAll: int(p.total.Load()), Note: p.note.Load()}
}

// ReportProgress sets how many of total parts are done. It does nothing outside a background job.
func ReportProgress(ctx context.Context, done, total int) {
	if p, ok := ctx.Value(progressKey{}).(*Progress); ok {
		p.done.Store(int64(done))
		p.total.Store(int64(total))
	}
}

// ReportNote sets a number that the job's screen shows beside its progress. It does nothing outside a background job.
func ReportNote(ctx context.Context, n int64) {
	if p, ok := ctx.Value(progressKey{}).(*Progress); ok {
		p.note.Store(n)
	}
}
