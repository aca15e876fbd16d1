package problem

import (
	"errors"
	"regexp"
	"strings"

	"github.com/danielgtaylor/huma/v2"
)

// FieldOf says in the words of the pages what a validator or a reader of JSON found wrong.
func FieldOf(err error) Field {
	var detail *huma.ErrorDetail
	if !errors.As(err, &detail) {
		detail = &huma.ErrorDetail{Location: "body", Message: err.Error()}
	}
	if name, missing := strings.CutPrefix(detail.Message, "expected required property "); missing {
		return Field{Location: detail.Location + "." + strings.TrimSuffix(name, " to be present"), Message: "this is missing"}
	}
	if m := tooLarge.FindStringSubmatch(detail.Message); m != nil {
		return Field{Location: strings.TrimSuffix(detail.Location+"."+m[2], "."), Message: m[1] + " is beyond what a number can be here"}
	}
	if unreadable.MatchString(detail.Message) {
		return Field{Location: "body", Message: "what was sent is not readable as JSON"}
	}
	return Field{Location: detail.Location, Message: plain(detail.Message)}
}

var (
	// tooLarge is how the reader of JSON speaks of a number that does not fit: the number, and its field when it knows it.
	tooLarge   = regexp.MustCompile(`^json: cannot unmarshal number (\S+) into Go (?:value|struct field \w+\.(?:[A-Z]\w*\.)?(\S+)) of type`)
	unreadable = regexp.MustCompile(`^(json: |invalid character|unexpected end of JSON|unexpected EOF|exceeded max depth)`)
)

// plain puts the validator's messages into the words of the pages.
func plain(message string) string {
	for _, said := range [][2]string{
		{"expected length >= 1", "this cannot be empty"},
		{"expected array length >= 1", "at least one is needed"},
		{"expected string to be RFC 3339 date", "this is not a date"},
		{"expected string to be be ", "this must be "},
		{"expected string to be ", "this must be "},
		{"expected string to match pattern", "this must be of the form"},
		{"expected number >= ", "at least "},
		{"expected number <= ", "at most "},
		{"expected length <= ", "at most this many characters: "},
		{"expected ", "this must be "},
	} {
		if rest, ok := strings.CutPrefix(message, said[0]); ok {
			return said[1] + rest
		}
	}
	return message
}
