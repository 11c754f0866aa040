// Package exchange moves the library in and out as files: bundles, and tables for a spreadsheet:
//
//	err := app.Exports.Bundle(ctx, actor, exchange.BundleAsk{}, w)
package exchange
