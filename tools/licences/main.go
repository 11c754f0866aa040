// Command licences writes docs/licences.md, the list of all packages that are shipped in the binary and in the pages,
// and docs/licences/packages.txt with their texts; with -check it says whether they are as they would be written now.
//
//	go run ./tools/licences [-check]
//
// It needs a built bin/brightchalk and web/node_modules.
package main

import (
	"bytes"
	"cmp"
	"debug/buildinfo"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
)

const (
	list  = "docs/licences.md"
	texts = "docs/licences/packages.txt"
)

type shipped struct{ name, version, licence, where, text string }

func main() {
	check := flag.Bool("check", false, "write nothing, say whether the list is current")
	flag.Parse()
	if err := run(*check); err != nil {
		log.Fatal(err)
	}
}

func run(check bool) error {
	modules, err := goModules("bin/brightchalk")
	if err != nil {
		return err
	}
	packages, err := npmPackages("web")
	if err != nil {
		return err
	}
	all := slices.Concat(modules, packages)
	slices.SortFunc(
		all,
		func(a, b shipped) int { return cmp.Or(cmp.Compare(a.where, b.where), cmp.Compare(a.name, b.name)) },
	)
	var unknown []string
	for _, s := range all {
		if s.licence == "" {
			unknown = append(unknown, s.name)
		}
	}
	if len(unknown) > 0 {
		return fmt.Errorf("teach tools/licences to read the licence of %s", strings.Join(unknown, ", "))
	}
	for name, data := range map[string][]byte{list: table(all), texts: written(all)} {
		if !check {
			if err := os.WriteFile(name, data, 0o644); err != nil { //nolint:gosec // to be read by all
				return err
			}
			continue
		}
		if now, _ := os.ReadFile(name); !bytes.Equal(now, data) {
			return fmt.Errorf("%s is not what is shipped: run go run ./tools/licences", name)
		}
	}
	return nil
}

func table(all []shipped) []byte {
	var b bytes.Buffer
	b.WriteString("# Packages that are shipped\n\nWritten by `go run ./tools/licences`; the texts are in `" + texts +
		"`, data and fonts in `docs/data-and-licences.md`.\n\n" +
		"| package | version | licence | where |\n| --- | --- | --- | --- |\n")
	for _, s := range all {
		fmt.Fprintf(&b, "| `%s` | %s | %s | %s |\n", s.name, s.version, s.licence, s.where)
	}
	return b.Bytes()
}

// written are all texts, each once, with the packages that it is of.
func written(all []shipped) []byte {
	of := map[string][]string{}
	var order []string
	for _, s := range all {
		if of[s.text] == nil {
			order = append(order, s.text)
		}
		of[s.text] = append(of[s.text], s.name)
	}
	var b bytes.Buffer
	for _, text := range order {
		fmt.Fprintf(&b, "%s\n%s\n\n%s\n\n", strings.Join(of[text], ", "), strings.Repeat("=", 60), text)
	}
	return b.Bytes()
}

// inSource are modules that say their licence in their source and bring no text.
var inSource = map[string]struct{ licence, text string }{
	"github.com/srwiley/scanx": {"FTL", "The package brings no text of a licence. Its source says: Copyright 2010 The " +
		"Freetype-Go Authors. All rights reserved. Use of this source code is governed by your choice of either the " +
		"FreeType License or the GNU General Public License version 2 (or any later version).\n\n" +
		"Bright Chalk uses it under " +
		"the FreeType License: portions of this software are copyright 2010 The FreeType Project (www.freetype.org). All " +
		"rights reserved."},
}

