package store

import (
	"brightchalk/internal/core/recording"
	"context"
	"crypto/sha256"
	"encoding/json"
	"time"
)

// Medium is a picture or a sound as it came in, after cleaning.
type Medium struct {
	MediaType string
	Bytes     []byte
}

// PutMedium stores the bytes under their SHA-256, once.
func PutMedium(ctx context.Context, db DB, teamID string, m Medium) ([32]byte, error) {
	sum := sha256.Sum256(m.Bytes)
	return sum, exec(
		ctx,
		db,
		"medium_put",
		args{"team_id": teamID, "sha256": sum[:], "media_type": m.MediaType, "bytes": m.Bytes},
	)
}

// GetMedium returns ErrNotFound where the team has none with this sum.
func GetMedium(ctx context.Context, db DB, teamID string, sum []byte) (Medium, error) {
	return one[Medium](ctx, db, "medium_get", args{"team_id": teamID, "sha256": sum})
}

// Take is one recording of a card's sound. The report is as it was judged when it came in.
type Take struct {
	TakeID, CardID         string
	SHA256                 []byte `db:"sha256"`
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

// AddTake stores a take and returns its id.
func AddTake(ctx context.Context, db DB, teamID, by string, t Take) (string, error) {
	report, err := json.Marshal(t.Report)
	if err != nil {
		return "", err
	}
	return scalar[string](ctx, db, "take_add", args{
		"team_id":       teamID,
		"card_id":       t.CardID,
		"sha256":        t.SHA256,
		"speaker":       t.Speaker,
		"consent_on":    t.ConsentOn,
		"trim_start_ms": t.TrimStartMs,
		"trim_end_ms":   t.TrimEndMs,
		"verdict":       t.Verdict,
		"report":        report,
		"by":            nullable(by),
		"now":           t.CreatedAt,
	})
}

func nullable(id string) *string {
	if id == "" {
		return nil
	}
	return &id
}

// Takes lists a card's takes, the newest first.
func Takes(ctx context.Context, db DB, teamID, cardID string) ([]Take, error) {
	return many[Take](ctx, db, "take_list", args{"team_id": teamID, "card_id": cardID})
}

// GetTake returns one take.
func GetTake(ctx context.Context, db DB, teamID, takeID string) (Take, error) {
	return one[Take](ctx, db, "take_get", args{"team_id": teamID, "take_id": takeID})
}

// ChooseTake makes the take the card's own and lets go of the former one.
func ChooseTake(ctx context.Context, db DB, teamID string, t Take) error {
	if _, err := db.Exec(ctx, query("take_unchoose"), args{"team_id": teamID, "card_id": t.CardID}); err != nil {
		return wrap("take_unchoose", err)
	}
	return exec(ctx, db, "take_choose", args{"team_id": teamID, "take_id": t.TakeID})
}

// ChosenTakes lists the takes that the team's cards play, in the order of teaching.
func ChosenTakes(ctx context.Context, db DB, teamID string) ([]Take, error) {
	return many[Take](ctx, db, "take_chosen", args{"team_id": teamID})
}

// SpeakersTakes lists all takes of one speaker.
func SpeakersTakes(ctx context.Context, db DB, teamID, speaker string) ([]Take, error) {
	return many[Take](ctx, db, "take_of_speaker", args{"team_id": teamID, "speaker": speaker})
}

// FixTake moves the trim points and says whether the take is played as recorded; the recording itself stays
// whole.
func FixTake(ctx context.Context, db DB, teamID, takeID string, startMs, endMs int, plain bool) error {
	return exec(
		ctx,
		db,
		"take_trim",
		args{"team_id": teamID, "take_id": takeID, "trim_start_ms": startMs, "trim_end_ms": endMs, "plain": plain},
	)
}

// WithdrawTake removes a take and its sound for good: a speaker may take the consent back.
func WithdrawTake(ctx context.Context, db DB, teamID string, t Take) error {
	if err := exec(ctx, db, "take_delete", args{"team_id": teamID, "take_id": t.TakeID}); err != nil {
		return err
	}
	return exec(ctx, db, "medium_drop_unused", args{"team_id": teamID, "sha256": t.SHA256})
}
