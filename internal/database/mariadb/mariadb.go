// Package mariadb runs a private MariaDB server on loopback, with its data in
// a folder of its own. It finds a server that an earlier kill left behind and
// uses it again, or replaces it when it no longer answers.
package mariadb

import (
	"cmp"
	"context"
	"crypto/rand"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"

	"github.com/go-sql-driver/mysql"
)

// Server is a running private server.
type Server struct {
	dir     string
	secret  string
	options []string
	mu      sync.Mutex
	state   state
	exited  chan struct{}
}

// state is what the next start needs to find this server again.
type state struct {
	PID  int `json:"pid"`
	Port int `json:"port"`
}

const (
	startWithin = 90 * time.Second
	stopWithin  = 60 * time.Second
	// replaceWithin is shorter: a server that does not answer seldom ends by itself,
	// and its log makes it whole again after a kill.
	replaceWithin = 5 * time.Second
)

// Start returns the server whose data lies in dir, started or found running.
// Options are further arguments for mariadbd.
func Start(ctx context.Context, dir string, options ...string) (*Server, error) {
	dir, err := filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(filepath.Join(dir, "tmp"), 0o700); err != nil {
		return nil, fmt.Errorf("making the database folder: %w", err)
	}
	s := &Server{dir: dir, options: options}
	if s.secret, err = s.readSecret(); err != nil {
		return nil, err
	}
	if found, err := s.adopt(ctx); err != nil || found {
		return s, err
	}
	if err := s.install(ctx); err != nil {
		return nil, err
	}
	if !isFree(s.state.Port) {
		s.state.Port = 0 // something else has taken it since
	}
	return s, s.launch(ctx)
}

// DSN names a database on the server.
func (s *Server) DSN(database string) string {
	c := mysql.NewConfig()
	c.User, c.Passwd, c.Net, c.DBName = "tidykiln", s.secret, "tcp", database
	s.mu.Lock()
	c.Addr = fmt.Sprintf("127.0.0.1:%d", s.state.Port)
	s.mu.Unlock()
	return c.FormatDSN()
}

// Found tells that the server was running before, and belongs to whoever started it.
func (s *Server) Found() bool { return s.exited == nil }

// PID is the process of the server.
func (s *Server) PID() int {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.state.PID
}

// Keep starts the server again, on the same port, whenever it ends by itself.
// What it does and what fails is given to report. The function it returns
// stops the keeping and then the server.
func (s *Server) Keep(report func(what string, err error)) (stop func() error) {
	ctx, cancel := context.WithCancel(context.Background())
	var kept sync.WaitGroup
	kept.Go(func() { s.keep(ctx, report) })
	return func() error {
		cancel()
		kept.Wait()
		return s.Stop()
	}
}

func (s *Server) keep(ctx context.Context, report func(string, error)) {
	pause := shortestPause
	for s.ends(ctx) {
		report("the database server ended; starting it again", nil)
		err := s.launch(ctx)
		if err == nil {
			pause = shortestPause
			continue
		}
		if ctx.Err() != nil {
			return
		}
		report("starting the database server again", err)
		select {
		case <-ctx.Done():
		case <-time.After(pause):
		}
		pause = min(2*pause, longestPause)
	}
}

// Between vain attempts to start the server again.
const (
	shortestPause = time.Second
	longestPause  = 30 * time.Second
)

// ends waits for the server to end; false means that ctx ended first.
func (s *Server) ends(ctx context.Context) bool {
	// A server that was found running is no child of this process, and can only be looked for.
	look := time.NewTicker(500 * time.Millisecond)
	defer look.Stop()
	for {
		select {
		case <-ctx.Done():
			return false
		case <-s.exited:
			return ctx.Err() == nil
		case <-look.C:
			if s.exited == nil && !s.isOurs(s.state.PID) {
				return true
			}
		}
	}
}

// Stop ends the server and waits until its data is safely closed.
func (s *Server) Stop() error {
	if err := end(s.state.PID, syscall.SIGTERM, stopWithin, s.exited); err != nil {
		return err
	}
	return os.Remove(s.path("server.json"))
}

func (s *Server) path(name string) string { return filepath.Join(s.dir, name) }

