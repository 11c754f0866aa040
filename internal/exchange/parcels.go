package exchange

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"path"
	"slices"
	"strings"
	"unicode"

	"brightchalk/internal/bundle"
	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/recording"
	"brightchalk/internal/gather"
	"brightchalk/internal/media"
	"brightchalk/internal/sheet"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

// Imports is what a team brings in: bundles of other libraries, and tables. What was brought lies there unpacked until
// somebody has looked at it and taken what the team wants.
type Imports struct{ Env tx.Env }

// Bounds of what lies there.
const (
	MaxParcelBytes = 128 << 20
	maxParcels     = 4
	parcelDays     = 7
	maxFileName    = 120 // runes
)

const jsonType = "application/json"

// Bring takes in a file: a bundle is unpacked, its pictures are cleaned and its sounds tried.
func (p Imports) Bring(ctx context.Context, by tx.Actor, name string, file media.Upload) (store.Parcel, error) {
	var none store.Parcel
	if err := by.Need(tx.MayEdit); err != nil {
		return none, err
	}
	data, err := media.ReadUpload(file)
	if err != nil {
		return none, err
	}
	parcel := store.Parcel{Kind: tableKind(data), Name: fileName(name), BroughtAt: p.Env.Now()}
	var files []parcelFile
	err = p.Env.Decode(ctx, 2*file.Size(), func() error {
		if parcel.Kind == store.TableParcel {
			files, err = sheets(data)
		} else {
			files, err = p.unpack(ctx, data)
		}
		return fault.At("file", err)
	})
	if err != nil {
		return none, err
	}
	return tx.Write(ctx, p.Env, by, tx.MayEdit, func(s store.Library) (store.Parcel, error) {
		id, err := s.AddParcel(ctx, by.MemberID, parcel)
		if err != nil {
			return none, err
		}
		for _, f := range files {
			if err := s.AddParcelFile(ctx, id, f.name, f.Medium); err != nil {
				return none, err
			}
		}
		if err := s.DropOldParcels(ctx, parcel.BroughtAt.AddDate(0, 0, -parcelDays), maxParcels); err != nil {
			return none, err
		}
		return s.Parcel(ctx, id)
	})
}

// tableKind tells a bundle from a table: both may be ZIP files.
func tableKind(data []byte) store.ParcelKind {
	if sheet.IsWorkbook(data) || !bytes.HasPrefix(data, []byte("PK")) {
		return store.TableParcel
	}
	return store.BundleParcel
}

// fileName is the name of a file as it can be shown.
func fileName(name string) string {
	name = strings.Map(func(r rune) rune {
		if unicode.IsPrint(r) {
			return r
		}
		return -1
	}, path.Base(strings.ReplaceAll(name, "\\", "/")))
	runes := []rune(name)
	return string(runes[:min(len(runes), maxFileName)])
}

type parcelFile struct {
	name string
	store.Medium
}

const (
	libraryFile  = "library.json"
	findingsFile = "findings.json"
)

// unpack takes a bundle apart.
func (p Imports) unpack(ctx context.Context, data []byte) ([]parcelFile, error) {
	a, err := bundle.Open(data)
	if err != nil {
		return nil, err
	}
	report, err := bundle.Check(data)
	if err != nil {
		return nil, err
	}
	b := &a.Library
	var files []parcelFile
	cleaned := func(name string, raw []byte, err error) string {
		if err != nil {
			return ""
		}
		c, err := media.CleanPicture(raw)
		if err != nil {
			return "" // the report tells
		}
		files = append(files, parcelFile{name, store.Medium{MediaType: c.MediaType, Bytes: c.Bytes}})
		return bundle.Sum(c.Bytes)
	}
	for i, c := range b.Cards {
		name, raw, err := a.Picture(c)
		b.Cards[i].Picture = cleaned(name, raw, err)
	}
	for i, n := range b.Pictures {
		name, raw, err := a.Named(n)
		b.Pictures[i].SHA256 = cleaned(name, raw, err)
	}
	for i, c := range b.Cards {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		sounds, t, ok := packedSounds(a, c.ID)
		b.Cards[i].HasTake = ok
		if ok {
			files = append(files, sounds...)
			setTake(b, t)
		}
	}
	// What contradicts itself in their library is their own affair.
	found := slices.DeleteFunc(report.Findings, func(f bundle.Finding) bool { return f.Code == "library" })
	for name, v := range map[string]any{libraryFile: b, findingsFile: found} {
		text, err := json.Marshal(v)
		if err != nil {
			return nil, err
		}
		files = append(files, parcelFile{name, store.Medium{MediaType: jsonType, Bytes: text}})
	}
	return files, nil
}

// packedSounds is what a bundle has to hear for a card: as it is played, and as it was recorded.
func packedSounds(a *bundle.Archive, cardID string) ([]parcelFile, bundle.Take, bool) {
	played := "takes/" + cardID + ".wav"
	data, err := a.File(played)
	if err != nil {
		return nil, bundle.Take{}, false
	}
	clip, err := media.DecodeSound(data)
	if err != nil {
		return nil, bundle.Take{}, false
	}
	out := []parcelFile{{played, store.Medium{MediaType: media.TypeOf(data), Bytes: data}}}
	take, told := a.Library.Recording(cardID)
	if raw, err := a.File(take.File); told && err == nil && bundle.Sum(raw) == take.SHA256 {
		if recorded, err := media.DecodeSound(raw); err == nil && take.Trim.EndMs > take.Trim.StartMs &&
			take.Trim.StartMs >= 0 && take.Trim.EndMs <= milliseconds(recorded)+1 {
			return append(
				out,
				parcelFile{take.File, store.Medium{MediaType: media.TypeOf(raw), Bytes: raw}},
			), take, true
		}
	}
	// Without the recording, what is played is one.
	take.Card, take.File, take.SHA256, take.Plain = cardID, played, bundle.Sum(data), true
	take.Trim.StartMs, take.Trim.EndMs = 0, max(1, milliseconds(clip))
	return out, take, true
}

