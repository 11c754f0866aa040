package attack_test

import (
	"bytes"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/test/attack"
)

// The short form of the attack: what finds faults, none of what only measures. What kills and restarts servers takes
// minutes and runs every night.
func TestNothingIsFound(t *testing.T) {
	if found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/initdb"); len(found) == 0 {
		t.Skip("there is no PostgreSQL here; ./chalk test installs it")
	}
	// go test keeps a result while the files are the same that a test looked at: the server is built from these.
	for _, dir := range []string{"../../cmd", "../../internal"} {
		require.NoError(t, filepath.WalkDir(dir, func(path string, _ fs.DirEntry, err error) error {
			if err == nil {
				_, err = os.Stat(path)
			}
			return err
		}))
	}
	binary := filepath.Join(t.TempDir(), "brightchalk")
	said, err := exec.CommandContext(t.Context(), "go", "build", "-o", binary, "brightchalk/cmd/brightchalk").
		CombinedOutput()
	require.NoError(t, err, string(said))
	var names []string
	for _, s := range attack.Sections {
		measures := []string{"load", "soak", "disk", "failover"}
		quick := []string{"rights", "bodies", "crowd"}
		if testing.Short() && slices.Contains(quick, s.Name) || !testing.Short() && !slices.Contains(measures, s.Name) {
			names = append(names, s.Name)
		}
	}
	var out bytes.Buffer
	found, err := attack.Run(t.Context(), &out, binary, attack.Short, 1, names...)
	t.Log(out.String())
	require.NoError(t, err)
	assert.Empty(t, found)
}

func TestAnUnknownSectionIsNamed(t *testing.T) {
	_, err := attack.Run(t.Context(), &bytes.Buffer{}, "", attack.Short, 1, "storm")
	require.ErrorContains(t, err, "storm")
}
