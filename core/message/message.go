// Package message fills the words of an order into a text that was written once. A word in
// braces stands for what is known of it; a line with a word of which nothing is known is left
// out, so that no sentence is half said (docs/calculations.md §15).
package message

import (
	"regexp"
	"slices"
	"strings"

	"tidykiln/core/fault"
)

var braced = regexp.MustCompile(`\{([^{}\n]*)\}`)

// Check names the first word in braces that is not among those that are known.
func Check(text string, known []string) error {
	for _, m := range braced.FindAllStringSubmatch(text, -1) {
		if !slices.Contains(known, m[1]) {
			return fault.At("", "“{%s}” is not filled in; write one of {%s}", shortened(m[1]), strings.Join(known, "}, {"))
		}
	}
	return nil
}

func shortened(word string) string {
	if letters := []rune(word); len(letters) > 30 {
		return string(letters[:30]) + "…"
	}
	return word
}

// Fill puts words into a text. Missing are those that were asked for and of which nothing is
// known, in the order in which they were asked for.
func Fill(text string, words map[string]string) (filled string, missing []string) {
	var lines []string
	for line := range strings.SplitSeq(text, "\n") {
		half := false
		for _, m := range braced.FindAllStringSubmatch(line, -1) {
			if words[m[1]] != "" {
				continue
			}
			half = true
			if !slices.Contains(missing, m[1]) {
				missing = append(missing, m[1])
			}
		}
		if !half {
			lines = append(lines, braced.ReplaceAllStringFunc(line, func(m string) string { return words[m[1:len(m)-1]] }))
		}
	}
	return strings.Trim(blank.ReplaceAllString(strings.Join(lines, "\n"), "\n\n"), "\n"), missing
}

// blank is more room between paragraphs than one line, such as where some were left out.
var blank = regexp.MustCompile(`\n{3,}`)