func milliseconds(c recording.Clip) int { return int(c.Duration().Milliseconds()) }

func setTake(b *bundle.Library, t bundle.Take) {
	for i := range b.Takes {
		if b.Takes[i].Card == t.Card {
			b.Takes[i] = t
			return
		}
	}
	b.Takes = append(b.Takes, t)
}

// List lists what lies there, the newest first.
func (p Imports) List(ctx context.Context, by tx.Actor) ([]store.Parcel, error) {
	return tx.Read(ctx, p.Env, by, func(s store.Library) ([]store.Parcel, error) {
		list, err := s.Parcels(ctx)
		return append([]store.Parcel{}, list...), err
	})
}

// Drop puts something away without taking it.
func (p Imports) Drop(ctx context.Context, by tx.Actor, parcelID string) error {
	return tx.Exec(ctx, p.Env, by, tx.MayEdit, func(s store.Library) error { return s.DropParcel(ctx, parcelID) })
}

// File is a picture or a sound of a bundle that lies there.
func (p Imports) File(ctx context.Context, by tx.Actor, parcelID, name string) (store.Medium, error) {
	return tx.Read(ctx, p.Env, by, func(s store.Library) (store.Medium, error) {
		m, err := s.ParcelFile(ctx, parcelID, name)
		if err == nil && m.MediaType == jsonType {
			err = store.ErrNotFound
		}
		return m, err
	})
}

// BundleView is a bundle that lies there, against the library as it is now.
type BundleView struct {
	store.Parcel
	Team     string           `json:"team" doc:"whose library it is"`
	Class    string           `json:"class" doc:"a class that stands in it; it is not taken"`
	Findings []bundle.Finding `json:"findings" doc:"what is wrong with the bundle"`
	bundle.Comparison
}

// Bundle looks at a bundle that lies there.
func (p Imports) Bundle(ctx context.Context, by tx.Actor, parcelID string) (BundleView, error) {
	return tx.Read(ctx, p.Env, by, func(s store.Library) (BundleView, error) {
		v := BundleView{Findings: []bundle.Finding{}}
		a, parcel, err := openArchive(ctx, s, parcelID)
		if err != nil {
			return v, err
		}
		mine, err := readOwnLibrary(ctx, s)
		if err != nil {
			return v, err
		}
		v.Parcel, v.Team, v.Class = parcel, a.Library.Team, a.Library.Class
		v.Findings = append(v.Findings, a.Findings...)
		v.Comparison = a.Compare(mine)
		return v, nil
	})
}

// openArchive is a bundle that lies there.
func openArchive(ctx context.Context, s store.Library, parcelID string) (*bundle.Archive, store.Parcel, error) {
	parcel, err := s.Parcel(ctx, parcelID)
	if err == nil && parcel.Kind != store.BundleParcel {
		err = store.ErrNotFound
	}
	if err != nil {
		return nil, parcel, err
	}
	var b bundle.Library
	var findings []bundle.Finding
	for name, to := range map[string]any{libraryFile: &b, findingsFile: &findings} {
		m, err := s.ParcelFile(ctx, parcelID, name)
		if err != nil {
			return nil, parcel, err
		}
		if err := json.Unmarshal(m.Bytes, to); err != nil {
			return nil, parcel, err
		}
	}
	names, err := s.ParcelFiles(ctx, parcelID)
	files := map[string]func() ([]byte, error){}
	for _, n := range names {
		files[n.Name] = func() ([]byte, error) {
			m, err := s.ParcelFile(ctx, parcelID, n.Name)
			if errors.Is(err, store.ErrNotFound) {
				err = bundle.ErrNoFile
			}
			return m.Bytes, err
		}
	}
	return bundle.Unpacked(b, findings, files), parcel, err
}

// Bounds of what is noted of an origin, in bytes.
const maxOrigin = 200

// OriginView is who made a thing and how it may be used.
type OriginView struct {
	Maker    string `json:"maker" maxLength:"200"`
	Licence  string `json:"licence" maxLength:"200"`
	FromTeam string `json:"from_team,omitempty" required:"false" doc:"from whose library it came"`
}

// Origin is what is known of a picture or a sound; empty where nothing is.
func (p Imports) Origin(ctx context.Context, by tx.Actor, sum string) (OriginView, error) {
	return tx.Read(ctx, p.Env, by, func(s store.Library) (OriginView, error) {
		list, err := s.Origins(ctx)
		for _, o := range list {
			if o.Kind == store.OfMedium && o.Item == sum {
				return OriginView{o.Maker, o.Licence, o.FromTeam}, nil
			}
		}
		return OriginView{}, err
	})
}

// SetOrigin notes who made a picture or a sound and how it may be used.
func (p Imports) SetOrigin(ctx context.Context, by tx.Actor, sum, maker, licence string) error {
	maker, licence = strings.TrimSpace(maker), strings.TrimSpace(licence)
	return tx.Exec(ctx, p.Env, by, tx.MayEdit, func(s store.Library) error {
		if len(maker) > maxOrigin || len(licence) > maxOrigin {
			return fault.In("maker", "Write up to %d signs.", maxOrigin)
		}
		if _, err := gather.Picture(ctx, s, sum); err != nil {
			return err
		}
		return s.PutOrigin(ctx, by.MemberID, store.Origin{
			Kind: store.OfMedium, Item: sum, Maker: maker, Licence: licence,
		}, p.Env.Now())
	})
}
