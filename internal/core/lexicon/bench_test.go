package lexicon

import (
	"runtime"
	"testing"

	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/core/spelling"
)

// What a start costs: reading the embedded list, and aligning all of it for one accent.
func BenchmarkStart(b *testing.B) {
	b.Run("read", func(b *testing.B) {
		for b.Loop() {
			readEntries()
		}
	})
	Words()
	b.Run("align", func(b *testing.B) {
		var before, after runtime.MemStats
		runtime.GC()
		runtime.ReadMemStats(&before)
		var p *Pool
		for b.Loop() {
			p = newPool(phoneme.SouthernBritish, spelling.Units{})
		}
		runtime.GC()
		runtime.ReadMemStats(&after)
		b.ReportMetric(float64(after.HeapAlloc-before.HeapAlloc)/1e6, "MB-kept")
		runtime.KeepAlive(p)
	})
}
