package store

import (
	"context"
	"encoding/json"
	"time"

	"brightchalk/internal/core/strokes"
)

// ReviewRow is a card that was put forward, and what became of it.
type ReviewRow struct {
	ReviewID       string
	CardID         string
	Note           string
	AskedID        string // the member; empty: the application itself
	AskedBy        string // the name
	AskedAt        time.Time
	BeforeVersion  *int   // agreed when it was put forward
	State          string // open, agreed, sent back, taken back
	DecidedBy      string
	DecidedAt      *time.Time
	DecidedVersion *int
	Conclusion     string
	TakeID         string // chosen when it was agreed
	Letter         []byte // a strokes.Written of that time
}

// Drawn is the letter as it was when the card was agreed, nil where none is remembered.
func (r ReviewRow) Drawn() (*strokes.Written, error) {
	if r.Letter == nil {
		return nil, nil
	}
	var w strokes.Written
	return &w, json.Unmarshal(r.Letter, &w)
}

// ReviewEnd is what became of a card that was put forward.
type ReviewEnd struct {
	ReviewID, State, Conclusion, TakeID string
	Version                             int
	Letter                              *strokes.Written
	Now                                 time.Time
}

// Reader is a member as others see one.
type Reader struct {
	MemberID string `json:"member_id" format:"uuid"`
	Name     string `json:"name"`
	Initials string `json:"initials"`
}

// VoiceRow is what somebody said of a proposal.
type VoiceRow struct {
	ReviewID string
	MemberID string
	Name     string
	Initials string
	Version  int
	Yes      bool
	Note     string
	SaidAt   time.Time
}

// Remark is something said beside a card.
type Remark struct {
	RemarkID  string     `json:"remark_id" format:"uuid"`
	CardID    string     `json:"card_id" format:"uuid"`
	ParentID  string     `json:"parent_id" doc:"of an answer, empty otherwise"`
	Field     string     `json:"field" doc:"the part of the card by its name, take or letter; empty: the whole card"`
	Body      string     `json:"body"`
	Wording   *string    `json:"wording,omitempty" doc:"what should stand in the field instead; a list has a line for each item"`
	Version   int        `json:"version" doc:"of the card that it was said of"`
	MadeID    string     `json:"made_id" format:"uuid"`
	MadeBy    string     `json:"made_by"`
	Initials  string     `json:"initials"`
	MadeAt    time.Time  `json:"made_at"`
	EditedAt  *time.Time `json:"edited_at,omitempty"`
	TakenBy   string     `json:"taken_by" doc:"who took the wording over"`
	TakenAt   *time.Time `json:"taken_at,omitempty"`
	SettledBy string     `json:"settled_by"`
	SettledAt *time.Time `json:"settled_at,omitempty"`
}

// NewRemark is something to be said.
type NewRemark struct {
	CardID, ParentID, Field, Body, By string
	Wording                           *string
	Version                           int
	Now                               time.Time
}

// Notice is something that a member should know.
type Notice struct {
	NoticeID int64      `json:"notice_id"`
	Kind     NoticeKind `json:"kind" enum:"asked,yes,agreed,sent-back,remark,answer,mention,taken-over"`
	CardID   string     `json:"card_id" format:"uuid"`
	Grapheme string     `json:"grapheme"`
	RemarkID string     `json:"remark_id" doc:"empty where it is about none"`
	Note     string     `json:"note" doc:"the beginning of what was said"`
	By       string     `json:"by"`
	MadeAt   time.Time  `json:"made_at"`
	SeenAt   *time.Time `json:"seen_at,omitempty"`
}

// NoticeKind is what a notice is about.
type NoticeKind string

// Kinds of notices.
const (
	NoticeAsked    NoticeKind = "asked"      // to read a card
	NoticeYes      NoticeKind = "yes"        // somebody said yes; more are needed
	NoticeAgreed   NoticeKind = "agreed"     // what the member put forward
	NoticeSentBack NoticeKind = "sent-back"  // what the member put forward
	NoticeRemark   NoticeKind = "remark"     // beside what the member put forward
	NoticeAnswer   NoticeKind = "answer"     // where the member said something
	NoticeMention  NoticeKind = "mention"    // the member is named
	NoticeTaken    NoticeKind = "taken-over" // the member's wording
)