func (s *Server) readSecret() (string, error) {
	text, err := os.ReadFile(s.path("secret"))
	if err == nil {
		return strings.TrimSpace(string(text)), nil
	}
	if !errors.Is(err, os.ErrNotExist) {
		return "", fmt.Errorf("reading the database's secret: %w", err)
	}
	secret := make([]byte, 16)
	if _, err := rand.Read(secret); err != nil {
		return "", err
	}
	text = []byte(hex.EncodeToString(secret))
	return string(text), os.WriteFile(s.path("secret"), text, 0o600)
}

// adopt takes over a server that an earlier start left running, even one that was
// killed before it could note which that is.
func (s *Server) adopt(ctx context.Context) (found bool, err error) {
	if text, err := os.ReadFile(s.path("server.json")); err == nil && json.Unmarshal(text, &s.state) != nil {
		s.state = state{}
	}
	running := s.running()
	if running.PID == 0 {
		return false, nil
	}
	s.state = running
	deadline, cancel := context.WithTimeout(ctx, 5*time.Second)
	defer cancel()
	if s.answers(deadline) == nil {
		return true, s.note()
	}
	return false, end(s.state.PID, syscall.SIGTERM, replaceWithin, nil)
}

// running looks among all processes for a server on this data.
func (s *Server) running() state {
	lines, _ := filepath.Glob("/proc/[0-9]*/cmdline") // the pattern is well formed
	for _, line := range lines {
		found := state{}
		_, _ = fmt.Sscanf(line, "/proc/%d/", &found.PID) // it matches the pattern
		if !s.isOurs(found.PID) {
			continue
		}
		args, _ := os.ReadFile(line) // one that has ended since has no port, and is not answered by
		for arg := range strings.SplitSeq(string(args), "\x00") {
			if port, is := strings.CutPrefix(arg, "--port="); is {
				found.Port, _ = strconv.Atoi(port)
			}
		}
		return found
	}
	return state{}
}

// note keeps what the next start needs; it is there whole or as it was.
func (s *Server) note() error {
	text, err := json.Marshal(s.state)
	if err != nil {
		return err
	}
	part := s.path("server.json.part")
	if err := os.WriteFile(part, text, 0o600); err != nil {
		return err
	}
	return os.Rename(part, s.path("server.json"))
}

// isOurs guards against a process id that has since been given to another program.
func (s *Server) isOurs(pid int) bool {
	line, err := os.ReadFile(fmt.Sprintf("/proc/%d/cmdline", pid))
	return err == nil && strings.Contains(string(line), "mariadbd\x00") && strings.Contains(string(line), "\x00--datadir="+s.path("data")+"\x00")
}

func (s *Server) install(ctx context.Context) error {
	if _, err := os.Stat(s.path("installed")); err == nil {
		return nil
	}
	// What an interrupted installation left is no database yet.
	if err := os.RemoveAll(s.path("data")); err != nil {
		return err
	}
	args := append([]string{"--no-defaults", "--datadir=" + s.path("data"), "--auth-root-authentication-method=normal", "--skip-test-db"}, asRoot()...)
	cmd := exec.CommandContext(ctx, program("mariadb-install-db"), args...)
	cmd.Env = s.environment()
	out, err := cmd.CombinedOutput()
	if err != nil {
		return fmt.Errorf("setting up the database in %s: %w\n%s", s.dir, err, out)
	}
	return os.WriteFile(s.path("installed"), nil, 0o600)
}

