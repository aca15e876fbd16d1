package message_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tidykiln/core/message"
)

func TestALineOfWhichNothingIsKnownIsLeftOut(t *testing.T) {
	text := "Dear {customer},\n\nyour order is ready.\nStill open are {open}.\n\n{link}\n\n{studio}"
	filled, missing := message.Fill(text, map[string]string{"customer": "Ada {open}", "studio": "Withy Landing"})
	assert.Equal(t, "Dear Ada {open},\n\nyour order is ready.\n\nWithy Landing", filled, "what is filled in is not filled again")
	assert.Equal(t, []string{"open", "link"}, missing)
	filled, missing = message.Fill("{a}{a} {b}\n{b}", map[string]string{"a": "1\n2"})
	assert.Empty(t, filled)
	assert.Equal(t, []string{"b"}, missing)
	filled, _ = message.Fill("{} { a } {a", map[string]string{"a": "1"})
	assert.Empty(t, filled, "a word of blanks is none")
}

func TestAWordThatIsNotKnownIsNamed(t *testing.T) {
	require.NoError(t, message.Check("Dear {customer}, {open } no: }{", []string{"customer", "open "}))
	err := message.Check("Dear {custmer}", []string{"customer", "open"})
	assert.EqualError(t, err, "“{custmer}” is not filled in; write one of {customer}, {open}")
	assert.Error(t, message.Check("{}", []string{"customer"}))
}

func TestNothingInBracesIsLeftOfAKnownText(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		words := map[string]string{"a": rapid.SampledFrom([]string{"", "x", "y\nz"}).Draw(t, "a"), "b": "b"}
		text := rapid.StringMatching(`([ab ]|\{a\}|\{b\}|\n){0,30}`).Draw(t, "text")
		require.NoError(t, message.Check(text, []string{"a", "b"}))
		filled, missing := message.Fill(text, words)
		assert.NotContains(t, filled, "{")
		assert.NotContains(t, filled, "\n\n\n")
		if words["a"] != "" {
			assert.Empty(t, missing)
		}
	})
}
