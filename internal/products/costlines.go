package products

import (
	"fmt"
	"strings"

	"github.com/shopspring/decimal"

	"tidykiln/core/cost"
	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/core/stock"
	"tidykiln/internal/stores"
)

// CostKind is what a part of a piece's cost is for.
type CostKind string

const (
	ForMaterials CostKind = "materials"
	ForPrint     CostKind = "print"
	ForPacking   CostKind = "packing"
	ForOutside   CostKind = "outside" // bought in
	ForLabour    CostKind = "labour"
	ForOverhead  CostKind = "overhead"
	ForSpoils    CostKind = "spoils"
)

// CostLine is a part of what a good piece costs, and how it was worked out. The
// lines of a piece add up to what it costs: those of a flawless one, and what
// spoils add at each step.
type CostLine struct {
	Kind   CostKind `json:"kind" enum:"materials,print,packing,outside,labour,overhead,spoils"`
	StepID string   `json:"stepId"`
	Step   string   `json:"step"`
	Name   string   `json:"name"`
	How    string   `json:"how" doc:"how it was worked out, in words and figures"`
	Amount string   `json:"amount" doc:"with four decimals"`
}

// CurvePoint is the cost of a piece in batches of a size.
type CurvePoint struct {
	Pieces int    `json:"pieces"`
	Cost   string `json:"cost"`
	// Begins says what is begun that one piece less does without: another sheet, another pack, another lot.
	Begins []string `json:"begins" nullable:"false"`
}

// Curve is the cost of a piece over the size of the batch.
type Curve struct {
	Points []CurvePoint `json:"points" nullable:"false"`
	// Enough is the size past which no bigger batch saves more than three per cent.
	Enough int `json:"enough"`
}

// littleSaved is the share of the cost that is not worth a bigger batch.
const littleSaved = 0.03

// LongestCurve is the biggest batch a curve is drawn to.
const LongestCurve = 48

// Curve is the cost of a piece in batches of up to so many.
func (b Basis) Curve(w cost.Work, upTo int) (c Curve, err error) {
	points, err := w.Curve(upTo)
	if err != nil {
		return c, err
	}
	c = Curve{Points: make([]CurvePoint, len(points)), Enough: cost.Enough(points, littleSaved)}
	for i, p := range points {
		c.Points[i] = CurvePoint{p.Pieces, p.Cost.StringFixed(2), []string{}}
		for _, begun := range p.Begins {
			c.Points[i].Begins = append(c.Points[i].Begins, b.begun(begun))
		}
	}
	return c, nil
}

func (b Basis) begun(begun cost.Begin) string {
	if begun.Material == "" {
		return fmt.Sprintf("lot %d", begun.Count)
	}
	m := b.Materials[begun.Material]
	if begun.Pack {
		return fmt.Sprintf("pack %d of %s", begun.Count, m.Name)
	}
	return fmt.Sprintf("%s %d of %s", m.Unit, begun.Count, m.Name)
}

// Lines splits the cost of a piece by step and by what it is for.
func (b Basis) Lines(p Product, c Costing) (lines []CostLine) {
	steps := p.Recipe.Document.Steps
	extent := craft.ExtentOf(p.Blank, p.Picture)
	spent := make([]decimal.Decimal, len(steps))
	for i, step := range steps {
		at := CostLine{StepID: step.ID, Step: step.Name}
		flawless := ofStage(c.FlawlessLines, i)
		for _, key := range materialsOf(step) {
			line := at
			m := b.Materials[key]
			line.Kind, line.Name = costKindOf(m.Kind), m.Name
			line.How = b.how(step, key, extent, c)
			lines = append(lines, line.with(c.Each(sum(flawless, cost.Materials, key))))
		}
		if o := step.Outside; o != nil {
			line := at
			line.Kind, line.Name = ForOutside, "Bought in"
			line.How = fmt.Sprintf("%s a piece, and %s a batch, shared by %d", b.Workshop.Money(o.PerPiece), b.Workshop.Money(o.PerBatch), c.Good)
			lines = append(lines, line.with(c.Each(sum(flawless, cost.Bought, ""))))
		}
		for _, hands := range []struct {
			kind cost.Kind
			CostLine
		}{{cost.Labour, CostLine{Kind: ForLabour, Name: "Your time"}}, {cost.Overhead, CostLine{Kind: ForOverhead, Name: "Room and tools"}}} {
			line := at
			line.Kind, line.Name, line.How = hands.Kind, hands.Name, b.howLong(step, hands.kind, c)
			lines = append(lines, line.with(c.Each(sum(flawless, hands.kind, ""))))
		}
		spent[i] = c.Each(total(ofStage(c.Lines, i)).Sub(total(flawless)))
		if spent[i].IsPositive() {
			line := at
			line.Kind, line.Name = ForSpoils, "Spoils"
			line.How = fmt.Sprintf("%s are started here for %d good ones: what the lost ones take in this step", b.Workshop.Habit.Written(c.Started[i].Round(1).String()), c.Good)
			lines = append(lines, line.with(spent[i]))
		}
	}
	return lines
}

