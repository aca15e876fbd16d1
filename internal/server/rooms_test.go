package server_test

import (
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// rooms are the packages of the application in the order of docs/architecture.md:
// each may import those above it, and none below.
var rooms = []string{"certificate", "database", "background", "problem", "wire", "document", "workshop", "access", "stores", "library", "artwork", "products", "selling", "customers", "orders", "batches", "fulfilment",
	"standin", "planning", "prints", "trade", "papers", "messages", "desk", "trail", "takeout", "backup", "privacy", "health", "house", "demo", "server"}

// owners are the rooms that tables belong to; nobody else names them.
var owners = map[string][]string{
	"database":   {"revision", "requests", "trail_entries", "trail_changes", "trail_setup"},
	"workshop":   {"workshop", "people", "person_hours", "days_off", "extra_hours", "room", "room_hours"},
	"access":     {"members", "sessions", "pairings", "passkeys", "recovery_codes", "secret_addresses"},
	"stores":     {"materials", "suppliers", "receipts", "purchases", "movements", "movement_parts"},
	"library":    {"methods"},
	"artwork":    {"artworks"},
	"products":   {"products", "recipes", "overrides"},
	"selling":    {"outlets", "prices"},
	"customers":  {"customers", "customer_addresses", "customer_merges", "erasures"},
	"orders":     {"orders", "order_lines", "wants", "order_events"},
	"batches":    {"batches", "lots", "pieces", "sittings", "runs", "outcomes", "batch_events"},
	"fulfilment": {"shelf_movements", "shelf_movement_pieces"},
	"planning":   {"promises", "promise_moves", "dismissed_suggestions"},
	"prints":     {"print_jobs", "proofs"},
	"trade":      {"trade_terms", "payments", "settlements", "quotes", "quote_lines", "returns", "return_pieces"},
	"messages":   {"message_templates"},
	"papers":     {"letterhead", "issued_papers", "label_sheets"},
	"demo":       {"demo_clock"},
}

// eachFile goes through the source of the application, tests aside.
func eachFile(t *testing.T, do func(room, path string)) {
	require.NoError(t, filepath.WalkDir("..", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		room, _, _ := strings.Cut(strings.TrimPrefix(path, "../"), "/")
		if strings.HasSuffix(filepath.Dir(path), "test") {
			return nil // helpers of tests
		}
		do(room, path)
		return nil
	}))
}

func TestEachRoomImportsOnlyThoseAboveIt(t *testing.T) {
	imports := 0
	eachFile(t, func(room, path string) {
		place := slices.Index(rooms, room)
		require.GreaterOrEqual(t, place, 0, "%s is not on the list, and not in docs/architecture.md", room)
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		require.NoError(t, err)
		for _, i := range file.Imports {
			other, inside := strings.CutPrefix(strings.Trim(i.Path.Value, `"`), "tidykiln/internal/")
			if other, _, _ = strings.Cut(other, "/"); !inside || other == room {
				continue
			}
			imports++
			assert.Less(t, slices.Index(rooms, other), place, "%s imports %s", path, other)
		}
	})
	assert.Greater(t, imports, 100)
}

// inSQL are the places of a statement that name a table.
var inSQL = regexp.MustCompile(`(?:Table\("|FROM |JOIN |UPDATE |INTO |DELETE FROM )` + "`?" + `([a-z_]+)`)

func TestEachTableIsNamedByItsOwnRoomOnly(t *testing.T) {
	owner := map[string]string{}
	for room, tables := range owners {
		for _, table := range tables {
			owner[table] = room
		}
	}
	named := 0
	eachFile(t, func(room, path string) {
		text, err := os.ReadFile(path)
		require.NoError(t, err)
		for _, m := range inSQL.FindAllStringSubmatch(string(text), -1) {
			if of, known := owner[m[1]]; known {
				named++
				assert.Equal(t, of, room, "%s names the table %s", path, m[1])
			}
		}
	})
	assert.Greater(t, named, 40)
}
