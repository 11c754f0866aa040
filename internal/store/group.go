package store

import (
	"context"
	"time"
)

// Source is a class whose children are in a group, and whether the log of the group counts for the class too.
type Source struct {
	GroupID   string `json:"-"`
	ClassID   string `json:"class_id" format:"uuid"`
	Name      string `json:"name"`
	FlowsBack bool   `json:"flows_back" doc:"the log of the group counts for the class too"`
}

// TaughtFace is what a class was taught of a card that was new, and by which routine.
type TaughtFace struct {
	ClassID, CardID                 string
	TaughtAt                        time.Time
	Routine                         string
	Version                         int
	Keyword, Picture, Rhyme, Action string
}

type focusRow struct{ CardID string }

var (
	groupSourceAdd  = change("group_source_add")
	groupSourceList = query[Source]("group_source_list")
	groupFlow       = change("group_flow")
	groupFocusAdd   = change("group_focus_add")
	groupFocusList  = query[focusRow]("group_focus_list")
	taughtFaces     = query[TaughtFace]("taught_faces")
)

// AddSource says that children of a class are in a group.
func (l Library) AddSource(ctx context.Context, groupID, classID string, flowsBack bool) error {
	return groupSourceAdd.run(ctx, l.db, l.with(args{
		"group_id": groupID, "class_id": classID, "flows_back": flowsBack,
	}))
}

// Sources lists the classes of all groups of the team.
func (l Library) Sources(ctx context.Context) ([]Source, error) {
	return groupSourceList.many(ctx, l.db, l.with(nil))
}

// SetFlow says whether the log of a group counts for its classes too; ErrNotFound where it has none.
func (l Library) SetFlow(ctx context.Context, groupID string, flowsBack bool) error {
	return groupFlow.run(ctx, l.db, l.with(args{"group_id": groupID, "flows_back": flowsBack}))
}

// AddFocus gives a group its sounds, in their order.
func (l Library) AddFocus(ctx context.Context, groupID string, cardIDs []string) error {
	_, _, err := groupFocusAdd.count(ctx, l.db, l.with(args{"group_id": groupID, "card_ids": cardIDs}))
	return err
}

// Focus lists the sounds of a group; none where it has none of its own.
func (l Library) Focus(ctx context.Context, groupID string) ([]string, error) {
	rows, err := groupFocusList.many(ctx, l.db, l.with(args{"group_id": groupID}))
	out := []string{}
	for _, r := range rows {
		out = append(out, r.CardID)
	}
	return out, err
}

// TaughtFaces lists what each class was taught of each card that was new, the oldest first.
func (l Library) TaughtFaces(ctx context.Context) ([]TaughtFace, error) {
	return taughtFaces.many(ctx, l.db, l.with(nil))
}
