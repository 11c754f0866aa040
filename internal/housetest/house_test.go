// Package housetest holds the house to its plan: which package may know which, and a core without I/O, clock or
// global chance.
package housetest

import (
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var allowed = map[string]bool{
	"bufio":         true,
	"bytes":         true,
	"compress/gzip": true,
	"io":            true,
	"cmp":           true,
	"embed":         true,
	"encoding/json": true,
	"hash/fnv":      true,
	"errors":        true,
	"fmt":           true,
	"maps":          true,
	"math":          true,
	"math/bits":     true,
	"math/cmplx":    true,
	"math/rand/v2":  true,
	"reflect":       true,
	"regexp":        true,
	"slices":        true,
	"sort":          true,
	"strconv":       true,
	"strings":       true,
	"sync":          true,
	"time":          true,
	"unicode":       true,
	"unicode/utf8":  true,
}

var banned = map[string]bool{
	"time.Now":     true,
	"time.Since":   true,
	"rand.Int":     true,
	"rand.IntN":    true,
	"rand.Shuffle": true,
	"rand.Float64": true,
	"fmt.Println":  true,
	"fmt.Printf":   true,
}

func TestCoreImportsAndCalls(t *testing.T) {
	files := 0
	err := filepath.WalkDir(filepath.Join(root, "internal/core"), func(path string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		files++
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		require.NoError(t, err)
		for _, i := range f.Imports {
			name, _ := strconv.Unquote(i.Path.Value)
			fits := allowed[name] || strings.HasPrefix(name, "brightchalk/internal/core/") ||
				strings.HasPrefix(name, "gonum.org/") ||
				strings.HasPrefix(name, "github.com/open-spaced-repetition/go-fsrs/") ||
				strings.HasPrefix(name, "golang.org/x/text/")
			assert.True(t, fits, "%s imports %s", path, name)
		}
		ast.Inspect(f, func(n ast.Node) bool {
			if s, ok := n.(*ast.SelectorExpr); ok {
				if x, ok := s.X.(*ast.Ident); ok {
					assert.False(t, banned[x.Name+"."+s.Sel.Name], "%s calls %s.%s", path, x.Name, s.Sel.Name)
				}
			}
			return true
		})
		return nil
	})
	require.NoError(t, err)
	assert.Greater(t, files, 10)
}

const root = "../.."

// floors are the packages from the ground up: each may know only those below it. One that ends in / stands for all in
// it.
var floors = []string{
	"internal/core/ internal/drawing test/loopback",
	"internal/media internal/render internal/pack internal/store internal/calendar internal/sheet internal/mail" +
		" test/trial internal/provider test/providertest internal/metrics internal/backup test/cluster",
	"internal/bundle internal/tx",
	"internal/gather",
	"internal/people internal/sound",
	"internal/library",
	"internal/curriculum",
	"internal/planning",
	"internal/teaching",
	"internal/printing",
	"internal/exchange",
	"internal/jobs",
	"internal/app",
	"demo internal/httpapi internal/webui test/browser test/testdb test/e2e",
	"cmd/brightchalk test/attack bench",
	"tools/",
}

// coreFloors are the packages of the core, in the same way.
var coreFloors = []string{
	"document fault prose wordform accord",
	"running review",
	"phoneme",
	"mouth",
	"unfit spelling strokes recording",
	"lexicon",
	"convention",
	"card words texts",
	"order knowledge script lesson audit table",
	"year pace",
	"step",
	"step/kinds",
	"assembly handout",
}

func floorOf(pkg string) int {
	for i, f := range floors {
		for p := range strings.FieldsSeq(f) {
			if pkg == p || strings.HasSuffix(p, "/") && strings.HasPrefix(pkg, p) {
				return i
			}
		}
	}
	return -1
}

func coreFloorOf(pkg string) int {
	return slices.IndexFunc(coreFloors, func(f string) bool { return slices.Contains(strings.Fields(f), pkg) })
}

// allImports lists what each package of ours imports, tests left out.
func allImports(t *testing.T) map[string][]string {
	out := map[string][]string{}
	for _, top := range []string{"cmd", "internal", "demo", "test", "bench", "tools"} {
		require.NoError(t, filepath.WalkDir(filepath.Join(root, top), func(path string, d os.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
				return err
			}
			f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
			require.NoError(t, err)
			pkg, err := filepath.Rel(root, filepath.Dir(path))
			require.NoError(t, err)
			out[pkg] = append(out[pkg], "")
			for _, i := range f.Imports {
				name, _ := strconv.Unquote(i.Path.Value)
				out[pkg] = append(out[pkg], name)
			}
			return nil
		}))
	}
	return out
}

// imports lists what each package of ours imports of ours.
func imports(t *testing.T) map[string][]string {
	out := allImports(t)
	for pkg, list := range out {
		ours := []string{""}
		for _, name := range list {
			if name, ok := strings.CutPrefix(name, "brightchalk/"); ok {
				ours = append(ours, name)
			}
		}
		out[pkg] = ours
	}
	return out
}

