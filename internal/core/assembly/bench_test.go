package assembly_test

import (
	"slices"
	"testing"
	"time"

	"brightchalk/internal/core/assembly"
	"brightchalk/internal/core/lesson"
	"brightchalk/test/trial"
)

func BenchmarkAssemble(b *testing.B) {
	in := trial.Taught(b, 20, lesson.Introduce)
	if _, err := assembly.Assemble(in); err != nil { // the words are aligned at the first call
		b.Fatal(err)
	}
	var times []time.Duration
	for b.Loop() {
		in.Seed++
		begin := time.Now()
		if _, err := assembly.Assemble(in); err != nil {
			b.Fatal(err)
		}
		times = append(times, time.Since(begin))
	}
	slices.Sort(times)
	b.ReportMetric(float64(times[len(times)*99/100].Microseconds())/1000, "p99-ms")
}
