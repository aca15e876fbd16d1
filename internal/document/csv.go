package document

import (
	"encoding/csv"
	"fmt"
	"io"
	"regexp"
	"strings"
)

// WriteCSV writes rows as RFC 4180 asks, the header first, in UTF-8 with a byte
// order mark so that spreadsheets read it as such. A cell that a spreadsheet
// would take for a formula is preceded by an apostrophe.
func WriteCSV(w io.Writer, header []string, rows [][]string) error {
	if _, err := io.WriteString(w, "\ufeff"); err != nil {
		return fmt.Errorf("writing a table: %w", err)
	}
	out := csv.NewWriter(w)
	out.UseCRLF = true
	for _, row := range append([][]string{header}, rows...) {
		safe := make([]string, len(row))
		for i, cell := range row {
			safe[i] = harmless(cell)
		}
		if err := out.Write(safe); err != nil {
			return fmt.Errorf("writing a table: %w", err)
		}
	}
	out.Flush()
	if err := out.Error(); err != nil {
		return fmt.Errorf("writing a table: %w", err)
	}
	return nil
}

// harmless keeps a spreadsheet from working a cell out: what begins like a
// formula, and is no plain number, gets an apostrophe before it, and so does
// what would begin one if the cell were ended within.
func harmless(cell string) string {
	if !strings.ContainsAny(cell, "=+-@＝＋－＠") && !strings.ContainsAny(cell, "\t\r\n") {
		return cell
	}
	cell = formulaInside.ReplaceAllString(cell, "$1'$2")
	begins := strings.TrimLeft(cell, " \u00a0")
	if begins == "" || !strings.ContainsRune("=+-@\t\r\n＝＋－＠", []rune(begins)[0]) {
		return cell
	}
	if plainNumber(begins) {
		return cell
	}
	return "'" + cell
}

// A formula after what another program may take for the end of a cell, written
// and marked.
var (
	formulaInside = regexp.MustCompile(`([;\t\r\n][ \x{a0}]*)([=+\-@＝＋－＠])`)
	markedInside  = regexp.MustCompile(`([;\t\r\n][ \x{a0}]*)'([=+\-@＝＋－＠])`)
)

// plainNumber tells whether text is a number such as -12.50 and nothing else.
func plainNumber(text string) bool {
	text = strings.TrimPrefix(text, "-")
	whole, part, _ := strings.Cut(text, ".")
	digits := whole + part
	return whole != "" && strings.Trim(digits, "0123456789") == ""
}