// NewNotice tells several members the same.
type NewNotice struct {
	Kind                         NoticeKind
	Members                      []string
	CardID, RemarkID, Note, From string
	Now                          time.Time
}

// Waiting is a card that waits for a decision.
type Waiting struct {
	CardID   string    `json:"card_id" format:"uuid"`
	Grapheme string    `json:"grapheme"`
	Sound    string    `json:"sound"`
	Note     string    `json:"note"`
	AskedBy  string    `json:"asked_by"`
	AskedAt  time.Time `json:"asked_at"`
	Asked    bool      `json:"asked" doc:"the member was asked by name"`
	Said     bool      `json:"said" doc:"the member said yes to what stands"`
	Mine     bool      `json:"mine" doc:"the member put it forward"`
}

// ChangedCard is what others changed on a card.
type ChangedCard struct {
	CardID    string    `json:"card_id" format:"uuid"`
	Grapheme  string    `json:"grapheme"`
	Sound     string    `json:"sound"`
	Fields    []string  `json:"fields"`
	By        string    `json:"by" doc:"names"`
	ChangedAt time.Time `json:"changed_at"`
	Agreed    bool      `json:"agreed" doc:"it was agreed meanwhile"`
}

type openRemarks struct {
	CardID string
	Open   int
}

var (
	reviewAdd    = value[string]("review_add")
	reviewList   = query[ReviewRow]("review_list")
	reviewEnd    = change("review_end")
	readerAdd    = change("reader_add")
	readerList   = query[Reader]("reader_list")
	voicePut     = change("voice_put")
	voiceList    = query[VoiceRow]("voice_list")
	remarkAdd    = value[string]("remark_add")
	remarkList   = query[Remark]("remark_list")
	remarkGet    = query[Remark]("remark_get")
	remarkEdit   = change("remark_edit")
	remarkDrop   = change("remark_drop")
	remarkSettle = change("remark_settle")
	remarkTake   = change("remark_take")
	remarkOpen   = query[openRemarks]("remark_open")
	noticeAdd    = change("notice_add")
	noticeList   = query[Notice]("notice_list")
	noticeSee    = change("notice_see")
	waitingList  = query[Waiting]("waiting_list")
	changesSince = query[ChangedCard]("changes_since")
	lookedGet    = value[*time.Time]("looked_get")
	lookedSet    = change("looked_set")
)

// AddReview puts a card forward and returns the id of its review; ErrTaken where one is open. By may be empty.
func (l Library) AddReview(
	ctx context.Context,
	cardID, note, by string,
	before *int,
	now time.Time,
) (string, error) {
	return reviewAdd.get(ctx, l.db, l.with(args{
		"card_id": cardID, "note": note, "by": nullable(by), "now": now, "before": before,
	}))
}

// Reviews lists those of a card, the newest first.
func (l Library) Reviews(ctx context.Context, cardID string) ([]ReviewRow, error) {
	return reviewList.many(ctx, l.db, l.with(args{"card_id": cardID}))
}

// EndReview ends an open one; ErrNotFound where it is not open. By may be empty.
func (l Library) EndReview(ctx context.Context, e ReviewEnd, by string) error {
	var letter []byte
	if e.Letter != nil {
		var err error
		if letter, err = json.Marshal(e.Letter); err != nil {
			return err
		}
	}
	return reviewEnd.run(ctx, l.db, l.with(args{
		"review_id": e.ReviewID, "state": e.State, "by": nullable(by), "now": e.Now, "version": e.Version,
		"conclusion": e.Conclusion, "take_id": nullable(e.TakeID), "letter": letter,
	}))
}

// AddReaders asks members of the team to read; others are left out.
func (l Library) AddReaders(ctx context.Context, reviewID string, members []string) error {
	return readerAdd.run(ctx, l.db, l.with(args{"review_id": reviewID, "members": members}))
}

// Readers lists who was asked.
func (l Library) Readers(ctx context.Context, reviewID string) ([]Reader, error) {
	return readerList.many(ctx, l.db, l.with(args{"review_id": reviewID}))
}

// PutVoice keeps what a member says of a version, in the place of what the member said before.
func (l Library) PutVoice(ctx context.Context, v VoiceRow) error {
	return voicePut.run(ctx, l.db, l.with(args{
		"review_id": v.ReviewID, "member_id": v.MemberID, "version": v.Version, "yes": v.Yes, "note": v.Note, "now": v.SaidAt,
	}))
}