func TestArrowsPointDown(t *testing.T) {
	all := imports(t)
	assert.Greater(t, len(all), 25)
	for pkg, known := range all {
		floor := floorOf(pkg)
		assert.GreaterOrEqual(t, floor, 0, "%s has no floor: put it in the plan", pkg)
		for _, k := range known {
			if k == "" {
				continue
			}
			below, inCore := floorOf(k), strings.HasPrefix(k, "internal/core/")
			if from, ok := strings.CutPrefix(pkg, "internal/core/"); ok && inCore {
				to := strings.TrimPrefix(k, "internal/core/")
				assert.GreaterOrEqual(t, coreFloorOf(to), 0, "%s has no floor in the core", to)
				assert.Greater(t, coreFloorOf(from), coreFloorOf(to), "core: %s imports %s", from, to)
				continue
			}
			assert.Greater(t, floor, below, "%s imports %s", pkg, k)
		}
	}
}

// What is shipped is built without the code that only tests, tools and measurements need.
func TestShippedCodeImportsNoTestCode(t *testing.T) {
	for pkg, known := range imports(t) {
		if top, _, _ := strings.Cut(pkg, "/"); slices.Contains([]string{"test", "tools", "bench"}, top) {
			continue
		}
		for _, k := range known {
			assert.False(t, strings.HasPrefix(k, "test/"), "%s imports %s", pkg, k)
		}
	}
}

func TestOnlyHTTPKnowsHTTP(t *testing.T) {
	// provider and metrics speak HTTP themselves: as a client, and on a port of its own.
	allowed := []string{"internal/httpapi", "internal/httpapi/bounds", "internal/provider", "internal/metrics"}
	for pkg, list := range allImports(t) {
		if !strings.HasPrefix(pkg, "internal/") && pkg != "demo" || slices.Contains(allowed, pkg) {
			continue
		}
		for _, name := range list {
			banned := strings.HasPrefix(name, "net/http") || strings.Contains(name, "huma") ||
				strings.Contains(name, "go-chi") || name == "brightchalk/internal/httpapi"
			assert.False(t, banned, "%s imports %s", pkg, name)
		}
	}
}

func TestFilesStayReadable(t *testing.T) {
	require.NoError(t, filepath.WalkDir(root, func(path string, d os.DirEntry, err error) error {
		if err == nil && d.Name() == "node_modules" {
			return filepath.SkipDir
		}
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") {
			return err
		}
		data, err := os.ReadFile(path)
		assert.LessOrEqual(t, strings.Count(string(data), "\n"), 460, "%s is long", path)
		return err
	}))
}

// docs/renamed.md lists names that nobody could read; no package declares one of them again.
func TestOldNamesAreGone(t *testing.T) {
	table, err := os.ReadFile(filepath.Join(root, "docs/renamed.md"))
	require.NoError(t, err)
	rows := regexp.MustCompile(`(?m)^\| (\S+) \| (\S+) \| \S+ \|$`).FindAllStringSubmatch(string(table), -1)
	require.Greater(t, len(rows), 300)
	declared := map[string]map[string]bool{}
	for _, row := range rows {
		pkg, name := row[1], row[2]
		if declared[pkg] == nil {
			declared[pkg] = map[string]bool{}
			for _, dir := range []string{pkg, "internal/" + pkg, "internal/core/" + pkg} {
				files, _ := filepath.Glob(filepath.Join(root, dir, "*.go"))
				for _, file := range files {
					addDeclared(t, file, declared[pkg])
				}
			}
		}
		assert.False(t, declared[pkg][name], "%s declares %s again", pkg, name)
	}
}

// addDeclared adds the names that a file declares: functions, Type.Method, types, Type.field, constants and variables.
func addDeclared(t *testing.T, file string, out map[string]bool) {
	f, err := parser.ParseFile(token.NewFileSet(), file, nil, 0)
	require.NoError(t, err)
	for _, d := range f.Decls {
		switch d := d.(type) {
		case *ast.FuncDecl:
			name := d.Name.Name
			if d.Recv != nil {
				receiver := d.Recv.List[0].Type
				if star, ok := receiver.(*ast.StarExpr); ok {
					receiver = star.X
				}
				if id, ok := receiver.(*ast.Ident); ok {
					name = id.Name + "." + name
				}
			}
			out[name] = true
		case *ast.GenDecl:
			for _, s := range d.Specs {
				switch s := s.(type) {
				case *ast.ValueSpec:
					for _, id := range s.Names {
						out[id.Name] = true
					}
				case *ast.TypeSpec:
					out[s.Name.Name] = true
					if fields, ok := s.Type.(*ast.StructType); ok {
						for _, field := range fields.Fields.List {
							for _, id := range field.Names {
								out[s.Name.Name+"."+id.Name] = true
							}
						}
					}
				}
			}
		}
	}
}