// goModules are the modules in a binary.
func goModules(binary string) ([]shipped, error) {
	info, err := buildinfo.ReadFile(binary)
	if err != nil {
		return nil, fmt.Errorf("%w; run ./chalk build first", err)
	}
	cache, err := exec.Command("go", "env", "GOMODCACHE").Output() //nolint:noctx // at once
	if err != nil {
		return nil, err
	}
	out := []shipped{}
	goRoot, err := exec.Command("go", "env", "GOROOT").Output() //nolint:noctx // at once
	if err != nil {
		return nil, err
	}
	text, err := textIn(strings.TrimSpace(string(goRoot)))
	if err != nil {
		return nil, err
	}
	out = append(out, shipped{"go (the standard library)", "as built", kindOf(text), "server", text})
	for _, m := range info.Deps {
		if m.Replace != nil {
			m = m.Replace
		}
		dir := filepath.Join(strings.TrimSpace(string(cache)), escaped(m.Path)+"@"+escaped(m.Version))
		if said, ok := inSource[m.Path]; ok {
			out = append(out, shipped{m.Path, m.Version, said.licence, "server", said.text})
			continue
		}
		text, err := textIn(dir)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", m.Path, err)
		}
		out = append(out, shipped{m.Path, m.Version, kindOf(text), "server", text})
	}
	return out, nil
}

// escaped is a module's path as the cache writes it: capitals as ! and the small letter.
func escaped(path string) string {
	return regexp.MustCompile("[A-Z]").
		ReplaceAllStringFunc(path, func(c string) string { return "!" + strings.ToLower(c) })
}

// npmPackages are those of the lock file that no build alone needs.
func npmPackages(dir string) ([]shipped, error) {
	data, err := os.ReadFile(filepath.Join(dir, "package-lock.json"))
	if err != nil {
		return nil, err
	}
	var lock struct {
		Packages map[string]struct {
			Version  string
			License  string
			Dev      bool
			Optional bool
			Peer     bool
		}
	}
	if err := json.Unmarshal(data, &lock); err != nil {
		return nil, err
	}
	out := []shipped{}
	for path, p := range lock.Packages {
		_, name, ok := strings.Cut(path, "node_modules/")
		if at := strings.LastIndex(path, "node_modules/"); ok {
			name = path[at+len("node_modules/"):]
		}
		// Types of peers are for the build; swagger-ui-dist is the page about the calls.
		if !ok || strings.HasPrefix(name, "@types/") || p.Dev && name != "swagger-ui-dist" {
			continue
		}
		text, err := textIn(filepath.Join(dir, path))
		if errors.Is(err, os.ErrNotExist) {
			text = "The package names its licence and brings no text: " + p.License
		} else if err != nil {
			return nil, err
		}
		out = append(out, shipped{name, p.Version, p.License, "pages", text})
	}
	return out, nil
}

// textIn is the text of the licence in a folder.
func textIn(dir string) (string, error) {
	files, err := os.ReadDir(dir)
	if err != nil {
		return "", err
	}
	for _, f := range files {
		name := strings.ToUpper(f.Name())
		if !f.IsDir() && (strings.HasPrefix(name, "LICENSE") || strings.HasPrefix(name, "LICENCE") ||
			strings.HasPrefix(name, "COPYING") || strings.HasPrefix(name, "UNLICENSE")) {
			data, err := os.ReadFile(filepath.Join(dir, f.Name()))
			return strings.TrimSpace(strings.ReplaceAll(string(data), "\r\n", "\n")), err
		}
	}
	return "", fmt.Errorf("no licence in %s: %w", dir, os.ErrNotExist)
}

// tableKind tells a licence by what only its text says.
func kindOf(text string) string {
	flat := strings.Join(strings.Fields(text), " ")
	for _, k := range []struct{ says, name string }{
		{"WANT TO PUBLIC LICENSE", "WTFPL"},
		{"GNU LESSER GENERAL PUBLIC LICENSE Version 2.1", "LGPL-2.1"},
		{"FreeType License", "FTL"},
		{"Apache License", "Apache-2.0"},
		{"Mozilla Public License Version 2.0", "MPL-2.0"},
		{"Neither the name of", "BSD-3-Clause"},
		{"names of its contributors may be used", "BSD-3-Clause"},
		{"Redistribution and use in source and binary forms", "BSD-2-Clause"},
		{"Permission is hereby granted, free of charge", "MIT"},
		{"Permission to use, copy, modify, and/or distribute", "ISC"},
		{"Permission to use, copy, modify, and distribute this software for any purpose", "ISC"},
		{"This is free and unencumbered software", "Unlicense"},
		{"CC0 1.0 Universal", "CC0-1.0"},
	} {
		if strings.Contains(flat, k.says) {
			return k.name
		}
	}
	return ""
}
