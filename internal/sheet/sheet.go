// Package sheet reads tables: CSV as spreadsheets write it, and XLSX.
package sheet

import (
	"archive/zip"
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"brightchalk/internal/core/fault"
	"brightchalk/internal/core/table"
)

// ErrNoTable is the code of what Read refuses.
const ErrNoTable fault.Code = "no-table"

// Bounds of a table.
const (
	MaxBytes   = 8 << 20
	maxSheets  = 20
	maxRows    = 2000
	maxColumns = 60
	maxCell    = 4000     // runes
	maxWhole   = 64 << 20 // bytes of an XLSX, unpacked
	maxPart    = 16 << 20
)

func refuse(format string, args ...any) error { return fault.New(ErrNoTable, format, args...) }

// Read reads a table, XLSX or CSV by its first bytes. An error says why it is none.
func Read(data []byte) ([]table.Sheet, error) {
	switch {
	case len(data) > MaxBytes:
		return nil, refuse("The table has more than %d MB.", MaxBytes>>20)
	case bytes.HasPrefix(data, []byte("PK\x03\x04")):
		return workbook(data)
	case bytes.HasPrefix(data, []byte("\xd0\xcf\x11\xe0")):
		return nil, refuse("This is a workbook of the old kind (.xls), or one with a password. Save it as .xlsx or CSV.")
	}
	s, err := CSV(data)
	if err != nil {
		return nil, err
	}
	return []table.Sheet{s}, nil
}

// IsWorkbook tells an XLSX from other ZIP files.
func IsWorkbook(data []byte) bool {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return false
	}
	for _, f := range z.File {
		if f.Name == "xl/workbook.xml" {
			return true
		}
	}
	return false
}

// CSV reads a table in text: parted by commas, semicolons or tabs, in UTF-8, UTF-16 or the letters of Windows.
func CSV(data []byte) (table.Sheet, error) {
	s := table.Sheet{Notes: []string{}}
	text, note, err := decoded(data)
	if err != nil {
		return s, err
	}
	if note != "" {
		s.Notes = append(s.Notes, note)
	}
	r := csv.NewReader(strings.NewReader(text))
	r.FieldsPerRecord, r.TrimLeadingSpace, r.LazyQuotes = -1, true, true
	r.Comma = comma(text)
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return s, refuse("This is no table: %v.", err)
		}
		s.Rows = append(s.Rows, row)
		if len(s.Rows) > maxRows {
			return s, refuse("The table has more than %d lines.", maxRows)
		}
	}
	return s, bounded(&s)
}

// decoded is a text in UTF-8, with what was done to read it.
func decoded(data []byte) (text, note string, err error) {
	switch {
	case bytes.HasPrefix(data, []byte("\xff\xfe")), bytes.HasPrefix(data, []byte("\xfe\xff")):
		out, err := unicode.UTF16(unicode.LittleEndian, unicode.ExpectBOM).NewDecoder().Bytes(data)
		if err != nil {
			return "", "", refuse("This is no table: it cannot be read as text.")
		}
		return string(out), "", nil
	case bytes.IndexByte(data, 0) >= 0:
		return "", "", refuse("This is no table: it cannot be read as text.")
	case utf8.Valid(data):
		return strings.TrimPrefix(string(data), "\ufeff"), "", nil
	}
	out, err := charmap.Windows1252.NewDecoder().Bytes(data)
	if err != nil {
		return "", "", refuse("This is no table: it cannot be read as text.")
	}
	return string(out), "It was not saved as UTF-8; it was read in the letters of Windows. Look at its special signs.", nil
}

// comma is what parts the cells: the sign that stands most often in the first line outside quotes.
func comma(text string) rune {
	first, _, _ := strings.Cut(text, "\n")
	best, most := ',', 0
	for _, c := range []rune{',', ';', '\t'} {
		n, quoted := 0, false
		for _, r := range first {
			if r == '"' {
				quoted = !quoted
			} else if r == c && !quoted {
				n++
			}
		}
		if n > most {
			best, most = c, n
		}
	}
	return best
}

