package sheet_test

import (
	"archive/zip"
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"brightchalk/internal/core/table"
	"brightchalk/internal/sheet"
)

// wide is a text of Latin letters as UTF-16, the small byte first.
func wide(latin string) string {
	var out strings.Builder
	for i := range len(latin) {
		out.WriteByte(latin[i])
		out.WriteByte(0)
	}
	return out.String()
}

func TestTablesInTextAreRead(t *testing.T) {
	want := [][]string{{"word", "grapheme"}, {"café, au lait", "é"}}
	for name, data := range map[string]string{
		"commas":           "word,grapheme\n\"café, au lait\",é\n",
		"semicolons":       "word;grapheme\r\ncafé, au lait;é\r\n",
		"tabs":             "word\tgrapheme\ncafé, au lait\té",
		"with a mark":      "\ufeffword,grapheme\n\"café, au lait\",é\n",
		"of Windows":       "word;grapheme\ncaf\xe9, au lait;\xe9",
		"UTF-16 of Excel":  "\xff\xfe" + wide("word\tgrapheme\ncaf\xe9, au lait\t\xe9"),
		"quotes in a head": "\"word\",\"grapheme\"\n\"café, au lait\",\"é\"",
	} {
		s, err := sheet.Read([]byte(data))
		require.NoError(t, err, name)
		assert.Equal(t, want, s[0].Rows, name)
		assert.Equal(t, name == "of Windows", len(s[0].Notes) > 0, name)
	}
}

// book is a workbook made by hand.
func book(t *testing.T, f func(*excelize.File)) []byte {
	t.Helper()
	x := excelize.NewFile()
	f(x)
	var out bytes.Buffer
	require.NoError(t, x.Write(&out))
	return out.Bytes()
}

func TestWorkbooksAreRead(t *testing.T) {
	data := book(t, func(x *excelize.File) {
		require.NoError(t, x.SetSheetRow("Sheet1", "A1", &[]any{"grapheme", "word", "n"}))
		require.NoError(t, x.SetSheetRow("Sheet1", "A2", &[]any{"sh", "ship", 1}))
		require.NoError(t, x.SetCellValue("Sheet1", "B3", "shop"))
		require.NoError(t, x.MergeCell("Sheet1", "A2", "A3"))
		require.NoError(t, x.SetCellFormula("Sheet1", "C3", "C2+1"))
		_, err := x.NewSheet("empty")
		require.NoError(t, err)
		_, err = x.NewSheet("more")
		require.NoError(t, err)
		require.NoError(t, x.SetCellValue("more", "A1", "word"))
	})
	require.True(t, sheet.IsWorkbook(data))
	s, err := sheet.Read(data)
	require.NoError(t, err)
	require.Len(t, s, 2, "an empty sheet is none")
	assert.Equal(t, []string{"sh", "ship", "1"}, s[0].Rows[1])
	assert.Equal(t, "sh", s[0].Rows[2][0], "each line of a merged cell has its value")
	assert.Contains(t, strings.Join(s[0].Notes, " "), "Merged cells stand in it (1)")
	assert.Contains(t, strings.Join(s[0].Notes, " "), "Formulas stand in it (1)")
	assert.Equal(t, "more", s[1].Name)
}

func TestWhatIsNoTableIsRefused(t *testing.T) {
	bomb := book(t, func(x *excelize.File) { require.NoError(t, x.SetCellValue("Sheet1", "A1", "word")) })
	in, err := zip.NewReader(bytes.NewReader(bomb), int64(len(bomb)))
	require.NoError(t, err)
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for _, f := range in.File {
		require.NoError(t, z.Copy(f))
	}
	w, err := z.Create("xl/worksheets/sheet9.xml")
	require.NoError(t, err)
	_, err = w.Write(make([]byte, 80<<20))
	require.NoError(t, err)
	require.NoError(t, z.Close())
	for why, data := range map[string][]byte{
		"is empty":                {},
		"cannot be read as text":  []byte("\x00\x01\x02"),
		"more than 2000 lines":    []byte(strings.Repeat("a,b\n", 2001)),
		"more than 60 columns":    []byte(strings.Repeat("a,", 61)),
		"longer than 4000 signs":  []byte(strings.Repeat("a", 4001)),
		"of the old kind (.xls)":  []byte("\xd0\xcf\x11\xe0\xa1\xb1"),
		"cannot be opened":        []byte("PK\x03\x04 no zip"),
		"damaged, too large":      out.Bytes(),
		"has more than 8 MB":      make([]byte, 9<<20),
		"The workbook is empty":   book(t, func(*excelize.File) {}),
		"has more than 20 sheets": book(t, func(x *excelize.File) { many(t, x) }),
		"The sheet Sheet1 has more th": book(t, func(x *excelize.File) {
			require.NoError(t, x.SetCellValue("Sheet1", "A2001", 1))
		}),
	} {
		_, err := sheet.Read(data)
		require.ErrorIs(t, err, sheet.ErrNoTable, why)
		assert.ErrorContains(t, err, why)
	}
}

func many(t *testing.T, x *excelize.File) {
	t.Helper()
	for i := range 21 {
		_, err := x.NewSheet(strings.Repeat("x", i+1))
		require.NoError(t, err)
	}
}

// What is written comes in again, and no cell of it is worked out.
func TestTablesGoOutAndComeIn(t *testing.T) {
	out := []table.Sheet{
		{Name: "cards", Rows: [][]string{{"grapheme", "notes"}, {"a-e", "=HYPERLINK(\"x\")"}, {"ng", "-ing\nends"}}},
		{Name: "words", Rows: [][]string{{"word"}, {"ship"}}},
	}
	var b bytes.Buffer
	require.NoError(t, sheet.WriteWorkbook(&b, out))
	in, err := sheet.Read(b.Bytes())
	require.NoError(t, err)
	require.Len(t, in, 2)
	for i := range out {
		assert.Equal(t, out[i].Rows, in[i].Rows)
		assert.Empty(t, in[i].Notes, "no formulas")
	}
	b.Reset()
	require.NoError(t, sheet.WriteCSV(&b, out[0]))
	assert.Contains(t, b.String(), `"'=HYPERLINK(""x"")"`)
	in, err = sheet.Read(b.Bytes())
	require.NoError(t, err)
	assert.Equal(t, "'-ing\nends", in[0].Rows[2][1], "core/table takes the guard away")
}
