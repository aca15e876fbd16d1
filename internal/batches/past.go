package batches

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"
)

// Past is a batch that is finished or abandoned.
type Past struct {
	ID          uint64    `json:"id"`
	Number      int       `json:"number"`
	ProductID   uint64    `json:"productId"`
	ProductName string    `json:"productName"`
	State       State     `json:"state" enum:"finished,abandoned"`
	CreatedAt   time.Time `json:"createdAt"`
	ClosedAt    time.Time `json:"closedAt"`
	Pieces      int       `json:"pieces"`
	Good        int       `json:"good" doc:"that came out good, wherever they are now"`
	Spoiled     int       `json:"spoiled"`
}

// PastPage is a stretch of the past batches, the latest first.
type PastPage struct {
	Batches []Past `json:"batches" nullable:"false"`
	// Total counts all of them.
	Total int `json:"total"`
}

// pastAtOnce is how many past batches a page holds.
const pastAtOnce = 40

// Past lists a page of the batches that are finished or abandoned; the first page is 1.
func (a *Area) Past(ctx context.Context, page int) (p PastPage, err error) {
	p.Batches = []Past{}
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		var total int64
		if err := tx.Model(&Batch{}).Where("state <> ?", Open).Count(&total).Error; err != nil {
			return fmt.Errorf("counting past batches: %w", err)
		}
		p.Total = int(total)
		err := tx.Table("batches").Where("batches.state <> ?", Open).
			Select(`batches.id, batches.number, batches.product_id, batches.product_name, batches.state, batches.created_at, batches.closed_at,
				COUNT(pieces.id) AS pieces, COALESCE(SUM(pieces.finished_at IS NOT NULL), 0) AS good, COALESCE(SUM(pieces.state = ?), 0) AS spoiled`, PieceSpoiled).
			Joins("LEFT JOIN pieces ON pieces.batch_id = batches.id").Group("batches.id").
			Order("batches.closed_at DESC, batches.id DESC").Limit(pastAtOnce).Offset((page - 1) * pastAtOnce).Scan(&p.Batches).Error
		if err != nil {
			return fmt.Errorf("reading past batches: %w", err)
		}
		return nil
	})
	return p, err
}

// LoadWhole reads one batch, open or past, with its lots, pieces and runs.
func LoadWhole(tx *gorm.DB, id uint64) (b Bench, err error) {
	batch, err := loadBatch(tx, id)
	if err != nil {
		return b, err
	}
	return loadBench(tx, []Batch{batch})
}
