package craft

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"

	"tidykiln/core/fault"
	"tidykiln/core/shape"
)

// MethodFormat is the format of a method written as a file (docs/formats.md).
const MethodFormat = "tidykiln/method@1"

// Method is a way of getting a print onto a blank, with the steps a recipe begins from.
type Method struct {
	Format string `json:"format"`
	Key    string `json:"key"`
	Name   string `json:"name"`
	// Family is the built-in method that this one is a way of doing; its checks hold here too.
	Family string `json:"family"`
	// About says in a sentence what the method is good for.
	About    string    `json:"about"`
	Surfaces []Surface `json:"surfaces"`
	Prints   []Print   `json:"prints"`
	// MediumOn says where the medium goes; empty when there is none.
	MediumOn []MediumOn `json:"mediumOn"`
	ViewSide ViewSide   `json:"viewSide" enum:"paper,printed-face"`
	// Floor is the shortest rest after the lay, in minutes; nil without one.
	Floor *int `json:"floorMinutes,omitempty"`
	// Removal says in a sentence how the paper comes off; empty when none does.
	Removal string `json:"removal"`
	// Facts are those of its family; nil in files that say nothing of them.
	Facts *Facts       `json:"facts,omitempty"`
	Steps []MethodStep `json:"steps"`
}

// Print is what a picture is printed with, and on.
type Print struct {
	Kind    PrintKind `json:"kind" enum:"toner,inkjet,sublimation"`
	Carrier Carrier   `json:"carrier" enum:"paper,tissue,decal-clear,decal-white,transfer-paper"`
}

// MediumOn is where a medium goes.
type MediumOn string

const (
	OnSurface MediumOn = "surface"
	OnPrint   MediumOn = "print"
	OnBoth    MediumOn = "both"
)

// ViewSide is the side of the print that people look at in the end.
type ViewSide string

const (
	PaperSide   ViewSide = "paper"
	PrintedFace ViewSide = "printed-face"
)

// MustMirror tells whether a print must be mirrored: when people look at the
// side the paper was on. Looking through the blank swaps the answer.
func (m Method) MustMirror(throughBlank bool) bool {
	return (m.ViewSide == PaperSide) != throughBlank
}

// MethodStep is a step whose minutes also grow with the blank's face, and
// which belongs only to some blanks.
type MethodStep struct {
	Step
	// MinutesPer100cm2 is hands-on time for each 100 cm² of the face (of the
	// picture, where the work is on the print), beside that for each piece.
	MinutesPer100cm2 float64 `json:"minutesPer100cm2"`
	// EachSide says that every printed side takes the step once more.
	EachSide bool  `json:"eachSide,omitempty"`
	When     *When `json:"when,omitempty"`
}

// When says for which pieces a step is proposed; what is left out does not matter.
type When struct {
	Surfaces   []Surface `json:"surfaces,omitempty"`
	Tones      []Tone    `json:"tones,omitempty"`
	Look       Look      `json:"look,omitempty" enum:"crisp,weathered"`
	Hangs      bool      `json:"hangs,omitempty"`
	HoldsFlame bool      `json:"holdsFlame,omitempty"`
	Drinkware  bool      `json:"drinkware,omitempty"`
	// Shapes are the outlines; Film is the decal film that was chosen, or follows from the tone.
	Shapes []shape.Kind `json:"shapes,omitempty"`
	Film   Carrier      `json:"film,omitempty" enum:"decal-clear,decal-white"`
	Bound  bool         `json:"bound,omitempty"`
	// Uncured belongs to what is not painted yet, or was less than three days ago.
	Uncured bool `json:"uncured,omitempty"`
}

