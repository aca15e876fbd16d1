package cost

import (
	"slices"

	"tidykiln/core/fault"

	"github.com/shopspring/decimal"
)

// Work is a recipe from which the problem of a batch of any size is written:
// some things are taken in whole ones, and every lot is set up for again.
type Work struct {
	Currency                       string
	LabourPerHour, OverheadPerHour Money
	Materials                      []Material
	Stages                         []WorkStage
	// LotSize is the most pieces that are worked together; 0 means all of them.
	LotSize int
	// Packs are what materials come in; the curve says where another one begins.
	Packs   []Pack
	Selling *Selling
}

// Pack is how much of a material, in its unit, a pack of it holds; over 0.
type Pack struct {
	Material string
	Quantity Quantity
}

// WorkStage is a stage, and what it takes in whole ones.
type WorkStage struct {
	Stage
	PerWhole []WholeUse
}

// WholeUse is a quantity of a material taken once for every Every pieces begun:
// a sheet of prints, a pot that is mixed. Every is over 0.
type WholeUse struct {
	Use
	Every Quantity
}

// Problem is the question what good pieces cost when they are made in one batch.
func (w Work) Problem(good int) Problem {
	p := Problem{Format: ProblemFormat, Currency: w.Currency, GoodPieces: good, LabourPerHour: w.LabourPerHour, OverheadPerHour: w.OverheadPerHour,
		Materials: w.Materials, Selling: w.Selling, Stages: make([]Stage, len(w.Stages))}
	for i, s := range w.Stages {
		p.Stages[i] = s.Stage
	}
	started := startedPieces(p, true)
	lots := w.lots(started)
	for i, s := range w.Stages {
		stage := &p.Stages[i]
		stage.SetupMinutes = Quantity{Decimal: s.SetupMinutes.Mul(lots)}
		stage.PerBatch = slices.Clone(s.PerBatch)
		for _, u := range s.PerWhole {
			stage.PerBatch = append(stage.PerBatch, Use{u.Material, Quantity{Decimal: u.Quantity.Mul(wholes(started[i], u.Every.Decimal))}})
		}
	}
	return p
}

// lots is how many lots the pieces started are worked in.
func (w Work) lots(started []decimal.Decimal) decimal.Decimal {
	if w.LotSize < 1 || len(started) == 0 {
		return one
	}
	return wholes(started[0], decimal.NewFromInt(int64(w.LotSize)))
}

// wholes is how many are opened for pieces when each does for every of them.
// Expected pieces are no whole number; the last digits of a division aside,
// every begun one counts.
func wholes(pieces, every decimal.Decimal) decimal.Decimal {
	return pieces.DivRound(every, precision).Round(9).Ceil()
}

// Point is the cost of a good piece when a number of them is made in one batch,
// and what is begun at that size.
type Point struct {
	Pieces int
	Cost   decimal.Decimal
	Begins []Begin
}

// Begin is another whole one that a batch of this size begins, and one piece
// less does not. Material is empty for another lot; Pack says that it is a pack.
type Begin struct {
	Material string
	Pack     bool
	Count    int
}

// most is the longest curve that is drawn.
const mostPoints = 5000

// Curve is the cost of a good piece in batches of 1 to upTo pieces.
func (w Work) Curve(upTo int) ([]Point, error) {
	if upTo < 1 || upTo > mostPoints {
		return nil, fault.At("pieces", "must be from 1 to %d", mostPoints)
	}
	if err := w.Problem(upTo).validate(); err != nil {
		return nil, err
	}
	t := w.terms()
	points := make([]Point, upTo)
	before := t.at(decimal.Zero, size{packs: make([]int64, len(t.packs))})
	for n := 1; n <= upTo; n++ {
		good := decimal.NewFromInt(int64(n))
		at := t.at(good, before)
		points[n-1] = Point{Pieces: n, Cost: at.total.DivRound(good, precision)}
		if n > 1 {
			points[n-1].Begins = t.begins(before, at)
		}
		before = at
	}
	return points, nil
}

// terms split what a batch costs by how it grows: for each good piece, once,
// and for each whole one begun.
type terms struct {
	perPiece, once decimal.Decimal
	wholes         []term
	packs          []packTerm
}

// packTerm is how much of a material that comes in packs a batch takes, by how
// that grows; whole has the quantity of each of the terms' wholes.
type packTerm struct {
	material             string
	perPiece, once, pack decimal.Decimal
	whole                []decimal.Decimal
}

// term is an amount for every so many pieces begun, begun pieces being factor
// times the good ones.
type term struct {
	material              string
	amount, factor, every decimal.Decimal
}

