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
		return cmp.Or(own.Adult, convention.DefaultSigns.Adult)
	case lesson.Together:
		return cmp.Or(own.Both, convention.DefaultSigns.Both)
	case lesson.Silently:
		return cmp.Or(own.Silently, convention.DefaultSigns.Silently)
	case lesson.ByClass:
	}
	return cmp.Or(own.Class, convention.DefaultSigns.Class)
}

// Signs are those for all voices.
func Signs(conv convention.Conventions) map[lesson.Voice]string {
	out := map[lesson.Voice]string{}
	for _, v := range lesson.Voices {
		out[v.ID] = Sign(conv, v.ID)
	}
	return out
}
