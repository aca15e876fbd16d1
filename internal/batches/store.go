package batches

import (
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// Bench is everything under way, read at once.
type Bench struct {
	Batches map[uint64]Batch
	Lots    []Lot
	Pieces  []Piece
	Runs    []Run
	// lots and runs map IDs to places above; working and runsOf map lots to what is theirs.
	lots, runs map[uint64]int
	working    map[uint64][]Piece
	runsOf     map[uint64][]int
}

func (b *Bench) index() {
	b.lots, b.runs = make(map[uint64]int, len(b.Lots)), make(map[uint64]int, len(b.Runs))
	b.working, b.runsOf = map[uint64][]Piece{}, map[uint64][]int{}
	for i, l := range b.Lots {
		b.lots[l.ID] = i
	}
	for i, r := range b.Runs {
		b.runs[r.ID] = i
		b.runsOf[r.LotID] = append(b.runsOf[r.LotID], i)
	}
	for _, p := range b.Pieces {
		if p.LotID != nil && p.State == PieceWorking {
			b.working[*p.LotID] = append(b.working[*p.LotID], p)
		}
	}
}

// LoadBench reads all open batches, and those closed since a moment, with
// their lots, pieces and runs, in a fixed number of queries.
func LoadBench(tx *gorm.DB, closedSince time.Time) (b Bench, err error) {
	var batches []Batch
	if err := tx.Where("state = ? OR closed_at >= ?", Open, closedSince).Order("number").Find(&batches).Error; err != nil {
		return b, fmt.Errorf("reading the batches: %w", err)
	}
	return loadBench(tx, batches)
}

// loadBench reads what belongs to batches.
func loadBench(tx *gorm.DB, batches []Batch) (b Bench, err error) {
	b.Batches = make(map[uint64]Batch, len(batches))
	for _, batch := range batches {
		b.Batches[batch.ID] = batch
	}
	ids := database.IDs(batches, Batch.id)
	lots := tx.Model(&Lot{}).Select("id").Where("batch_id IN ?", ids)
	err = errors.Join(
		tx.Where("batch_id IN ?", ids).Order("batch_id, number").Find(&b.Lots).Error,
		tx.Where("batch_id IN ?", ids).Order("batch_id, number").Find(&b.Pieces).Error,
		tx.Where("lot_id IN (?)", lots).Order("started_at, id").Find(&b.Runs).Error,
	)
	if err != nil {
		return b, fmt.Errorf("reading the bench: %w", err)
	}
	b.index()
	return b, nil
}

// Lot finds a lot by its ID; nil when it is not at the bench.
func (b Bench) Lot(id uint64) *Lot {
	if i, known := b.lots[id]; known {
		return &b.Lots[i]
	}
	return nil
}

// RunsOf lists the runs of a lot in the order they began.
func (b Bench) RunsOf(lotID uint64) []*Run {
	runs := make([]*Run, 0, len(b.runsOf[lotID]))
	for _, i := range b.runsOf[lotID] {
		runs = append(runs, &b.Runs[i])
	}
	return runs
}

// OpenRun is the step a lot has in hand; nil when it has none.
func (b Bench) OpenRun(lotID uint64) *Run {
	for _, i := range b.runsOf[lotID] {
		if b.Runs[i].EndedAt == nil {
			return &b.Runs[i]
		}
	}
	return nil
}

// InHandWith are the steps in hand in one sitting with a run, itself among them.
func (b Bench) InHandWith(r Run) []*Run {
	if r.SittingID == nil {
		return []*Run{&r}
	}
	var with []*Run
	for i := range b.Runs {
		if o := &b.Runs[i]; o.EndedAt == nil && o.SittingID != nil && *o.SittingID == *r.SittingID {
			with = append(with, o)
		}
	}
	return with
}

// LastRun is the ended run whose rest the lot is in, or nil before its first.
// Steps done inside a rest do not end it.
func (b Bench) LastRun(l Lot) *Run {
	var last *Run
	steps := b.Batches[l.BatchID].Recipe.Steps
	own := b.runsOf[l.ID]
	if l.SplitFromRun != nil {
		if i, known := b.runs[*l.SplitFromRun]; known {
			own = append([]int{i}, own...)
		}
	}
	for _, i := range own {
		r := &b.Runs[i]
		if steps[r.Step].Inside == "" && r.EndedAt != nil && (last == nil || r.EndedAt.After(*last.EndedAt)) {
			last = r
		}
	}
	return last
}

// PiecesOf lists the pieces of a lot that are still worked on.
func (b Bench) PiecesOf(lotID uint64) []Piece { return b.working[lotID] }

func loadBatch(tx *gorm.DB, id uint64) (b Batch, err error) {
	err = tx.First(&b, id).Error
	return b, problem.OrNotFound(err, "batch")
}

func loadLot(tx *gorm.DB, id uint64) (l Lot, b Batch, err error) {
	if err := tx.First(&l, id).Error; err != nil {
		return l, b, problem.OrNotFound(err, "lot")
	}
	b, err = loadBatch(tx, l.BatchID)
	return l, b, err
}

func loadRun(tx *gorm.DB, id uint64) (r Run, l Lot, b Batch, err error) {
	if err := tx.First(&r, id).Error; err != nil {
		return r, l, b, problem.OrNotFound(err, "step in hand")
	}
	l, b, err = loadLot(tx, r.LotID)
	return r, l, b, err
}

// endedRuns are the ended runs that a lot has behind it, the latest first.
func endedRuns(tx *gorm.DB, l Lot) (runs []Run, err error) {
	q := tx.Where("lot_id = ? AND ended_at IS NOT NULL", l.ID)
	if l.SplitFromRun != nil {
		q = q.Or("id = ?", *l.SplitFromRun)
	}
	if err := q.Order("ended_at DESC, id DESC").Limit(mostBehind).Find(&runs).Error; err != nil {
		return nil, fmt.Errorf("reading the last runs: %w", err)
	}
	return runs, nil
}

// mostBehind is more than the steps that can lie inside one rest.
const mostBehind = 100

func openRun(tx *gorm.DB, lotID uint64) (*Run, error) {
	var runs []Run
	if err := tx.Where("lot_id = ? AND ended_at IS NULL", lotID).Limit(1).Find(&runs).Error; err != nil {
		return nil, fmt.Errorf("reading the step in hand: %w", err)
	}
	if len(runs) == 0 {
		return nil, nil
	}
	return &runs[0], nil
}

func workingPieces(tx *gorm.DB, lotID uint64) (pieces []Piece, err error) {
	if err := tx.Where("lot_id = ? AND state = ?", lotID, PieceWorking).Order("number").Find(&pieces).Error; err != nil {
		return nil, fmt.Errorf("reading the pieces: %w", err)
	}
	return pieces, nil
}

// saveRun writes a run as it was read in this transaction, and moves its version on.
func saveRun(tx *gorm.DB, r *Run) error {
	r.Version++
	err := tx.Model(&Run{}).Where("id = ?", r.ID).
		Select("StartedAt", "EndedAt", "RunningSince", "WorkedSeconds", "SittingID", "Share", "Ticked", "RiskMinutes", "RecordedAt", "Pieces", "Version",
			"StartCelsius", "StartHumidity", "RestedRun", "RestedMinutes", "RestCelsius", "RestLowest", "RestHumidity", "EnteredBy", "Device").Updates(r).Error
	if err != nil {
		return fmt.Errorf("saving the step: %w", err)
	}
	return nil
}

// SavePieces writes each of the pieces as it is.
func SavePieces(tx *gorm.DB, pieces []Piece) error {
	for _, p := range pieces {
		if err := tx.Model(&Piece{}).Where("id = ?", p.ID).Select("LotID", "Lettering", "State", "WantID", "FinishedAt", "ArtworkID").Updates(&p).Error; err != nil {
			return fmt.Errorf("saving a piece: %w", err)
		}
	}
	return nil
}

func saveLot(tx *gorm.DB, l Lot) error {
	if err := tx.Model(&Lot{}).Where("id = ?", l.ID).Select("NextStep", "ClosedAt").Updates(&l).Error; err != nil {
		return fmt.Errorf("saving the lot: %w", err)
	}
	return nil
}

func saveBatchState(tx *gorm.DB, b Batch, state State, closedAt *time.Time) error {
	err := tx.Model(&Batch{}).Where("id = ?", b.ID).
		Updates(map[string]any{"state": state, "closed_at": closedAt, "version": gorm.Expr("version + 1")}).Error
	if err != nil {
		return fmt.Errorf("saving the batch: %w", err)
	}
	return nil
}

func addEvent(tx *gorm.DB, batchID uint64, at time.Time, format string, args ...any) error {
	if err := tx.Create(&Event{BatchID: batchID, At: at, Text: fmt.Sprintf(format, args...)}).Error; err != nil {
		return fmt.Errorf("noting what happened: %w", err)
	}
	return nil
}

// EventsOf reads what happened to a batch.
func EventsOf(tx *gorm.DB, batchID uint64) (events []Event, err error) {
	if err := tx.Where("batch_id = ?", batchID).Order("at, id").Find(&events).Error; err != nil {
		return nil, fmt.Errorf("reading what happened: %w", err)
	}
	return events, nil
}

// EventsForWants reads what happened to the batches that have or had a piece for any of the wants.
func EventsForWants(tx *gorm.DB, wants []uint64) (events []Event, err error) {
	had := tx.Table("outcomes").Where("want_id IN ?", wants).Select("piece_id")
	ids := tx.Table("pieces").Where("want_id IN ?", wants).Or("id IN (?)", had).Select("batch_id")
	if err := tx.Where("batch_id IN (?)", ids).Order("at, id").Find(&events).Error; err != nil {
		return nil, fmt.Errorf("reading what happened: %w", err)
	}
	return events, nil
}

// MadeUp is a query for all batches ever made up.
func MadeUp(tx *gorm.DB) *gorm.DB { return tx.Model(&Batch{}).Select("1") }

// Find looks for a text in the lots at the bench and in past batches, by number and product.
func Find(tx *gorm.DB, text string, most int) (found []wire.Found, err error) {
	like := map[string]any{"like": database.Containing(text), "most": most}
	var past []wire.Found
	err = errors.Join(
		tx.Raw(`SELECT 'lot' AS kind, l.id, CONCAT('Batch ', b.number, ', lot ', l.number) AS title, b.product_name AS detail
			FROM lots l JOIN batches b ON b.id = l.batch_id
			WHERE b.state = 'open' AND l.closed_at IS NULL AND (CONCAT('batch ', b.number) LIKE @like OR b.product_name LIKE @like)
			ORDER BY b.number, l.number LIMIT @most`, like).Scan(&found).Error,
		tx.Raw(`SELECT 'batch' AS kind, b.id, CONCAT('Batch ', b.number, ', ', b.state) AS title, b.product_name AS detail
			FROM batches b WHERE b.state <> 'open' AND (CONCAT('batch ', b.number) LIKE @like OR b.product_name LIKE @like)
			ORDER BY b.closed_at DESC LIMIT @most`, like).Scan(&past).Error,
	)
	if err != nil {
		return nil, fmt.Errorf("finding batches: %w", err)
	}
	return append(found, past...), nil
}

// ArtworkHeld are the pictures that batches and pieces were made up with: their files stay.
func ArtworkHeld(tx *gorm.DB) (ids []uint64, err error) {
	err = tx.Raw("SELECT artwork_id FROM batches WHERE artwork_id IS NOT NULL UNION SELECT artwork_id FROM pieces WHERE artwork_id IS NOT NULL").Scan(&ids).Error
	if err != nil {
		return nil, fmt.Errorf("reading the pictures of batches: %w", err)
	}
	return ids, nil
}
