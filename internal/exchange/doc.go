// Package exchange moves the library in and out: bundles, tables, carry packs, prints, imports, and the background
// jobs that make them:
//
//	err := app.Print.Bundle(ctx, actor, exchange.BundleAsk{}, w)
package exchange
