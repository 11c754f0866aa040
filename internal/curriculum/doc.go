// Package curriculum holds what a team decides once: the order of teaching with its proposals, the conventions, and
// the routines of lessons:
//
//	desk, err := app.Orders.Desk(ctx, actor)
package curriculum
