// Package craft knows how pieces are made: methods, the recipes that grow from
// them, and the steps and rests of a recipe. The facts of the built-in methods
// are data, in library/.
package craft

import (
	"tidykiln/core/measure"
	"tidykiln/core/shape"
)

// Surface is what a blank is made of, as the print meets it.
type Surface string

const (
	WoodBare    Surface = "wood-bare"
	WoodPainted Surface = "wood-painted"
)

// Look is the quality a product is judged by.
type Look string

const (
	Crisp     Look = "crisp"
	Weathered Look = "weathered"
)

// Blank is the thing that is made into a piece.
type Blank struct {
	Surface Surface     `json:"surface" enum:"wood-bare,wood-painted"`
	Shape   shape.Shape `json:"shape"`
}

// Recipe is the ordered steps of a product.
type Recipe struct {
	// Method is the key of the method the recipe grew from.
	Method string `json:"method"`
	Look   Look   `json:"look" enum:"crisp,weathered"`
	Steps  []Step `json:"steps"`
}

// Step is hands-on work on the pieces of a lot, and the rest that follows it.
type Step struct {
	// ID is unique within the recipe and stays when the step is renamed.
	ID string `json:"id"`
	// Do is the kind of work, in the vocabulary of the method library.
	Do   string `json:"do"`
	Name string `json:"name"`
	// SetupMinutes and MinutesPerPiece are hands-on.
	SetupMinutes    float64 `json:"setupMinutes"`
	MinutesPerPiece float64 `json:"minutesPerPiece"`
	// Yield is the expected share of pieces that survive the step, over 0 and at most 1.
	Yield float64 `json:"yield"`
	// MayRepeat says that pieces can go through the step again.
	MayRepeat bool     `json:"mayRepeat"`
	Uses      []Use    `json:"uses"`
	Rest      *Rest    `json:"rest,omitempty"`
	Checklist []string `json:"checklist"`
	Cautions  []string `json:"cautions"`
}

// Minutes is the hands-on time of the step for a number of pieces, whole and at least one.
func (s Step) Minutes(pieces int) int {
	minutes := s.SetupMinutes + s.MinutesPerPiece*float64(pieces)
	return max(1, int(minutes+0.999999))
}

// Use is what a step takes of a material: a quantity for each piece or batch,
// or a coat on faces of the blank.
type Use struct {
	// Material is the material's key.
	Material string `json:"material"`
	// Quantity is in the material's unit; for a coat it is the number of coats.
	Quantity float64 `json:"quantity"`
	Per      UsePer  `json:"per" enum:"piece,batch,coat"`
	// Faces are coated with Film under a coat.
	Faces []shape.Face   `json:"faces,omitempty"`
	Film  measure.Length `json:"filmMm,omitempty"`
}

// UsePer says what a Use is counted by.
type UsePer string

const (
	PerPiece UsePer = "piece"
	PerBatch UsePer = "batch"
	PerCoat  UsePer = "coat"
)

// CoatWaste is the share of a medium that stays in cup and brush.
const CoatWaste = 0.03

// PerPieceQuantity is what one piece of the shape takes; zero for a use per batch.
func (u Use) PerPieceQuantity(s shape.Shape) float64 {
	switch u.Per {
	case PerPiece:
		return u.Quantity
	case PerCoat:
		var area measure.Area
		for _, f := range u.Faces {
			area += s.Area(f)
		}
		return u.Quantity * float64(measure.CoatVolume(area, u.Film, CoatWaste))
	}
	return 0
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
// Ceiling (nil: none) is the moment the next step must have begun.
type Rest struct {
	Kind    RestKind `json:"kind" enum:"dry,cure,soak,cool"`
	Floor   int      `json:"floor"`
	Usual   int      `json:"usual"`
	Ceiling *int     `json:"ceiling,omitempty"`
	// Rack is the number of rack places each piece takes while it rests.
	Rack int `json:"rack"`
}

// SurvivalFrom is the expected share of pieces started at step i that come through to the end.
func (r Recipe) SurvivalFrom(i int) float64 {
	share := 1.0
	for _, s := range r.Steps[i:] {
		share *= s.Yield
	}
	return share
}

// LayToHandOver is the time from the start of the lay to the end of the last
// step at usual rests, hands-on time of the given pieces included, in minutes.
func (r Recipe) LayToHandOver(pieces int) int {
	total, laid := 0, false
	for _, s := range r.Steps {
		laid = laid || s.Do == "lay"
		if !laid {
			continue
		}
		total += s.Minutes(pieces)
		if s.Rest != nil {
			total += s.Rest.Usual
		}
	}
	return total
}

// LotSize is the most pieces that fit both a sitting (hands-on minutes in one
// go) and a rack (places); zero when not even one does.
func (r Recipe) LotSize(sittingMinutes, rackPlaces int) int {
	size := MostPieces
	for _, s := range r.Steps {
		if left := float64(sittingMinutes) - s.SetupMinutes; left < s.MinutesPerPiece {
			return 0
		} else if s.MinutesPerPiece > 0 {
			size = min(size, int(left/s.MinutesPerPiece))
		}
		if s.Rest != nil && s.Rest.Rack > 0 {
			size = min(size, rackPlaces/s.Rest.Rack)
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
