package batches

import (
	"fmt"
	"slices"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
)

// PiecesByWant maps the pieces made for open and lately closed wants.
func PiecesByWant(tx *gorm.DB, wants []uint64) (map[uint64]Piece, error) {
	var pieces []Piece
	if err := tx.Where("want_id IN ?", wants).Find(&pieces).Error; err != nil {
		return nil, fmt.Errorf("reading the pieces of orders: %w", err)
	}
	byWant := make(map[uint64]Piece, len(pieces))
	for _, p := range pieces {
		byWant[*p.WantID] = p
	}
	return byWant, nil
}

// PiecesServing maps the pieces made for wants, and counts what lies spare and
// plain of each product.
func PiecesServing(tx *gorm.DB, wants []uint64) (byWant map[uint64]Piece, spare map[uint64]int, err error) {
	var pieces []Piece
	err = tx.Where("want_id IN ?", wants).Or("want_id IS NULL AND state = ? AND lettering = '' AND artwork_id IS NULL", PieceFinished).Find(&pieces).Error
	if err != nil {
		return nil, nil, fmt.Errorf("reading the pieces of orders and the shelf: %w", err)
	}
	byWant, spare = make(map[uint64]Piece, len(pieces)), map[uint64]int{}
	for _, p := range pieces {
		if p.WantID == nil {
			spare[p.ProductID]++
		} else {
			byWant[*p.WantID] = p
		}
	}
	return byWant, spare, nil
}

// Begun tells whether work has been done on a piece, or is being done.
func Begun(tx *gorm.DB, p Piece) (bool, error) {
	if p.State != PieceWorking || p.LotID == nil {
		return true, nil
	}
	var runs int64
	if err := tx.Model(&Run{}).Where("lot_id = ?", *p.LotID).Count(&runs).Error; err != nil {
		return false, fmt.Errorf("looking for work on a piece: %w", err)
	}
	var l Lot
	if err := tx.First(&l, *p.LotID).Error; err != nil {
		return false, fmt.Errorf("reading a piece's lot: %w", err)
	}
	return runs > 0 || l.SplitFromRun != nil, nil
}

// Printed tells whether a piece's print has been made, or is being made.
func Printed(tx *gorm.DB, p Piece) (bool, error) {
	if p.State != PieceWorking || p.LotID == nil {
		return true, nil
	}
	l, b, err := loadLot(tx, *p.LotID)
	if err != nil {
		return false, err
	}
	at := b.printStep()
	if at < 0 || l.NextStep != at {
		return l.NextStep > at, nil
	}
	run, err := openRun(tx, l.ID)
	return run != nil, err
}

// printStep is the step at which prints are made; -1 where there is none.
func (b Batch) printStep() int {
	return slices.IndexFunc(b.Recipe.Steps, func(s craft.Step) bool { return s.Does(craft.PrintOut) })
}

// mustHavePictures refuses to print pieces whose customers' pictures have not come.
func mustHavePictures(b Batch, step int, pieces []Piece) error {
	if !b.OwnPictures || step != b.printStep() {
		return nil
	}
	missing := 0
	for _, p := range pieces {
		if p.ArtworkID == nil {
			missing++
		}
	}
	if missing == 0 {
		return nil
	}
	return problem.Conflict(problem.NoPicture, "In this lot the pictures of %s are missing. Ask the customer, and put them in on the order.", measure.Count(missing, "piece"))
}

// Unserved reads the wants of open orders for which there is no piece, soonest due first.
func Unserved(tx *gorm.DB) ([]orders.OpenWant, error) {
	wants, err := orders.Wanted(tx)
	if err != nil {
		return nil, err
	}
	served, err := PiecesByWant(tx, database.IDs(wants, func(w orders.OpenWant) uint64 { return w.WantID }))
	if err != nil {
		return nil, err
	}
	return slices.DeleteFunc(wants, func(w orders.OpenWant) bool {
		_, is := served[w.WantID]
		return is
	}), nil
}

// ForgetWants lets what steps did for wants that are no more have been for nobody.
func ForgetWants(tx *gorm.DB, wants []uint64) error {
	if err := tx.Model(&Outcome{}).Where("want_id IN ?", wants).Update("want_id", nil).Error; err != nil {
		return fmt.Errorf("freeing what was done for a piece: %w", err)
	}
	return nil
}

