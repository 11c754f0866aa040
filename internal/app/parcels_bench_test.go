package app_test

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"brightchalk/internal/bundle"
	"brightchalk/internal/core/card"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/exchange"
	"brightchalk/internal/media"
	"brightchalk/internal/people"
)

// bigBundle is a bundle of so many cards, each with a picture and a recording of the demo.
func bigBundle(b *testing.B, s school, n int) []byte {
	b.Helper()
	var out bytes.Buffer
	require.NoError(b, s.Exports.Bundle(context.Background(), s.lead, exchange.BundleAsk{}, &out))
	a, err := bundle.Open(out.Bytes())
	require.NoError(b, err)
	lib := a.Library
	model := lib.Takes[0]
	recorded, err := a.File(model.File)
	require.NoError(b, err)
	played, err := a.File("takes/" + model.Card + ".wav")
	require.NoError(b, err)
	var drawn []byte
	var from card.Card
	for _, c := range lib.Cards {
		if c.ID == model.Card {
			from = c
			_, drawn, err = a.Picture(c)
			require.NoError(b, err)
		}
	}
	lib.Cards, lib.Takes, lib.Class, lib.Taught, lib.Log = nil, nil, "", nil, nil
	var packed bytes.Buffer
	z := zip.NewWriter(&packed)
	put := func(name string, data []byte) {
		w, err := z.Create(name)
		require.NoError(b, err)
		_, err = w.Write(data)
		require.NoError(b, err)
	}
	for i, row := range spelling.Table("southern-british") {
		if i == n {
			break
		}
		c := from
		c.ID, c.Step, c.Pair, c.State = fmt.Sprintf("card-%d", i), i+1, row.Pair, card.Draft
		t := model
		t.Card, t.File = c.ID, "recordings/"+c.ID+".wav"
		lib.Cards, lib.Takes = append(lib.Cards, c), append(lib.Takes, t)
		put("pictures/"+c.ID+".svg", drawn)
		put("takes/"+c.ID+".wav", played)
		put(t.File, recorded)
	}
	require.Len(b, lib.Cards, n)
	text, err := json.Marshal(lib)
	require.NoError(b, err)
	put("library.json", text)
	require.NoError(b, z.Close())
	return packed.Bytes()
}

// 120 cards with takes come in: unpacked, cleaned and tried, then judged and taken.
func BenchmarkABundleComesIn(b *testing.B) {
	s := demoSchool(b)
	ctx := context.Background()
	data := bigBundle(b, s, 120)
	for i := range b.N {
		b.StopTimer()
		_, err := s.Accounts.CreateTeam(ctx, people.NewTeam{
			Name: "Weir", LeadName: "Wren Alder", Email: fmt.Sprintf("w%d@weir.example", i), Password: "heron under the weir",
		})
		require.NoError(b, err)
		they, err := s.Accounts.SignIn(
			ctx,
			people.SignInAttempt{Email: fmt.Sprintf("w%d@weir.example", i), Password: "heron under the weir"},
		)
		require.NoError(b, err)
		b.StartTimer()
		parcel, err := s.Imports.Bring(ctx, they, "big.zip", media.UploadOf(data))
		require.NoError(b, err)
		v, err := s.Imports.Bundle(ctx, they, parcel.ParcelID)
		require.NoError(b, err)
		got, err := s.Imports.TakeBundle(ctx, they, parcel.ParcelID, wholeOf(v))
		require.NoError(b, err)
		require.Equal(b, 120, got.Takes, "%v", got.Left)
	}
}
