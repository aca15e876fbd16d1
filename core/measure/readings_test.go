package measure_test

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/measure"
)

// readings is the table that the pages' reader is held to as well.
type readings struct {
	Numbers []struct {
		Text      string
		Counted   bool
		Value     string
		Ambiguous bool
		Refused   bool
	}
	Durations []struct {
		Text, Over string
		Minutes    *int
	}
	Written []struct {
		Minutes int
		Text    string
	}
}

func readTable(t *testing.T) (table readings) {
	text, err := os.ReadFile("testdata/readings.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(text, &table))
	require.NotEmpty(t, table.Numbers)
	require.NotEmpty(t, table.Durations)
	require.NotEmpty(t, table.Written)
	return table
}

func TestNumbersAreReadAsTheTableSays(t *testing.T) {
	for _, c := range readTable(t).Numbers {
		read := measure.Number
		if c.Counted {
			read = measure.Counted
		}
		n, err := read(c.Text)
		var asked *measure.Ambiguous
		switch {
		case c.Ambiguous:
			assert.ErrorAs(t, err, &asked, c.Text)
		case c.Refused:
			require.Error(t, err, c.Text)
			assert.NotErrorAs(t, err, &asked, c.Text)
		default:
			if assert.NoError(t, err, c.Text) {
				assert.Equal(t, c.Value, n.String(), c.Text)
			}
		}
	}
}

func TestWhatCouldBeTwoNumbersIsAskedAboutByBoth(t *testing.T) {
	_, err := measure.Number("2,300")
	assert.EqualError(t, err, "2,300 could be 2300 or 2.300; write the one that is meant")
}

func TestDurationsAreReadAndWrittenAsTheTableSays(t *testing.T) {
	table := readTable(t)
	for _, c := range table.Durations {
		minutes, err := measure.Minutes(c.Text, c.Over)
		if c.Minutes == nil {
			assert.Error(t, err, c.Text)
			continue
		}
		require.NoError(t, err, c.Text)
		assert.Equal(t, *c.Minutes, minutes, "%s over %s", c.Text, c.Over)
	}
	for _, c := range table.Written {
		assert.Equal(t, c.Text, measure.Duration(c.Minutes))
	}
}

func TestADurationReadsBackAsItIsWritten(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		minutes := rapid.IntRange(0, 200_000).Draw(t, "minutes")
		back, err := measure.Minutes(measure.Duration(minutes), "")
		require.NoError(t, err)
		assert.Equal(t, minutes, back)
	})
}
