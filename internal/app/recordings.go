package app

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
)

// Upload is a file on its way in: it is read when there is room for it.
type Upload = *io.SectionReader

// Uploaded is a file that is held already.
func Uploaded(data []byte) Upload {
	return io.NewSectionReader(bytes.NewReader(data), 0, int64(len(data)))
}

func whole(file Upload) ([]byte, error) {
	data := make([]byte, file.Size())
	if _, err := file.ReadAt(data, 0); err != nil && !errors.Is(err, io.EOF) {
		return nil, fmt.Errorf("read an upload: %w", err)
	}
	return data, nil
}

// decoding runs f when there is memory for it.
func (g ground) decoding(ctx context.Context, cost int64, f func() error) error {
	bound, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	err := g.heavy.Do(bound, cost, f)
	if errors.Is(err, context.DeadlineExceeded) && ctx.Err() == nil {
		return fmt.Errorf("%w: many files at once", store.ErrBusy)
	}
	return err
}

// attempt is one of those in a recording.
type attempt struct {
	bytes  []byte
	report recording.Report
}

// judged takes a recording apart and judges each attempt.
func judged(file Upload, target recording.Target) ([]attempt, error) {
	data, err := whole(file)
	if err != nil {
		return nil, err
	}
	clip, err := media.DecodeSound(data)
	if err != nil {
		return nil, fault.At("take", err)
	}
	found := recording.Attempts(clip)
	switch n := len(found); {
	case n > mostAttempts:
		return nil, wrong(
			"take", "There are %d attempts on this recording; up to %d are taken at once.", n, mostAttempts,
		)
	case n <= 1:
		return []attempt{{data, recording.Judge(clip, target)}}, nil
	}
	out := make([]attempt, len(found))
	for i, t := range found {
		part := media.Part(clip, t.StartMs, t.EndMs)
		out[i] = attempt{media.EncodeWAV(part), recording.Judge(part, target)}
	}
	return out, nil
}

// kept is a take with its recording.
type kept struct {
	store.Take
	store.Medium
}

func takeKept(ctx context.Context, s takeReader, takeID string) (kept, error) {
	t, err := s.Take(ctx, takeID)
	if err != nil {
		return kept{}, err
	}
	m, err := s.Medium(ctx, t.SHA256)
	return kept{t, m}, err
}

func (k kept) master() (recording.Clip, error) {
	clip, err := media.DecodeSound(k.Bytes)
	if err != nil {
		return recording.Clip{}, err
	}
	return media.Master(clip, k.TrimStartMs, k.TrimEndMs, k.Plain), nil
}

func masterOf(ctx context.Context, s takeReader, takeID string) (recording.Clip, error) {
	from, err := takeKept(ctx, s, takeID)
	if err != nil {
		return recording.Clip{}, err
	}
	return from.master()
}

// Room judges the room and the microphone by a recording that is not kept.
func (k Takes) Room(ctx context.Context, by Actor, file Upload) (r recording.RoomReport, err error) {
	if err := by.need(MayRecord); err != nil {
		return r, err
	}
	if file.Size() > media.MaxSoundBytes {
		return r, wrong("take", "The file has more than %d MB.", media.MaxSoundBytes>>20)
	}
	err = k.desk.decoding(ctx, media.SoundCost(file, file.Size()), func() error {
		data, err := whole(file)
		if err != nil {
			return err
		}
		clip, err := media.DecodeSound(data)
		if err != nil {
			return fault.At("take", err)
		}
		r = recording.Room(clip)
		return nil
	})
	return r, err
}
