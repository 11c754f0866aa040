package assembly

import (
	"slices"
	"strings"

	"brightchalk/internal/core/card"
	"brightchalk/internal/core/convention"
	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/spelling"
	"brightchalk/internal/core/step"
	"brightchalk/internal/core/strokes"
)

// Dress gives the words of a lesson what a press on them shows: to each bridge the card that teaches it, to the lesson
// the faces of those cards, and, where the team wants its own strokes in words, the ink of each. It changes the lesson
// that it is given. A doubled letter has the card of the single one where it has none of its own.
func Dress(l *lesson.Lesson, conv convention.Conventions, w step.FaceSource) {
	taught := l.Set()
	byPair := map[spelling.Pair]card.Card{}
	for _, c := range w.Cards {
		if _, there := byPair[c.Pair]; !there && (taught == nil || taught[c.Pair] || slices.Contains(l.Targets, c.ID)) {
			byPair[c.Pair] = c
		}
	}
	l.Ink = nil
	for word, bits := range l.WordBits {
		for i := range bits {
			c, ok := byPair[spelling.Pair{Grapheme: bits[i].Grapheme, Sound: bits[i].Sound}]
			if one, doubled := single(bits[i].Grapheme); !ok && doubled {
				c, ok = byPair[spelling.Pair{Grapheme: one, Sound: bits[i].Sound}]
			}
			bits[i].Card = ""
			if !ok || c.ID == "" {
				continue
			}
			bits[i].Card = c.ID
			if _, there := l.Cards[c.ID]; !there {
				l.Cards[c.ID] = newCardFace(conv, w.Letters, c)
			}
		}
		if !conv.WrittenWords {
			continue
		}
		if ink, ok := conv.Lines.OrCommon().Ink(word, w.Letters); ok {
			if l.Ink == nil {
				l.Ink = map[string]strokes.Ink{}
			}
			l.Ink[word] = ink
		}
	}
}

// single is the letter of a doubled one.
func single(grapheme string) (string, bool) {
	return grapheme[:len(grapheme)/2], len(grapheme) == 2 && strings.Count(grapheme, grapheme[:1]) == 2
}
