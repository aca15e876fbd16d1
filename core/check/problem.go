// Package check finds what is about to go wrong with a product before a piece
// is lost: it compares the blank, the picture, the print, the recipe and the
// room with what is known of the craft. Question and answer are the documented
// formats tidykiln/check-problem@1 and tidykiln/check@1 (docs/formats.md).
// Lengths are in millimetres, rests in minutes.
package check

import (
	"cmp"
	"fmt"
	"slices"

	"tidykiln/core/craft"
	"tidykiln/core/fault"
)

// Formats of the question and of the answer.
const (
	ProblemFormat = "tidykiln/check-problem@1"
	AnswerFormat  = "tidykiln/check@1"
)

// Problem is all that is known of a product. A fact that is nil is not known,
// and switches off the rules that need it.
type Problem struct {
	Format string      `json:"format"`
	Method string      `json:"method"`
	Look   *craft.Look `json:"look,omitempty"`
	// Sheen is how the finished piece is to shine.
	Sheen   *craft.Sheen `json:"sheen,omitempty"`
	Blank   Blank        `json:"blank"`
	View    View         `json:"view"`
	Print   Print        `json:"print"`
	Artwork Artwork      `json:"artwork"`
	Room    Room         `json:"room"`
	// Steps is nil when nothing is known of them; an empty list is a fact.
	Steps *[]Step `json:"steps,omitempty"`
}

// Blank is what the piece is made of and for.
type Blank struct {
	Surface  *craft.Surface `json:"surface,omitempty"`
	Tone     *craft.Tone    `json:"tone,omitempty"`
	WidthMm  *float64       `json:"widthMm,omitempty"`
	HeightMm *float64       `json:"heightMm,omitempty"`
	// Outline is what the picture must lie within; nil is a rectangle.
	Outline      *Outline `json:"outline,omitempty"`
	PrintedSides *int     `json:"printedSides,omitempty"`
	Drinkware    *bool    `json:"drinkware,omitempty"`
	RimGapMm     *float64 `json:"rimGapMm,omitempty"`
	FoodContact  *bool    `json:"foodContact,omitempty"`
	HoldsFlame   *bool    `json:"holdsFlame,omitempty"`
	// holds tells whether the picture lies within an outline that the file format does
	// not know; nil where that is not known.
	holds *bool
}

// Outline is the shape of the printed face.
type Outline string

// The outlines: a box of width and height, and the ellipse within it.
const (
	Rect Outline = "rect"
	Disc Outline = "disc"
)

// View says how people look at the picture.
type View struct {
	ThroughBlank *bool `json:"throughBlank,omitempty"`
}

// Print is the picture on paper or film.
type Print struct {
	Kind     *craft.PrintKind `json:"kind,omitempty"`
	Carrier  *craft.Carrier   `json:"carrier,omitempty"`
	Gsm      *float64         `json:"gsm,omitempty"`
	Mirrored *bool            `json:"mirrored,omitempty"`
}

// Artwork is the picture as it is placed.
type Artwork struct {
	Lettering *bool         `json:"lettering,omitempty"`
	WidthMm   *float64      `json:"widthMm,omitempty"`
	HeightMm  *float64      `json:"heightMm,omitempty"`
	Ppi       *float64      `json:"ppi,omitempty"`
	Rights    *craft.Rights `json:"rights,omitempty"`
	// WhiteShare is how much of the picture is white or nearly, from 0 to 1.
	WhiteShare *float64 `json:"whiteShare,omitempty"`
}

// Room is the air that the work is done in.
type Room struct {
	Celsius  *float64 `json:"celsius,omitempty"`
	Humidity *float64 `json:"humidity,omitempty"`
}

// Step is a step of the recipe with the rest after it.
type Step struct {
	Do          craft.Do   `json:"do"`
	With        craft.With `json:"with,omitempty"`
	RestMinutes float64    `json:"restMinutes,omitempty"`
	CoversEdges *bool      `json:"coversEdges,omitempty"`
	FoodSafe    bool       `json:"foodSafe,omitempty"`
	// Tone is what a base coat leaves under the picture, from then on.
	Tone  craft.Tone  `json:"tone,omitempty"`
	Sheen craft.Sheen `json:"sheen,omitempty"`
	// CeilingMinutes is the longest the rest may last.
	CeilingMinutes *float64 `json:"ceilingMinutes,omitempty"`
	// Cautioned says whether the step carries the cautions of its work.
	Cautioned *bool `json:"cautioned,omitempty"`
	// LongestMinutes is how long the rest may come to last, where RestMinutes is its floor.
	LongestMinutes float64 `json:"-"`
}

// Level is how grave a finding is.
type Level string

const (
	Stop    Level = "stop"
	Caution Level = "caution"
	Tip     Level = "tip"
)

// Rank is 0 for the gravest level.
func (l Level) Rank() int { return slices.Index([]Level{Stop, Caution, Tip}, l) }

// Finding is something about to go wrong: the rule, the step it belongs to (nil
// when no single step offends), why, and what to do.
type Finding struct {
	Rule  string `json:"rule"`
	Level Level  `json:"level" enum:"stop,caution,tip"`
	Step  *int   `json:"step"`
	Why   string `json:"why"`
	Fix   string `json:"fix"`
}

