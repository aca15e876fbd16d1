package server_test

import (
	"context"
	"encoding/binary"
	"io"
	"net"
	"strings"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/go-sql-driver/mysql"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/database"
	"tidykiln/internal/demo/demotest"
)

// cable carries connections to the database, counts the statements that pass,
// and can be held, cut and made to lose an answer.
type cable struct {
	net.Listener
	statements atomic.Int64
	// losing is the beginning of a statement whose answer is lost.
	losing atomic.Value
	// until is how many statements still pass before the connection breaks; under zero it does not.
	until atomic.Int64
	flow  sync.RWMutex
	mu    sync.Mutex
	ends  []net.Conn
	isCut bool
}

// throughCable opens the demo studio with its connections running through a cable.
func throughCable(t *testing.T) (*database.DB, *cable) {
	config, err := mysql.ParseDSN(demotest.DSN(t, now, "Etc/UTC"))
	require.NoError(t, err)
	c := plugIn(t, config.Addr)
	config.Addr = c.Addr().String()
	db, err := database.Open(context.Background(), config.FormatDSN())
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, db.Close()) })
	return db, c
}

func plugIn(t *testing.T, address string) *cable {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	c := &cable{Listener: l}
	c.losing.Store("")
	c.until.Store(-1)
	t.Cleanup(func() { _ = l.Close() })
	go func() {
		for {
			near, err := l.Accept()
			if err != nil {
				return
			}
			far, err := net.Dial("tcp", address)
			if err != nil {
				_ = near.Close()
				continue
			}
			c.carry(near, far)
		}
	}()
	return c
}

func (c *cable) carry(near, far net.Conn) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.isCut {
		_, _ = near.Close(), far.Close()
		return
	}
	c.ends = append(c.ends, near, far)
	go c.outward(near, far)
	go func() {
		_, _ = io.Copy(near, far)
		_ = near.Close()
	}()
}

// query is the command byte of a statement sent as text.
const query = 0x03

// outward passes the packets of a client on, one by one.
func (c *cable) outward(near, far net.Conn) {
	defer far.Close()
	head := make([]byte, 4)
	for {
		if _, err := io.ReadFull(near, head); err != nil {
			return
		}
		packet := make([]byte, binary.LittleEndian.Uint32(append(head[:3:3], 0)))
		if _, err := io.ReadFull(near, packet); err != nil {
			return
		}
		if head[3] == 0 && len(packet) > 0 && packet[0] == query {
			c.statements.Add(1)
			if c.until.Load() >= 0 && c.until.Add(-1) < 0 {
				_ = near.Close()
				return
			}
			if lost := c.losing.Load().(string); lost != "" && strings.HasPrefix(string(packet[1:]), lost) {
				c.losing.Store("")
				_ = near.Close()
			}
		}
		c.flow.RLock()
		_, err := far.Write(append(head[:4:4], packet...))
		c.flow.RUnlock()
		if err != nil {
			return
		}
	}
}

// hold lets nothing through until release.
func (c *cable) hold()    { c.flow.Lock() }
func (c *cable) release() { c.flow.Unlock() }

// lose has the next statement that begins so reach the database, and its answer not come back.
func (c *cable) lose(beginning string) { c.losing.Store(beginning) }

// breakAfter has the connection break before the statement after the next n.
func (c *cable) breakAfter(n int64) { c.until.Store(n) }

// broke tells whether it did, and lets everything pass again.
func (c *cable) broke() bool { return c.until.Swap(-1) < 0 }

func (c *cable) cut() {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.isCut = true
	for _, end := range c.ends {
		_ = end.Close()
	}
	c.ends = nil
}

// mend lets connections through again.
func (c *cable) mend() {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.isCut = false
}
