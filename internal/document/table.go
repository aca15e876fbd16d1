package document

import (
	"bufio"
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"tidykiln/core/measure"
)

// Row is a row of a table that is read, under the names of its columns.
type Row struct {
	// Line is the line of the file that the row begins on, the header's being 1.
	Line  int
	cells map[string]string
}

// Text is what stands in a column, without blanks around it; empty when the table has no such column.
func (r Row) Text(column string) string { return r.cells[column] }

// Has tells whether the table has the column.
func (r Row) Has(column string) bool { _, has := r.cells[column]; return has }

// Fault is what is wrong with a table at a line, and in a column where one is to blame.
type Fault struct {
	Line    int    `json:"line"`
	Column  string `json:"column"`
	Message string `json:"message"`
}

func (f *Fault) Error() string { return fmt.Sprintf("line %d, %s: %s", f.Line, f.Column, f.Message) }

// Table reads a table as RFC 4180 describes it, UTF-8 with or without a byte
// order mark, its cells parted by commas or semicolons as its header is.
type Table struct {
	in      *csv.Reader
	columns []string
	// commas tells that cells are parted by commas, so that a comma in a number is unusual.
	commas bool
}

// longestHeader bounds the first line, in bytes.
const longestHeader = 1 << 16

// Columns are what a table may have and must have.
type Columns struct{ Known, Needed []string }

// OpenTable reads the header of a table. What is wrong with it is a Fault.
func OpenTable(r io.Reader, want Columns) (*Table, error) {
	in := bufio.NewReaderSize(r, longestHeader)
	if mark, err := in.Peek(3); err == nil && bytes.Equal(mark, []byte("\ufeff")) {
		_, _ = in.Discard(len(mark)) // it has been seen
	}
	start, err := in.Peek(longestHeader)
	if err != nil && !errors.Is(err, io.EOF) && !errors.Is(err, bufio.ErrBufferFull) {
		return nil, fmt.Errorf("reading a table: %w", err)
	}
	header, _, _ := bytes.Cut(start, []byte("\n"))
	t := &Table{in: csv.NewReader(in)}
	t.in.FieldsPerRecord = -1
	if t.commas = bytes.Count(header, []byte(",")) >= bytes.Count(header, []byte(";")); !t.commas {
		t.in.Comma = ';'
	}
	cells, err := t.record()
	if errors.Is(err, io.EOF) {
		return nil, &Fault{Line: 1, Message: "the file is empty"}
	}
	if err != nil {
		return nil, err
	}
	return t, t.readHeader(cells, want)
}

func (t *Table) readHeader(cells []string, want Columns) error {
	for _, cell := range cells {
		name := strings.ToLower(strings.TrimSpace(cell))
		switch {
		case name == "":
			return &Fault{Line: 1, Message: "a column has no name; its first line names the columns"}
		case !slices.Contains(want.Known, name):
			return &Fault{Line: 1, Column: name, Message: "this column is not known here; known are " + strings.Join(want.Known, ", ")}
		case slices.Contains(t.columns, name):
			return &Fault{Line: 1, Column: name, Message: "this column is there twice"}
		}
		t.columns = append(t.columns, name)
	}
	for _, name := range want.Needed {
		if !slices.Contains(t.columns, name) {
			return &Fault{Line: 1, Column: name, Message: "this column is needed and not there"}
		}
	}
	return nil
}

// Next reads the next row that is not empty; io.EOF after the last. What is
// wrong with the row is a Fault, after which reading may go on unless it is broken.
func (t *Table) Next() (Row, error) {
	for {
		cells, err := t.record()
		if err != nil {
			return Row{}, err
		}
		for i, cell := range cells {
			cells[i] = plainText(cell)
		}
		if !slices.ContainsFunc(cells, func(c string) bool { return c != "" }) {
			continue
		}
		line, _ := t.in.FieldPos(0)
		if len(cells) != len(t.columns) {
			return Row{}, &Fault{Line: line, Message: fmt.Sprintf("it has %d cells, and the header names %d columns", len(cells), len(t.columns))}
		}
		row := Row{Line: line, cells: make(map[string]string, len(cells))}
		for i, cell := range cells {
			row.cells[t.columns[i]] = cell
		}
		return row, nil
	}
}

// ErrBroken is of a table whose further rows cannot be told apart.
var ErrBroken = errors.New("the table cannot be read on")

// record reads one record and checks its characters.
func (t *Table) record() ([]string, error) {
	cells, err := t.in.Read()
	var broken *csv.ParseError
	switch {
	case errors.As(err, &broken):
		fault := &Fault{Line: broken.StartLine, Message: "a quotation mark is open, or stands inside a cell that is not quoted"}
		return nil, errors.Join(fault, ErrBroken)
	case err != nil && !errors.Is(err, io.EOF):
		return nil, fmt.Errorf("reading a table: %w", err)
	case err != nil:
		return nil, io.EOF
	}
	for i, cell := range cells {
		line, _ := t.in.FieldPos(i)
		if !utf8.ValidString(cell) {
			return nil, errors.Join(&Fault{Line: line, Message: "the file is not UTF-8 here; save it as “CSV UTF-8”"}, ErrBroken)
		}
		if strings.ContainsFunc(cell, func(r rune) bool { return unicode.IsControl(r) && !unicode.IsSpace(r) }) {
			return nil, errors.Join(&Fault{Line: line, Message: "it holds signs that are no text; is this a table saved as CSV?"}, ErrBroken)
		}
	}
	return cells, nil
}

// plainText is a cell without the blanks around it, and without the apostrophe
// that keeps a spreadsheet from working it out.
func plainText(cell string) string {
	if rest, marked := strings.CutPrefix(cell, "'"); marked && harmless(rest) != rest {
		cell = rest
	}
	return strings.TrimSpace(markedInside.ReplaceAllString(cell, "$1$2"))
}

// number is what a table holds as one.
var number = regexp.MustCompile(`^-?\d+([.,]\d+)?$`)

// Number is a column's number with a decimal point, written with a comma or a
// point; empty when nothing stands there. The sign that is unusual in a table
// parted as this one is must not look like that after thousands.
func (t *Table) Number(r Row, column string) (string, error) {
	text := r.Text(column)
	if text == "" {
		return "", nil
	}
	fault := &Fault{Line: r.Line, Column: column}
	if !number.MatchString(text) {
		fault.Message = fmt.Sprintf("%q is not a number; write it plainly, with one decimal comma or point and no sign after thousands", shortened(text))
		return "", fault
	}
	if _, err := measure.InTable(strings.TrimPrefix(text, "-"), !t.commas); err != nil {
		fault.Message = err.Error()
		return "", fault
	}
	return strings.Replace(text, ",", ".", 1), nil
}

// shownCell is how much of a cell a message quotes.
const shownCell = 40

func shortened(text string) string {
	if letters := []rune(text); len(letters) > shownCell {
		return string(letters[:shownCell]) + "…"
	}
	return text
}
