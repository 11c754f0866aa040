// Package library holds the use cases of the shared library: cards, their reviews and comments, the audit, letters,
// and the team's own words. Each type is one capability; its methods check their input, take the right that they need,
// and read or write in one transaction:
//
//	page, err := app.Cards.Card(ctx, actor, cardID)
package library