// Voices lists what was said in all reviews of a card.
func (l Library) Voices(ctx context.Context, cardID string) ([]VoiceRow, error) {
	return voiceList.many(ctx, l.db, l.with(args{"card_id": cardID}))
}

// AddRemark keeps one and returns its id.
func (l Library) AddRemark(ctx context.Context, r NewRemark) (string, error) {
	return remarkAdd.get(ctx, l.db, l.with(args{
		"card_id": r.CardID, "parent_id": nullable(r.ParentID), "field": r.Field, "body": r.Body, "wording": r.Wording,
		"version": r.Version, "by": r.By, "now": r.Now,
	}))
}

// Remarks lists those of a card as they were made.
func (l Library) Remarks(ctx context.Context, cardID string) ([]Remark, error) {
	return remarkList.many(ctx, l.db, l.with(args{"card_id": cardID}))
}

// Remark returns one.
func (l Library) Remark(ctx context.Context, id string) (Remark, error) {
	return remarkGet.one(ctx, l.db, l.with(args{"remark_id": id}))
}

// EditRemark changes what one says.
func (l Library) EditRemark(ctx context.Context, id, body string, now time.Time) error {
	return remarkEdit.run(ctx, l.db, l.with(args{"remark_id": id, "body": body, "now": now}))
}

// DropRemark takes one away, with what it told others.
func (l Library) DropRemark(ctx context.Context, id string) error {
	return remarkDrop.run(ctx, l.db, l.with(args{"remark_id": id}))
}

// SettleRemark ends what it began, or opens it again where at is nil.
func (l Library) SettleRemark(ctx context.Context, id, by string, at *time.Time) error {
	if at == nil {
		by = ""
	}
	return remarkSettle.run(ctx, l.db, l.with(args{"remark_id": id, "by": nullable(by), "at": at}))
}

// TakeRemark notes that its wording was taken over.
func (l Library) TakeRemark(ctx context.Context, id, by string, now time.Time) error {
	return remarkTake.run(ctx, l.db, l.with(args{"remark_id": id, "by": by, "now": now}))
}

// OpenRemarks counts what is not settled, by card.
func (l Library) OpenRemarks(ctx context.Context) (map[string]int, error) {
	rows, err := remarkOpen.many(ctx, l.db, l.with(nil))
	out := map[string]int{}
	for _, r := range rows {
		out[r.CardID] = r.Open
	}
	return out, err
}

// AddNotices tells active members of the team.
func (l Library) AddNotices(ctx context.Context, n NewNotice) error {
	return noticeAdd.run(ctx, l.db, l.with(args{
		"kind": n.Kind, "members": n.Members, "card_id": n.CardID, "remark_id": nullable(n.RemarkID), "note": n.Note,
		"by": nullable(n.From), "now": n.Now,
	}))
}

// Notices lists the newest of a member.
func (l Library) Notices(ctx context.Context, memberID string) ([]Notice, error) {
	return noticeList.many(ctx, l.db, l.with(args{"member_id": memberID}))
}

// SeeNotices marks those of a member up to one as seen.
func (l Library) SeeNotices(ctx context.Context, memberID string, upTo int64, now time.Time) error {
	_, _, err := noticeSee.count(ctx, l.db, l.with(args{"member_id": memberID, "upto": upTo, "now": now}))
	return err
}

// WaitingCards lists the cards that wait for a decision, as a member sees them.
func (l Library) WaitingCards(ctx context.Context, memberID string) ([]Waiting, error) {
	return waitingList.many(ctx, l.db, l.with(args{"member_id": memberID}))
}

// ChangesSince lists the cards that others than the member changed, the newest first.
func (l Library) ChangesSince(ctx context.Context, memberID string, since time.Time) ([]ChangedCard, error) {
	return changesSince.many(ctx, l.db, l.with(args{"member_id": memberID, "since": since}))
}

// Looked is up to when a member has looked at what changed, nil where never.
func (l Library) Looked(ctx context.Context, memberID string) (*time.Time, error) {
	return lookedGet.get(ctx, l.db, l.with(args{"member_id": memberID}))
}

// Look notes it.
func (l Library) Look(ctx context.Context, memberID string, at time.Time) error {
	return lookedSet.run(ctx, l.db, l.with(args{"member_id": memberID, "at": at}))
}
