package mariadb

import (
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"syscall"
	"time"
)

func asRoot() []string {
	if os.Geteuid() == 0 {
		return []string{"--user=root"}
	}
	return nil
}

// program finds a server program, which Debian keeps off an ordinary user's path.
func program(name string) string {
	if path, err := exec.LookPath(name); err == nil {
		return path
	}
	return "/usr/sbin/" + name
}

// isFree tells whether nothing listens on a port; 0 stands for any.
func isFree(port int) bool {
	l, err := net.Listen("tcp", fmt.Sprintf("127.0.0.1:%d", port))
	if err != nil {
		return false
	}
	return l.Close() == nil
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, fmt.Errorf("finding a free port for the database: %w", err)
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

// end signals a process and waits until it is gone; when that takes too long it is killed.
func end(pid int, signal syscall.Signal, within time.Duration, exited <-chan struct{}) error {
	if err := syscall.Kill(pid, signal); errors.Is(err, syscall.ESRCH) {
		return nil
	} else if err != nil {
		return fmt.Errorf("stopping the database server %d: %w", pid, err)
	}
	tick := time.NewTicker(20 * time.Millisecond)
	defer tick.Stop()
	deadline := time.After(within)
	for {
		select {
		case <-exited:
			return nil
		case <-deadline:
			return syscall.Kill(pid, syscall.SIGKILL)
		case <-tick.C:
			if exited == nil && syscall.Kill(pid, 0) != nil {
				return nil
			}
		}
	}
}

func tail(path string) string {
	text, err := os.ReadFile(path)
	if err != nil {
		return err.Error()
	}
	return string(text[max(0, len(text)-1500):])
}
