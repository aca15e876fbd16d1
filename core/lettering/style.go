// Package lettering sets words as outlines: on a straight line or along the edge of a
// print, smaller where they would not fit, in any script that the shipped fonts have
// (docs/calculations.md §12). Lengths are in millimetres, x to the right and y down.
package lettering

import (
	"regexp"
	"strings"

	"tidykiln/core/fault"
)

// Style is how a print's lettering looks and where it stands.
type Style struct {
	// Text is what stands there, in one line or several; {name}, {date} and {number} are
	// filled in for each piece. Empty is {name}.
	Text string `json:"text,omitempty" maxLength:"120"`
	Face Face   `json:"face,omitempty" enum:"sans,sans-bold,condensed,serif,serif-bold,serif-italic,mono"`
	// Height is that of the capitals; Least how small it may become before somebody has
	// to decide.
	Height float64 `json:"heightMm" minimum:"1" maximum:"200"`
	Least  float64 `json:"leastMm" minimum:"1" maximum:"200"`
	Colour string  `json:"colour,omitempty" pattern:"^(#[0-9a-fA-F]{6})?$" patternDescription:"a colour such as #1a1a1a"`
	Lies   Lies    `json:"lies,omitempty" enum:"straight,along"`
	Where  Where   `json:"where,omitempty" enum:"below,above"`
	// Edge is how far the letters stay from the edge of the print.
	Edge float64 `json:"edgeMm" minimum:"0" maximum:"200"`
	// Halo is how wide a light rim round the letters is; 0 is none.
	Halo float64 `json:"haloMm,omitempty" minimum:"0" maximum:"5"`
}

// Lies is which way the words run.
type Lies string

const (
	Straight Lies = "straight"
	Along    Lies = "along"
)

// Where is at which end of the print they stand.
type Where string

const (
	Below Where = "below"
	Above Where = "above"
)

// Usual is the lettering that a product begins with.
func Usual() Style {
	return Style{Face: SansBold, Height: 6, Least: 3.5, Colour: "#1f1d1a", Lies: Straight, Where: Below, Edge: 5}
}

var colour = regexp.MustCompile(`^#[0-9a-fA-F]{6}$`)

// Validate reports the first field that no lettering can have, by its name.
func (s Style) Validate() error {
	switch {
	case s.Face != "" && faces[s.Face] == nil:
		return fault.At("face", "%q is not a typeface here", s.Face)
	case !(s.Height >= 1 && s.Height <= 200):
		return fault.At("heightMm", "must be from 1 to 200 mm")
	case !(s.Least >= 1 && s.Least <= s.Height):
		return fault.At("leastMm", "must be from 1 mm to the height")
	case s.Colour != "" && !colour.MatchString(s.Colour):
		return fault.At("colour", "must be a colour such as #1a1a1a")
	case s.Lies != "" && s.Lies != Straight && s.Lies != Along:
		return fault.At("lies", "%q is not known here", s.Lies)
	case s.Where != "" && s.Where != Below && s.Where != Above:
		return fault.At("where", "%q is not known here", s.Where)
	case !(s.Edge >= 0 && s.Edge <= 200):
		return fault.At("edgeMm", "must be from 0 to 200 mm")
	case !(s.Halo >= 0 && s.Halo <= 5):
		return fault.At("haloMm", "must be from 0 to 5 mm")
	case len([]rune(s.Text)) > 120:
		return fault.At("text", "at most 120 letters")
	}
	return nil
}

// Fields are what is known of a piece.
type Fields struct {
	Name, Date, Number string
}

// For is what stands on a piece.
func (s Style) For(f Fields) string {
	text := s.Text
	if text == "" {
		text = "{name}"
	}
	return strings.TrimSpace(strings.NewReplacer("{name}", f.Name, "{date}", f.Date, "{number}", f.Number).Replace(text))
}
