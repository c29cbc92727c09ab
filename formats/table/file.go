package table

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"strings"
	"unicode/utf16"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
)

// MaxFile is the largest file that is read as a table, in bytes.
const MaxFile = 8 << 20

// Text is a file's rows as text: a spreadsheet's first sheet with tabs between its
// cells, anything else as it stands, whether it is in UTF-8, UTF-16 with its mark, or
// one of the older codes with a byte a letter.
func Text(body []byte) (string, error) {
	switch {
	case len(body) > MaxFile:
		return "", fmt.Errorf("the file has %d MB; a table has at most %d", len(body)>>20, MaxFile>>20)
	case bytes.HasPrefix(body, []byte("PK\x03\x04")):
		return sheet(body)
	case bytes.HasPrefix(body, []byte{0xd0, 0xcf, 0x11, 0xe0}):
		return "", errors.New("this is a spreadsheet of an old kind: save it as XLSX or CSV")
	case bytes.HasPrefix(body, []byte{0xff, 0xfe}), bytes.HasPrefix(body, []byte{0xfe, 0xff}):
		order := binary.ByteOrder(binary.LittleEndian)
		if body[0] == 0xfe {
			order = binary.BigEndian
		}
		letters := make([]uint16, 0, len(body)/2)
		for at := 2; at+1 < len(body); at += 2 {
			letters = append(letters, order.Uint16(body[at:]))
		}
		return string(utf16.Decode(letters)), nil
	case bytes.IndexByte(body, 0) >= 0:
		return "", errors.New("this is not a table of text: CSV, TSV and XLSX are")
	case utf8.Valid(body):
		return strings.TrimPrefix(string(body), "\ufeff"), nil
	}
	letters := make([]rune, len(body))
	for i, b := range body {
		letters[i] = rune(b)
	}
	return string(letters), nil
}

func sheet(body []byte) (string, error) {
	// Unpacked it may be larger, but not without end.
	f, err := excelize.OpenReader(bytes.NewReader(body), excelize.Options{UnzipSizeLimit: 32 << 20, UnzipXMLSizeLimit: 8 << 20})
	if err != nil {
		return "", errors.New("this spreadsheet cannot be read: save it as XLSX or CSV once more")
	}
	defer f.Close()
	unread := errors.New("the first sheet of this spreadsheet cannot be read")
	rows, err := f.Rows(f.GetSheetName(0))
	if err != nil {
		return "", unread
	}
	defer rows.Close()
	// A cell far to the right, or far below, is as many empty ones: they are not made.
	var b strings.Builder
	for n := 0; rows.Next(); n++ {
		if n > maxSheetRows {
			return "", fmt.Errorf("the first sheet has something below row %d; a table has at most %d rows", maxSheetRows, MaxRows)
		}
		row, err := rows.Columns()
		if err != nil {
			return "", unread
		}
		if len(row) > MaxColumns {
			return "", fmt.Errorf("row %d of the first sheet has %d cells; a table has at most %d", n+1, len(row), MaxColumns)
		}
		tabbed(&b, row)
		if b.Len() > MaxFile {
			return "", fmt.Errorf("the first sheet has more than %d MB of text", MaxFile>>20)
		}
	}
	return b.String(), nil
}

// maxSheetRows is how far down a sheet is read, empty rows counted.
const maxSheetRows = 5000

func tabbed(b *strings.Builder, row []string) {
	for i, cell := range row {
		if i > 0 {
			b.WriteByte('\t')
		}
		if strings.ContainsAny(cell, "\t\n\r\"") {
			cell = `"` + strings.ReplaceAll(cell, `"`, `""`) + `"`
		}
		b.WriteString(cell)
	}
	b.WriteByte('\n')
}

// Kinds of files that a table is written as.
var Kinds = []string{"csv", "tsv", "xlsx"}

// Write writes rows as a file. Cells that a spreadsheet would take for a formula get
// a sign in front in CSV and TSV that makes them text, and [Merge] takes it off.
func Write(w io.Writer, kind string, rows [][]string) error {
	if kind == "xlsx" {
		f := excelize.NewFile()
		defer f.Close()
		name := f.GetSheetName(0)
		for i, row := range rows {
			cell, err := excelize.CoordinatesToCellName(1, i+1)
			if err != nil {
				return err
			}
			if err := f.SetSheetRow(name, cell, &row); err != nil {
				return err
			}
		}
		return f.Write(w)
	}
	comma := byte(',')
	if kind == "tsv" {
		comma = '\t'
	}
	if _, err := io.WriteString(w, BOM); err != nil {
		return err
	}
	out := NewLines(w, comma)
	for _, row := range rows {
		for _, cell := range row {
			out.Text(cell)
		}
		if err := out.End(); err != nil {
			return err
		}
	}
	return out.Flush()
}