// Answer is what the print must be, and what was found: stops first, then
// cautions, then tips, each in the order of the table of rules.
type Answer struct {
	Format   string    `json:"format"`
	Mirror   string    `json:"mirror"`
	Findings []Finding `json:"findings"`
}

// Compute answers the problem, or returns an error that names the field at fault.
func Compute(p Problem) (Answer, error) {
	if err := p.validate(); err != nil {
		return Answer{}, err
	}
	a := Answer{Format: AnswerFormat, Mirror: "as-is", Findings: Find(p)}
	if newFacts(p).mustMirror() {
		a.Mirror = "mirrored"
	}
	return a, nil
}

// Find looks for everything that is about to go wrong with a problem whose words are known.
func Find(p Problem) []Finding {
	found := []Finding{}
	f := newFacts(p)
	for _, level := range []Level{Stop, Caution, Tip} {
		for _, r := range rules {
			for _, h := range r.fires(f) {
				if h.level == level {
					found = append(found, Finding{Rule: r.name, Level: level, Step: h.step, Why: h.say(r.why), Fix: cmp.Or(h.fix, r.fix)})
				}
			}
		}
	}
	return found
}

func (p Problem) validate() error {
	if p.Format != ProblemFormat {
		return fault.At("format", "must be %q", ProblemFormat)
	}
	if _, known := craft.MethodByKey(p.Method); !known {
		return fault.At("method", "%q is not a method known here", p.Method)
	}
	return firstError(
		word("look", p.Look, []craft.Look{craft.Crisp, craft.Weathered}),
		word("sheen", p.Sheen, []craft.Sheen{craft.Matt, craft.Satin, craft.Gloss}),
		word("blank.surface", p.Blank.Surface, craft.Surfaces()),
		word("blank.tone", p.Blank.Tone, craft.Tones()),
		over0("blank.widthMm", p.Blank.WidthMm),
		word("blank.outline", p.Blank.Outline, []Outline{Rect, Disc}),
		over0("blank.heightMm", p.Blank.HeightMm),
		atLeast("blank.printedSides", p.Blank.PrintedSides, 1),
		atLeast("blank.rimGapMm", p.Blank.RimGapMm, 0),
		word("print.kind", p.Print.Kind, craft.PrintKinds()),
		word("print.carrier", p.Print.Carrier, craft.Carriers()),
		over0("print.gsm", p.Print.Gsm),
		over0("artwork.widthMm", p.Artwork.WidthMm),
		over0("artwork.heightMm", p.Artwork.HeightMm),
		over0("artwork.ppi", p.Artwork.Ppi),
		atLeast("artwork.whiteShare", p.Artwork.WhiteShare, 0),
		atMost("artwork.whiteShare", p.Artwork.WhiteShare, 1),
		word("artwork.rights", p.Artwork.Rights, craft.AllRights()),
		atLeast("room.celsius", p.Room.Celsius, -273.15),
		atLeast("room.humidity", p.Room.Humidity, 0),
		atMost("room.humidity", p.Room.Humidity, 1),
		p.validSteps(),
	)
}

func (p Problem) validSteps() error {
	if p.Steps == nil {
		return nil
	}
	for i, s := range *p.Steps {
		at := fmt.Sprintf("steps[%d]", i)
		if !slices.Contains(craft.Dos(), s.Do) {
			return fault.At(at+".do", "%q is not a kind of work known here", s.Do)
		}
		if s.With != "" && !slices.Contains(craft.Withs(s.Do), s.With) {
			return fault.At(at+".with", "%q is not something to %s with", s.With, s.Do)
		}
		if s.Tone != "" && (s.Do != craft.PaintBase || !slices.Contains(craft.Tones(), s.Tone)) {
			return fault.At(at+".tone", "a paint-base step leaves it light, medium or dark; other steps leave it as it is")
		}
		if s.Sheen != "" && !slices.Contains([]craft.Sheen{craft.Matt, craft.Satin, craft.Gloss}, s.Sheen) {
			return fault.At(at+".sheen", "%q is not a sheen known here", s.Sheen)
		}
		if err := firstError(atLeast(at+".restMinutes", &s.RestMinutes, 0), atLeast(at+".ceilingMinutes", s.CeilingMinutes, 0)); err != nil {
			return err
		}
	}
	return nil
}

func firstError(errs ...error) error {
	for _, err := range errs {
		if err != nil {
			return err
		}
	}
	return nil
}

func word[W ~string](field string, said *W, known []W) error {
	if said != nil && !slices.Contains(known, *said) {
		return fault.At(field, "%q is not a word known here", *said)
	}
	return nil
}

func over0(field string, v *float64) error {
	if v != nil && *v <= 0 {
		return fault.At(field, "must be over 0")
	}
	return nil
}

func atLeast[N int | float64](field string, v *N, least N) error {
	if v != nil && *v < least {
		return fault.At(field, "must be at least %v", least)
	}
	return nil
}

func atMost(field string, v *float64, most float64) error {
	if v != nil && *v > most {
		return fault.At(field, "must be at most %v", most)
	}
	return nil
}
