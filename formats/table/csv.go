package table

import (
	"bufio"
	"io"
	"strings"
)

// BOM opens a file of text that spreadsheets are to read as UTF-8.
const BOM = "\ufeff"

// Harmless is a text that no spreadsheet takes for a formula: one that would be gets a sign
// in front that makes it text.
func Harmless(text string) string {
	if first := strings.TrimLeft(text, " \u00a0"); first != "" && strings.ContainsRune("=+-@\t\r\n|%", rune(first[0])) {
		return "'" + text
	}
	return text
}

// unmarked undoes [Harmless].
func unmarked(text string) string {
	if rest, ok := strings.CutPrefix(text, "'"); ok && Harmless(rest) != rest {
		return rest
	}
	return text
}

// Lines writes rows of texts as CSV or TSV. Every text stands in quotation marks, so that a
// spreadsheet that separates cells by other signs than these finds none of its own in them.
type Lines struct {
	w     *bufio.Writer
	comma byte
	n     int // cells of the line
}

// NewLines writes to w with a sign between cells. What is written is there after
// [Lines.Flush].
func NewLines(w io.Writer, comma byte) *Lines { return &Lines{bufio.NewWriter(w), comma, 0} }

// Text adds a cell to the line.
func (l *Lines) Text(text string) {
	l.begin()
	_ = l.w.WriteByte('"')
	_, _ = l.w.WriteString(strings.ReplaceAll(Harmless(text), `"`, `""`))
	_ = l.w.WriteByte('"')
}

// Bare adds a cell that is a number, a date or nothing, as it is.
func (l *Lines) Bare(text string) {
	l.begin()
	_, _ = l.w.WriteString(text)
}

func (l *Lines) begin() {
	if l.n > 0 {
		_ = l.w.WriteByte(l.comma)
	}
	l.n++
}

// End ends the line.
func (l *Lines) End() error {
	l.n = 0
	_, err := l.w.WriteString("\n") // the first error stays
	return err
}

// Flush writes what is still kept.
func (l *Lines) Flush() error { return l.w.Flush() }
