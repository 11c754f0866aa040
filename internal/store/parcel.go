package store

import (
	"context"
	"time"
)

// ParcelKind is what was brought in.
type ParcelKind string

// Kinds of parcels.
const (
	BundleParcel ParcelKind = "bundle"
	TableParcel  ParcelKind = "table"
)

// Parcel is something brought in and not yet taken into the library.
type Parcel struct {
	ParcelID  string     `json:"parcel_id" format:"uuid"`
	Kind      ParcelKind `json:"kind" enum:"bundle,table"`
	Name      string     `json:"name" doc:"of the file"`
	BroughtBy string     `json:"brought_by" doc:"initials"`
	BroughtAt time.Time  `json:"brought_at"`
}

// ParcelFile is the name of a file in a parcel.
type ParcelFile struct {
	Name, MediaType string
	Sum             string // SHA-256 in hex
}

var (
	parcelAdd     = value[string]("parcel_add")
	parcelFileAdd = change("parcel_file_add")
	parcelGet     = query[Parcel]("parcel_get")
	parcelList    = query[Parcel]("parcel_list")
	parcelNames   = query[ParcelFile]("parcel_names")
	parcelFile    = query[Medium]("parcel_file")
	parcelDrop    = change("parcel_drop")
	parcelDropOld = change("parcel_drop_old")
)

// AddParcel keeps something brought in and returns its id.
func (l Library) AddParcel(ctx context.Context, by string, p Parcel) (string, error) {
	return parcelAdd.get(ctx, l.db, l.with(args{
		"kind": p.Kind, "name": p.Name, "by": nullable(by), "now": p.BroughtAt,
	}))
}

// AddParcelFile keeps a file of a parcel.
func (l Library) AddParcelFile(ctx context.Context, parcelID, name string, m Medium) error {
	return parcelFileAdd.run(ctx, l.db, l.with(args{
		"parcel_id": parcelID, "name": name, "media_type": m.MediaType, "bytes": m.Bytes,
	}))
}

// Parcel returns ErrNotFound where there is none, or none any more.
func (l Library) Parcel(ctx context.Context, parcelID string) (Parcel, error) {
	return parcelGet.one(ctx, l.db, l.with(args{"parcel_id": parcelID}))
}

// Parcels lists what lies there, the newest first.
func (l Library) Parcels(ctx context.Context) ([]Parcel, error) {
	return parcelList.many(ctx, l.db, l.with(nil))
}

// ParcelFiles lists the files of a parcel.
func (l Library) ParcelFiles(ctx context.Context, parcelID string) ([]ParcelFile, error) {
	return parcelNames.many(ctx, l.db, l.with(args{"parcel_id": parcelID}))
}

// ParcelFile returns a file of a parcel.
func (l Library) ParcelFile(ctx context.Context, parcelID, name string) (Medium, error) {
	return parcelFile.one(ctx, l.db, l.with(args{"parcel_id": parcelID, "name": name}))
}

// DropParcel puts a parcel away.
func (l Library) DropParcel(ctx context.Context, parcelID string) error {
	return parcelDrop.run(ctx, l.db, l.with(args{"parcel_id": parcelID}))
}

// DropOldParcels puts away what came before a time, and all but the newest.
func (l Library) DropOldParcels(ctx context.Context, before time.Time, most int) error {
	_, _, err := parcelDropOld.count(ctx, l.db, l.with(args{"before": before, "most": most}))
	return err
}
