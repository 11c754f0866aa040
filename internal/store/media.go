package store

import (
	"context"
	"crypto/sha256"
	"time"

	"brightchalk/internal/core/recording"
)

// Medium is a picture or a sound as it came in, after cleaning.
type Medium struct {
	MediaType string
	Bytes     []byte
}

// Take is one recording of a card's sound. The report is as it was judged when it came in.
type Take struct {
	TakeID, CardID         string
	SHA256                 []byte
	Speaker                string
	ConsentOn              time.Time
	TrimStartMs, TrimEndMs int
	Plain                  bool // played as recorded
	Verdict                recording.Verdict
	Report                 recording.Report
	Chosen                 bool
	CreatedBy              string
	CreatedAt              time.Time
}

type takeRow struct {
	TakeID, CardID         string
	SHA256                 []byte `db:"sha256"`
	Speaker                string
	ConsentOn              time.Time
	TrimStartMs, TrimEndMs int
	Plain                  bool
	Verdict                recording.Verdict
	Report                 []byte
	Chosen                 bool
	CreatedBy              string
	CreatedAt              time.Time
}

func (r takeRow) take() (Take, error) {
	report, err := recording.Reports.Read(r.Report)
	return Take{
		r.TakeID, r.CardID, r.SHA256, r.Speaker, r.ConsentOn, r.TrimStartMs, r.TrimEndMs, r.Plain, r.Verdict,
		report, r.Chosen, r.CreatedBy, r.CreatedAt,
	}, err
}

var (
	mediumPut        = change("medium_put")
	mediumGet        = query[Medium]("medium_get")
	takeAdd          = value[string]("take_add")
	takeList         = query[takeRow]("take_list")
	takeGet          = query[takeRow]("take_get")
	takeAfter        = query[takeRow]("take_after")
	takeCount        = value[int]("take_count")
	takeUnchoose     = change("take_unchoose")
	takeChoose       = change("take_choose")
	takeChosen       = query[takeRow]("take_chosen")
	takeOfSpeaker    = query[takeRow]("take_of_speaker")
	takeTrim         = change("take_trim")
	takeDelete       = change("take_delete")
	mediumDropUnused = change("medium_drop_unused")
)

// PutMedium stores the bytes under their SHA-256, once.
func (l Library) PutMedium(ctx context.Context, m Medium) ([32]byte, error) {
	sum := sha256.Sum256(m.Bytes)
	return sum, mediumPut.run(ctx, l.db, l.with(args{
		"sha256": sum[:], "media_type": m.MediaType, "bytes": m.Bytes,
	}))
}

// Medium returns ErrNotFound where the team has none with this sum.
func (l Library) Medium(ctx context.Context, sum []byte) (Medium, error) {
	return mediumGet.one(ctx, l.db, l.with(args{"sha256": sum}))
}

// AddTake stores a take and returns its id.
func (l Library) AddTake(ctx context.Context, by string, t Take) (string, error) {
	report, err := recording.Reports.Write(t.Report)
	if err != nil {
		return "", err
	}
	return takeAdd.get(ctx, l.db, l.with(args{
		"card_id": t.CardID, "sha256": t.SHA256, "speaker": t.Speaker, "consent_on": t.ConsentOn,
		"trim_start_ms": t.TrimStartMs, "trim_end_ms": t.TrimEndMs, "verdict": t.Verdict, "report": report,
		"by": nullable(by), "now": t.CreatedAt,
	}))
}

// Takes lists a card's takes, the newest first.
func (l Library) Takes(ctx context.Context, cardID string) ([]Take, error) {
	rows, err := takeList.many(ctx, l.db, l.with(args{"card_id": cardID}))
	return each(rows, err, takeRow.take)
}

// TakesAfter lists some takes of the team behind one, in an order that stays; after is empty for the first.
func (l Library) TakesAfter(ctx context.Context, after string, most int) ([]Take, error) {
	rows, err := takeAfter.many(ctx, l.db, l.with(args{"after": nullable(after), "most": most}))
	return each(rows, err, takeRow.take)
}

// CountTakes counts all takes of the team.
func (l Library) CountTakes(ctx context.Context) (int, error) {
	return takeCount.get(ctx, l.db, l.with(nil))
}

// Take returns one take.
func (l Library) Take(ctx context.Context, takeID string) (Take, error) {
	row, err := takeGet.one(ctx, l.db, l.with(args{"take_id": takeID}))
	if err != nil {
		return Take{}, err
	}
	return row.take()
}

// ChooseTake makes the take the card's own and lets go of the former one.
func (l Library) ChooseTake(ctx context.Context, t Take) error {
	if _, _, err := takeUnchoose.count(ctx, l.db, l.with(args{"card_id": t.CardID})); err != nil {
		return err
	}
	return takeChoose.run(ctx, l.db, l.with(args{"take_id": t.TakeID}))
}

// ChosenTakes lists the takes that the team's cards play, in the order of teaching.
func (l Library) ChosenTakes(ctx context.Context) ([]Take, error) {
	rows, err := takeChosen.many(ctx, l.db, l.with(nil))
	return each(rows, err, takeRow.take)
}

// SpeakersTakes lists all takes of one speaker.
func (l Library) SpeakersTakes(ctx context.Context, speaker string) ([]Take, error) {
	rows, err := takeOfSpeaker.many(ctx, l.db, l.with(args{"speaker": speaker}))
	return each(rows, err, takeRow.take)
}

// FixTake moves the trim points and says whether the take is played as recorded; the recording itself stays whole. The
// report is replaced where one is given.
func (l Library) FixTake(
	ctx context.Context,
	takeID string,
	startMs, endMs int,
	plain bool,
	report *recording.Report,
) error {
	var document []byte
	var verdict *recording.Verdict
	if report != nil {
		var err error
		if document, err = recording.Reports.Write(*report); err != nil {
			return err
		}
		verdict = &report.Verdict
	}
	return takeTrim.run(ctx, l.db, l.with(args{
		"take_id": takeID, "trim_start_ms": startMs, "trim_end_ms": endMs, "plain": plain, "report": document,
		"verdict": verdict,
	}))
}

// WithdrawTake removes a take and its sound for good: a speaker may take the consent back.
func (l Library) WithdrawTake(ctx context.Context, t Take) error {
	if err := takeDelete.run(ctx, l.db, l.with(args{"take_id": t.TakeID})); err != nil {
		return err
	}
	return mediumDropUnused.run(ctx, l.db, l.with(args{"sha256": t.SHA256}))
}
