package products

import (
	"fmt"
	"maps"
	"slices"
	"strconv"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/check"
	"tidykiln/core/cost"
	"tidykiln/core/craft"
	"tidykiln/core/measure"
)

// usualBatch is the number of pieces in which costs are compared.
const usualBatch = 12

// Card is a product in the gallery.
type Card struct {
	Product
	Describe      string `json:"describe" doc:"method, blank and look in words"`
	Cost          string `json:"cost" doc:"of one good piece, in twelves"`
	EarnedPerHour string `json:"earnedPerHour" doc:"at the product's price; empty without hands-on time"`
	HandsMinutes  string `json:"handsMinutes" doc:"hands-on minutes of one good piece, in twelves"`
	// LayToHandOverMinutes is for twelve pieces at usual rests.
	LayToHandOverMinutes int    `json:"layToHandOverMinutes"`
	MethodName           string `json:"methodName"`
	// Worst is the gravest level among the findings nobody has overruled, the
	// room's aside; empty without any.
	Worst check.Level `json:"worst"`
}

// Detail is a product with all that its page shows.
type Detail struct {
	Card
	RecipeNumber int       `json:"recipeNumber"`
	Versions     []Version `json:"versions" nullable:"false" doc:"of the recipe, newest first"`
	// Draft is the recipe as it is saved, with what it comes to.
	Draft     Draft          `json:"draft"`
	Mirror    string         `json:"mirror" enum:"mirrored,as-is" doc:"what the print must be"`
	Schools   []craft.School `json:"schools" nullable:"false"`
	Overrides []Override     `json:"overrides" nullable:"false" doc:"withdrawn ones too"`
}

// CostLine is a part of what a piece costs, and how it was worked out.
type CostLine struct {
	Kind   string `json:"kind" enum:"blank,material,labour,overhead,spoils"`
	Name   string `json:"name"`
	How    string `json:"how"`
	Amount string `json:"amount"`
}

// CurvePoint is the cost of a piece in batches of a size.
type CurvePoint struct {
	Pieces int    `json:"pieces"`
	Cost   string `json:"cost"`
}

// Costing is a cost with the price that is really asked.
type Costing struct {
	Answer cost.Answer
	// EarnedPerHour is at the product's own price.
	EarnedPerHour string
	HandsMinutes  decimal.Decimal
}

// Problem translates a product's recipe into the core's question for good pieces.
func (b Basis) Problem(p Product, good int) cost.Problem {
	w := b.Workshop
	question := cost.Problem{
		Format: cost.ProblemFormat, Currency: w.Currency, GoodPieces: good,
		LabourPerHour: cost.MoneyOf(w.LabourPerHour), OverheadPerHour: cost.MoneyOf(w.OverheadPerHour),
		Selling: &cost.Selling{FeePercent: cost.Quantity{Decimal: w.FeePercent}, FeeFixed: cost.MoneyOf(w.FeeFixed), MarginPercent: cost.Quantity{Decimal: w.MarginPercent}},
	}
	used := map[string]bool{}
	for _, s := range p.Recipe.Document.Steps {
		yield := cost.QuantityOf(s.Yield)
		stage := cost.Stage{ID: s.ID, Yield: &yield, SetupMinutes: cost.QuantityOf(s.SetupMinutes), MinutesPerPiece: cost.QuantityOf(s.MinutesPerPiece)}
		for _, u := range s.Uses {
			used[u.Material] = true
			if u.Per == craft.PerBatch {
				stage.PerBatch = append(stage.PerBatch, cost.Use{Material: u.Material, Quantity: cost.QuantityOf(u.Quantity)})
				continue
			}
			stage.PerPiece = append(stage.PerPiece, cost.Use{Material: u.Material, Quantity: cost.QuantityOf(u.PerPieceQuantity(craft.ExtentOf(p.Blank, p.Picture)))})
		}
		question.Stages = append(question.Stages, stage)
	}
	for _, key := range slices.Sorted(maps.Keys(used)) {
		m := b.Materials[key]
		question.Materials = append(question.Materials, cost.Material{ID: key, Unit: m.Unit, Purchases: []cost.Purchase{{Quantity: cost.QuantityOf(1), Price: cost.MoneyOf(m.UnitCost)}}})
	}
	return question
}

// Cost works out what good pieces of a product cost, made in one batch.
func (b Basis) Cost(p Product, good int) (Costing, error) {
	question := b.Problem(p, good)
	answer, err := cost.Compute(question)
	if err != nil {
		return Costing{}, fmt.Errorf("costing %s: %w", p.Name, err)
	}
	c := Costing{Answer: answer}
	pieces := decimal.NewFromInt(int64(good))
	for i, s := range question.Stages {
		c.HandsMinutes = c.HandsMinutes.Add(s.SetupMinutes.Add(s.MinutesPerPiece.Mul(answer.Started[i].Pieces.Decimal)).Div(pieces))
	}
	total, labour := decimal.RequireFromString(answer.PerPiece.Total), decimal.RequireFromString(answer.PerPiece.Labour)
	if earned, ok := question.Selling.EarnedPerHour(p.Price, total, labour, c.HandsMinutes); ok {
		c.EarnedPerHour = earned.StringFixed(2)
	}
	return c, nil
}

