// Package housetest holds the core to its rules: no I/O, no clock, no global chance, few imports.
package housetest

import (
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
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
	err := filepath.WalkDir("..", func(path string, d os.DirEntry, err error) error {
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

func TestFilesStayReadable(t *testing.T) {
	require.NoError(t, filepath.WalkDir("../..", func(path string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") {
			return err
		}
		data, err := os.ReadFile(path)
		assert.LessOrEqual(t, strings.Count(string(data), "\n"), 460, "%s is long", path)
		return err
	}))
}
