// Package certificate makes and keeps what shows that the studio is itself on its
// house's network: an authority of its own that phones are told to trust, and a
// certificate by it for the names and addresses of this machine, renewed by itself.
package certificate

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"errors"
	"fmt"
	"io/fs"
	"math/big"
	"net"
	"net/netip"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"
)

const (
	authorityLasts = 10 * 365 * 24 * time.Hour
	// leafLasts is under the 398 days that phones allow.
	leafLasts = 390 * 24 * time.Hour
	// renewBefore is how long before its end a certificate is made anew.
	renewBefore = 30 * 24 * time.Hour
	// lookAgain is how often names, addresses and days are looked at again.
	lookAgain = 5 * time.Minute
)

// The files in the folder, each a certificate and its key.
const (
	authorityFile = "authority.pem"
	studioFile    = "studio.pem"
)

// Keeper hands out the certificate that is shown now.
type Keeper struct {
	folder string
	now    func() time.Time
	names  func() (Names, error)
	// given are the owner's own files; empty for certificates made here.
	given [2]string

	mu     sync.Mutex
	leaf   *tls.Certificate
	known  Names
	looked time.Time
	ca     *authority
}

// Names are what the machine is reached by.
type Names struct {
	Hosts     []string
	Addresses []netip.Addr
}

// authority is what signs the machine's certificates.
type authority struct {
	cert *x509.Certificate
	key  *ecdsa.PrivateKey
}

// OfOwn keeps certificates made here, in a folder, for the names that names tells.
func OfOwn(folder string, now func() time.Time, names func() (Names, error)) (*Keeper, error) {
	k := &Keeper{folder: folder, now: now, names: names}
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, fmt.Errorf("making the folder for certificates: %w", err)
	}
	_, err := k.current()
	return k, err
}

// Given keeps a certificate from files of the owner's, which are read again when they change.
func Given(certFile, keyFile string, now func() time.Time, names func() (Names, error)) (*Keeper, error) {
	k := &Keeper{now: now, names: names, given: [2]string{certFile, keyFile}}
	_, err := k.current()
	return k, err
}

// Own tells that the certificate is by the studio's own authority.
func (k *Keeper) Own() bool { return k.given[0] == "" }

// Get is what a TLS server asks for with each new connection.
func (k *Keeper) Get(*tls.ClientHelloInfo) (*tls.Certificate, error) { return k.current() }

func (k *Keeper) current() (*tls.Certificate, error) {
	k.mu.Lock()
	defer k.mu.Unlock()
	now := k.now()
	if k.leaf != nil && now.Sub(k.looked) < lookAgain {
		return k.leaf, nil
	}
	leaf, err := k.look(now)
	if err != nil {
		if k.leaf != nil { // the one before serves until the next look
			k.looked = now
			return k.leaf, nil
		}
		return nil, err
	}
	k.leaf, k.looked = leaf, now
	return leaf, nil
}

func (k *Keeper) look(now time.Time) (*tls.Certificate, error) {
	names, err := k.names()
	if err != nil {
		return nil, err
	}
	k.known = names
	if !k.Own() {
		leaf, err := tls.LoadX509KeyPair(k.given[0], k.given[1])
		if err != nil {
			return nil, fmt.Errorf("reading the certificate: %w", err)
		}
		return &leaf, nil
	}
	if err := k.authorise(names, now); err != nil {
		return nil, err
	}
	kept, err := k.kept(studioFile)
	if err == nil && k.serves(kept.Leaf, names, now) {
		return &kept, nil
	}
	return k.issue(names, now)
}

// serves tells whether a certificate is ours, not near its end, and for all names.
func (k *Keeper) serves(leaf *x509.Certificate, names Names, now time.Time) bool {
	if leaf.CheckSignatureFrom(k.ca.cert) != nil || now.Before(leaf.NotBefore) || now.After(leaf.NotAfter.Add(-renewBefore)) {
		return false
	}
	for _, name := range names.all() {
		if leaf.VerifyHostname(name) != nil {
			return false
		}
	}
	return true
}

func (n Names) all() []string {
	all := slices.Clone(n.Hosts)
	for _, a := range n.Addresses {
		all = append(all, a.String())
	}
	return all
}

func (k *Keeper) path(name string) string { return filepath.Join(k.folder, name) }

// authorise reads the authority, and makes it where there is none that serves.
func (k *Keeper) authorise(names Names, now time.Time) error {
	pair, err := k.kept(authorityFile)
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("reading the studio's own authority in %s: %w", k.folder, err)
	}
	if err == nil {
		if key, is := pair.PrivateKey.(*ecdsa.PrivateKey); is && now.Before(pair.Leaf.NotAfter.Add(-leafLasts)) && covers(pair.Leaf, names) {
			k.ca = &authority{pair.Leaf, key}
			return nil
		}
	}
	return k.found(names, now)
}

