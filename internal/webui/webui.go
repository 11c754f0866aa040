// Package webui embeds the built front end.
package webui

import (
	"embed"
	"io/fs"
)

//go:embed all:dist
var dist embed.FS

// Pages is the built front end; empty but for a marker where it was not built.
func Pages() fs.FS {
	sub, err := fs.Sub(dist, "dist")
	if err != nil {
		panic(err)
	}
	return sub
}

// Stage is the script and the style of the stage that a carry pack brings; empty where it was not built.
func Stage() (script, style []byte) {
	script, _ = dist.ReadFile("dist/carry/carry.js")
	style, _ = dist.ReadFile("dist/carry/carry.css")
	return script, style
}
