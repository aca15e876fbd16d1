package batches

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/stock"
	"tidykiln/internal/database"
	"tidykiln/internal/products"
	"tidykiln/internal/stores"
	"tidykiln/internal/workshop"
)

// Account is a batch as it was planned and as it really went, as far as it has gone.
type Account struct {
	BatchID uint64 `json:"batchId"`
	Started int    `json:"started"`
	// Good are the pieces finished, Lost those spoiled; ExpectedGood is what the recipe's yields promised.
	Good         int               `json:"good"`
	Lost         int               `json:"lost"`
	ExpectedGood float64           `json:"expectedGood"`
	Steps        []AccountStep     `json:"steps" nullable:"false" doc:"those done by some lot"`
	Materials    []AccountMaterial `json:"materials" nullable:"false" doc:"those taken by steps done"`
	// PlannedCost and RealCost are of one good piece, over the steps done; RealCost is empty while none is good.
	PlannedCost string `json:"plannedCost" seen:"makers"`
	RealCost    string `json:"realCost" seen:"makers"`
	// ProductVersion is the product's as it is now, for taking over what was learnt.
	ProductVersion int      `json:"productVersion"`
	Moved          []string `json:"moved" nullable:"false" seen:"makers" doc:"what moved the cost of a piece, the most first, in words"`
	// each is RealCost to four decimals; nil while it is empty.
	each *decimal.Decimal
}

// AccountStep is a step's hands-on minutes.
type AccountStep struct {
	Step    string  `json:"step"`
	Planned float64 `json:"planned" doc:"the set-up as it was shared with other lots"`
	Real    float64 `json:"real"`
}

// AccountMaterial is what was to be taken of a material and what was.
type AccountMaterial struct {
	MaterialID  uint64          `json:"materialId"`
	MaterialKey string          `json:"materialKey"`
	Name        string          `json:"name"`
	Unit        stock.Unit      `json:"unit"`
	Planned     decimal.Decimal `json:"planned"`
	Real        decimal.Decimal `json:"real"`
	// Typed says that somebody has said what was really used.
	Typed bool `json:"typed"`
	// PerPiece and RealPerPiece are what a coat takes of a piece, where it is laid as a film; empty otherwise.
	PerPiece     string `json:"perPiece"`
	RealPerPiece string `json:"realPerPiece"`
	Pieces       int    `json:"pieces" doc:"that were coated; 0 where it is not laid as a film"`
}

// accountLine is a part of the cost, planned and real, in money of the whole batch.
type accountLine struct {
	what          string
	planned, real decimal.Decimal
}

// Account sets a batch as it went against its plan.
func (a *Area) Account(ctx context.Context, id uint64) (acc Account, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		acc, err = a.account(tx, id)
		return err
	})
	return acc, err
}

func (a *Area) account(tx *gorm.DB, id uint64) (acc Account, err error) {
	b, err := loadBatch(tx, id)
	if err != nil {
		return acc, err
	}
	basis, err := a.products.Basis(tx, a.now())
	if err != nil {
		return acc, err
	}
	acc = Account{BatchID: id, Steps: []AccountStep{}, Materials: []AccountMaterial{}, Moved: []string{}}
	if err := acc.countPieces(tx, b); err != nil {
		return acc, err
	}
	runs, err := runsOf(tx, id)
	if err != nil {
		return acc, err
	}
	moves, err := stores.UsedBy(tx, id)
	if err != nil {
		return acc, err
	}
	again, err := goneAgain(tx, runs)
	if err != nil {
		return acc, err
	}
	if acc.ProductVersion, err = products.VersionOf(tx, b.ProductID); err != nil {
		return acc, err
	}
	hours, err := workshop.HourCosts(tx, basis.Workshop)
	if err != nil {
		return acc, err
	}
	lots, err := lotsIn(tx, sittingsOf(runs))
	if err != nil {
		return acc, err
	}
	lines := append(acc.minutes(b, runs, lots, basis.Workshop, hours), acc.materials(b, runs, again, moves, basis)...)
	acc.sumUp(lines, basis.Workshop)
	return acc, nil
}

func (acc *Account) countPieces(tx *gorm.DB, b Batch) error {
	var pieces []Piece
	if err := tx.Where("batch_id = ?", b.ID).Find(&pieces).Error; err != nil {
		return fmt.Errorf("reading the pieces: %w", err)
	}
	acc.Started = len(pieces)
	for _, p := range pieces {
		switch p.State {
		case PieceFinished, PieceHandedOver, PieceGone:
			acc.Good++
		case PieceSpoiled:
			acc.Lost++
		}
	}
	acc.ExpectedGood = float64(acc.Started) * b.Recipe.SurvivalFrom(0)
	return nil
}