func (w Work) terms() terms {
	costs := unitCosts(w.Materials)
	p := w.Problem(1)
	factors := startedPieces(p, true)
	perHour := w.LabourPerHour.Add(w.OverheadPerHour.Decimal)
	setup := decimal.Zero
	var t terms
	for i, s := range w.Stages {
		each := s.MinutesPerPiece.Mul(perHour).DivRound(sixty, precision)
		for _, u := range s.PerPiece {
			each = each.Add(u.Quantity.Mul(costs[u.Material]))
		}
		for _, u := range s.PerBatch {
			t.once = t.once.Add(u.Quantity.Mul(costs[u.Material]))
		}
		for _, u := range s.PerWhole {
			t.wholes = append(t.wholes, term{u.Material, u.Quantity.Mul(costs[u.Material]), factors[i], u.Every.Decimal})
		}
		if s.Outside != nil {
			each, t.once = each.Add(s.Outside.PerPiece.Decimal), t.once.Add(s.Outside.PerBatch.Decimal)
		}
		t.perPiece = t.perPiece.Add(each.Mul(factors[i]))
		setup = setup.Add(s.SetupMinutes.Mul(perHour).DivRound(sixty, precision))
	}
	if w.LotSize < 1 || len(factors) == 0 {
		t.once = t.once.Add(setup)
	} else {
		t.wholes = append(t.wholes, term{"", setup, factors[0], decimal.NewFromInt(int64(w.LotSize))})
	}
	for _, pack := range w.Packs {
		t.packs = append(t.packs, w.packTerm(pack, factors, len(t.wholes)))
	}
	return t
}

func (w Work) packTerm(pack Pack, factors []decimal.Decimal, wholes int) packTerm {
	t := packTerm{material: pack.Material, pack: pack.Quantity.Decimal, whole: make([]decimal.Decimal, 0, wholes)}
	of := func(u Use) decimal.Decimal {
		if u.Material != pack.Material {
			return decimal.Zero
		}
		return u.Quantity.Decimal
	}
	for i, s := range w.Stages {
		for _, u := range s.PerPiece {
			t.perPiece = t.perPiece.Add(of(u).Mul(factors[i]))
		}
		for _, u := range s.PerBatch {
			t.once = t.once.Add(of(u))
		}
		for _, u := range s.PerWhole {
			t.whole = append(t.whole, of(u.Use))
		}
	}
	return t
}

// nearly is less than what counts as begun, as in wholes.
var nearly = decimal.New(5, -10)

// begun is how many packs good pieces open, a smaller batch having opened so many.
func (t packTerm) begun(good decimal.Decimal, counts []int64, opened int64) int64 {
	taken := t.perPiece.Mul(good).Add(t.once)
	for i, quantity := range t.whole {
		if !quantity.IsZero() {
			taken = taken.Add(quantity.Mul(decimal.NewFromInt(counts[i])))
		}
	}
	for taken.GreaterThan(t.pack.Mul(decimal.NewFromInt(opened).Add(nearly))) {
		opened++
	}
	return opened
}

// size is what a batch of some size comes to.
type size struct {
	total         decimal.Decimal
	counts, packs []int64
}

// at is what good pieces come to; before is a smaller batch.
func (t terms) at(good decimal.Decimal, before size) size {
	s := size{t.perPiece.Mul(good).Add(t.once), make([]int64, len(t.wholes)), make([]int64, len(t.packs))}
	for i, w := range t.wholes {
		count := wholes(good.Mul(w.factor), w.every)
		s.total = s.total.Add(w.amount.Mul(count))
		s.counts[i] = count.IntPart()
	}
	for i, p := range t.packs {
		s.packs[i] = p.begun(good, s.counts, before.packs[i])
	}
	return s
}

// begins names what another one of is begun, each material once.
func (t terms) begins(before, now size) (begins []Begin) {
	for i, w := range t.wholes {
		if now.counts[i] > before.counts[i] && !slices.ContainsFunc(begins, func(b Begin) bool { return b.Material == w.material }) {
			begins = append(begins, Begin{Material: w.material, Count: int(now.counts[i])})
		}
	}
	for i, p := range t.packs {
		if now.packs[i] > before.packs[i] {
			begins = append(begins, Begin{Material: p.material, Pack: true, Count: int(now.packs[i])})
		}
	}
	return begins
}

// Enough is the smallest batch past which no bigger one on the curve saves more
// than a share of the piece's cost (0.03 for 3 %); 0 for an empty curve.
func Enough(points []Point, share float64) int {
	keep := one.Sub(decimal.NewFromFloat(share))
	enough := 0
	var least decimal.Decimal
	for i := len(points) - 1; i >= 0; i-- {
		if p := points[i]; enough == 0 || p.Cost.LessThan(least) {
			least = p.Cost
		}
		if points[i].Cost.Mul(keep).LessThanOrEqual(least) {
			enough = points[i].Pieces
		}
	}
	return enough
}
