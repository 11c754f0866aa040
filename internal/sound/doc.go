// Package sound holds the recordings of the library: adding, judging, trimming, choosing, withdrawing and hearing
// them:
//
//	takes, err := app.Takes.Add(ctx, actor, cardID, "Bea Sluice", true, upload)
package sound
