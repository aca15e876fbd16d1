package main

import (
	"bufio"
	"encoding/json"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// studio is the real binary on a folder and a free port of its own.
type studio struct {
	*testing.T
	folder, address string
	cmd             *exec.Cmd
}

func newStudio(t *testing.T) *studio {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	s := &studio{T: t, folder: t.TempDir(), address: l.Addr().String()}
	t.Cleanup(func() {
		if s.cmd != nil && s.cmd.ProcessState == nil { // the test has failed on the way
			s.stop()
		}
	})
	return s
}

func (s *studio) environment() []string {
	return append(os.Environ(), "TIDYKILN_ADDRESS="+s.address, "TIDYKILN_VAR="+s.folder, "TIDYKILN_DSN=", "TZ=Europe/Berlin")
}

// start runs a command until it has printed where it is, and returns what it printed by then.
func (s *studio) start(args ...string) (said string) {
	s.Helper()
	s.cmd = exec.Command(binary, args...)
	s.cmd.Env = s.environment()
	s.cmd.Stderr = os.Stderr
	out, err := s.cmd.StdoutPipe()
	require.NoError(s, err)
	require.NoError(s, s.cmd.Start())
	lines := bufio.NewScanner(out)
	for lines.Scan() {
		said += lines.Text() + "\n"
		if strings.Contains(lines.Text(), "http://"+s.address) {
			return said
		}
	}
	s.Fatalf("it ended without an address: %s", said)
	return said
}

// stop asks it to end, as Ctrl-C does, and expects it to end well.
func (s *studio) stop() {
	s.Helper()
	require.NoError(s, s.cmd.Process.Signal(os.Interrupt))
	require.NoError(s, s.cmd.Wait())
}

func (s *studio) get(path string, into any) {
	s.Helper()
	r, err := http.Get("http://" + s.address + path)
	require.NoError(s, err)
	defer r.Body.Close()
	text, err := io.ReadAll(r.Body)
	require.NoError(s, err)
	require.Equal(s, http.StatusOK, r.StatusCode, string(text))
	require.NoError(s, json.Unmarshal(text, into))
}

func (s *studio) post(path, body string) int {
	s.Helper()
	r, err := http.Post("http://"+s.address+path, "application/json", strings.NewReader(body))
	require.NoError(s, err)
	defer r.Body.Close()
	return r.StatusCode
}

func (s *studio) databasePID() (pid int) {
	s.Helper()
	text, err := os.ReadFile(filepath.Join(s.folder, "mariadb", "server.json"))
	require.NoError(s, err)
	var state struct{ PID int }
	require.NoError(s, json.Unmarshal(text, &state))
	return state.PID
}

type ledger []struct {
	Number   int
	Customer string
}

func (s *studio) orders() (rows ledger) {
	s.Helper()
	s.get("/api/orders", &rows)
	return rows
}

const anOrder = `{"customer":"Kept","dueOn":"2099-01-01","lines":[{"productId":3,"quantity":2}]}`

func TestTheDemoIsToldOnceKeptThroughKillsAndToldAfreshOnDemand(t *testing.T) {
	s := newStudio(t)
	assert.Contains(t, s.start("demo"), "Withy Landing, is set up")
	before := len(s.orders())
	require.GreaterOrEqual(t, before, 8)
	var shop struct{ Name, TimeZone string }
	s.get("/api/workshop", &shop)
	assert.Equal(t, "Europe/Berlin", shop.TimeZone, "the machine's own time zone")

	// A date too far ahead is refused; one that can be held is kept.
	assert.Equal(t, http.StatusUnprocessableEntity, s.post("/api/orders", anOrder))
	var today struct{ Now time.Time }
	s.get("/api/today", &today)
	soon := today.Now.AddDate(0, 0, 30).Format(time.DateOnly)
	assert.Equal(t, http.StatusCreated, s.post("/api/orders", strings.Replace(anOrder, "2099-01-01", soon, 1)))

	require.NoError(t, s.cmd.Process.Kill())
	_ = s.cmd.Wait() // killed, so it does not end well
	orphan := s.databasePID()
	assert.NotContains(t, s.start("demo"), "is set up", "the story is told once")
	assert.Equal(t, orphan, s.databasePID(), "the database left behind is used again")
	assert.Len(t, s.orders(), before+1)

	require.NoError(t, syscall.Kill(s.databasePID(), syscall.SIGKILL))
	require.NoError(t, s.cmd.Process.Kill())
	_ = s.cmd.Wait() // as above
	s.start("demo")
	assert.NotEqual(t, orphan, s.databasePID())
	assert.Len(t, s.orders(), before+1, "what was acknowledged outlives both")
	s.stop()
	_, err := os.Stat(filepath.Join(s.folder, "mariadb", "server.json"))
	assert.ErrorIs(t, err, os.ErrNotExist, "the database has ended after the server")

	assert.Contains(t, s.start("demo", "--reset"), "is set up")
	assert.Len(t, s.orders(), before)
	s.stop()
}

func TestServeBeginsEmptyAndSaysWhenItsPortIsTaken(t *testing.T) {
	s := newStudio(t)
	s.start("serve")
	defer s.stop()
	assert.Empty(t, s.orders())
	var ready struct{ Status string }
	s.get("/readyz", &ready)
	assert.Equal(t, "ready", ready.Status)

	second := exec.Command(binary, "serve")
	second.Env = s.environment()
	out, err := second.CombinedOutput()
	require.Error(t, err)
	assert.Contains(t, string(out), "cannot be used (is Tidy Kiln, or another program, already running there?)")
	assert.Empty(t, s.orders(), "the first goes on")
}

func TestALogLevelThatIsNoneIsRefused(t *testing.T) {
	s := newStudio(t)
	cmd := exec.Command(binary, "serve")
	cmd.Env = append(s.environment(), "TIDYKILN_LOG=loud")
	out, err := cmd.CombinedOutput()
	require.Error(t, err)
	assert.Equal(t, 2, cmd.ProcessState.ExitCode())
	assert.Contains(t, string(out), `TIDYKILN_LOG: "loud" must be`)
}
