// Package printing makes what goes on paper or onto a stick: sheets of lessons, cards, practice sheets, carry packs:
//
//	err := app.Print.Sheet(ctx, actor, printing.SheetAsk{Lesson: id}, w)
package printing
