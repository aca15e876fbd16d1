package server

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/netip"
	"path/filepath"
	"strconv"
	"time"

	"tidykiln/internal/access"
	"tidykiln/internal/certificate"
)

// ReachOptions say how a studio is to be reached.
type ReachOptions struct {
	// Address is where it listens; Names are those that it is reached by in its house, with commas between.
	Address, Names string
	// CertificateFile and KeyFile are the owner's own; empty for certificates made in Folder.
	CertificateFile, KeyFile, Folder string
	// TrustAddress is where devices come to trust a certificate made here; empty for the port after the studio's.
	TrustAddress string
}

// Reach is how a studio is reached.
type Reach struct {
	Address Address
	// Certificate is what is shown beyond the machine itself; nil where nobody comes from there.
	Certificate *certificate.Keeper
	listeners   []net.Listener
	// trust serves the page for coming to trust the certificate; nil where none is needed.
	trust   net.Listener
	trustAt Address
}

// OpenReach takes the ports, and makes or reads the certificate where one is needed.
func OpenReach(o ReachOptions) (r *Reach, err error) {
	r = &Reach{}
	defer func() {
		if err != nil {
			err = errors.Join(err, r.Close())
		}
	}()
	if r.Address, err = ParseAddress(o.Address); err != nil {
		return r, err
	}
	if r.listeners, err = Listen(r.Address); err != nil || !r.Address.Beyond() {
		return r, err
	}
	if err := r.certify(o); err != nil {
		return r, err
	}
	for i, l := range r.listeners {
		r.listeners[i] = Secured(l, r.Certificate.Get)
	}
	if !r.Certificate.Own() {
		return r, nil
	}
	if r.trustAt, err = trustAddress(o, r.Address); err != nil {
		return r, err
	}
	if r.trust, err = net.Listen("tcp", r.trustAt.String()); err != nil {
		return r, fmt.Errorf("TIDYKILN_TRUST_ADDRESS: %s cannot be used: %w", r.trustAt, err)
	}
	return r, nil
}

func (r *Reach) certify(o ReachOptions) error {
	hosts, err := certificate.ReadNames(o.Names)
	if err != nil {
		return fmt.Errorf("TIDYKILN_NAMES: %w", err)
	}
	names := func() (certificate.Names, error) { return certificate.OfMachine(hosts, r.Address.Addr()) }
	if (o.CertificateFile == "") != (o.KeyFile == "") {
		return errors.New("TIDYKILN_CERTIFICATE and TIDYKILN_KEY belong together: give both files, or neither")
	}
	if o.CertificateFile != "" {
		r.Certificate, err = certificate.Given(o.CertificateFile, o.KeyFile, time.Now, names)
		return err
	}
	r.Certificate, err = certificate.OfOwn(filepath.Join(o.Folder, "certificate"), time.Now, names)
	return err
}

func trustAddress(o ReachOptions, studio Address) (Address, error) {
	if o.TrustAddress == "" {
		return Address{netip.AddrPortFrom(studio.Addr(), studio.Port()+1)}, nil
	}
	a, err := ParseAddress(o.TrustAddress)
	if err != nil {
		return a, fmt.Errorf("TIDYKILN_TRUST_ADDRESS: %q must be an address and a port, such as 192.168.1.20:8421", o.TrustAddress)
	}
	return a, nil
}

// House is what the pages say of how the studio is reached.
func (r *Reach) House() (h access.House, err error) {
	if r.Certificate == nil {
		return h, nil
	}
	facts, err := r.Certificate.Facts()
	if err != nil {
		return h, err
	}
	names := r.Certificate.Names()
	for _, host := range names.Hosts {
		h.Addresses = append(h.Addresses, at("https", host, r.Address.Port()))
	}
	for _, address := range names.Addresses {
		h.Addresses = append(h.Addresses, at("https", address.String(), r.Address.Port()))
	}
	host := r.best(names)
	h.Address, h.Fingerprint, h.Until, h.Own = at("https", host, r.Address.Port()), facts.Fingerprint, &facts.Until, r.Certificate.Own()
	if r.trust != nil {
		h.TrustPage = at("http", host, r.trustAt.Port())
	}
	return h, nil
}

// best is the name or the address that works wherever the name of the machine is not known: one in
// numbers, where the certificate is made here; a given one is for a name.
func (r *Reach) best(names certificate.Names) string {
	if r.Certificate.Own() && len(names.Addresses) > 0 {
		return names.Addresses[0].String()
	}
	if len(names.Hosts) > 0 {
		return names.Hosts[0]
	}
	return r.Address.Addr().String()
}

func at(scheme, host string, port uint16) string {
	if scheme == "https" && port == 443 {
		return "https://" + host
	}
	return scheme + "://" + net.JoinHostPort(host, strconv.Itoa(int(port)))
}

// Itself is the address on the machine itself.
func (r *Reach) Itself() string {
	if r.Address.Beyond() {
		return at("http", "127.0.0.1", r.Address.Port())
	}
	return "http://" + r.Address.String()
}

// Serve answers until ctx ends.
func (r *Reach) Serve(ctx context.Context, handler http.Handler) error {
	if r.trust == nil {
		return Serve(ctx, handler, r.listeners...)
	}
	trusting := make(chan error, 1)
	ctx, stop := context.WithCancel(ctx)
	go func() {
		defer stop()
		trusting <- Serve(ctx, r.Certificate.TrustPage(func() string { return at("https", r.best(r.Certificate.Names()), r.Address.Port()) }), r.trust)
	}()
	err := Serve(ctx, handler, r.listeners...)
	stop()
	return errors.Join(err, <-trusting)
}

// Close gives the ports back.
func (r *Reach) Close() (err error) {
	all := r.listeners
	if r.trust != nil {
		all = append(all, r.trust)
	}
	for _, l := range all {
		if closed := l.Close(); !errors.Is(closed, net.ErrClosed) {
			err = errors.Join(err, closed)
		}
	}
	return err
}
