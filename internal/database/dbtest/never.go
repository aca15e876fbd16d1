package dbtest

// Never is what must never be in a studio's database; each query counts offenders.
var Never = map[string]string{
	"a spoiled, abandoned or gone piece serves a want":                   `SELECT COUNT(*) FROM pieces WHERE state IN ('spoiled', 'abandoned', 'gone') AND want_id IS NOT NULL`,
	"a piece serves a cancelled order":                                   `SELECT COUNT(*) FROM pieces p JOIN wants w ON w.id = p.want_id JOIN order_lines l ON l.id = w.order_line_id JOIN orders o ON o.id = l.order_id WHERE o.state = 'cancelled'`,
	"a piece serves a want with other lettering":                         `SELECT COUNT(*) FROM pieces p JOIN wants w ON w.id = p.want_id WHERE p.lettering <> w.lettering`,
	"a piece serves a want of another product":                           `SELECT COUNT(*) FROM pieces p JOIN wants w ON w.id = p.want_id JOIN order_lines l ON l.id = w.order_line_id WHERE l.product_id <> p.product_id`,
	"a piece is in a lot of another batch":                               `SELECT COUNT(*) FROM pieces p JOIN lots l ON l.id = p.lot_id WHERE l.batch_id <> p.batch_id`,
	"a closed lot holds pieces in work":                                  `SELECT COUNT(*) FROM lots l JOIN pieces p ON p.lot_id = l.id AND p.state = 'working' WHERE l.closed_at IS NOT NULL`,
	"an open lot holds nothing":                                          `SELECT COUNT(*) FROM lots l WHERE l.closed_at IS NULL AND NOT EXISTS (SELECT 1 FROM pieces p WHERE p.lot_id = l.id AND p.state = 'working')`,
	"a closed batch has open lots":                                       `SELECT COUNT(*) FROM batches b JOIN lots l ON l.batch_id = b.id WHERE b.state <> 'open' AND l.closed_at IS NULL`,
	"an open batch has none":                                             `SELECT COUNT(*) FROM batches b WHERE b.state = 'open' AND NOT EXISTS (SELECT 1 FROM lots l WHERE l.batch_id = b.id AND l.closed_at IS NULL)`,
	"a lot is worked past its recipe":                                    `SELECT COUNT(*) FROM lots l JOIN batches b ON b.id = l.batch_id WHERE l.closed_at IS NULL AND l.next_step >= JSON_LENGTH(b.recipe, '$.steps')`,
	"an order handed over lacks a piece":                                 `SELECT COUNT(*) FROM orders o JOIN order_lines l ON l.order_id = o.id JOIN wants w ON w.order_line_id = l.id LEFT JOIN pieces p ON p.want_id = w.id WHERE o.state = 'handed_over' AND COALESCE(p.state, '') <> 'handed_over'`,
	"a finished piece has no time of finishing":                          `SELECT COUNT(*) FROM pieces WHERE (state IN ('finished', 'handed_over', 'gone')) <> (finished_at IS NOT NULL)`,
	"an open run has an outcome":                                         `SELECT COUNT(*) FROM runs r JOIN outcomes o ON o.run_id = r.id WHERE r.ended_at IS NULL`,
	"a run ends before it begins":                                        `SELECT COUNT(*) FROM runs WHERE ended_at < started_at`,
	"the timer of a done step runs":                                      `SELECT COUNT(*) FROM runs WHERE ended_at IS NOT NULL AND running_since IS NOT NULL`,
	"one person has two timers running":                                  `SELECT COUNT(*) FROM (SELECT person_id FROM runs WHERE running_since IS NOT NULL GROUP BY person_id HAVING COUNT(*) > 1) twice`,
	"a want waits while a piece like it lies ready":                      `SELECT COUNT(*) FROM pieces p WHERE p.state = 'finished' AND p.want_id IS NULL AND EXISTS (SELECT 1 FROM wants w JOIN order_lines l ON l.id = w.order_line_id JOIN orders o ON o.id = l.order_id LEFT JOIN pieces q ON q.want_id = w.id WHERE o.state = 'open' AND q.id IS NULL AND w.lettering = p.lettering AND l.product_id = p.product_id)`,
	"an order line lacks or has too many wants":                          `SELECT COUNT(*) FROM order_lines l WHERE l.quantity <> (SELECT COUNT(*) FROM wants w WHERE w.order_line_id = l.id)`,
	"an order has no line":                                               `SELECT COUNT(*) FROM orders o WHERE NOT EXISTS (SELECT 1 FROM order_lines l WHERE l.order_id = o.id)`,
	"a batch has no piece":                                               `SELECT COUNT(*) FROM batches b WHERE NOT EXISTS (SELECT 1 FROM pieces p WHERE p.batch_id = b.id)`,
	"a piece is not of the product its batch makes":                      `SELECT COUNT(*) FROM pieces p JOIN batches b ON b.id = p.batch_id WHERE b.product_id <> p.product_id`,
	"a piece of a closed batch has no cost, or one of an open batch has": `SELECT COUNT(*) FROM pieces p JOIN batches b ON b.id = p.batch_id WHERE (p.unit_cost IS NOT NULL) <> (b.state <> 'open' AND p.state IN ('finished', 'handed_over', 'gone'))`,
	"the shelf's movements do not add up to what was found and is gone":  `SELECT COUNT(*) FROM products r WHERE (SELECT COALESCE(SUM(m.pieces), 0) FROM shelf_movements m WHERE m.product_id = r.id) <> (SELECT COALESCE(SUM(p.batch_id IS NULL), 0) - COALESCE(SUM(p.state = 'gone'), 0) FROM pieces p WHERE p.product_id = r.id)`,
	"a product has no recipe":                                            `SELECT COUNT(*) FROM products WHERE recipe_id IS NULL`,
}
