package planning

import (
	"context"
	"fmt"
	"strings"

	"gorm.io/gorm"
)

// Found is one thing that a search has found.
type Found struct {
	Kind   string `json:"kind" enum:"order,product,lot,batch"`
	ID     uint64 `json:"id"`
	Title  string `json:"title"`
	Detail string `json:"detail"`
}

// mostFound bounds what each kind contributes to a search.
const mostFound = 8

// Find looks for a text in orders (number, customer, lettering), open lots, past batches and products.
func (a *Area) Find(ctx context.Context, text string) (found []Found, err error) {
	found = []Found{}
	text = strings.TrimSpace(text)
	if text == "" {
		return found, nil
	}
	like := "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(text) + "%"
	queries := []string{
		`SELECT 'order' AS kind, o.id, CONCAT(c.name, ', order ', o.number) AS title,
			COALESCE((SELECT GROUP_CONCAT(w.lettering ORDER BY w.id SEPARATOR ' / ') FROM wants w JOIN order_lines l ON l.id = w.order_line_id WHERE l.order_id = o.id AND w.lettering LIKE @like), CONCAT('due ', o.due_on)) AS detail
		FROM orders o JOIN customers c ON c.id = o.customer_id
		WHERE o.number LIKE @like OR c.name LIKE @like OR EXISTS (SELECT 1 FROM wants w JOIN order_lines l ON l.id = w.order_line_id WHERE l.order_id = o.id AND w.lettering LIKE @like)
		ORDER BY o.state = 'open' DESC, o.due_on DESC LIMIT @most`,
		`SELECT 'lot' AS kind, l.id, CONCAT('Batch ', b.number, ', lot ', l.number) AS title, b.product_name AS detail
		FROM lots l JOIN batches b ON b.id = l.batch_id
		WHERE b.state = 'open' AND l.closed_at IS NULL AND (CONCAT('batch ', b.number) LIKE @like OR b.product_name LIKE @like)
		ORDER BY b.number, l.number LIMIT @most`,
		`SELECT 'batch' AS kind, b.id, CONCAT('Batch ', b.number, ', ', b.state) AS title, b.product_name AS detail
		FROM batches b WHERE b.state <> 'open' AND (CONCAT('batch ', b.number) LIKE @like OR b.product_name LIKE @like)
		ORDER BY b.closed_at DESC LIMIT @most`,
		`SELECT 'product' AS kind, id, name AS title, method AS detail FROM products
		WHERE archived_at IS NULL AND name LIKE @like ORDER BY name LIMIT @most`,
	}
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		for _, q := range queries {
			var some []Found
			if err := tx.Raw(q, map[string]any{"like": like, "most": mostFound}).Scan(&some).Error; err != nil {
				return fmt.Errorf("finding %w", err)
			}
			found = append(found, some...)
		}
		return nil
	})
	return found, err
}