// launch starts the server, on the port it had when it had one.
func (s *Server) launch(ctx context.Context) error {
	port := s.state.Port
	if port == 0 {
		var err error
		if port, err = freePort(); err != nil {
			return err
		}
	}
	if err := s.writeInitFile(); err != nil {
		return err
	}
	socket, err := s.socket()
	if err != nil {
		return err
	}
	log, err := os.OpenFile(s.path("server.log"), os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	defer log.Close()
	args := append([]string{
		"--no-defaults", "--datadir=" + s.path("data"), "--socket=" + socket, "--pid-file=" + s.path("mariadbd.pid"),
		"--bind-address=127.0.0.1", fmt.Sprintf("--port=%d", port), "--skip-name-resolve", "--init-file=" + s.path("init.sql"),
		"--character-set-server=utf8mb4", "--max-connections=200",
	}, asRoot()...)
	cmd := exec.Command(program("mariadbd"), append(args, s.options...)...)
	cmd.Stdout, cmd.Stderr = log, log
	cmd.Env = s.environment()
	// A group of its own: Ctrl-C in the terminal is for the application, which stops the server after itself.
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	if err := cmd.Start(); err != nil {
		return fmt.Errorf("starting the database server: %w", err)
	}
	exited := make(chan struct{})
	s.mu.Lock()
	s.state, s.exited = state{PID: cmd.Process.Pid, Port: port}, exited
	s.mu.Unlock()
	go func() {
		_ = cmd.Wait() // how it ended is in its log
		close(exited)
	}()
	if err := s.note(); err != nil {
		return err
	}
	return s.awaitStart(ctx)
}

// writeInitFile lets in the application by password over loopback and nobody else.
func (s *Server) writeInitFile() error {
	sql := fmt.Sprintf(`CREATE USER IF NOT EXISTS 'tidykiln'@'127.0.0.1' IDENTIFIED BY '%[1]s';
GRANT ALL PRIVILEGES ON *.* TO 'tidykiln'@'127.0.0.1';
ALTER USER 'root'@'localhost' IDENTIFIED BY '%[1]s';
DELETE FROM mysql.global_priv WHERE User = '' OR User = 'root' AND Host <> 'localhost';
FLUSH PRIVILEGES;
`, s.secret)
	return os.WriteFile(s.path("init.sql"), []byte(sql), 0o600)
}

func (s *Server) awaitStart(ctx context.Context) error {
	ctx, cancel := context.WithTimeout(ctx, startWithin)
	defer cancel()
	tick := time.NewTicker(50 * time.Millisecond)
	defer tick.Stop()
	for {
		select {
		case <-s.exited:
			return fmt.Errorf("the database server ended while starting; the end of %s says:\n%s", s.path("server.log"), tail(s.path("server.log")))
		case <-ctx.Done():
			return fmt.Errorf("the database server did not answer in time; see %s", s.path("server.log"))
		case <-tick.C:
			if s.answers(ctx) == nil {
				return nil
			}
		}
	}
}

// answers checks that it is this server, with this data, that answers on the port.
func (s *Server) answers(ctx context.Context) error {
	pool, err := sql.Open("mysql", s.DSN(""))
	if err != nil {
		return err
	}
	defer pool.Close()
	var data string
	if err := pool.QueryRowContext(ctx, "SELECT @@datadir").Scan(&data); err != nil {
		return err
	}
	if filepath.Clean(data) != s.path("data") {
		return fmt.Errorf("another server, with its data in %s, answers", data)
	}
	return nil
}

// environment gives the server a folder of its own for temporary tables: on its
// start a server clears the one it is given, and would take those of another.
func (s *Server) environment() []string {
	return append(os.Environ(), "TMPDIR="+s.path("tmp"))
}

// longestSocket is the longest path that a socket can have.
const longestSocket = 100

// socket is the path of the server's socket: in its own folder, or, where that
// path is too long, in one that nobody else can enter.
func (s *Server) socket() (string, error) {
	own := s.path("mariadbd.sock")
	if len(own) <= longestSocket {
		return own, nil
	}
	h := fnv.New64a()
	_, _ = h.Write([]byte(s.dir)) // a hash never fails to write
	room := filepath.Join(cmp.Or(os.Getenv("XDG_RUNTIME_DIR"), os.TempDir()), fmt.Sprintf("tidykiln-%d-%x", os.Geteuid(), h.Sum64()))
	if err := os.Mkdir(room, 0o700); err != nil && !errors.Is(err, os.ErrExist) {
		return "", fmt.Errorf("making a folder for the database's socket: %w", err)
	}
	info, err := os.Lstat(room)
	if err != nil {
		return "", fmt.Errorf("looking at the folder of the database's socket: %w", err)
	}
	owner, known := info.Sys().(*syscall.Stat_t)
	if !info.IsDir() || info.Mode().Perm() != 0o700 || !known || int(owner.Uid) != os.Geteuid() {
		return "", fmt.Errorf("the folder of the database's socket, %s, belongs to somebody else: remove it, or set XDG_RUNTIME_DIR", room)
	}
	return filepath.Join(room, "mariadbd.sock"), nil
}
