package document_test

import (
	"bytes"
	"encoding/csv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/document"
)

func TestATableIsReadAsItWasWrittenAndNoCellIsAFormula(t *testing.T) {
	rows := [][]string{
		{"Gel, \"clear\"", "-12.50", "two\nlines"},
		{"=1+1", "+49 30 1", "@SUM(A1)"},
		{"-A1", "\tx", " =cmd"},
		{"＝1", "-", "plain"},
		{"a;=cmd|x", "b\t @c", "d\n-e; -5"},
	}
	var out bytes.Buffer
	require.NoError(t, document.WriteCSV(&out, []string{"a", "b", "c"}, rows))
	assert.True(t, bytes.HasPrefix(out.Bytes(), []byte("\ufeff")))
	assert.Contains(t, out.String(), "\r\n")
	read, err := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(out.Bytes(), []byte("\ufeff")))).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, [][]string{
		{"a", "b", "c"},
		{"Gel, \"clear\"", "-12.50", "two\nlines"},
		{"'=1+1", "'+49 30 1", "'@SUM(A1)"},
		{"'-A1", "'\tx", "' =cmd"},
		{"'＝1", "'-", "plain"},
		{"a;'=cmd|x", "b\t '@c", "d\n'-e; '-5"},
	}, read)
}

func TestAPriceListIsPrintedHoweverLongItIs(t *testing.T) {
	list := document.PriceList{Title: "Withy Landing", Subtitle: "Stall", Foot: "in EUR"}
	for range 60 {
		list.Rows = append(list.Rows, document.PriceRow{Name: "Lamp-night ornament", About: "gel lift on bare wood, 120 mm across", Price: "16.50"})
	}
	var out bytes.Buffer
	require.NoError(t, document.WritePriceList(&out, list))
	assert.True(t, bytes.HasPrefix(out.Bytes(), []byte("%PDF-")))
	assert.Greater(t, bytes.Count(out.Bytes(), []byte("/Type /Page\n")), 2)
	require.NoError(t, document.WritePriceList(&bytes.Buffer{}, document.PriceList{}))
}