// Card sums a product up.
func (b Basis) Card(p Product, overrides []Override) (Card, error) {
	costing, err := b.Cost(p, usualBatch)
	if err != nil {
		return Card{}, err
	}
	method := b.Methods[p.Method]
	return Card{
		Product:              p,
		Describe:             fmt.Sprintf("%s on %s, %s, %s", method.Name, p.Blank.Surface.Words(), p.Blank.Shape.Describe(b.Workshop.Units), p.Look),
		Cost:                 rounded(costing.Answer.PerPiece.Total),
		EarnedPerHour:        costing.EarnedPerHour,
		HandsMinutes:         costing.HandsMinutes.StringFixed(1),
		LayToHandOverMinutes: p.Recipe.Document.LayToHandOver(usualBatch),
		MethodName:           method.Name,
		Worst:                worst(b.withoutRoom().Findings(p, overrides)),
	}, nil
}

// worst is the gravest level among the findings that nobody has overruled.
func worst(findings []Finding) check.Level {
	var open []check.Finding
	for _, f := range findings {
		if f.Override == nil {
			open = append(open, f.Finding)
		}
	}
	return check.Worst(open)
}

func (a *Area) detail(tx *gorm.DB, id uint64) (d Detail, err error) {
	p, b, err := a.load(tx, id)
	if err != nil {
		return d, err
	}
	if d.Overrides, err = allOverrides(tx, id); err != nil {
		return d, err
	}
	if d.Versions, err = versions(tx, id); err != nil {
		return d, err
	}
	if d.Card, err = b.Card(p, d.Overrides); err != nil {
		return d, err
	}
	if d.Draft, err = b.draftOf(p, d.Overrides); err != nil {
		return d, err
	}
	method := b.Methods[p.Method]
	d.RecipeNumber, d.Mirror, d.Schools = p.Recipe.Number, mirror(method, p.Blank), entryOf(method, 0).Schools
	return d, nil
}

// curve is the cost of a piece over the size of the batch.
func (b Basis) curve(p Product) (points []CurvePoint, err error) {
	for _, pieces := range []int{1, 2, 3, 4, 6, 8, 10, 12, 16, 20, 24, 30, 36, 42, 48} {
		at, err := b.Cost(p, pieces)
		if err != nil {
			return nil, err
		}
		points = append(points, CurvePoint{pieces, rounded(at.Answer.PerPiece.Total)})
	}
	return points, nil
}

// lines splits the cost of a piece, in twelves: what a flawless piece takes, and the spoils apart.
func (b Basis) lines(p Product, c Costing) []CostLine {
	var order []string
	amount, quantity, how := map[string]decimal.Decimal{}, map[string]float64{}, map[string]string{}
	for _, s := range p.Recipe.Document.Steps {
		for _, u := range s.Uses {
			if _, seen := amount[u.Material]; !seen {
				order = append(order, u.Material)
			}
			q := u.PerPieceQuantity(craft.ExtentOf(p.Blank, p.Picture))
			if u.Per == craft.PerBatch {
				q = u.Quantity / usualBatch
			}
			quantity[u.Material] += q
			amount[u.Material] = amount[u.Material].Add(b.Materials[u.Material].UnitCost.Mul(decimal.NewFromFloat(q)))
			how[u.Material] = b.how(u, craft.ExtentOf(p.Blank, p.Picture), quantity[u.Material])
		}
	}
	var lines []CostLine
	flawless := decimal.Zero
	for _, key := range order {
		kind := "material"
		if b.Materials[key].Kind == "blank" {
			kind = "blank"
		}
		lines = append(lines, CostLine{kind, b.Materials[key].Name, how[key], amount[key].StringFixed(2)})
		flawless = flawless.Add(amount[key])
	}
	minutes := flawlessMinutes(p.Recipe.Document)
	hours := decimal.NewFromFloat(minutes).Div(decimal.NewFromInt(60))
	return append(lines,
		CostLine{"labour", "Your time", fmt.Sprintf("%s min at %s an hour", strconv.FormatFloat(minutes, 'f', 1, 64), b.Workshop.LabourPerHour.StringFixed(2)), hours.Mul(b.Workshop.LabourPerHour).StringFixed(2)},
		CostLine{"overhead", "Room and tools", "at " + b.Workshop.OverheadPerHour.StringFixed(2) + " an hour", hours.Mul(b.Workshop.OverheadPerHour).StringFixed(2)},
		CostLine{"spoils", "Spoils", fmt.Sprintf("%.0f in 100 do not come through", 100*(1-p.Recipe.Document.SurvivalFrom(0))), rounded(c.Answer.SpoilShare)},
	)
}

// how says what the last use of a material adds up to.
func (b Basis) how(u craft.Use, e craft.Extent, total float64) string {
	m := b.Materials[u.Material]
	switch u.Per {
	case craft.PerCoat:
		area := e.Area(u.Faces...)
		return fmt.Sprintf("%s in all; a coat is %.0f cm² × %s + %.0f %%", measure.Volume(total).Format(b.Workshop.Units), area.CM2(), u.Film.Format(measure.Metric), craft.CoatWaste*100)
	case craft.PerBatch:
		return fmt.Sprintf("%s %s a batch, over %d", strconv.FormatFloat(u.Quantity, 'f', -1, 64), m.Unit, usualBatch)
	}
	return fmt.Sprintf("%s %s", strconv.FormatFloat(total, 'f', -1, 64), m.Unit)
}

func flawlessMinutes(r craft.Recipe) float64 {
	minutes := 0.0
	for _, s := range r.Steps {
		minutes += s.SetupMinutes/usualBatch + s.MinutesPerPiece
	}
	return minutes
}

// rounded shows a four-decimal amount in cents.
func rounded(amount string) string { return decimal.RequireFromString(amount).StringFixed(2) }
