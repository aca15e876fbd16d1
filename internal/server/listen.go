package server

import (
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/netip"
	"time"
)

// Address is where the studio listens.
type Address struct{ netip.AddrPort }

// ParseAddress reads an address: a number or localhost, and a port.
func ParseAddress(text string) (a Address, err error) {
	host, port, err := net.SplitHostPort(text)
	if err != nil {
		return a, fmt.Errorf("TIDYKILN_ADDRESS: %q must be a host and a port, such as 127.0.0.1:8420", text)
	}
	if host == "localhost" {
		host = "127.0.0.1"
	}
	if a.AddrPort, err = netip.ParseAddrPort(net.JoinHostPort(host, port)); err != nil {
		return a, fmt.Errorf("TIDYKILN_ADDRESS: %q must be an address in numbers and a port, such as 192.168.1.20:8420, or 0.0.0.0:8420 for all of this machine's", text)
	}
	a.AddrPort = netip.AddrPortFrom(a.Addr().Unmap(), a.Port())
	return a, nil
}

// itself tells the two addresses of the machine that no other reaches and no name
// leads elsewhere. The others of 127.0.0.0/8 count as the house's network.
func itself(a netip.Addr) bool {
	a = a.Unmap()
	return a == netip.AddrFrom4([4]byte{127, 0, 0, 1}) || a == netip.IPv6Loopback()
}

// Beyond tells that other machines reach the address.
func (a Address) Beyond() bool { return !itself(a.Addr()) }

// Listen opens the address. One beyond the machine is opened on the machine itself as well.
func Listen(a Address) (all []net.Listener, err error) {
	defer func() {
		if err != nil {
			for _, l := range all {
				err = errors.Join(err, l.Close())
			}
		}
	}()
	at := []netip.AddrPort{a.AddrPort}
	if a.Beyond() && !a.Addr().IsUnspecified() {
		at = append(at, netip.AddrPortFrom(netip.AddrFrom4([4]byte{127, 0, 0, 1}), a.Port()))
	}
	for _, address := range at {
		l, err := net.Listen("tcp", address.String())
		if err != nil {
			return all, fmt.Errorf("port %d on %s cannot be used (is Tidy Kiln, or another program, already running there?): %w", address.Port(), address.Addr(), err)
		}
		all = append(all, l)
	}
	return all, nil
}

// Secured speaks TLS with whoever comes from beyond the machine itself, and lets none
// of them take all connections.
func Secured(l net.Listener, certificate func(*tls.ClientHelloInfo) (*tls.Certificate, error)) net.Listener {
	return secured{fair{l, newAtMost[netip.Addr](mostFromOne, mostConnections)}, &tls.Config{GetCertificate: certificate, MinVersion: tls.VersionTLS12, NextProtos: []string{"h2", "http/1.1"}}}
}

type secured struct {
	net.Listener
	config *tls.Config
}

func (s secured) Accept() (net.Conn, error) {
	c, err := s.Listener.Accept()
	if err != nil {
		return nil, err
	}
	if onItself(c) {
		return c, nil
	}
	return tls.Server(c, s.config), nil
}

// longestAnswer is how long an answer may take in all, so that a reader that
// stops reading holds nothing for longer. The stream of changes and the taking
// in of tables have deadlines of their own, a write at a time.
const longestAnswer = 90 * time.Second

// stopWithin is how long requests under way may take to end.
const stopWithin = 10 * time.Second

// Serve answers on the listeners until ctx ends, then lets requests under way finish.
func Serve(ctx context.Context, handler http.Handler, listeners ...net.Listener) error {
	s := &http.Server{Handler: handler, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: 60 * time.Second, WriteTimeout: longestAnswer, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10}
	failed := make(chan error, len(listeners))
	for _, l := range listeners {
		go func() { failed <- s.Serve(l) }()
	}
	var err error
	select {
	case <-ctx.Done():
	case err = <-failed:
	}
	ending, cancel := context.WithTimeout(context.WithoutCancel(ctx), stopWithin)
	defer cancel()
	if stopped := s.Shutdown(ending); err == nil {
		return stopped
	}
	return fmt.Errorf("serving: %w", err)
}
