package problem

import (
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"unicode"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/validation"

	"tidykiln/core/fault"
)

// The router's validator and its reader of bodies hand on nothing but text. What
// is a fault of one field travels through them under a mark, path and message
// apart, so that FieldOf has nothing to guess.
const mark = "\x1f"

func marked(path, message string) string { return mark + path + mark + message }

// What the validator says, in the words of the pages. It makes its sentences
// when routes are added, so they are set before anything else is done.
func init() {
	validation.MsgExpectedRequiredProperty = marked("%s", "this is missing")
	validation.MsgExpectedDependentRequiredProperty = marked("%s", "this is missing")
	huma.ErrorFormatter = inWords
	validation.MsgExpectedMinLength = "at least this many characters: %d"
	validation.MsgExpectedMaxLength = "at most this many characters: %d"
	validation.MsgExpectedMinItems = "at least %d are needed"
	validation.MsgExpectedMaxItems = "at most %d of them"
	validation.MsgExpectedMinProperties = "at least %d of them"
	validation.MsgExpectedMaxProperties = "at most %d of them"
	validation.MsgExpectedMinimumNumber = "at least %v"
	validation.MsgExpectedExclusiveMinimumNumber = "over %v"
	validation.MsgExpectedMaximumNumber = "at most %v"
	validation.MsgExpectedExclusiveMaximumNumber = "under %v"
	validation.MsgExpectedBePattern = "this must be %s"
	validation.MsgExpectedMatchPattern = "this must be of the form %s"
	validation.MsgExpectedRFC3339Date = "this is not a date"
	validation.MsgExpectedRFC3339DateTime = "this is not a time"
	validation.MsgExpectedOneOf = "this must be one of \"%s\""
	validation.MsgExpectedBoolean = "this must be yes or no"
	validation.MsgExpectedNumber = "this must be a number"
	validation.MsgExpectedInteger = "this must be a whole number"
	validation.MsgExpectedString = "this must be a text"
	validation.MsgExpectedArray = "this must be a list"
	validation.MsgExpectedObject = "this must be a group of fields"
	validation.MsgExpectedArrayItemsUnique = "each must be there once"
	validation.MsgUnexpectedProperty = "this is not a field known here"
}

// inWords writes a sentence of the validator's. The least of one has words of its own.
func inWords(format string, values ...any) string {
	if len(values) == 1 && values[0] == 1 {
		switch format {
		case validation.MsgExpectedMinLength:
			return "this cannot be empty"
		case validation.MsgExpectedMinItems:
			return "at least one is needed"
		}
	}
	return fmt.Sprintf(format, values...)
}

// FieldOf is the field of a fault that the router has found.
func FieldOf(err error) Field {
	var detail *huma.ErrorDetail
	if !errors.As(err, &detail) {
		detail = &huma.ErrorDetail{Location: "body", Message: err.Error()}
	}
	parts := strings.Split(detail.Message, mark)
	if len(parts) != 3 {
		return Field{Location: detail.Location, Message: detail.Message}
	}
	return Field{Location: fault.Join(detail.Location, parts[1]), Message: parts[2]}
}

// ReadJSON reads a body. What cannot be read is said with its field.
func ReadJSON(text []byte, into any) error {
	err := json.Unmarshal(text, into)
	var wrongType *json.UnmarshalTypeError
	switch {
	case err == nil:
		return nil
	case errors.As(err, &wrongType) && strings.HasPrefix(wrongType.Value, "number "):
		return errors.New(marked(fieldPath(wrongType), fmt.Sprintf("%s is beyond what a number can be here", strings.TrimPrefix(wrongType.Value, "number "))))
	case errors.As(err, &wrongType):
		return errors.New(marked(fieldPath(wrongType), fmt.Sprintf("this cannot be a %s", wrongType.Value)))
	}
	return errors.New(marked("", "what was sent is not readable as JSON"))
}

// fieldPath is the path of a value of the wrong type. Structures that others
// are made of are no part of it; their names begin with a capital, as no field's does.
func fieldPath(err *json.UnmarshalTypeError) string {
	path := ""
	for part := range strings.SplitSeq(err.Field, ".") {
		if part != "" && !unicode.IsUpper(rune(part[0])) {
			path = fault.Join(path, part)
		}
	}
	return path
}