func (w *When) fits(ask Ask) bool {
	b, look := ask.Blank, ask.Look
	switch {
	case w == nil:
		return true
	case len(w.Surfaces) > 0 && !slices.Contains(w.Surfaces, b.Surface):
		return false
	case len(w.Tones) > 0 && !slices.Contains(w.Tones, cmp.Or(b.Tone, Light)):
		return false
	case w.Look != "" && w.Look != look:
		return false
	case len(w.Shapes) > 0 && !slices.Contains(w.Shapes, b.Shape.Kind) && !(b.Shape.Upright() && slices.Contains(w.Shapes, shape.Cylinder)):
		return false
	case w.Film != "" && w.Film != ask.film():
		return false
	case w.Bound && !b.Bound || w.Uncured && b.PaintCured:
		return false
	}
	return (!w.Hangs || b.Hangs) && (!w.HoldsFlame || b.HoldsFlame) && (!w.Drinkware || b.Drinkware)
}

// Ask is what a recipe is proposed for.
type Ask struct {
	Blank   Blank
	Picture Picture
	Look    Look
	// Material is the key of the blank's own material.
	Material string
	// Choices are those made where practitioners differ; what is left out is as the method has it.
	Choices map[string]string
	// Labels are what the materials' own labels say.
	Labels Labels
}

// film is the decal film: what was chosen, or else clear on a light blank and white on others.
func (a Ask) film() Carrier {
	switch {
	case a.Picture.Carrier == DecalClear || a.Picture.Carrier == DecalWhite:
		return a.Picture.Carrier
	case cmp.Or(a.Blank.Tone, Light) == Light:
		return DecalClear
	}
	return DecalWhite
}

// Propose writes the recipe a product begins from: the method's steps with
// their minutes for this blank, the blank's own material in place of "blank",
// and the choices made. It refuses a blank that the method does not suit.
func (m Method) Propose(ask Ask) (Recipe, error) {
	if err := ask.Blank.Shape.Validate(); err != nil {
		return Recipe{}, fault.Under("shape", err)
	}
	if !slices.Contains(m.Surfaces, ask.Blank.Surface) {
		return Recipe{}, fault.At("surface", "%s does not hold on %s", m.Name, ask.Blank.Surface.Words())
	}
	r := Recipe{Method: m.Key, Look: ask.Look, Choices: maps.Clone(ask.Choices)}
	var steps []MethodStep
	for _, s := range m.Steps {
		if s.When.fits(ask) && ask.Blank.takes(s.Do) {
			steps = append(steps, s)
		}
	}
	r.Steps = m.sides(steps, ask)
	// Choices are made by what the labels say, and what they bring in has its own.
	r = r.AsLabelled(ask.Labels)
	for _, key := range slices.Sorted(maps.Keys(ask.Choices)) {
		choice, err := m.choice(key, ask.Choices[key])
		if err != nil {
			return Recipe{}, err
		}
		for _, e := range choice.Edits {
			if r, _, err = r.Edited(e, ask); err != nil {
				return Recipe{}, err
			}
		}
	}
	r.finishFor(ask)
	return r, r.Validate()
}

func (m Method) mirrorCheck(throughBlank bool) string {
	if m.MustMirror(throughBlank) {
		return "Mirrored: lettering must read backwards on the print"
	}
	return "Not mirrored: lettering must read as it is on the print"
}

// For is the step for one blank with its picture. Work on the print is done
// for every printed side, and what it takes is taken as often, unless each
// side has the step to itself; coats go on every printed face.
func (s MethodStep) For(ask Ask) Step {
	step := s.Step
	step.Uses = slices.Clone(s.Uses)
	for i, u := range step.Uses {
		switch {
		case u.Material == "blank":
			step.Uses[i].Material = ask.Material
		case u.Material == tonerKey && ask.Picture.Kind == Inkjet:
			step.Uses[i].Material = inkKey
		}
		step.Uses[i].Film = ask.Labels.filmOf(u.Material, u.Film)
	}
	extent := ExtentOf(ask.Blank, ask.Picture)
	if !s.Do.facts().OnPicture {
		faces := ask.Blank.printedFaces()
		step.MinutesPerPiece = tenthMinutes(s.MinutesPerPiece + s.MinutesPer100cm2*extent.Area(shape.Front).CM2()/100*float64(faces))
		step.coatFaces(faces)
		return step
	}
	sides := ask.Blank.PrintedSides()
	if s.eachSideAlone(ask.Blank) {
		sides = 1
	}
	step.MinutesPerPiece = tenthMinutes((s.MinutesPerPiece + s.MinutesPer100cm2*extent.Area(shape.Picture).CM2()/100) * float64(sides))
	for i, u := range step.Uses {
		if u.Material != ask.Material && u.Per != PerBatch && u.Per != PerPower {
			step.Uses[i].Quantity *= float64(sides)
		}
		if u.Per == PerPower {
			step.Uses[i].PowerMinutes *= float64(sides)
		}
	}
	return step
}

