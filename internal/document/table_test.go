package document_test

import (
	"bytes"
	"errors"
	"io"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/internal/document"
)

var goods = document.Columns{Known: []string{"name", "price", "note"}, Needed: []string{"name"}}

func openTable(t require.TestingT, text string) *document.Table {
	table, err := document.OpenTable(strings.NewReader(text), goods)
	require.NoError(t, err)
	return table
}

func faultOf(t *testing.T, err error) document.Fault {
	t.Helper()
	var f *document.Fault
	require.ErrorAs(t, err, &f)
	return *f
}

func TestATableIsReadAsItWasWritten(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		text := rapid.StringOfN(rapid.RuneFrom([]rune("a=+-@;,\"' é\n7.")), 0, 12, -1).
			Filter(func(s string) bool {
				return !strings.HasPrefix(strings.TrimSpace(s), "'") && !regexp.MustCompile(`[;\n][ ]*'[=+@-]`).MatchString(s)
			}) // an apostrophe of one's own before a formula is taken for ours
		rows := rapid.SliceOfN(rapid.SliceOfN(text, 3, 3), 0, 5).Draw(rt, "rows")
		var out bytes.Buffer
		require.NoError(rt, document.WriteCSV(&out, goods.Known, rows))
		table := openTable(rt, out.String())
		for _, want := range rows {
			if strings.TrimSpace(strings.Join(want, "")) == "" {
				continue // rows without anything are passed over
			}
			row, err := table.Next()
			require.NoError(rt, err)
			for i, column := range goods.Known {
				assert.Equal(rt, strings.TrimSpace(want[i]), row.Text(column))
			}
		}
		_, err := table.Next()
		assert.ErrorIs(rt, err, io.EOF)
	})
}

func TestCommasAndSemicolonsPartCells(t *testing.T) {
	for _, text := range []string{"name,price\r\nRush glue,\"3,50\"\r\n", "name;price\nRush glue;3,50\n", "\ufeffName ; PRICE\nRush glue; 3.50 ", "name,price\nRush glue,3.50"} {
		table := openTable(t, text)
		row, err := table.Next()
		require.NoError(t, err, text)
		price, err := table.Number(row, "price")
		require.NoError(t, err, text)
		assert.Equal(t, "3.50", price, text)
		assert.Equal(t, "Rush glue", row.Text("name"))
		assert.False(t, row.Has("note"))
		assert.Equal(t, 2, row.Line)
	}
}

func TestANumberThatCouldBeTwoIsAskedAbout(t *testing.T) {
	for text, want := range map[string]string{
		"name,price\nx,\"1,250\"": "1,250 could be 1250 or 1.250; write the one that is meant",
		"name;price\nx;1.250":     "1.250 could be 1250 or 1,250; write the one that is meant",
		"name;price\nx;1.250,00":  `"1.250,00" is not a number; write it plainly, with one decimal comma or point and no sign after thousands`,
		"name;price\nx;ten":       `"ten" is not a number; write it plainly, with one decimal comma or point and no sign after thousands`,
	} {
		table := openTable(t, text)
		row, err := table.Next()
		require.NoError(t, err)
		_, err = table.Number(row, "price")
		assert.Equal(t, document.Fault{Line: 2, Column: "price", Message: want}, faultOf(t, err))
	}
	for text, want := range map[string]string{"name,price\nx,1.250": "1.250", "name;price\nx;1,250": "1.250", "name;price\nx;0.125": "0.125", "name;price\nx;-2": "-2", "name,price\nx,": ""} {
		table := openTable(t, text)
		row, err := table.Next()
		require.NoError(t, err)
		price, err := table.Number(row, "price")
		require.NoError(t, err)
		assert.Equal(t, want, price)
	}
}

func TestWhatIsNoTableIsSaidWithItsLine(t *testing.T) {
	headers := map[string]document.Fault{
		"":                {Line: 1, Message: "the file is empty"},
		"price\n":         {Line: 1, Column: "name", Message: "this column is needed and not there"},
		"name,name\n":     {Line: 1, Column: "name", Message: "this column is there twice"},
		"name,\n":         {Line: 1, Message: "a column has no name; its first line names the columns"},
		"name,colour\n":   {Line: 1, Column: "colour", Message: "this column is not known here; known are name, price, note"},
		"\xff\xfen\x00a":  {Line: 1, Message: "the file is not UTF-8 here; save it as “CSV UTF-8”"},
		"PK\x03\x04\x14,": {Line: 1, Message: "it holds signs that are no text; is this a table saved as CSV?"},
	}
	for text, want := range headers {
		_, err := document.OpenTable(strings.NewReader(text), goods)
		assert.Equal(t, want, faultOf(t, err), "%q", text)
	}
	rows := map[string]struct {
		fault  document.Fault
		broken bool
	}{
		"name,price\nRush,1\nGlue\n":          {document.Fault{Line: 3, Message: "it has 1 cells, and the header names 2 columns"}, false},
		"name,price\nRush,1\nGr\xfcn,2\n":     {document.Fault{Line: 3, Message: "the file is not UTF-8 here; save it as “CSV UTF-8”"}, true},
		"name,price\nRush,1\n\"Glue,2\nx,3":   {document.Fault{Line: 3, Message: "a quotation mark is open, or stands inside a cell that is not quoted"}, true},
		"name,price\n\"Ru\nsh\",1\nG\x00,2\n": {document.Fault{Line: 4, Message: "it holds signs that are no text; is this a table saved as CSV?"}, true},
	}
	for text, want := range rows {
		table := openTable(t, text)
		_, err := table.Next()
		require.NoError(t, err)
		_, err = table.Next()
		assert.Equal(t, want.fault, faultOf(t, err), "%q", text)
		assert.Equal(t, want.broken, errors.Is(err, document.ErrBroken))
	}
}
