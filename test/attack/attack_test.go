package attack_test

import (
	"bytes"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brightchalk/test/attack"
)

// The short form of the attack: all that finds faults, none of what only measures.
func TestNothingIsFound(t *testing.T) {
	if found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/initdb"); len(found) == 0 {
		t.Skip("there is no PostgreSQL here; ./chalk test installs it")
	}
	binary := filepath.Join(t.TempDir(), "brightchalk")
	said, err := exec.CommandContext(t.Context(), "go", "build", "-o", binary, "brightchalk/cmd/brightchalk").
		CombinedOutput()
	require.NoError(t, err, string(said))
	var names []string
	for _, s := range attack.Sections {
		if s.Name != "load" && s.Name != "soak" && s.Name != "disk" && s.Name != "failover" {
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