// Keys of what prints take: toner, or the ink of an inkjet printer.
const (
	tonerKey = "toner-print"
	inkKey   = "ink-print"
)

// printedFaces is how many faces of the shape are printed and coated: the wall
// of a cylinder is one however many pictures stand on it.
func (b Blank) printedFaces() int {
	if b.Shape.Upright() {
		return 1
	}
	return b.PrintedSides()
}

// coatFaces lets coats of the face go on so many of them.
func (s *Step) coatFaces(faces int) {
	for i, u := range s.Uses {
		for range faces - 1 {
			if u.Per == PerCoat && slices.Contains(u.Faces, shape.Front) {
				s.Uses[i].Faces = append(slices.Clone(s.Uses[i].Faces), shape.Front)
			}
		}
	}
}

// tenthMinutes rounds to the tenth of a minute, and up to the first of them.
func tenthMinutes(m float64) float64 {
	if m <= 0 {
		return 0
	}
	return math.Max(1, math.Round(m*10)) / 10
}

// School is a question on which practitioners differ.
type School struct {
	Key      string         `json:"key"`
	Question string         `json:"question"`
	Families []string       `json:"families"`
	Choices  []SchoolChoice `json:"choices"`
}

// SchoolChoice is one answer, and what it trades.
type SchoolChoice struct {
	Key    string `json:"key"`
	Name   string `json:"name"`
	Trades string `json:"trades"`
	// Edits are what the choice changes in the method's recipe.
	Edits []Edit `json:"edits,omitempty"`
	// Method is the built-in method that this choice is.
	Method string `json:"method,omitempty"`
	// Families are the built-in methods that the choice is offered for; none are all that raise the question.
	Families []string `json:"families,omitempty"`
}

// SchoolsOf lists the questions that a method raises.
func SchoolsOf(m Method) []School {
	var raised []School
	for _, s := range library.schools {
		if !slices.Contains(s.Families, m.Family) {
			continue
		}
		s.Choices = slices.DeleteFunc(slices.Clone(s.Choices), func(c SchoolChoice) bool {
			return len(c.Families) > 0 && !slices.Contains(c.Families, m.Family)
		})
		if len(s.Choices) > 1 {
			raised = append(raised, s)
		}
	}
	return raised
}

func (m Method) choice(school, key string) (SchoolChoice, error) {
	for _, s := range SchoolsOf(m) {
		if s.Key != school {
			continue
		}
		for _, c := range s.Choices {
			switch {
			case c.Key != key:
			case c.Method != "" && c.Method != m.Family:
				return SchoolChoice{}, fault.At(fmt.Sprintf("choices.%s", school), "that is another method, %s: choose it instead", c.Method)
			default:
				return c, nil
			}
		}
		return SchoolChoice{}, fault.At(fmt.Sprintf("choices.%s", school), "%q is not an answer known here", key)
	}
	return SchoolChoice{}, fault.At(fmt.Sprintf("choices.%s", school), "%s does not raise this question", m.Name)
}

// layMedium is the key of the material that the lay's coat takes.
func (r Recipe) layMedium() string {
	for _, s := range r.Steps {
		for _, u := range s.Uses {
			if s.Do == Lay && u.Per == PerCoat {
				return u.Material
			}
		}
	}
	return ""
}
