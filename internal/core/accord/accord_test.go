package accord_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/accord"
)

func TestAVoiceCountsForItsVersionAndOnce(t *testing.T) {
	voices := []accord.Voice{{"a", 3, true}, {"a", 3, true}, {"b", 2, true}, {"c", 3, false}}
	assert.Equal(t, 1, accord.Count(voices, 3))
	assert.Equal(t, accord.Standing{Yes: 1, Need: 2}, accord.Two.Of(voices, 3))
	assert.False(t, accord.Two.Of(voices, 3).Agreed())
	assert.True(t, accord.Lead.Of(voices, 3).Agreed())
	assert.True(t, accord.Rule("").Of(voices, 3).Agreed(), "a team that never chose has its lead agree")
	assert.True(t, accord.Two.Of(append(voices, accord.Voice{MemberID: "b", Version: 3, Yes: true}), 3).Agreed())
	assert.False(t, accord.Lead.Of(voices, 4).Agreed(), "a change after a yes asks for another")
}

func TestMentionsNameMembers(t *testing.T) {
	team := []string{"OW", "NH", "N2", "ÅS"}
	assert.Equal(t, []string{"NH", "OW"}, accord.Mentions("@nh, what do you and @OW think? @NH!", team))
	assert.Equal(t, []string{"ÅS", "N2"}, accord.Mentions("(@ås) or @N2.", team))
	assert.Empty(t, accord.Mentions("ada@ow.example wrote @nobody", team))
	assert.Empty(t, accord.Mentions("@NHX is no member", team))
}

func TestInitialsDoNotClash(t *testing.T) {
	for name, want := range map[string]string{
		"Orla Weir": "OW", "orla weir": "OW", "Åsa de Sluys": "ÅDS", "Tom": "T", "’t Hooft Ada": "THA", "7 9": "X",
		"Ada Beck Cole Dean Eyre": "ABC",
	} {
		assert.Equal(t, want, accord.Initials(name, nil), name)
	}
	assert.Equal(t, "OW2", accord.Initials("Otto Wick", []string{"ow"}))
	assert.Equal(t, "OW3", accord.Initials("Otto Wick", []string{"OW", "OW2"}))
}