func runsOf(tx *gorm.DB, batchID uint64) (runs []Run, err error) {
	lots := tx.Model(&Lot{}).Select("id").Where("batch_id = ?", batchID)
	if err := tx.Where("lot_id IN (?) AND ended_at IS NOT NULL", lots).Order("started_at, id").Find(&runs).Error; err != nil {
		return nil, fmt.Errorf("reading the steps done: %w", err)
	}
	return runs, nil
}

// minutes sets the hands-on minutes of each step done against the recipe's, the
// set-up as it was shared with other lots; what that saved is told by itself. It
// was planned at what the studio's hour costs, and cost what the hour of those costs who did it.
func (acc *Account) minutes(b Batch, runs []Run, lots lotsDone, w workshop.Workshop, hours map[uint64]decimal.Decimal) (lines []accountLine) {
	perMinute := func(hour decimal.Decimal) decimal.Decimal {
		return hour.Add(w.OverheadPerHour).DivRound(decimal.NewFromInt(60), 20)
	}
	saved := 0.0
	for i, s := range b.Recipe.Steps {
		planned, really, cost, done := 0.0, 0.0, decimal.Zero, false
		for _, r := range runs {
			if r.Step == i {
				done = true
				shared := s.SetupMinutes / float64(lots.of(r.SittingID))
				saved += s.SetupMinutes - shared
				planned += shared + s.MinutesPerPiece*float64(r.Pieces)
				minutes := float64(r.WorkedSeconds) / 60
				really += minutes
				cost = cost.Add(decimal.NewFromFloat(minutes).Mul(perMinute(hours[r.PersonID])))
			}
		}
		if !done {
			continue
		}
		acc.Steps = append(acc.Steps, AccountStep{s.Name, tenth(planned), tenth(really)})
		lines = append(lines, accountLine{fmt.Sprintf("%s took %.0f min, planned %.0f", s.Name, really, planned),
			decimal.NewFromFloat(planned).Mul(perMinute(w.LabourPerHour)), cost})
	}
	return append(lines, accountLine{fmt.Sprintf("set-up shared with other lots saved %.0f min", saved),
		decimal.NewFromFloat(saved).Mul(perMinute(w.LabourPerHour)), decimal.Zero})
}

func tenth(v float64) float64 { return float64(int(v*10+0.5)) / 10 }

// materials sets what was taken from the stores against what the steps done should take.
func (acc *Account) materials(b Batch, runs []Run, again map[uint64]int, moves map[uint64]stores.Used, basis products.Basis) (lines []accountLine) {
	plan := plannedUse(b, runs, again, basis.Materials)
	for _, key := range plan.order {
		m := basis.Materials[key]
		used, known := moves[m.ID]
		if !known {
			used = stores.Used{Quantity: plan.quantity[key], UnitCost: m.UnitCost}
		}
		am := AccountMaterial{MaterialID: m.ID, MaterialKey: key, Name: m.Name, Unit: m.Unit, Planned: plan.quantity[key], Real: used.Quantity, Typed: used.Typed}
		if coated := plan.coated[key]; coated > 0 {
			pieces := decimal.NewFromInt(int64(coated))
			am.Pieces = coated
			am.PerPiece, am.RealPerPiece = am.Planned.DivRound(pieces, 2).String(), am.Real.DivRound(pieces, 2).String()
		}
		acc.Materials = append(acc.Materials, am)
		lines = append(lines, accountLine{fmt.Sprintf("%s: %s %s used, planned %s", m.Name, basis.Workshop.Habit.Written(am.Real.Round(2).String()), m.Unit, basis.Workshop.Habit.Written(am.Planned.Round(2).String())),
			am.Planned.Mul(used.UnitCost), am.Real.Mul(used.UnitCost)})
	}
	return lines
}

// use is what the steps done should take, by material in the order of the work.
type use struct {
	order    []string
	quantity map[string]decimal.Decimal
	// coated counts the pieces of runs in which a material was laid as a film, where it is only laid so.
	coated map[string]int
}

func plannedUse(b Batch, runs []Run, again map[uint64]int, materials stores.Materials) use {
	plan := use{quantity: map[string]decimal.Decimal{}, coated: map[string]int{}}
	begun := map[int]bool{}
	pieces := map[string]int{}
	for _, r := range runs {
		step := b.Recipe.Steps[r.Step]
		for _, d := range taken(b, step, materials, r.Pieces, again[r.ID], !begun[r.Step]) {
			if _, seen := plan.quantity[d.MaterialKey]; !seen {
				plan.order = append(plan.order, d.MaterialKey)
			}
			plan.quantity[d.MaterialKey] = plan.quantity[d.MaterialKey].Add(d.Quantity)
		}
		for _, u := range step.Uses {
			if u.Per == craft.PerCoat {
				pieces[u.Material] = max(pieces[u.Material], acrossLots(runs, r.Step))
			}
		}
		begun[r.Step] = true
	}
	plan.coated = pieces
	return plan
}