func (l CostLine) with(amount decimal.Decimal) CostLine {
	l.Amount = amount.StringFixed(4)
	return l
}

// costKindOf is what a kind of material is for.
func costKindOf(kind stores.Kind) CostKind {
	switch kind {
	case "paper", "film", "toner", "ink":
		return ForPrint
	case "packing":
		return ForPacking
	}
	return ForMaterials
}

func ofStage(lines []cost.Line, stage int) (of []cost.Line) {
	for _, l := range lines {
		if l.Stage == stage {
			of = append(of, l)
		}
	}
	return of
}

func total(lines []cost.Line) decimal.Decimal {
	sum := decimal.Zero
	for _, l := range lines {
		sum = sum.Add(l.Amount)
	}
	return sum
}

func sum(lines []cost.Line, kind cost.Kind, material string) decimal.Decimal {
	sum := decimal.Zero
	for _, l := range lines {
		if l.Kind == kind && l.Material == material {
			sum = sum.Add(l.Amount)
		}
	}
	return sum
}

// materialsOf are the materials of a step, each once.
func materialsOf(s craft.Step) (keys []string) {
	seen := map[string]bool{}
	for _, u := range s.Uses {
		if !seen[u.Material] {
			seen[u.Material] = true
			keys = append(keys, u.Material)
		}
	}
	return keys
}

// how says what a step takes of a material, and at what cost.
func (b Basis) how(s craft.Step, key string, e craft.Extent, c Costing) string {
	m := b.Materials[key]
	var parts []string
	for _, u := range s.Uses {
		if u.Material == key {
			parts = append(parts, b.howMuch(u, s, e, c))
		}
	}
	return fmt.Sprintf("%s, at %s a %s", strings.Join(parts, "; "), b.Workshop.Habit.Written(cost.UnitCost(m.Purchases).Round(6).String()), m.Unit)
}

// howMuch says what one use adds up to.
func (b Basis) howMuch(u craft.Use, s craft.Step, e craft.Extent, c Costing) string {
	m := b.Materials[u.Material]
	a := u.Amount(s, e, m.Supply())
	habit := b.Workshop.Habit
	plain := habit.Number
	lasts := ""
	if m.Lasts != nil {
		lasts = fmt.Sprintf(", and one lasts %s", plain(*m.Lasts))
	}
	switch u.Per {
	case craft.PerCoat:
		coats := "a coat"
		if u.Quantity != 1 {
			coats = plain(u.Quantity) + " coats"
		}
		return fmt.Sprintf("%s: %s on %s cm² × %s + %.0f %% that stays in the cup", habit.Written(measure.Volume(a.PerPiece).Format(b.Workshop.Units)), coats, habit.Rounded(e.Area(u.Faces...).CM2(), 1), habit.Written(u.Film.Format(measure.Metric)), craft.CoatWaste*100)
	case craft.PerBatch:
		return fmt.Sprintf("%s %s a batch, shared by %d%s", plain(u.Quantity), m.Unit, c.Good, lasts)
	case craft.PerSheet:
		if a.Every == 0 {
			return "no prints"
		}
		return fmt.Sprintf("%s to a sheet, so %s whole for %d", prints(a.Every*u.Quantity, plain), plain(a.For(c.Good, false)), c.Good)
	case craft.PerPrint:
		of := ""
		if u.Ink != "" {
			of = fmt.Sprintf(" of %s", u.Ink)
		}
		return fmt.Sprintf("%s rated pages%s: %s cm² covered to %.0f %%", habit.Rounded(a.PerPiece, 2), of, habit.Rounded(float64(e.Width*e.Height)/100, 1), e.Inked(u.Ink)*100)
	case craft.PerPower:
		return fmt.Sprintf("%s W for %s min of set-up, shared by %d, and %s min a piece", plain(u.Quantity), plain(s.SetupMinutes), c.Good, plain(s.MinutesPerPiece))
	}
	if m.Unit == stock.Piece {
		return fmt.Sprintf("%s for each piece%s", plain(u.Quantity), lasts)
	}
	return fmt.Sprintf("%s %s for each piece%s", plain(u.Quantity), m.Unit, lasts)
}

func prints(n float64, plain func(float64) string) string {
	switch {
	case n == 1:
		return "1 print"
	case n < 1:
		return "a print goes " + plain(1/n) + " sheets"
	}
	return plain(n) + " prints"
}

// howLong says what hands are on the step, and at what rate.
func (b Basis) howLong(s craft.Step, kind cost.Kind, c Costing) string {
	plain := b.Workshop.Habit.Number
	rate, setup := b.Workshop.LabourPerHour, ""
	if kind == cost.Overhead {
		rate = b.Workshop.OverheadPerHour
	}
	if s.SetupMinutes > 0 {
		setup = fmt.Sprintf("%s min of set-up a lot, shared by %d, and ", plain(s.SetupMinutes), c.Good)
	}
	return fmt.Sprintf("%s%s min a piece, at %s an hour", setup, plain(s.MinutesPerPiece), b.Workshop.Money(rate))
}
