// Package craft knows how pieces are made: methods, the recipes that grow from
// them, and the steps and rests of a recipe. The facts of the built-in methods
// are data, in library/.
package craft

import (
	"math"
	"slices"

	"github.com/shopspring/decimal"

	"tidykiln/core/measure"
	"tidykiln/core/shape"
)

// Look is the quality a product is judged by.
type Look string

const (
	Crisp     Look = "crisp"
	Weathered Look = "weathered"
)

// Blank is the thing that is made into a piece.
type Blank struct {
	Surface Surface     `json:"surface"`
	Tone    Tone        `json:"tone,omitempty" enum:"light,medium,dark" doc:"how light it is under the picture; left out when nobody has said"`
	Shape   shape.Shape `json:"shape"`
	// Sides is the number of printed sides; 0 means one.
	Sides int `json:"sides,omitempty"`
	// Hangs says that a hole is drilled and a string tied.
	Hangs bool `json:"hangs,omitempty"`
	// ThroughBlank says that people look at the picture through the blank.
	ThroughBlank bool `json:"throughBlank,omitempty"`
	Drinkware    bool `json:"drinkware,omitempty"`
	// RimGap is the space between the picture and a drinking rim; nil when nobody has said.
	RimGap      *measure.Length `json:"rimGapMm,omitempty"`
	FoodContact bool            `json:"foodContact,omitempty"`
	HoldsFlame  bool            `json:"holdsFlame,omitempty"`
	// Holed says that it is bought with its hanging hole, so that none is drilled.
	Holed bool `json:"holed,omitempty"`
	// PaintCured says that its paint had its last coat over three days ago.
	PaintCured bool `json:"paintCured,omitempty"`
	// SidesApart says that the printed sides do not touch what they lie on, so
	// that all of them are laid in one sitting.
	SidesApart bool `json:"sidesApart,omitempty"`
	// Bound says that it is a cover, punched and bound.
	Bound bool `json:"bound,omitempty"`
	// ForChildren brings what is to be minded with children's goods.
	ForChildren bool `json:"forChildren,omitempty"`
}

// PrintedSides is at least one.
func (b Blank) PrintedSides() int { return max(1, b.Sides) }

// Recipe is the ordered steps of a product.
type Recipe struct {
	// Method is the key of the method the recipe grew from.
	Method string `json:"method"`
	Look   Look   `json:"look" enum:"crisp,weathered"`
	// Choices are those made where practitioners differ, by the school's key.
	Choices map[string]string `json:"choices,omitempty"`
	// Sheen is how the finished piece is to shine; empty when it does not matter.
	Sheen Sheen  `json:"sheen,omitempty"`
	Steps []Step `json:"steps"`
}

// Step is hands-on work on the pieces of a lot, and the rest that follows it.
type Step struct {
	// ID is unique within the recipe and stays when the step is renamed.
	ID string `json:"id"`
	// Do is the kind of work, in the vocabulary of the method library.
	Do Do `json:"do"`
	// With is the medium or sealer, where the kind of work has a choice.
	With With   `json:"with,omitempty"`
	Name string `json:"name"`
	// SetupMinutes and MinutesPerPiece are hands-on.
	SetupMinutes    float64 `json:"setupMinutes"`
	MinutesPerPiece float64 `json:"minutesPerPiece"`
	// Yield is the expected share of pieces that survive the step, over 0 and at most 1.
	Yield float64 `json:"yield"`
	// Outcomes are what can become of a piece beside good; empty means what is usual for the kind of work.
	Outcomes []Outcome `json:"outcomes,omitempty"`
	Uses     []Use     `json:"uses"`
	// Outside is work of the step that is bought in, such as a copy shop's sheets; nil without any.
	Outside *Outside `json:"outside,omitempty"`
	// Holds are the places and machines that the step has to itself.
	Holds []Holding `json:"holds,omitempty"`
	// Inside is the ID of an earlier step within whose rest this one is done.
	Inside string `json:"inside,omitempty"`
	Rest   *Rest  `json:"rest,omitempty"`
	// Tone is how light a base coat leaves the blank, from then on; empty when it leaves it as it is.
	Tone Tone `json:"tone,omitempty" enum:"light,medium,dark"`
	// CoversEdges and FoodSafe speak of a seal coat; Sheen of how it dries.
	CoversEdges *bool `json:"coversEdges,omitempty"`
	FoodSafe    bool  `json:"foodSafe,omitempty"`
	Sheen       Sheen `json:"sheen,omitempty"`
	// Checklist and Cautions are the step's own; those that go with the kind of work come on top.
	Checklist []string `json:"checklist"`
	Cautions  []string `json:"cautions"`
	// Parts are the steps that this one stands for where they go hand in hand.
	Parts []Part `json:"parts,omitempty"`
}

// Outside is what work bought in costs: money for each piece started, and once a batch.
type Outside struct {
	PerPiece decimal.Decimal `json:"perPiece" pattern:"^\\d{1,6}(\\.\\d{1,4})?$" patternDescription:"an amount such as 0.30"`
	PerBatch decimal.Decimal `json:"perBatch" pattern:"^\\d{1,6}(\\.\\d{1,4})?$" patternDescription:"an amount such as 3.60"`
}

// Part is a step that goes hand in hand with others.
type Part struct {
	ID   string `json:"id"`
	Do   Do     `json:"do"`
	With With   `json:"with,omitempty"`
	Name string `json:"name"`
}

