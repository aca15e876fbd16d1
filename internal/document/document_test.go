package document_test

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/document"
)

func TestJSONIsReadStrictlyAndFaultsNameTheField(t *testing.T) {
	type inner struct {
		Minutes int     `json:"minutes"`
		Yield   float64 `json:"yield"`
	}
	type outer struct {
		Name  string   `json:"name"`
		Steps []inner  `json:"steps"`
		Texts []string `json:"texts"`
	}
	var good outer
	require.NoError(t, document.DecodeJSON([]byte(`{"name":"a","steps":[{"minutes":3}]}`+"\n"), &good))
	assert.Equal(t, 3, good.Steps[0].Minutes)
	for text, says := range map[string]string{
		`{"nome":"a"}`:                `nome: is not a field known here`,
		`{"name":3}`:                  `name: must be a string, not a number`,
		`{"steps":[{"minutes":1.5}]}`: `steps.minutes: must be a whole number, not a number 1.5`,
		`{"steps":[{"yield":"x"}]}`:   `steps.yield: must be a number, not a string`,
		`{"texts":{}}`:                `texts: must be a list, not a object`,
		`{`:                           `this is not readable as JSON: it ends before it is whole`,
		"{\n\"name\":x}":              `this is not readable as JSON from line 2 on`,
		`{}{}`:                        `there is something after its end`,
	} {
		var v outer
		assert.EqualError(t, document.DecodeJSON([]byte(text), &v), says, text)
	}
}

func card(steps int, names ...string) document.BatchCard {
	c := document.BatchCard{Title: "Batch 7 · Slipway sign", Subtitle: "varnish lift", Facts: []string{"4 pieces"}, Address: "http://127.0.0.1:8420/?tray=batch:7", Names: names, Foot: "Follow the label."}
	for range steps {
		c.Steps = append(c.Steps, document.CardStep{Name: "Lay", Hands: "5 min", Rest: "never under 2 h", Checklist: []string{"Stir"}, Cautions: []string{"Air the room."}})
	}
	return c
}

func pages(t *testing.T, c document.BatchCard) int {
	var out bytes.Buffer
	require.NoError(t, document.WriteBatchCard(&out, c))
	assert.True(t, bytes.HasPrefix(out.Bytes(), []byte("%PDF-")))
	assert.True(t, bytes.HasSuffix(bytes.TrimSpace(out.Bytes()), []byte("%%EOF")))
	return bytes.Count(out.Bytes(), []byte("/Type /Page\n"))
}

func TestABatchCardFillsAsManyPagesAsItNeeds(t *testing.T) {
	assert.Equal(t, 1, pages(t, card(6)))
	assert.Greater(t, pages(t, card(60)), 3)
}

func TestNamesOfAnyScriptAndLengthArePrinted(t *testing.T) {
	names := []string{"Żółć & Ångström", "Ωμέγα", "Якорь", "船", "عربي", "👩🏽‍🚀", "e\u0301\u0302\u0303", "\u202egnihsif", strings.Repeat("long ", 400), ""}
	assert.Positive(t, pages(t, card(2, names...)))
}

func TestAnAddressTooLongForACodeIsAnError(t *testing.T) {
	c := card(1)
	c.Address = strings.Repeat("x", 5000)
	assert.ErrorContains(t, document.WriteBatchCard(&bytes.Buffer{}, c), "drawing the code")
}
