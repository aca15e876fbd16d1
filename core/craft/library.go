package craft

import (
	"bytes"
	"embed"
	"encoding/json"
	"fmt"
	"math"
	"slices"

	"tidykiln/core/shape"
)

//go:embed library/*.json
var libraryFiles embed.FS

// Method is a way of getting a print onto a blank, with the steps a recipe begins from.
type Method struct {
	Key      string       `json:"key"`
	Name     string       `json:"name"`
	Surfaces []Surface    `json:"surfaces"`
	Steps    []MethodStep `json:"steps"`
}

// MethodStep is a step whose minutes also grow with the blank's face.
type MethodStep struct {
	Step
	// With is the medium or sealer the step is done with.
	With string `json:"with,omitempty"`
	// MinutesPer100cm2 is hands-on time for each 100 cm² of the face, beside that for each piece.
	MinutesPer100cm2 float64 `json:"minutesPer100cm2"`
}

var library = mustLoadLibrary()

// mustLoadLibrary panics on bad data: the files are part of the program.
func mustLoadLibrary() []Method {
	entries, err := libraryFiles.ReadDir("library")
	if err != nil {
		panic(err)
	}
	var methods []Method
	for _, entry := range entries {
		text, err := libraryFiles.ReadFile("library/" + entry.Name())
		if err != nil {
			panic(err)
		}
		var m Method
		decoder := json.NewDecoder(bytes.NewReader(text))
		decoder.DisallowUnknownFields()
		if err := decoder.Decode(&m); err != nil {
			panic(fmt.Errorf("library/%s: %w", entry.Name(), err))
		}
		methods = append(methods, m)
	}
	return methods
}

// Methods lists the built-in methods.
func Methods() []Method { return slices.Clone(library) }

// MethodByKey finds a built-in method.
func MethodByKey(key string) (Method, bool) {
	i := slices.IndexFunc(library, func(m Method) bool { return m.Key == key })
	if i < 0 {
		return Method{}, false
	}
	return library[i], true
}

// Propose writes the recipe a product begins from: the method's steps with
// their minutes for this blank, and the blank's own material in place of "blank".
// It refuses a blank that the method does not suit.
func (m Method) Propose(blank Blank, look Look, blankMaterial string) (Recipe, error) {
	if err := blank.Shape.Validate(); err != nil {
		return Recipe{}, fmt.Errorf("shape.%w", err)
	}
	if !slices.Contains(m.Surfaces, blank.Surface) {
		return Recipe{}, fmt.Errorf("surface: %s does not hold on %s", m.Name, blank.Surface)
	}
	hundreds := blank.Shape.Area(shape.Front).CM2() / 100
	r := Recipe{Method: m.Key, Look: look}
	for _, s := range m.Steps {
		step := s.Step
		step.MinutesPerPiece = quarterMinutes(s.MinutesPerPiece + s.MinutesPer100cm2*hundreds)
		step.Uses = slices.Clone(s.Uses)
		for i, u := range step.Uses {
			if u.Material == "blank" {
				step.Uses[i].Material = blankMaterial
			}
		}
		r.Steps = append(r.Steps, step)
	}
	return r, r.Validate()
}

// quarterMinutes rounds up to the quarter of a minute that people can tell apart.
func quarterMinutes(m float64) float64 { return math.Ceil(m*4-1e-9) / 4 }
