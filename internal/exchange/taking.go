package exchange

import (
	"context"
	"errors"
	"fmt"
	"runtime"
	"slices"
	"strings"
	"time"

	"golang.org/x/sync/errgroup"

	"brightchalk/internal/bundle"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/core/step/kinds"
	"brightchalk/internal/curriculum"
	"brightchalk/internal/gather"
	"brightchalk/internal/library"
	"brightchalk/internal/media"
	"brightchalk/internal/sound"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// How a card of a bundle is taken.
type How string

// Ways to take a card.
const (
	AddCard  How = "add"  // one that we do not have
	FillCard How = "fill" // only what ours lacks
	TakeCard How = "take" // all of it, as a draft beside what is agreed
)

// CardChoice is how one card of a bundle is taken. Version is that of ours when it was looked at.
type CardChoice struct {
	ID      string `json:"id" maxLength:"80" doc:"in the bundle"`
	How     How    `json:"how" enum:"add,fill,take"`
	Version int    `json:"version" doc:"of ours when it was looked at, 0 for one that is added" minimum:"0"`
}

// BundleChoice is what is taken of a bundle.
type BundleChoice struct {
	Cards       []CardChoice     `json:"cards" maxItems:"500"`
	Letters     []string         `json:"letters" maxItems:"200" doc:"by sign"`
	Pictures    []string         `json:"pictures" maxItems:"2000" doc:"by name"`
	Texts       bool             `json:"texts" doc:"all that are new"`
	Routines    []lesson.Purpose `json:"routines" maxItems:"20" doc:"by purpose; a lead may"`
	Conventions bool             `json:"conventions" doc:"all of theirs in the place of ours; a lead may"`
	AsAgreed    bool             `json:"as_agreed" doc:"new cards that they agreed are agreed here too; a lead may"`
	Voices      bool             `json:"voices" doc:"their recordings as well"`
}

// ImportResult says what was taken of a bundle.
type ImportResult struct {
	Added    int      `json:"added"`
	Changed  int      `json:"changed"`
	Takes    int      `json:"takes"`
	Letters  int      `json:"letters"`
	Pictures int      `json:"pictures"`
	Texts    int      `json:"texts"`
	Left     []string `json:"left" doc:"what was left out, and why"`
}

// TakeBundle takes of a bundle that lies there what was chosen: all of it, or nothing if a card has changed since it
// was looked at.
func (p Imports) TakeBundle(
	ctx context.Context,
	by tx.Actor,
	parcelID string,
	choice BundleChoice,
) (ImportResult, error) {
	if err := by.Need(tx.MayEdit); err != nil {
		return ImportResult{}, err
	}
	if choice.Conventions || choice.AsAgreed || len(choice.Routines) > 0 {
		if err := by.Need(tx.MayAgree); err != nil {
			return ImportResult{}, err
		}
	}
	heard, err := p.judgeSounds(ctx, by, parcelID, choice)
	if err != nil {
		return ImportResult{}, err
	}
	return tx.Write(ctx, p.Env, by, tx.MayEdit, func(s store.Library) (ImportResult, error) {
		a, _, err := openArchive(ctx, s, parcelID)
		if err != nil {
			return ImportResult{}, err
		}
		t := importer{
			Library: s,
			by:      by,
			now:     p.Env.Now(),
			from:    a,
			reports: heard,
			out:     ImportResult{Left: []string{}},
		}
		if err := t.all(ctx, choice); err != nil {
			return ImportResult{}, err
		}
		return t.out, s.DropParcel(ctx, parcelID)
	})
}

// heardTake is a recording of a bundle, judged as one of our own.
type heardTake struct {
	bundle.Take
	bytes  []byte
	report recording.Report
}

// judgeSounds judges the recordings that are taken, before the library is held.
func (p Imports) judgeSounds(
	ctx context.Context,
	by tx.Actor,
	parcelID string,
	choice BundleChoice,
) (map[string]heardTake, error) {
	if !choice.Voices {
		return nil, nil
	}
	type job struct {
		heardTake
		target recording.Target
	}
	jobs, err := tx.Read(ctx, p.Env, by, func(s store.Library) ([]job, error) {
		a, _, err := openArchive(ctx, s, parcelID)
		if err != nil {
			return nil, err
		}
		team, err := gather.Conventions(ctx, s)
		if err != nil {
			return nil, err
		}
		var out []job
		for _, c := range a.Library.Cards {
			t, ok := a.Library.Recording(c.ID)
			if !ok || !slices.ContainsFunc(choice.Cards, func(k CardChoice) bool { return k.ID == c.ID }) {
				continue
			}
			accent := c.Content.Conventions(team).Accent
			target, err := recording.TargetOf(accent, c.Pair.In(accent).Sound)
			if err != nil {
				continue // a card without a place here
			}
			data, err := a.File(t.File)
			if err != nil {
				return nil, err
			}
			out = append(out, job{heardTake{t, data, recording.Report{}}, target})
		}
		return out, nil
	})
	if err != nil {
		return nil, err
	}
	group, inner := errgroup.WithContext(ctx)
	group.SetLimit(runtime.NumCPU())
	for i := range jobs {
		group.Go(func() error {
			file := media.UploadOf(jobs[i].bytes)
			return p.Env.Decode(inner, media.SoundCost(file, file.Size()), func() error {
				clip, err := media.DecodeSound(jobs[i].bytes)
				if err == nil {
					jobs[i].report = recording.Judge(clip, jobs[i].target)
				}
				return err
			})
		})
	}
	err = group.Wait()
	out := map[string]heardTake{}
	for _, j := range jobs {
		out[j.Card] = j.heardTake
	}
	return out, err
}

// importer is a bundle on its way into the library.
type importer struct {
	store.Library
	by      tx.Actor
	now     time.Time
	from    *bundle.Archive
	reports map[string]heardTake
	out     ImportResult
}

func (t *importer) leave(what string, err error) {
	t.out.Left = append(t.out.Left, fmt.Sprintf("%s: %v", what, err))
}

func (t *importer) all(ctx context.Context, choice BundleChoice) error {
	for _, part := range []func(context.Context, BundleChoice) error{
		t.conventions, t.routines, t.cards, t.letters, t.pictures, t.texts,
	} {
		if err := part(ctx, choice); err != nil {
			return err
		}
	}
	return nil
}

func (t *importer) conventions(ctx context.Context, choice BundleChoice) error {
	if !choice.Conventions {
		return nil
	}
	c, err := curriculum.CheckConventions(t.from.Library.Conventions)
	if err != nil {
		t.leave("their conventions", err)
		return nil
	}
	return t.SetConventions(ctx, c)
}

func (t *importer) routines(ctx context.Context, choice BundleChoice) error {
	b := t.from.Library
	for _, purpose := range choice.Routines {
		r, ok := b.Routines[purpose]
		if purpose == lesson.Introduce {
			r, ok = b.Routine, len(b.Routine.Steps) > 0
		}
		if _, known := lesson.FindPurpose(purpose); !ok || !known {
			continue
		}
		if err := kinds.Registry.CheckRoutine(r); err != nil {
			t.leave("the routine to "+string(purpose), err)
			continue
		}
		if err := t.PutRoutine(ctx, purpose, "", r); err != nil {
			return err
		}
	}
	return nil
}

func (t *importer) cards(ctx context.Context, choice BundleChoice) error {
	mine, err := readOwnLibrary(ctx, t.Library)
	if err != nil {
		return err
	}
	how := map[string]CardChoice{}
	for _, c := range choice.Cards {
		how[c.ID] = c
	}
	before := "" // ours that stands before the next one that is added
	for _, line := range t.from.Compare(mine).Cards {
		c, ok := how[line.ID]
		if !ok || line.Standing == card.Unfit {
			if line.CardID != "" {
				before = line.CardID
			}
			continue
		}
		if (c.How == AddCard) != (line.Standing == card.New) || c.Version != line.Version {
			return fault.New(library.ErrCardMoved, "the card %s has changed since you looked; look again", line.Pair)
		}
		if c.How == AddCard {
			before, err = t.add(ctx, mine.Conventions, line, before, choice.AsAgreed)
		} else {
			err = t.change(ctx, line, c.How)
			before = line.CardID
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (t *importer) theirs(id string) card.Card {
	i := slices.IndexFunc(t.from.Library.Cards, func(c card.Card) bool { return c.ID == id })
	return t.from.Library.Cards[i]
}

// content is what their card says; its picture is stored.
func (t *importer) content(ctx context.Context, line bundle.CardLine) (card.Content, error) {
	c := t.theirs(line.ID).Content.Tidy()
	if line.Picture == "" {
		c.Picture, c.Place = "", nil
		return c, nil
	}
	m, err := t.from.File(line.Picture)
	if err != nil {
		return c, err
	}
	clean, err := media.CleanPicture(m)
	if err != nil {
		return c, err
	}
	sum, err := t.PutMedium(ctx, store.Medium{MediaType: clean.MediaType, Bytes: clean.Bytes})
	if err != nil {
		return c, err
	}
	c.Picture = fmt.Sprintf("%x", sum)
	return c, t.origin(ctx, store.OfMedium, c.Picture, c.Picture)
}

// origin notes from where a thing came, with what their library says of it.
func (t *importer) origin(ctx context.Context, kind store.OriginKind, item, theirItem string) error {
	o := store.Origin{Kind: kind, Item: item, FromTeam: t.from.Library.Team}
	for _, k := range t.from.Library.Origins {
		if k.Item == string(kind)+" "+theirItem {
			o.Maker, o.Licence = k.Maker, k.Licence
			if k.Team != "" {
				o.FromTeam = k.Team
			}
		}
	}
	return t.PutOrigin(ctx, t.by.MemberID, o, t.now)
}

// add puts a card behind one of ours.
func (t *importer) add(
	ctx context.Context,
	team convention.Conventions,
	line bundle.CardLine,
	before string,
	agreed bool,
) (string, error) {
	content, err := t.content(ctx, line)
	if err != nil {
		return "", err
	}
	if err := library.CheckAccent(team, content); err != nil {
		t.leave("the accent of "+line.Pair.String(), err)
		content.Accent, content.AccentNote, content.Contrast = "", "", ""
	}
	all, err := t.Cards(ctx, true)
	if err != nil {
		return "", err
	}
	for _, c := range all { // one in use would not be new
		if c.Core(content.Conventions(team).Accent).Pair == line.Pair {
			t.leave(line.Pair.String(), errors.New("we have put a card for it aside; bring that back instead"))
			return before, nil
		}
	}
	step := 1
	if i := slices.IndexFunc(all, func(c store.Card) bool { return c.CardID == before }); i >= 0 {
		step = all[i].Step + 1
	} else if before == "" && len(all) == 0 {
		step = t.theirs(line.ID).Step
	}
	state := card.Draft
	if agreed && line.Agreed {
		state = card.Agreed
	}
	id, err := t.CreateCard(ctx, max(1, step), line.Pair, store.CardEdit{
		State: state, Content: content, By: &t.by.MemberID, Now: t.now,
	})
	if err != nil {
		return "", err
	}
	t.out.Added++
	if err := t.origin(ctx, store.OfCard, id, line.ID); err != nil {
		return "", err
	}
	return id, t.sound(ctx, line, id, true)
}

// change puts theirs on a card of ours, as a draft beside what is agreed.
func (t *importer) change(ctx context.Context, line bundle.CardLine, how How) error {
	content, err := t.content(ctx, line)
	if err != nil {
		return err
	}
	version, err := t.LockCard(ctx, line.CardID)
	if err != nil {
		return err
	}
	now, err := t.Card(ctx, line.CardID)
	if err != nil {
		return err
	}
	current := now.Content.Tidy()
	if how == FillCard {
		content = card.Filled(current, content)
	}
	if changed := card.Changed(current, content); len(changed) > 0 {
		err := t.UpdateCard(ctx, store.CardEdit{
			CardID: line.CardID, Version: version + 1, State: library.StateAfterEdit(now.State),
			Content: content, Changed: changed,
			By: &t.by.MemberID, Now: t.now,
		})
		if err != nil {
			return err
		}
		t.out.Changed++
		if err := t.origin(ctx, store.OfCard, line.CardID, line.ID); err != nil {
			return err
		}
	}
	if how == FillCard && now.TakeID != "" {
		return nil
	}
	return t.sound(ctx, line, line.CardID, now.TakeID == "")
}

// sound adds their take to a card, as the chosen one if the card has none.
func (t *importer) sound(ctx context.Context, line bundle.CardLine, cardID string, choose bool) error {
	h, ok := t.reports[line.ID]
	if !ok || !line.NewTake {
		return nil
	}
	speaker := strings.TrimSpace(h.Speaker)
	consent, err := time.Parse(time.DateOnly, h.ConsentOn)
	switch {
	case speaker == "" || len(speaker) > sound.MaxSpeakerBytes:
		t.leave("the take of "+line.Pair.String(), errors.New("the bundle does not say whose voice it is"))
		return nil
	case err != nil:
		t.leave("the take of "+line.Pair.String(), errors.New("the bundle does not say when its speaker agreed"))
		return nil
	}
	take := store.Take{
		CardID: cardID, Speaker: speaker, ConsentOn: consent, TrimStartMs: h.Trim.StartMs, TrimEndMs: h.Trim.EndMs,
		Verdict: h.report.Verdict, Report: h.report, CreatedAt: t.now,
	}
	if err := sound.StoreTake(ctx, t.Library, t.by, &take, h.bytes, choose); err != nil {
		return err
	}
	if h.Plain {
		if err := t.FixTake(ctx, take.TakeID, h.Trim.StartMs, h.Trim.EndMs, true, nil); err != nil {
			return err
		}
	}
	t.out.Takes++
	return t.origin(ctx, store.OfMedium, fmt.Sprintf("%x", take.SHA256), h.SHA256)
}
