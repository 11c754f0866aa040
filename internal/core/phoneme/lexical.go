package phoneme

// Lexical is a lexical set: a class of words that share a vowel in every accent (BATH, LOT, NORTH …), or a
// consonant. One spelling of a word in lexical sets gives its sounds in each accent. The sets follow
// J. C. Wells, Accents of English, 1982 (named from memory); the one-letter codes are ours.
type Lexical byte

const (
	Kit     Lexical = 'i'
	Dress   Lexical = 'e'
	Trap    Lexical = 'a'
	Bath    Lexical = 'q'
	Lot     Lexical = 'o'
	Cloth   Lexical = 'x'
	Strut   Lexical = 'u'
	Foot    Lexical = 'U'
	Comma   Lexical = '@'
	Fleece  Lexical = 'E'
	Happy   Lexical = 'y'
	Face    Lexical = 'A'
	Price   Lexical = 'Y'
	Choice  Lexical = 'X'
	Goat    Lexical = 'G'
	Mouth   Lexical = 'W'
	Goose   Lexical = 'L'
	Palm    Lexical = 'P'
	Thought Lexical = 'c'
	Start   Lexical = 'R'
	North   Lexical = 'K'
	Nurse   Lexical = '3'
	Letter  Lexical = '4'
	Near    Lexical = '5'
	Square  Lexical = '6'
	Cure    Lexical = '7'
	Yod     Lexical = '^' // j in Britain, silent in America: tune, new
)

var consonantCodes = map[Lexical]Phoneme{
	'p': "p",
	'b': "b",
	't': "t",
	'd': "d",
	'k': "k",
	'g': "ɡ",
	'm': "m",
	'n': "n",
	'N': "ŋ",
	'f': "f",
	'v': "v",
	'T': "θ",
	'D': "ð",
	's': "s",
	'z': "z",
	'S': "ʃ",
	'Z': "ʒ",
	'h': "h",
	'C': "tʃ",
	'J': "dʒ",
	'l': "l",
	'r': "r",
	'w': "w",
	'j': "j",
}

// accentCount is the number of Accents; Accent.Index gives an accent's column in tables of it.
const accentCount = 4

// What each set sounds like: Southern British, Northern English, General American. Northern English that keeps
// cup and put apart is as Northern English but for STRUT.
var vowelCodes = map[Lexical][3]Phoneme{
	Kit:   {"ɪ", "ɪ", "ɪ"},
	Dress: {"e", "e", "e"},
	Trap:  {"æ", "æ", "æ"},
	Bath:  {"ɑː", "æ", "æ"},
	Lot:   {"ɒ", "ɒ", "ɑː"},
	Cloth: {"ɒ", "ɒ", "ɔː"},
	Strut: {"ʌ", "ʊ", "ʌ"},
	Foot:  {"ʊ", "ʊ", "ʊ"},
	Comma: {"ə", "ə", "ə"},
	Fleece: {
		"iː",
		"iː",
		"iː",
	},
	Happy:  {"iː", "iː", "iː"},
	Face:   {"eɪ", "eɪ", "eɪ"},
	Price:  {"aɪ", "aɪ", "aɪ"},
	Choice: {"ɔɪ", "ɔɪ", "ɔɪ"},
	Goat: {
		"əʊ",
		"əʊ",
		"oʊ",
	},
	Mouth:   {"aʊ", "aʊ", "aʊ"},
	Goose:   {"uː", "uː", "uː"},
	Palm:    {"ɑː", "ɑː", "ɑː"},
	Thought: {"ɔː", "ɔː", "ɔː"},
	Start:   {"ɑː", "ɑː", "ɑːr"},
	North:   {"ɔː", "ɔː", "ɔːr"},
	Nurse:   {"ɜː", "ɜː", "ɜːr"},
	Letter:  {"ə", "ə", "ər"},
	Near:    {"ɪə", "ɪə", "ɪər"},
	Square:  {"eə", "eə", "eər"},
	Cure:    {"ʊə", "ʊə", "ʊər"},
	Yod:     {"j", "j", ""},
}

var (
	realised [accentCount][256]Phoneme
	vowels   [256]bool
	rVowels  [256]bool
)

func init() {
	for code, p := range consonantCodes {
		for i := range realised {
			realised[i][code] = p
		}
	}
	for code, forms := range vowelCodes {
		vowels[code] = code != Yod
		for i, p := range forms {
			realised[i][code] = p
		}
		realised[NorthernStrut.Index()][code] = forms[NorthernEnglish.Index()]
	}
	realised[NorthernStrut.Index()][Strut] = "ʌ"
	for _, code := range []Lexical{Start, North, Nurse, Letter, Near, Square, Cure} {
		rVowels[code] = true
	}
}

// Index is the accent's column in tables of lexical sets: its place in Accents. It panics on an unknown accent.
func (a Accent) Index() int {
	for i, known := range Accents {
		if a == known {
			return i
		}
	}
	panic("phoneme: unknown accent " + string(a))
}

// IsVowelSet tells whether a code stands for a vowel.
func IsVowelSet(code byte) bool { return vowels[code] }

// IsRVowel tells whether it is a vowel with r, which sounds its r before another vowel in every accent.
func IsRVowel(code byte) bool { return rVowels[code] }

// KnownSet tells whether the code stands for a sound.
func KnownSet(code byte) bool { return realised[0][code] != "" }

// Realise returns the sounds that a stretch of codes has in an accent. next is the code that follows the
// stretch, or 0 at the end of the word: a vowel with r sounds its r before a vowel where the accent
// drops it elsewhere.
func Realise(a Accent, codes string, next byte) []Phoneme {
	return AppendRealised(nil, a, codes, next)
}

// AppendRealised is Realise into a slice that the caller gives.
func AppendRealised(out []Phoneme, a Accent, codes string, next byte) []Phoneme {
	column := a.Index()
	for i := 0; i < len(codes); i++ {
		c := codes[i]
		if p := realised[column][c]; p != "" {
			out = append(out, p)
		}
		after := next
		if i+1 < len(codes) {
			after = codes[i+1]
		}
		if rVowels[c] && !a.Rhotic() && vowels[after] {
			out = append(out, "r")
		}
	}
	return out
}
