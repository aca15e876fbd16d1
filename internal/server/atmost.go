package server

import (
	"net"
	"net/netip"
	"sync"
)

const (
	// mostFromOne bounds the connections of one address of the house: a browser takes six.
	mostFromOne = 64
	// mostConnections bounds those of all of them together.
	mostConnections = 1024
	// mostStreams bounds the windows of one device that listen to what changes.
	mostStreams = 24
)

// atMost counts what each of many has open.
type atMost[K comparable] struct {
	mu    sync.Mutex
	each  int
	whole int
	open  map[K]int
	sum   int
}

func newAtMost[K comparable](each, whole int) *atMost[K] {
	return &atMost[K]{each: each, whole: whole, open: map[K]int{}}
}

// enter counts one more, unless that is too many; leave takes it back, once.
func (b *atMost[K]) enter(who K) (leave func(), may bool) {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.open[who] >= b.each || b.sum >= b.whole {
		return nil, false
	}
	b.open[who]++
	b.sum++
	return sync.OnceFunc(func() {
		b.mu.Lock()
		defer b.mu.Unlock()
		b.sum--
		if b.open[who]--; b.open[who] == 0 {
			delete(b.open, who)
		}
	}), true
}

// fair lets no address of the house take all connections. Those of the machine itself
// are not counted, so that whoever sits there always comes in.
type fair struct {
	net.Listener
	open *atMost[netip.Addr]
}

func (f fair) Accept() (net.Conn, error) {
	for {
		c, err := f.Listener.Accept()
		if err != nil || onItself(c) {
			return c, err
		}
		from, err := netip.ParseAddrPort(c.RemoteAddr().String())
		if err != nil {
			return c, nil // no address of the internet's, and so of a test's own making
		}
		if leave, may := f.open.enter(from.Addr().Unmap()); may {
			return &leaving{c, leave}, nil
		}
		_ = c.Close() // whoever has so many needs no words
	}
}

// onItself tells that a connection came to an address of the machine itself.
func onItself(c net.Conn) bool {
	at, err := netip.ParseAddrPort(c.LocalAddr().String())
	return err == nil && itself(at.Addr())
}

// leaving is a connection that is counted until it is closed.
type leaving struct {
	net.Conn
	leave func()
}

func (l *leaving) Close() error {
	l.leave()
	return l.Conn.Close()
}
