// Package teaching holds what teachers do with the library: make, edit, run and log lessons, find words, check texts,
// play word games:
//
//	made, err := app.Lessons.Assemble(ctx, actor, teaching.LessonAsk{ClassID: class, CardIDs: cards, Minutes: 20})
package teaching
