package step

import (
	"cmp"

	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lesson"
)

// Sign is what the adult does to show who speaks: the team's own sign, or else ours.
func Sign(conv convention.Conventions, v lesson.Voice) string {
	own := conv.Says.Signs
	switch v {
	case lesson.ByAdult:
		return cmp.Or(own.Adult, "hand on your chest")
	case lesson.Together:
		return cmp.Or(own.Both, "arms open wide")
	case lesson.Silently:
		return cmp.Or(own.Silently, "a finger on closed lips, then open it")
	case lesson.ByClass:
	}
	return cmp.Or(own.Class, "an open hand towards them")
}

// Signs are those for all voices.
func Signs(conv convention.Conventions) map[lesson.Voice]string {
	out := map[lesson.Voice]string{}
	for _, v := range lesson.Voices {
		out[v.ID] = Sign(conv, v.ID)
	}
	return out
}
