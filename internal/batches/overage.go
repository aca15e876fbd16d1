package batches

import (
	"context"
	"fmt"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/cost"
	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/core/yield"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

// Tally is how many pieces of a product went all the way, and how many of them were lost.
type Tally struct{ Made, Spoiled int }

// Logbook is what has become of the pieces of each product, over all versions of its recipe.
type Logbook map[uint64]Tally

// LoadLogbook counts the pieces of lots that are through.
func LoadLogbook(tx *gorm.DB) (Logbook, error) {
	var rows []struct {
		ProductID uint64
		Made      int
		Spoiled   int
	}
	err := tx.Table("pieces").Select("batches.product_id, COUNT(*) AS made, SUM(pieces.state = ?) AS spoiled", PieceSpoiled).
		Joins("JOIN lots ON lots.id = pieces.lot_id AND lots.closed_at IS NOT NULL").Joins("JOIN batches ON batches.id = pieces.batch_id").
		Where("pieces.state <> ?", PieceAbandoned).Group("batches.product_id").Scan(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("reading the logbook: %w", err)
	}
	log := make(Logbook, len(rows))
	for _, r := range rows {
		log[r.ProductID] = Tally{r.Made, r.Spoiled}
	}
	return log, nil
}

// enoughLogged is how many pieces must have gone through before the logbook is
// believed over the recipe's own yields.
const enoughLogged = 20

// question is how many to start of a product, from its logbook or its recipe's yields.
func (l Logbook) question(p products.Product, good int, confidence float64) (yield.Problem, string) {
	q := yield.Problem{Good: good, Confidence: confidence, Distinct: p.Distinct()}
	tally := l[p.ID]
	if tally.Made >= enoughLogged && tally.Spoiled < tally.Made {
		q.Made, q.Spoiled = &tally.Made, &tally.Spoiled
		return q, fmt.Sprintf("from your logbook: of %s that went through, %d were lost", measure.Count(tally.Made, "piece"), tally.Spoiled)
	}
	survive := p.Recipe.Document.SurvivalFrom(0)
	q.Yield = &survive
	return q, fmt.Sprintf("from the yields written in the recipe, %.0f in 100 survive; the logbook takes over once %d have gone through (so far %d)", survive*100, enoughLogged, tally.Made)
}

// Start is how many pieces to start for good ones, at a confidence: as many as
// are wanted where each is a name of its own, and never more than a batch holds.
func (l Logbook) Start(p products.Product, good int, confidence float64) int {
	if good == 0 || p.Distinct() {
		return good
	}
	q, _ := l.question(p, good, confidence)
	a, err := yield.Compute(q)
	if err != nil {
		return min(good, craft.MostPieces)
	}
	return max(good, min(a.Start, craft.MostPieces))
}

// Overage is how many to start for good pieces of a product, and what it is worth.
type Overage struct {
	yield.Answer
	Good       int     `json:"good"`
	Confidence float64 `json:"confidence"`
	From       string  `json:"from" doc:"what the chance of a spoil is taken from, in words"`
	// OneMore is what starting one more piece costs, OneShort what a second run for a single piece does.
	OneMore  string `json:"oneMore"`
	OneShort string `json:"oneShort"`
	// Pays is the confidence beyond which one more costs more than it saves, from 0 to 1.
	Pays float64 `json:"pays"`
}

// Overage works out how many to start; confidence 0 is the workshop's own.
func (a *Area) Overage(ctx context.Context, productID uint64, good int, confidence float64) (o Overage, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		p, err := products.Load(tx, productID)
		if err != nil {
			return err
		}
		basis, err := a.products.Basis(tx, a.now())
		if err != nil {
			return err
		}
		log, err := LoadLogbook(tx)
		if err != nil {
			return err
		}
		if confidence == 0 {
			confidence = basis.Workshop.Confidence
		}
		o, err = overageOf(basis, p, log, good, confidence)
		return err
	})
	return o, err
}

func overageOf(b products.Basis, p products.Product, log Logbook, good int, confidence float64) (o Overage, err error) {
	if good < 1 || good >= craft.MostPieces {
		return o, problem.Invalid("good", "from 1 to %d pieces", craft.MostPieces-1)
	}
	var q yield.Problem
	q, from := log.question(p, good, confidence)
	answer, err := yield.Compute(q)
	if err != nil {
		return o, problem.Faulty("", err)
	}
	o = Overage{Answer: answer, Good: good, Confidence: confidence, From: from}
	sums := make([]decimal.Decimal, 0, 3)
	for _, pieces := range []int{good, good + 1, 1} {
		c, err := b.Cost(p, pieces)
		if err != nil {
			return o, err
		}
		sums = append(sums, c.Sum())
	}
	more := decimal.Max(decimal.Zero, sums[1].Sub(sums[0])).Mul(cost.QuantityOf(p.Recipe.Document.SurvivalFrom(0)).Decimal)
	short := sums[2]
	o.OneMore, o.OneShort = more.StringFixed(2), short.StringFixed(2)
	if all := more.Add(short); all.IsPositive() {
		o.Pays = short.DivRound(all, 4).InexactFloat64()
	}
	return o, nil
}

// Proof is what has been through removal for a product.
type Proof struct {
	ProductID uint64
	Signature string
}

// Proven are what runs have been through the step that proves it.
func Proven(tx *gorm.DB) (map[Proof]bool, error) {
	var rows []Proof
	err := tx.Table("batches").Distinct("batches.product_id, batches.signature").
		Joins("JOIN lots ON lots.batch_id = batches.id").
		Joins("JOIN runs ON runs.lot_id = lots.id AND runs.ended_at IS NOT NULL AND runs.step >= batches.proof_step").
		Scan(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("reading what has been through removal: %w", err)
	}
	proven := map[Proof]bool{}
	for _, r := range rows {
		proven[r] = true
	}
	return proven, nil
}
