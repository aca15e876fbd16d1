package document

import (
	"bytes"
	"errors"
	"io"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Whatever stands in a table's file, its rows are read in their order, or what is wrong is said with its line.
func FuzzOpenTable(f *testing.F) {
	for _, text := range []string{"name,price\nGel,4.20\n", "\ufeffname;price\r\n\"a;b\";4,20\r\n", "name\n\"", "\xff\xfen\x00", "name,name\n1,2\n"} {
		f.Add([]byte(text))
	}
	f.Fuzz(func(t *testing.T, content []byte) {
		table, err := OpenTable(bytes.NewReader(content), Columns{Known: []string{"name", "price"}, Needed: []string{"name"}})
		for line := 0; err == nil; {
			var row Row
			if row, err = table.Next(); err == nil {
				assert.Greater(t, row.Line, line)
				line = row.Line
			}
		}
		var fault *Fault
		if !errors.Is(err, io.EOF) && assert.ErrorAs(t, err, &fault) {
			assert.NotEmpty(t, fault.Message)
			assert.Positive(t, fault.Line)
		}
	})
}
