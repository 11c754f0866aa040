package sheet

import (
	"encoding/csv"
	"fmt"
	"io"

	"github.com/xuri/excelize/v2"

	"brightchalk/internal/core/table"
)

// WriteCSV writes a table as CSV in UTF-8, with a mark by which spreadsheets know it. What they would take for a
// formula gets a quote before it.
func WriteCSV(w io.Writer, s table.Sheet) error {
	if _, err := io.WriteString(w, "\ufeff"); err != nil {
		return err
	}
	c := csv.NewWriter(w)
	for _, row := range s.Rows {
		out := make([]string, len(row))
		for i, text := range row {
			out[i] = table.Guarded(text)
		}
		if err := c.Write(out); err != nil {
			return err
		}
	}
	c.Flush()
	return c.Error()
}

// WriteWorkbook writes tables as the sheets of an XLSX; the first line of each is its head. All cells are texts.
func WriteWorkbook(w io.Writer, sheets []table.Sheet) error {
	f := excelize.NewFile()
	defer func() { _ = f.Close() }()
	bold, err := f.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return err
	}
	for i, s := range sheets {
		if i == 0 {
			err = f.SetSheetName(f.GetSheetName(0), s.Name)
		} else {
			_, err = f.NewSheet(s.Name)
		}
		if err != nil {
			return err
		}
		if err := writeSheet(f, s, bold); err != nil {
			return fmt.Errorf("sheet %s: %w", s.Name, err)
		}
	}
	return f.Write(w)
}

const columnWidth = 22 // signs

func writeSheet(f *excelize.File, s table.Sheet, bold int) error {
	out, err := f.NewStreamWriter(s.Name)
	if err != nil {
		return err
	}
	if len(s.Rows) > 0 {
		if err := out.SetColWidth(1, len(s.Rows[0]), columnWidth); err != nil {
			return err
		}
	}
	if err := out.SetPanes(
		&excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"},
	); err != nil {
		return err
	}
	for y, row := range s.Rows {
		cells := make([]any, len(row))
		for x, text := range row {
			if y == 0 {
				cells[x] = excelize.Cell{StyleID: bold, Value: text}
			} else {
				cells[x] = text // a string is never worked out
			}
		}
		at, err := excelize.CoordinatesToCellName(1, y+1)
		if err != nil {
			return err
		}
		if err := out.SetRow(at, cells); err != nil {
			return err
		}
	}
	return out.Flush()
}