// goneAgain maps runs to how many of their pieces had been through the same
// step before, whose blanks are not taken twice.
func goneAgain(tx *gorm.DB, runs []Run) (map[uint64]int, error) {
	ids := database.IDs(runs, func(r Run) uint64 { return r.ID })
	var outcomes []Outcome
	if err := tx.Where("run_id IN ?", ids).Find(&outcomes).Error; err != nil {
		return nil, fmt.Errorf("reading how the pieces came out: %w", err)
	}
	pieces := map[uint64][]uint64{}
	for _, o := range outcomes {
		pieces[o.RunID] = append(pieces[o.RunID], o.PieceID)
	}
	through, again := map[[2]uint64]bool{}, map[uint64]int{}
	for _, r := range runs {
		for _, id := range pieces[r.ID] {
			if at := [2]uint64{uint64(r.Step), id}; through[at] {
				again[r.ID]++
			} else {
				through[at] = true
			}
		}
	}
	return again, nil
}

// acrossLots is how many pieces went through a step.
func acrossLots(runs []Run, step int) int {
	pieces := 0
	for _, r := range runs {
		if r.Step == step {
			pieces += r.Pieces
		}
	}
	return pieces
}

// sumUp is the cost of a good piece, planned and real, and what moved it.
func (acc *Account) sumUp(lines []accountLine, w workshop.Workshop) {
	planned, really := decimal.Zero, decimal.Zero
	for _, l := range lines {
		planned, really = planned.Add(l.planned), really.Add(l.real)
	}
	expected := decimal.NewFromFloat(acc.ExpectedGood)
	if !expected.IsPositive() {
		return
	}
	acc.PlannedCost = planned.DivRound(expected, 4).StringFixed(2)
	if acc.Good == 0 {
		return
	}
	good := decimal.NewFromInt(int64(acc.Good))
	acc.each = new(really.DivRound(good, 4))
	acc.RealCost = acc.each.StringFixed(2)
	lines = append(lines, accountLine{fmt.Sprintf("%d good of %d started, %s expected", acc.Good, acc.Started, w.Habit.Rounded(acc.ExpectedGood, 1)),
		really.DivRound(expected, 20).Mul(good), really})
	slices.SortStableFunc(lines, func(a, b accountLine) int {
		return cmp.Compare(b.by().Abs().InexactFloat64(), a.by().Abs().InexactFloat64())
	})
	for _, l := range lines {
		by := l.by().DivRound(good, 4)
		if by.Abs().LessThan(decimal.New(1, -2)) || len(acc.Moved) == mostMoved {
			break
		}
		way := "dearer"
		if by.IsNegative() {
			way = "cheaper"
		}
		acc.Moved = append(acc.Moved, fmt.Sprintf("%s %s a piece: %s", w.Money(by.Abs()), way, l.what))
	}
}

func (l accountLine) by() decimal.Decimal { return l.real.Sub(l.planned) }

// mostMoved is how many reasons are named.
const mostMoved = 6

// ReallyUsed is what a batch really took of a material, all its steps together.
type ReallyUsed struct {
	MaterialID uint64 `json:"materialId"`
	Quantity   string `json:"quantity" minLength:"1" maxLength:"60"`
	// AcceptShort puts stock that the stores did not know of on their books, and takes it.
	AcceptShort bool `json:"acceptShort,omitempty"`
}

// SayUsed corrects what a batch took of a material to what was really used.
func (a *Area) SayUsed(ctx context.Context, id uint64, in ReallyUsed) (acc Account, err error) {
	return database.Answer(ctx, a.db, database.Batches|database.Stores, func(tx *gorm.DB) (acc Account, err error) {
		b, err := loadBatch(tx, id)
		if err != nil {
			return acc, err
		}
		work := stores.Work{BatchID: id, At: a.now(), Note: fmt.Sprintf("really used, batch %d", b.Number), AcceptShort: in.AcceptShort}
		if err := a.stores.Correct(tx, work, in.MaterialID, in.Quantity); err != nil {
			return acc, err
		}
		if b.State != Open {
			if err := a.freezeCost(tx, id); err != nil {
				return acc, err
			}
		}
		acc, err = a.account(tx, id)
		return acc, err
	})
}

// freezeCost notes with the good pieces of a closed batch what each really cost.
func (a *Area) freezeCost(tx *gorm.DB, id uint64) error {
	acc, err := a.account(tx, id)
	if err != nil {
		return err
	}
	err = tx.Model(&Piece{}).Where("batch_id = ? AND state IN ?", id, []PieceState{PieceFinished, PieceHandedOver, PieceGone}).Update("unit_cost", acc.each).Error
	if err != nil {
		return fmt.Errorf("noting what the pieces cost: %w", err)
	}
	return nil
}
