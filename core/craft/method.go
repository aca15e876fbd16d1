package craft

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"

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
	Removal string       `json:"removal"`
	Steps   []MethodStep `json:"steps"`
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
}

func (w *When) fits(b Blank, look Look) bool {
	switch {
	case w == nil:
		return true
	case len(w.Surfaces) > 0 && !slices.Contains(w.Surfaces, b.Surface):
		return false
	case len(w.Tones) > 0 && !slices.Contains(w.Tones, cmp.Or(b.Tone, Light)):
		return false
	case w.Look != "" && w.Look != look:
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
}

// Propose writes the recipe a product begins from: the method's steps with
// their minutes for this blank, the blank's own material in place of "blank",
// and the choices made. It refuses a blank that the method does not suit.
func (m Method) Propose(ask Ask) (Recipe, error) {
	if err := ask.Blank.Shape.Validate(); err != nil {
		return Recipe{}, fmt.Errorf("shape.%w", err)
	}
	if !slices.Contains(m.Surfaces, ask.Blank.Surface) {
		return Recipe{}, fmt.Errorf("surface: %s does not hold on %s", m.Name, ask.Blank.Surface.Words())
	}
	r := Recipe{Method: m.Key, Look: ask.Look, Choices: maps.Clone(ask.Choices)}
	for _, s := range m.Steps {
		if s.When.fits(ask.Blank, ask.Look) {
			r.Steps = append(r.Steps, m.stepsFor(s, ask)...)
		}
	}
	for _, key := range slices.Sorted(maps.Keys(ask.Choices)) {
		choice, err := m.choice(key, ask.Choices[key])
		if err != nil {
			return Recipe{}, err
		}
		choice.apply(&r, ask)
	}
	return r, r.Validate()
}

// stepsFor is a step of the method for what is asked: one, or one for each printed side.
func (m Method) stepsFor(s MethodStep, ask Ask) []Step {
	step := s.For(ask)
	if step.Do == PrintOut {
		step.Checklist = append([]string{m.mirrorCheck(ask.Blank.ThroughBlank)}, step.Checklist...)
	}
	steps := []Step{step}
	for side := 2; s.EachSide && side <= ask.Blank.PrintedSides(); side++ {
		again := step
		again.ID, again.Name = fmt.Sprintf("%s-%d", step.ID, side), fmt.Sprintf("%s, side %d", step.Name, side)
		again.Uses = slices.DeleteFunc(slices.Clone(step.Uses), func(u Use) bool { return u.Material == ask.Material })
		steps = append(steps, again)
	}
	return steps
}

func (m Method) mirrorCheck(throughBlank bool) string {
	if m.MustMirror(throughBlank) {
		return "Mirrored: lettering must read backwards on the print"
	}
	return "Not mirrored: lettering must read as it is on the print"
}

// onPicture is work whose minutes grow with the picture rather than the face.
var onPicture = []Do{PrintOut, SpraySealPrint, Trim, InkBack, Lay, ApplyDecal, ApplyTape, Melt, RemovePaper}

// For is the step for one blank with its picture.
func (s MethodStep) For(ask Ask) Step {
	sides := float64(ask.Blank.PrintedSides())
	if s.EachSide {
		sides = 1
	}
	face := shape.Front
	if slices.Contains(onPicture, s.Do) {
		face = shape.Picture
	}
	hundreds := ExtentOf(ask.Blank, ask.Picture).Area(face).CM2() / 100 * sides
	step := s.Step
	step.MinutesPerPiece = quarterMinutes(s.MinutesPerPiece + s.MinutesPer100cm2*hundreds)
	step.Uses = slices.Clone(s.Uses)
	for i, u := range step.Uses {
		if u.Material == "blank" {
			step.Uses[i].Material = ask.Material
		}
	}
	return step
}

// quarterMinutes rounds up to the quarter of a minute that people can tell apart.
func quarterMinutes(m float64) float64 { return math.Ceil(m*4-1e-9) / 4 }

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
	// Do names the steps that the choice changes.
	Do Do `json:"do"`
	// Check is added to their checklists.
	Check string `json:"check,omitempty"`
	// ToFloor rests only as long as the floor; UsualMinutes at least so long.
	ToFloor      bool `json:"toFloor,omitempty"`
	UsualMinutes int  `json:"usualMinutes,omitempty"`
	// With is what the steps are done with instead, Material what their coats
	// then take (left out: the medium of the lay), and Holds where they are done.
	With     With    `json:"with,omitempty"`
	Material string  `json:"material,omitempty"`
	Holds    Holding `json:"holds,omitempty"`
	// Drop takes the steps out of the recipe; Instead names the blocks that come in their place.
	Drop    bool     `json:"drop,omitempty"`
	Instead []string `json:"instead,omitempty"`
	// Method is the built-in method that this choice is.
	Method string `json:"method,omitempty"`
}

// SchoolsOf lists the questions that a method raises.
func SchoolsOf(m Method) []School {
	var raised []School
	for _, s := range library.schools {
		if slices.Contains(s.Families, m.Family) {
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
				return SchoolChoice{}, fmt.Errorf("choices.%s: that is another method, %s: choose it instead", school, c.Method)
			default:
				return c, nil
			}
		}
		return SchoolChoice{}, fmt.Errorf("choices.%s: %q is not an answer known here", school, key)
	}
	return SchoolChoice{}, fmt.Errorf("choices.%s: %s does not raise this question", school, m.Name)
}

func (c SchoolChoice) apply(r *Recipe, ask Ask) {
	if c.Drop {
		at := slices.IndexFunc(r.Steps, func(s Step) bool { return s.Do == c.Do })
		r.Steps = slices.DeleteFunc(r.Steps, func(s Step) bool { return s.Do == c.Do })
		for i, key := range c.Instead {
			block, _ := BlockByKey(key)
			if at >= 0 {
				r.Steps = slices.Insert(r.Steps, at+i, block.For(ask))
			}
		}
		return
	}
	medium := r.layMedium()
	for i := range r.Steps {
		if r.Steps[i].Do == c.Do {
			c.applyTo(&r.Steps[i], medium)
		}
	}
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

func (c SchoolChoice) applyTo(s *Step, medium string) {
	if c.Check != "" {
		s.Checklist = append(slices.Clone(s.Checklist), c.Check)
	}
	if c.With != "" {
		s.With = c.With
		for i, u := range s.Uses {
			if u.Per == PerCoat {
				s.Uses[i].Material = cmp.Or(c.Material, medium)
			}
		}
	}
	if c.Holds != "" {
		s.Holds = []Holding{c.Holds}
	}
	if s.Rest == nil {
		return
	}
	rest := *s.Rest
	if c.ToFloor {
		rest.Usual = rest.Floor
	}
	rest.Usual = max(rest.Usual, c.UsualMinutes)
	if rest.Ceiling != nil {
		rest.Usual = min(rest.Usual, *rest.Ceiling)
	}
	s.Rest = &rest
}
