package media

import (
	"bytes"
	"context"
	"image"
	"io"
	"runtime/debug"
	"sync"

	"golang.org/x/sync/semaphore"
)

// DecodeBytes is how much memory the decoding of files may take at a time in one process: that of the dearest file,
// see SoundCost and PictureCost.
const DecodeBytes = 192 << 20

// Budget shares out memory to those who decode files; who finds none waits.
type Budget struct {
	left  *semaphore.Weighted
	total int64

	mu    sync.Mutex
	heavy int // running jobs that cost much
	usual int // percentage of garbage while there is none
}

// NewBudget returns a budget of so many bytes.
func NewBudget(total int64) *Budget { return &Budget{left: semaphore.NewWeighted(total), total: total} }

// A job that costs much is done with little garbage beside it, and its memory is given back to the machine at once.
const (
	much          = 16 << 20
	littleGarbage = 20 // percent of what is in use, see GOGC
)

func (b *Budget) begin() {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.heavy++; b.heavy == 1 {
		debug.FreeOSMemory()
		b.usual = debug.SetGCPercent(littleGarbage)
	}
}

func (b *Budget) end() {
	debug.FreeOSMemory()
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.heavy--; b.heavy == 0 {
		debug.SetGCPercent(b.usual)
	}
}

// Do runs f while it has cost bytes of the budget, at most all of it. The error is that of ctx where it ends before.
func (b *Budget) Do(ctx context.Context, cost int64, f func() error) error {
	cost = max(1, min(cost, b.total))
	if err := b.left.Acquire(ctx, cost); err != nil {
		return err
	}
	defer b.left.Release(cost)
	if cost >= much {
		b.begin()
		defer b.end()
	}
	return f()
}

// SoundCost is about how many bytes DecodeSound and what judges or plays its clip take, by the head of a file. What a
// file does not say is taken at its most.
func SoundCost(file io.ReaderAt, size int64) int64 {
	const copies, sample = 4, 8 // of the clip where it is played, measured
	frames := int64(MaxSoundSeconds * maxHertz)
	head := make([]byte, 4)
	if _, err := file.ReadAt(head, 0); err == nil && string(head) == "RIFF" {
		if f, from, to, ok := wavParts(file, size); ok && f.BitDepth >= 8 && f.Channels > 0 {
			frames = min(frames, (to-from)/int64(f.BitDepth/8)/int64(f.Channels))
		}
	}
	return frames*copies*sample + 3*size
}

// PictureCost is about how many bytes CleanPicture takes at its most.
func PictureCost(data []byte) int64 {
	cost := int64(len(data)) * 4 // an SVG, written anew
	if size, format, err := image.DecodeConfig(bytes.NewReader(data)); err == nil {
		cost += int64(size.Width) * int64(size.Height) * bytesOfPixel(format, data)
	}
	return cost
}
