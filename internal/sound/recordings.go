package sound

import (
	"context"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/media"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// attempt is one of those in a recording.
type attempt struct {
	bytes  []byte
	report recording.Report
}

// judgeAttempts takes a recording apart and judges each attempt.
func judgeAttempts(file media.Upload, target recording.Target) ([]attempt, error) {
	data, err := media.ReadUpload(file)
	if err != nil {
		return nil, err
	}
	clip, err := media.DecodeSound(data)
	if err != nil {
		return nil, fault.At("take", err)
	}
	found := recording.Attempts(clip)
	switch n := len(found); {
	case n > maxAttempts:
		return nil, fault.In(
			"take", "There are %d attempts on this recording; up to %d are taken at once.", n, maxAttempts,
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

// Recording is a row of a recording with its bytes.
type Recording struct {
	store.Take
	store.Medium
}

// ReadRecording returns a recording as it came in.
func ReadRecording(ctx context.Context, s store.Library, takeID string) (Recording, error) {
	t, err := s.Take(ctx, takeID)
	if err != nil {
		return Recording{}, err
	}
	m, err := s.Medium(ctx, t.SHA256)
	return Recording{t, m}, err
}

// Master returns the recording as it is played, see media.Master.
func (k Recording) Master() (recording.Clip, error) {
	clip, err := media.DecodeSound(k.Bytes)
	if err != nil {
		return recording.Clip{}, err
	}
	return media.Master(clip, k.TrimStartMs, k.TrimEndMs, k.Plain), nil
}

// ReadMaster returns a recording as it is played.
func ReadMaster(ctx context.Context, s store.Library, takeID string) (recording.Clip, error) {
	from, err := ReadRecording(ctx, s, takeID)
	if err != nil {
		return recording.Clip{}, err
	}
	return from.Master()
}

// Room judges the room and the microphone by a recording that is not kept.
func (k Takes) Room(ctx context.Context, by tx.Actor, file media.Upload) (r recording.RoomReport, err error) {
	if err := by.Need(tx.MayRecord); err != nil {
		return r, err
	}
	if file.Size() > media.MaxSoundBytes {
		return r, fault.In("take", "The file has more than %d MB.", media.MaxSoundBytes>>20)
	}
	err = k.Env.Decode(ctx, media.SoundCost(file, file.Size()), func() error {
		data, err := media.ReadUpload(file)
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
