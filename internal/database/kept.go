package database

// Kept says what the audit trail keeps of a table.
type Kept struct {
	Table string
	// Called is what a row is called in words.
	Called string
	// Label is the column by which people know a row of it; empty without one.
	Label string
	// Under is the table whose row this one is a part of, By the column that names it.
	Under, By string
	// Secret columns are noted as having changed, without what was in them.
	Secret []string
	// Quiet columns are no news: names of files, and how far work by itself has come.
	Quiet []string
}

// Trail are the tables whose every row is kept in the audit trail.
var Trail = []Kept{
	{Table: "artworks", Called: "picture", Label: "title", Quiet: []string{"original", "print", "view", "thumb", "claimed_until", "tries"}},
	{Table: "batches", Called: "batch", Label: "number"},
	{Table: "customer_addresses", Called: "address", Label: "called", Under: "customers", By: "customer_id"},
	{Table: "customers", Called: "customer", Label: "name"},
	{Table: "days_off", Called: "days off", Label: "first_day", Under: "people", By: "person_id"},
	{Table: "dismissed_suggestions", Called: "suggestion put away", Label: "suggestion"},
	{Table: "extra_hours", Called: "hours besides the usual", Label: "day", Under: "people", By: "person_id"},
	{Table: "issued_papers", Called: "paper", Label: "kind", Under: "orders", By: "order_id", Quiet: []string{"content", "file", "name_until"}},
	{Table: "label_sheets", Called: "label sheet", Label: "name"},
	{Table: "letterhead", Called: "letterhead"},
	{Table: "lots", Called: "lot", Label: "number", Under: "batches", By: "batch_id"},
	{Table: "materials", Called: "material", Label: "name"},
	{Table: "members", Called: "member", Label: "name", Secret: []string{"password", "pin"}},
	{Table: "message_templates", Called: "text of a message", Label: "kind"},
	{Table: "methods", Called: "method", Label: "method_key"},
	{Table: "movement_parts", Called: "purchase drawn on", Label: "purchase_id", Under: "movements", By: "movement_id"},
	{Table: "movements", Called: "movement of stores", Label: "cause", Under: "materials", By: "material_id"},
	{Table: "order_lines", Called: "line of an order", Label: "product_name", Under: "orders", By: "order_id"},
	{Table: "orders", Called: "order", Label: "number"},
	{Table: "outcomes", Called: "outcome of a piece", Label: "result", Under: "runs", By: "run_id"},
	{Table: "outlets", Called: "way of selling", Label: "name"},
	{Table: "overrides", Called: "stop overruled", Label: "rule", Under: "products", By: "product_id"},
	{Table: "pairings", Called: "code for a device", Label: "device", Secret: []string{"code"}},
	{Table: "passkeys", Called: "passkey", Label: "device", Under: "members", By: "member_id", Secret: []string{"credential_key", "credential"}, Quiet: []string{"used_at"}},
	{Table: "payments", Called: "payment", Label: "way", Under: "orders", By: "order_id"},
	{Table: "people", Called: "person", Label: "name"},
	{Table: "person_hours", Called: "usual hours", Label: "weekday", Under: "people", By: "person_id"},
	{Table: "pieces", Called: "piece", Label: "number", Under: "batches", By: "batch_id"},
	{Table: "prices", Called: "price", Label: "outlet_id", Under: "products", By: "product_id"},
	{Table: "print_jobs", Called: "print sheets", Label: "title", Quiet: []string{"claimed_until", "tries", "done", "printed", "file", "layout", "costs"}},
	{Table: "products", Called: "product", Label: "name", Quiet: []string{"printed"}},
	{Table: "promise_moves", Called: "promise that moved", Label: "to_on", Under: "orders", By: "order_id"},
	{Table: "proofs", Called: "proof", Label: "state", Under: "wants", By: "want_id", Quiet: []string{"shown"}},
	{Table: "purchases", Called: "purchase", Label: "pack", Under: "materials", By: "material_id"},
	{Table: "quote_lines", Called: "line of a quote", Label: "product_name", Under: "quotes", By: "quote_id"},
	{Table: "quotes", Called: "quote", Label: "number"},
	{Table: "receipts", Called: "receipt", Label: "received_on"},
	{Table: "recipes", Called: "recipe", Label: "number", Under: "products", By: "product_id"},
	{Table: "recovery_codes", Called: "recovery code", Under: "members", By: "member_id", Secret: []string{"code"}},
	{Table: "return_pieces", Called: "piece that came back", Label: "product_name", Under: "returns", By: "return_id"},
	{Table: "returns", Called: "return", Label: "cause", Under: "orders", By: "order_id"},
	{Table: "room", Called: "room sensor", Quiet: []string{"celsius", "humidity", "read_at", "raining"}},
	{Table: "runs", Called: "step at the bench", Label: "step", Under: "lots", By: "lot_id"},
	{Table: "secret_addresses", Called: "secret address", Label: "opens", Secret: []string{"token"}},
	{Table: "sessions", Called: "device signed in", Label: "device", Under: "members", By: "member_id", Secret: []string{"token", "known"}, Quiet: []string{"used_at"}},
	{Table: "shelf_movement_pieces", Called: "piece of the shelf", Label: "piece_id", Under: "shelf_movements", By: "movement_id"},
	{Table: "shelf_movements", Called: "movement of the shelf", Label: "cause", Under: "products", By: "product_id"},
	{Table: "settlements", Called: "settlement of an order", Under: "orders", By: "order_id"},
	{Table: "sittings", Called: "sitting", Label: "taken_up_at"},
	{Table: "suppliers", Called: "supplier", Label: "name"},
	{Table: "trade_terms", Called: "terms of trade", Label: "keeping"},
	{Table: "wants", Called: "piece ordered", Label: "lettering", Under: "order_lines", By: "order_line_id"},
	{Table: "workshop", Called: "settings of the studio", Label: "name"},
}

// Untrailed are the tables that the audit trail leaves out, and why.
var Untrailed = map[string]string{
	"customer_merges":  "it says itself what was merged and undone, and holds how somebody was",
	"erasures":         "it says itself whose data was erased and when",
	"batch_events":     "they say themselves what was done and when",
	"order_events":     "they say themselves what was done and when",
	"demo_clock":       "where the demo's clock stands is nobody's doing",
	"promises":         "they follow from the plan; moves of them are kept",
	"requests":         "answers that are repeated, for a week",
	"revision":         "it counts the writes themselves",
	"room_hours":       "the sensor's readings",
	"goose_db_version": "the schema's own",
	"trail_entries":    "the trail itself",
	"trail_changes":    "the trail itself",
	"trail_setup":      "the trail itself",
}
