package batches

import (
	"gorm.io/gorm"

	"tidykiln/internal/database"
)

// Sheets are the batches with what was done to them, to be taken out.
func Sheets(tx *gorm.DB) ([]database.Sheet, error) {
	return database.SheetsOf(tx, [][2]string{
		{"batches", "SELECT id, number, product_id, product_name AS product, state, created_at, closed_at, recipe FROM batches ORDER BY id"},
		{"pieces", `SELECT p.id, b.number AS batch, l.number AS lot, p.number, p.product_id, p.lettering, p.state, p.want_id AS piece_ordered, p.finished_at, p.unit_cost
			FROM pieces p LEFT JOIN batches b ON b.id = p.batch_id LEFT JOIN lots l ON l.id = p.lot_id ORDER BY p.id`},
		{"steps_done", `SELECT r.id, b.number AS batch, l.number AS lot, JSON_VALUE(b.recipe, CONCAT('$.steps[', r.step, '].name')) AS step, r.person_id, r.pieces, r.started_at, r.ended_at, r.worked_seconds, r.device
			FROM runs r JOIN lots l ON l.id = r.lot_id JOIN batches b ON b.id = l.batch_id ORDER BY r.id`},
		{"outcomes", "SELECT run_id AS step_done, piece_id AS piece, result, reason FROM outcomes ORDER BY run_id, piece_id"},
		{"logbook_of_batches", "SELECT b.number AS batch, e.at, e.text FROM batch_events e JOIN batches b ON b.id = e.batch_id ORDER BY e.id"},
	})
}