// Outcome is what becomes of a piece in a step, beside good.
type Outcome string

const (
	Again   Outcome = "again"
	Rework  Outcome = "rework"
	Spoiled Outcome = "spoiled"
)

// OutcomeChoices are what can become of a piece beside good.
func (s Step) OutcomeChoices() []Outcome {
	if s.Inside != "" {
		return []Outcome{Spoiled}
	}
	if len(s.Outcomes) > 0 {
		return s.Outcomes
	}
	if usual := s.Do.facts().Outcomes; len(usual) > 0 {
		return slices.Clone(usual)
	}
	return []Outcome{Spoiled}
}

// Does tells whether the step, or a part of it, is work of the kind.
func (s Step) Does(d Do) bool {
	return s.Do == d || slices.ContainsFunc(s.Parts, func(p Part) bool { return p.Do == d })
}

// Minutes is the hands-on time of the step for a number of pieces, whole and at least one.
func (s Step) Minutes(pieces int) int {
	minutes := s.SetupMinutes + s.MinutesPerPiece*float64(pieces)
	return max(1, int(math.Ceil(minutes-minuteDust)))
}

// minuteDust is more than adding up tenths of minutes in floating point is
// ever off by, and less than anybody's minute.
const minuteDust = 1e-6

// piecesIn is how many pieces one after the other fit into minutes, at most MostPieces.
func (s Step) piecesIn(minutes float64) int {
	if s.MinutesPerPiece == 0 {
		return MostPieces
	}
	return int(min(MostPieces, (minutes+minuteDust)/s.MinutesPerPiece))
}

// CeilingAfter is the rest's ceiling counted from the end of the step rather
// than from its first piece, in minutes, and not under the floor; nil without one.
func (s Step) CeilingAfter(pieces int) *int {
	if s.Rest == nil || s.Rest.Ceiling == nil {
		return nil
	}
	later := int(s.MinutesPerPiece*float64(max(0, pieces-1)) + minuteDust)
	left := max(s.Rest.Floor, *s.Rest.Ceiling-later)
	return &left
}

// RestKind is what happens in a rest.
type RestKind string

const (
	Dry  RestKind = "dry"
	Cure RestKind = "cure"
	Soak RestKind = "soak"
	Cool RestKind = "cool"
)

// Rest is an unattended wait, in minutes. Floor is never undercut unless
// someone accepts the risk, Usual is kept when no promise is at risk, and
// Ceiling (nil: none) is the moment the next step must have begun, counted
// from the first piece of the lot.
type Rest struct {
	Kind    RestKind `json:"kind" enum:"dry,cure,soak,cool"`
	Floor   int      `json:"floor"`
	Usual   int      `json:"usual"`
	Ceiling *int     `json:"ceiling,omitempty"`
	// Rack is the number of rack places each piece takes while it rests.
	Rack int `json:"rack"`
	// Turner says that each piece turns on a spindle of the turner meanwhile,
	// and takes no place on the rack.
	Turner bool `json:"turner,omitempty"`
}

// Places are the rack places that so many pieces take while they rest, and
// Spindles the spindles of the turner.
func (r Rest) Places(pieces int) int {
	if r.Turner {
		return 0
	}
	return r.Rack * pieces
}

func (r Rest) Spindles(pieces int) int {
	if r.Turner {
		return pieces
	}
	return 0
}

// SurvivalFrom is the expected share of pieces started at step i that come through to the end.
func (r Recipe) SurvivalFrom(i int) float64 {
	share := 1.0
	for _, s := range r.Steps[i:] {
		share *= s.Yield
	}
	return share
}

// LayToHandOver is the time from the start of the step that puts the picture
// on to the end of the last step at usual rests, hands-on time of the given
// pieces included, in minutes. Steps inside a rest take none of it.
func (r Recipe) LayToHandOver(pieces int) int {
	total, laid := 0, false
	for _, s := range r.Steps {
		laid = laid || s.Do.Carries()
		if !laid || s.Inside != "" {
			continue
		}
		total += s.Minutes(pieces)
		if s.Rest != nil {
			total += s.Rest.Usual
		}
	}
	return total
}

// LotSize is the most pieces that fit a sitting (hands-on minutes in one go), a
// rack (places), the turner (spindles) and every ceiling; zero when not even one does.
func (r Recipe) LotSize(sittingMinutes, rackPlaces, spindles int) int {
	size := MostPieces
	for _, s := range r.Steps {
		if s.Minutes(1) > sittingMinutes {
			return 0
		}
		size = min(size, s.piecesIn(float64(sittingMinutes)-s.SetupMinutes))
		if s.Rest == nil {
			continue
		}
		if each := s.Rest.Places(1); each > 0 {
			size = min(size, rackPlaces/each)
		}
		if s.Rest.Turner {
			size = min(size, spindles)
		}
		if s.Rest.Ceiling != nil {
			// the first piece's ceiling must outlast the floor of the last
			size = min(size, 1+s.piecesIn(float64(*s.Rest.Ceiling-s.Rest.Floor)))
		}
	}
	return size
}

// MostPieces is the largest batch the tool plans.
const MostPieces = 500

// Lots splits pieces into the fewest lots of at most size, as even as can be.
func Lots(pieces, size int) []int {
	if pieces < 1 || size < 1 {
		return nil
	}
	count := (pieces + size - 1) / size
	lots := make([]int, count)
	for i := range lots {
		lots[i] = pieces / count
		if i < pieces%count {
			lots[i]++
		}
	}
	return lots
}
