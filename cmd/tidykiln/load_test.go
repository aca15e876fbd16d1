//go:build soak

package main

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What a large studio has.
const (
	manyOrders   = 5_000
	piecesEach   = 8
	manyPictures = 500
)

// sizes of the files that are kept of a photograph, in bytes: as it came, for printing,
// for pages, for lists.
var pictureSizes = []int{1_500_000, 1_500_000, 150_000, 15_000}

// fill gives a demo studio the past of years: orders that were handed over with their
// pieces, and pictures of random bytes, which no archive makes smaller.
func (s *studio) fill() {
	s.Helper()
	db := s.database()
	defer db.Close()
	for _, statement := range []string{
		"SET SESSION foreign_key_checks = 1",
		fmt.Sprintf("INSERT INTO orders (number, customer_id, outlet_name, due_on, note, keep_rests, state, taken_at, closed_at, version, days_on_the_way) SELECT 100000 + seq, 1, 'Stall', DATE_SUB(CURRENT_DATE, INTERVAL 100 + seq MOD 900 DAY), CONCAT('note of order ', seq), 0, 'handed_over', DATE_SUB(NOW(), INTERVAL 120 + seq MOD 900 DAY), DATE_SUB(NOW(), INTERVAL 100 + seq MOD 900 DAY), 1, 0 FROM seq_1_to_%d", manyOrders),
		fmt.Sprintf("INSERT INTO order_lines (order_id, position, product_id, product_name, quantity, unit_price, unit_cost) SELECT id, 0, 3, 'Slate coaster', %d, 12, 6 FROM orders WHERE number > 100000", piecesEach),
		fmt.Sprintf("INSERT INTO wants (order_line_id, position, lettering) SELECT l.id, seq - 1, '' FROM order_lines l JOIN orders o ON o.id = l.order_id AND o.number > 100000 JOIN seq_1_to_%d", piecesEach),
		"INSERT INTO pieces (product_id, batch_id, lot_id, number, lettering, state, want_id, finished_at, unit_cost) SELECT 3, NULL, NULL, 0, '', 'handed_over', w.id, o.closed_at, 6 FROM wants w JOIN order_lines l ON l.id = w.order_line_id JOIN orders o ON o.id = l.order_id AND o.number > 100000",
	} {
		_, err := db.Exec(statement)
		require.NoError(s, err, statement)
	}
	var studio string
	require.NoError(s, db.QueryRow("SELECT studio FROM revision").Scan(&studio))
	random := rand.NewChaCha8([32]byte{17})
	for i := range manyPictures {
		hashes := make([]any, 0, len(pictureSizes)+1)
		hashes = append(hashes, fmt.Sprintf("Picture %d", i))
		for _, size := range pictureSizes {
			content := make([]byte, size)
			_, _ = random.Read(content) // never fails
			sum := sha256.Sum256(content)
			hash := hex.EncodeToString(sum[:])
			path := filepath.Join(s.folder, "pictures", studio, hash[:2], hash)
			require.NoError(s, os.MkdirAll(filepath.Dir(path), 0o700))
			require.NoError(s, os.WriteFile(path, content, 0o600))
			hashes = append(hashes, hash)
		}
		_, err := db.Exec("INSERT INTO artworks (title, file_name, state, refusal, original, original_bytes, print, view, thumb, pixels, notes, rights, rights_note, shows_people, consent, lettering, tries, created_at, version) SELECT ?, 'x.jpg', 'ready', '', ?, 1500000, ?, ?, ?, pixels, notes, rights, rights_note, 0, '', 0, 0, NOW(), 1 FROM artworks WHERE id = 1", hashes...)
		require.NoError(s, err)
	}
}

// timed is how long one answer takes.
func (s *studio) timed(path string) time.Duration {
	begun := time.Now()
	r, err := http.Get("http://" + s.address + path)
	require.NoError(s, err)
	require.NoError(s, r.Body.Close())
	require.Equal(s, http.StatusOK, r.StatusCode, path)
	return time.Since(begun)
}

// TestALargeStudioIsBackedUpWhileItServes measures what docs/performance.md says of it.
func TestALargeStudioIsBackedUpWhileItServes(t *testing.T) {
	s := newStudio(t)
	s.start("demo")
	s.fill()
	s.stop()
	s.start("demo") // or it would answer from what it remembers
	pages := []string{"/api/today", "/api/orders", "/api/plan?days=7", "/api/products", "/api/materials?page=1", "/api/artworks"}
	for _, page := range pages {
		s.timed(page)
	}
	archive := filepath.Join(t.TempDir(), "all.tar.gz")
	cmd := exec.Command(binary, "backup", "--demo", archive)
	cmd.Env = s.environment()
	begun := time.Now()
	require.NoError(t, cmd.Start())
	ended := make(chan error, 1)
	go func() { ended <- cmd.Wait() }()
	took := map[string][]time.Duration{}
	for running := true; running; {
		for _, page := range pages {
			took[page] = append(took[page], s.timed(page))
		}
		select {
		case err := <-ended:
			require.NoError(t, err)
			running = false
		case <-time.After(50 * time.Millisecond):
		}
	}
	made := time.Since(begun)
	info, err := os.Stat(archive)
	require.NoError(t, err)
	rusage := cmd.ProcessState.SysUsage().(*syscall.Rusage)
	t.Logf("backup of %d orders, %d pieces, %d pictures, read back: %s, %d MB of memory at most, a file of %d MB", manyOrders, manyOrders*piecesEach, manyPictures, made.Round(100*time.Millisecond), rusage.Maxrss>>10, info.Size()>>20)
	for _, page := range pages {
		slices.Sort(took[page])
		t.Logf("meanwhile %s: median %s, worst of %d %s", page, took[page][len(took[page])/2].Round(time.Millisecond), len(took[page]), took[page][len(took[page])-1].Round(time.Millisecond))
	}
	orders := len(s.orders())
	s.stop()

	for range 3 {
		begun = time.Now()
		s.start("demo")
		said := time.Since(begun)
		s.timed("/api/today")
		t.Logf("from the start to where it is: %s, to the first answer: %s", said.Round(time.Millisecond), time.Since(begun).Round(time.Millisecond))
		s.stop()
	}

	require.NoError(t, os.RemoveAll(s.folder))
	begun = time.Now()
	out, code := s.told("restore", "--demo", archive)
	require.Zero(t, code, out)
	t.Logf("put back into nothing, its database installed too: %s", time.Since(begun).Round(100*time.Millisecond))
	s.start("demo")
	assert.Len(t, s.orders(), orders)
	s.stop()
}
