package main

import (
	"regexp"
	"strings"

	"brightchalk/internal/core/spelling"
)

var consonant = map[string]string{
	"P":  "p",
	"B":  "b",
	"T":  "t",
	"D":  "d",
	"K":  "k",
	"G":  "g",
	"M":  "m",
	"N":  "n",
	"NG": "N",
	"F":  "f",
	"V":  "v",
	"TH": "T",
	"DH": "D",
	"S":  "s",
	"Z":  "z",
	"SH": "S",
	"ZH": "Z",
	"HH": "h",
	"CH": "C",
	"JH": "J",
	"L":  "l",
	"R":  "r",
	"W":  "w",
	"Y":  "j",
}

// best tries the lexical sets that each American vowel may stand for and keeps the spelling that aligns
// most cheaply with the letters: "dog" is CLOTH by its o, "saw" THOUGHT by its aw.
func best(al *spelling.Aligner, word string, phones []string, bath, cloth bool) string {
	options := []string{""}
	for i := 0; i < len(phones); i++ {
		next := func(k int) string {
			if i+k < len(phones) {
				return strings.TrimRight(phones[i+k], "012")
			}
			return ""
		}
		forms, used := sets(word, phones[i], next, i, phones, bath, cloth)
		i += used
		var grown []string
		for _, o := range options {
			for _, f := range forms {
				grown = append(grown, o+f)
			}
		}
		if len(grown) > 512 {
			return ""
		}
		options = grown
	}
	bestCost, bestCodes := 1<<30, ""
	for _, o := range options {
		if cost := al.Cost(word, o, spelling.Cut{}) * 4; cost > 0 && cost+bias(word, o) < bestCost {
			bestCost, bestCodes = cost+bias(word, o), o
		}
	}
	if unstressedAge.MatchString(word) { // "village", "manage": the ending is heard with the vowel of "kit"
		bestCodes = strings.Replace(bestCodes, "@J", "iJ", 1)
	}
	return bestCodes
}

var unstressedAge = regexp.MustCompile(`(age[sd]?|lege|ledge)$`)

// bias settles ties: yod after t, d, n where the spelling allows it; -et with the vowel of "pocket".
func bias(word, codes string) int {
	b := 0
	if strings.Contains(codes, "^") {
		b -= 9
	}
	if strings.HasSuffix(codes, "it") && (strings.HasSuffix(word, "et") || strings.HasSuffix(word, "it")) {
		b--
	}
	return b
}

func isVowelPhone(p string) bool { return p != "" && strings.IndexByte("AEIOU", p[0]) >= 0 }

func sets(
	word, phone string,
	next func(int) string,
	i int,
	phones []string,
	bath, cloth bool,
) (forms []string, used int) {
	base := strings.TrimRight(phone, "012")
	stressed := strings.HasSuffix(phone, "1") || strings.HasSuffix(phone, "2")
	if c, ok := consonant[base]; ok {
		switch {
		case base == "HH" && next(1) == "W":
			return []string{""}, 0
		case base == "N" && strings.Contains("K G", next(1)) && next(1) != "":
			return []string{"n", "N"}, 0
		case base == "Y" && next(1) == "UH" && next(2) == "R":
			return []string{"j7"}, 2
		}
		return []string{c}, 0
	}
	beforeVowel := isVowelPhone(next(2))
	if next(1) == "R" {
		switch base {
		case "AA":
			if beforeVowel {
				return []string{"or", "R", "Rr"}, 1
			}
			return []string{"R"}, 1
		case "AO":
			if beforeVowel {
				return []string{"K", "or", "Kr"}, 1
			}
			return []string{"K"}, 1
		case "EH":
			if strings.HasSuffix(word, "ary") && len(phones) > 5 {
				return []string{"@r"}, 1
			}
			if beforeVowel {
				return []string{"er", "ar", "6"}, 1
			}
			return []string{"6"}, 1
		case "AE":
			return []string{"ar"}, 1
		case "IH", "IY":
			if beforeVowel {
				return []string{"5", "ir", "5r"}, 1
			}
			return []string{"5"}, 1
		case "UH", "UW":
			if i > 0 && strings.Contains("T D N", strings.TrimRight(phones[i-1], "012")) {
				return []string{"^7", "7"}, 1
			}
			return []string{"7"}, 1
		case "AY":
			if beforeVowel {
				return []string{"Yr", "Y4"}, 1
			}
			return []string{"Y4"}, 1
		case "AW":
			return []string{"W4"}, 1
		}
	}
	switch base {
	case "AA", "AO": // the dictionary mixes LOT, CLOTH and THOUGHT: the letters and one list decide
		if cloth {
			return []string{"x"}, 0
		}
		if base == "AO" {
			return []string{"c", "o"}, 0
		}
		return []string{"o", "P", "c"}, 0
	case "AE":
		if bath {
			return []string{"q"}, 0
		}
		return []string{"a"}, 0
	case "AH":
		if stressed {
			return []string{"u"}, 0
		}
		if i == 0 && (strings.HasPrefix(word, "un") || strings.HasPrefix(word, "up")) {
			return []string{"u"}, 0
		}
		return []string{"@", "i"}, 0
	case "ER":
		inflected := strings.HasSuffix(word, "rring") || strings.HasSuffix(word, "rred")
		switch {
		case stressed && isVowelPhone(next(1)) && inflected:
			return []string{"3r", "3"}, 0
		case stressed && isVowelPhone(next(1)):
			return []string{"ur", "3", "3r"}, 0
		case stressed:
			return []string{"3"}, 0
		case isVowelPhone(next(1)):
			return []string{"@r", "4", "4r"}, 0
		}
		return []string{"4"}, 0
	case "IH":
		if !stressed {
			return []string{"i"}, 0
		}
		return []string{"i"}, 0
	case "IY":
		if strings.HasSuffix(phone, "0") {
			return []string{"y", "E"}, 0
		}
		return []string{"E"}, 0
	case "UW":
		if i > 0 && strings.Contains("T D N", phones[i-1]) {
			return []string{"^L", "L"}, 0
		}
		return []string{"L"}, 0
	}
	return []string{
		map[string]string{"EH": "e", "UH": "U", "EY": "A", "AY": "Y", "OY": "X", "OW": "G", "AW": "W"}[base],
	}, 0
}