// houses are the networks of houses (RFC 1918, RFC 4193, RFC 3927, RFC 4291) and the machine
// itself: an authority that a phone trusts speaks for nothing beyond them.
var houses = []string{"10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "127.0.0.0/8", "fc00::/7", "fe80::/10", "::1/128"}

// houseDomains are names that no public authority gives out (RFC 6762, RFC 8375, RFC 6761).
var houseDomains = []string{"localhost", "local", "home.arpa", "internal", "home", "lan"}

// found makes an authority that may speak for this house's names and addresses only.
func (k *Keeper) found(names Names, now time.Time) error {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return fmt.Errorf("making the authority's key: %w", err)
	}
	template := x509.Certificate{
		Subject: pkix.Name{CommonName: "Tidy Kiln, this studio's own"}, SerialNumber: serial(),
		NotBefore: now.Add(-time.Hour), NotAfter: now.Add(authorityLasts),
		IsCA: true, BasicConstraintsValid: true, MaxPathLenZero: true, KeyUsage: x509.KeyUsageCertSign | x509.KeyUsageCRLSign,
		PermittedDNSDomainsCritical: true,
	}
	template.PermittedDNSDomains, template.PermittedIPRanges = speaksFor(names)
	cert, err := sign(&template, &template, key, key)
	if err != nil {
		return err
	}
	k.ca = &authority{cert, key}
	return k.keep(authorityFile, cert, key)
}

func speaksFor(names Names) (domains []string, ranges []*net.IPNet) {
	domains = append(slices.Clone(houseDomains), names.Hosts...)
	for _, h := range houses {
		_, network, _ := net.ParseCIDR(h) // they are written above
		ranges = append(ranges, network)
	}
	for _, a := range names.Addresses {
		ranges = append(ranges, &net.IPNet{IP: a.AsSlice(), Mask: net.CIDRMask(a.BitLen(), a.BitLen())})
	}
	return domains, ranges
}

// covers tells whether an authority may speak for all names.
func covers(ca *x509.Certificate, names Names) bool {
	for _, host := range names.Hosts {
		if !slices.ContainsFunc(ca.PermittedDNSDomains, func(d string) bool { return host == d || strings.HasSuffix(host, "."+d) }) {
			return false
		}
	}
	for _, a := range names.Addresses {
		if !slices.ContainsFunc(ca.PermittedIPRanges, func(r *net.IPNet) bool { return r.Contains(a.AsSlice()) }) {
			return false
		}
	}
	return true
}

// issue makes the machine's certificate.
func (k *Keeper) issue(names Names, now time.Time) (*tls.Certificate, error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, fmt.Errorf("making the studio's key: %w", err)
	}
	template := x509.Certificate{
		Subject: pkix.Name{CommonName: "Tidy Kiln"}, SerialNumber: serial(),
		NotBefore: now.Add(-time.Hour), NotAfter: now.Add(leafLasts),
		KeyUsage: x509.KeyUsageDigitalSignature, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth}, BasicConstraintsValid: true,
		DNSNames: names.Hosts,
	}
	for _, a := range names.Addresses {
		template.IPAddresses = append(template.IPAddresses, a.AsSlice())
	}
	cert, err := sign(&template, k.ca.cert, key, k.ca.key)
	if err != nil {
		return nil, err
	}
	if err := k.keep(studioFile, cert, key); err != nil {
		return nil, err
	}
	return &tls.Certificate{Certificate: [][]byte{cert.Raw}, PrivateKey: key, Leaf: cert}, nil
}

func serial() *big.Int {
	n, _ := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 120)) // never fails, by its contract
	return n
}

func sign(template, by *x509.Certificate, key, with *ecdsa.PrivateKey) (*x509.Certificate, error) {
	raw, err := x509.CreateCertificate(rand.Reader, template, by, &key.PublicKey, with)
	if err != nil {
		return nil, fmt.Errorf("signing a certificate: %w", err)
	}
	return x509.ParseCertificate(raw)
}

// keep writes a certificate and its key into one file, which appears as a whole.
func (k *Keeper) keep(name string, cert *x509.Certificate, key *ecdsa.PrivateKey) error {
	der, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return fmt.Errorf("writing a key: %w", err)
	}
	text := append(pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: cert.Raw}), pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: der})...)
	if err := os.WriteFile(k.path(name)+".new", text, 0o600); err != nil {
		return fmt.Errorf("keeping a certificate: %w", err)
	}
	if err := os.Rename(k.path(name)+".new", k.path(name)); err != nil {
		return fmt.Errorf("keeping a certificate: %w", err)
	}
	return nil
}

func (k *Keeper) kept(name string) (tls.Certificate, error) {
	return tls.LoadX509KeyPair(k.path(name), k.path(name))
}

// Names are those that the studio answers to on its house's network.
func (k *Keeper) Names() Names {
	_, _ = k.current() // where that fails, what was known before holds
	k.mu.Lock()
	defer k.mu.Unlock()
	return k.known
}

// Facts are what somebody is told of the certificate.
type Facts struct {
	// Fingerprint is the SHA-256 of what phones are to trust: the authority, or a given certificate.
	Fingerprint string
	// Until is when the certificate that is shown ends.
	Until time.Time
	// Trusted is the authority, as a phone takes it in; nil where the certificate was given.
	Trusted []byte
}

// Facts tells of the certificate that is shown now.
func (k *Keeper) Facts() (f Facts, err error) {
	leaf, err := k.current()
	if err != nil {
		return f, err
	}
	k.mu.Lock()
	defer k.mu.Unlock()
	shown := leaf.Leaf.Raw
	if k.Own() {
		shown, f.Trusted = k.ca.cert.Raw, k.ca.cert.Raw
	}
	sum := sha256.Sum256(shown)
	pairs := make([]string, len(sum))
	for i, b := range sum {
		pairs[i] = fmt.Sprintf("%02X", b)
	}
	f.Fingerprint, f.Until = strings.Join(pairs, " "), leaf.Leaf.NotAfter
	return f, nil
}