// ShelfGroup is the spare pieces that came from the same place.
type ShelfGroup struct {
	BatchID uint64 `json:"batchId" doc:"0 for what was found at a count"`
	Batch   int    `json:"batch" doc:"the batch's number; 0 for what was found at a count"`
	// Lettering is the name on a piece whose order was cancelled; empty on plain ones.
	Lettering  string           `json:"lettering"`
	Pieces     int              `json:"pieces"`
	FinishedAt time.Time        `json:"finishedAt"`
	UnitCost   *decimal.Decimal `json:"unitCost,omitempty" seen:"makers" doc:"left out while the batch is open"`
}

// FinishedGroup is finished pieces that came from the same place, of an order or of none.
type FinishedGroup struct {
	ProductID uint64
	ShelfGroup
	SetAside bool
}

// FinishedPieces counts the finished pieces of a product, or of all, by where they came from.
func FinishedPieces(tx *gorm.DB, productID uint64) (groups []FinishedGroup, err error) {
	q := tx.Table("pieces").
		Select(`pieces.product_id, COALESCE(batches.id, 0) AS batch_id, COALESCE(batches.number, 0) AS batch, pieces.lettering, pieces.want_id IS NOT NULL AS set_aside,
			COUNT(*) AS pieces, MAX(pieces.finished_at) AS finished_at, pieces.unit_cost`).
		Joins("LEFT JOIN batches ON batches.id = pieces.batch_id").Where("pieces.state = ?", PieceFinished)
	if productID != 0 {
		q = q.Where("pieces.product_id = ?", productID)
	}
	err = q.Group("pieces.product_id, batches.id, pieces.lettering, pieces.want_id IS NOT NULL, pieces.unit_cost").Order("finished_at, batch, pieces.lettering").Scan(&groups).Error
	if err != nil {
		return nil, fmt.Errorf("reading the shelf: %w", err)
	}
	return groups, nil
}

// Spare reads the finished pieces of a product that no order has, the oldest first.
func Spare(tx *gorm.DB, productID uint64) (pieces []Piece, err error) {
	err = tx.Where("product_id = ? AND state = ? AND want_id IS NULL", productID, PieceFinished).Order("finished_at, id").Find(&pieces).Error
	if err != nil {
		return nil, fmt.Errorf("reading the shelf: %w", err)
	}
	return pieces, nil
}

// SpareLike reads the spare pieces of a product that bear this lettering; plain ones bear none.
func SpareLike(tx *gorm.DB, productID uint64, lettering string) (pieces []Piece, err error) {
	all, err := Spare(tx, productID)
	for _, p := range all {
		if p.Lettering == lettering {
			pieces = append(pieces, p)
		}
	}
	return pieces, err
}

// SetState moves pieces to a state.
func SetState(tx *gorm.DB, pieces []Piece, state PieceState) error {
	if err := tx.Model(&Piece{}).Where("id IN ?", database.IDs(pieces, func(p Piece) uint64 { return p.ID })).Update("state", state).Error; err != nil {
		return fmt.Errorf("saving pieces: %w", err)
	}
	return nil
}

// PutFound adds finished pieces that belong to no batch, and gives them with their numbers.
func PutFound(tx *gorm.DB, productID uint64, n int, at time.Time, each decimal.Decimal) ([]Piece, error) {
	found := make([]Piece, n)
	for i := range found {
		found[i] = Piece{ProductID: productID, State: PieceFinished, FinishedAt: &at, UnitCost: &each}
	}
	if err := tx.CreateInBatches(found, 500).Error; err != nil {
		return nil, fmt.Errorf("adding what was found: %w", err)
	}
	return found, nil
}

// LatestCost is what the latest finished piece of a product cost; nil while no
// batch of it has been closed.
func LatestCost(tx *gorm.DB, productID uint64) (*decimal.Decimal, error) {
	var latest []Piece
	if err := tx.Where("product_id = ? AND unit_cost IS NOT NULL", productID).Order("finished_at DESC, id DESC").Limit(1).Find(&latest).Error; err != nil {
		return nil, fmt.Errorf("reading what pieces cost: %w", err)
	}
	if len(latest) == 0 {
		return nil, nil
	}
	return latest[0].UnitCost, nil
}

// PiecesByID reads pieces.
func PiecesByID(tx *gorm.DB, ids []uint64) (pieces []Piece, err error) {
	if err := tx.Where("id IN ?", ids).Order("id").Find(&pieces).Error; err != nil {
		return nil, fmt.Errorf("reading pieces: %w", err)
	}
	return pieces, nil
}

// Called names a piece, by what is on it or by its number.
func (p Piece) Called() string {
	if p.Lettering != "" {
		return "“" + p.Lettering + "”"
	}
	return fmt.Sprintf("piece %d", p.Number)
}