func bounded(s *table.Sheet) error {
	if len(s.Rows) == 0 {
		return refuse("The table is empty.")
	}
	for i, row := range s.Rows {
		if len(row) > maxColumns {
			return refuse("Line %d has more than %d columns.", i+1, maxColumns)
		}
		for j, c := range row {
			if utf8.RuneCountInString(c) > maxCell {
				return refuse("A cell of line %d is longer than %d signs.", i+1, maxCell)
			}
			row[j] = strings.ReplaceAll(c, "\r\n", "\n")
		}
	}
	return nil
}

func workbook(data []byte) ([]table.Sheet, error) {
	f, err := excelize.OpenReader(bytes.NewReader(data), excelize.Options{
		UnzipSizeLimit: maxWhole, UnzipXMLSizeLimit: maxPart,
	})
	if err != nil {
		return nil, refuse("This workbook cannot be opened; it may be damaged, too large or have a password.")
	}
	defer func() { _ = f.Close() }()
	names := f.GetSheetList()
	if len(names) > maxSheets {
		return nil, refuse("The workbook has more than %d sheets.", maxSheets)
	}
	var out []table.Sheet
	for _, name := range names {
		s, err := worksheet(f, name)
		if err != nil {
			return nil, err
		}
		if len(s.Rows) > 0 {
			out = append(out, s)
		}
	}
	if len(out) == 0 {
		return nil, refuse("The workbook is empty.")
	}
	return out, nil
}

func worksheet(f *excelize.File, name string) (table.Sheet, error) {
	s := table.Sheet{Name: name, Notes: []string{}}
	rows, err := f.Rows(name)
	if err != nil {
		return s, nil // a chart
	}
	defer func() { _ = rows.Close() }()
	for rows.Next() {
		row, err := rows.Columns()
		if err != nil {
			return s, refuse("The sheet %s cannot be read.", name)
		}
		s.Rows = append(s.Rows, row)
		if len(s.Rows) > maxRows {
			return s, refuse("The sheet %s has more than %d lines.", name, maxRows)
		}
	}
	for len(s.Rows) > 0 && len(s.Rows[len(s.Rows)-1]) == 0 {
		s.Rows = s.Rows[:len(s.Rows)-1]
	}
	if len(s.Rows) == 0 {
		return s, nil
	}
	if err := spread(f, &s); err != nil {
		return s, err
	}
	if n := formulas(f, s); n > 0 {
		s.Notes = append(
			s.Notes,
			fmt.Sprintf("Formulas stand in it (%d): the values they had when it was saved were taken.", n),
		)
	}
	return s, bounded(&s)
}

// spread gives each cell of a merged one its value.
func spread(f *excelize.File, s *table.Sheet) error {
	merged, err := f.GetMergeCells(s.Name)
	if err != nil {
		return refuse("The sheet %s cannot be read.", s.Name)
	}
	for _, m := range merged {
		left, top, err := excelize.CellNameToCoordinates(m.GetStartAxis())
		if err != nil {
			continue
		}
		right, bottom, err := excelize.CellNameToCoordinates(m.GetEndAxis())
		if err != nil {
			continue
		}
		for y := top; y <= min(bottom, len(s.Rows)); y++ {
			for x := left; x <= min(right, maxColumns); x++ {
				for len(s.Rows[y-1]) < x {
					s.Rows[y-1] = append(s.Rows[y-1], "")
				}
				s.Rows[y-1][x-1] = m.GetCellValue()
			}
		}
	}
	if len(merged) > 0 {
		s.Notes = append(s.Notes, fmt.Sprintf("Merged cells stand in it (%d): each line got their value.", len(merged)))
	}
	return nil
}

func formulas(f *excelize.File, s table.Sheet) int {
	n := 0
	for y, row := range s.Rows {
		for x := range row {
			at, err := excelize.CoordinatesToCellName(x+1, y+1)
			if err != nil {
				continue
			}
			if formula, err := f.GetCellFormula(s.Name, at); err == nil && formula != "" {
				n++
			}
		}
	}
	return n
}
