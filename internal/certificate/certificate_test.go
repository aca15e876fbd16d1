package certificate_test

import (
	"crypto/tls"
	"crypto/x509"
	"net/netip"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/certificate"
)

// machine is a machine with names, addresses and a clock that the test changes.
type machine struct {
	*testing.T
	folder string
	now    time.Time
	names  certificate.Names
}

func newMachine(t *testing.T) *machine {
	return &machine{t, t.TempDir(), time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC), certificate.Names{Hosts: []string{"studio.home"}, Addresses: []netip.Addr{netip.MustParseAddr("192.168.1.20")}}}
}

func (m *machine) clock() time.Time                  { return m.now }
func (m *machine) known() (certificate.Names, error) { return m.names, nil }
func (m *machine) open() (k *certificate.Keeper) {
	m.Helper()
	return m.opened(certificate.OfOwn(m.folder, m.clock, m.known))
}
func (m *machine) opened(k *certificate.Keeper, err error) *certificate.Keeper {
	m.Helper()
	require.NoError(m, err)
	return k
}

func (m *machine) shown(k *certificate.Keeper) *x509.Certificate {
	m.Helper()
	shown, err := k.Get(&tls.ClientHelloInfo{})
	require.NoError(m, err)
	return shown.Leaf
}

func (m *machine) facts(k *certificate.Keeper) certificate.Facts {
	m.Helper()
	f, err := k.Facts()
	require.NoError(m, err)
	return f
}

// trusts tells whether a phone that trusts an authority takes a certificate for a name.
func (m *machine) trusts(authority []byte, leaf *x509.Certificate, name string) error {
	m.Helper()
	ca, err := x509.ParseCertificate(authority)
	require.NoError(m, err)
	roots := x509.NewCertPool()
	roots.AddCert(ca)
	_, err = leaf.Verify(x509.VerifyOptions{Roots: roots, DNSName: name, CurrentTime: m.now})
	return err
}

func TestAPhoneThatTrustsTheAuthorityTakesTheCertificate(t *testing.T) {
	m := newMachine(t)
	k := m.open()
	f := m.facts(k)
	for _, name := range []string{"studio.home", "192.168.1.20"} {
		assert.NoError(t, m.trusts(f.Trusted, m.shown(k), name), name)
	}
	assert.Error(t, m.trusts(f.Trusted, m.shown(k), "192.168.1.21"))
	assert.Regexp(t, `^([0-9A-F]{2} ){31}[0-9A-F]{2}$`, f.Fingerprint)
	assert.Less(t, m.shown(k).NotAfter.Sub(m.shown(k).NotBefore), 398*24*time.Hour, "phones take none that lasts longer")
	for _, file := range []string{"authority.pem", "studio.pem"} {
		info, err := os.Stat(filepath.Join(m.folder, file))
		require.NoError(t, err)
		assert.Equal(t, os.FileMode(0o600), info.Mode().Perm(), file)
	}
}

func TestTheCertificateIsRenewedAndTheAuthorityStays(t *testing.T) {
	m := newMachine(t)
	k := m.open()
	first, authority := m.shown(k), m.facts(k).Fingerprint
	assert.Equal(t, first.SerialNumber, m.shown(m.open()).SerialNumber, "a start makes none anew")
	m.now = m.now.Add(350 * 24 * time.Hour)
	assert.Equal(t, first.SerialNumber, m.shown(k).SerialNumber)
	m.now = m.now.Add(15 * 24 * time.Hour)
	second := m.shown(k)
	assert.NotEqual(t, first.SerialNumber, second.SerialNumber, "while it serves")
	assert.NoError(t, m.trusts(m.facts(k).Trusted, second, "studio.home"))
	assert.Equal(t, authority, m.facts(k).Fingerprint)
}

func TestAnotherAddressIsAnotherCertificateByTheSameAuthority(t *testing.T) {
	m := newMachine(t)
	k := m.open()
	authority := m.facts(k).Trusted
	m.names.Addresses = []netip.Addr{netip.MustParseAddr("10.0.0.7")}
	m.now = m.now.Add(6 * time.Minute)
	assert.NoError(t, m.trusts(authority, m.shown(k), "10.0.0.7"), "whoever trusts it already goes on")
	assert.Equal(t, m.names, k.Names())
}

func TestTheAuthoritySpeaksForTheHouseOnly(t *testing.T) {
	m := newMachine(t)
	house := m.facts(m.open())
	// Whoever stole its key signs what they like; a phone takes it for this house only.
	for name, takes := range map[string]bool{"bank.example": false, "kitchen.home": true} {
		stolen, err := certificate.Sign(m.folder, name, m.now)
		require.NoError(t, err)
		assert.Equal(t, takes, m.trusts(house.Trusted, stolen, name) == nil, name)
	}
	m.names.Hosts = []string{"studio.reedmere.example"}
	k := m.open()
	assert.NotEqual(t, house.Fingerprint, m.facts(k).Fingerprint, "a name beyond it needs another authority")
	assert.NoError(t, m.trusts(m.facts(k).Trusted, m.shown(k), "studio.reedmere.example"))
}

func TestWhatACrashLeftIsMadeAnew(t *testing.T) {
	m := newMachine(t)
	m.open()
	require.NoError(t, os.WriteFile(filepath.Join(m.folder, "studio.pem"), []byte("half a file"), 0o600))
	k := m.open()
	assert.NoError(t, m.trusts(m.facts(k).Trusted, m.shown(k), "studio.home"))
	require.NoError(t, os.WriteFile(filepath.Join(m.folder, "authority.pem"), []byte("half a file"), 0o600))
	_, err := certificate.OfOwn(m.folder, m.clock, m.known)
	assert.ErrorContains(t, err, "authority", "what phones trust is not thrown away unasked")
}

func TestAGivenCertificateIsReadAgainWhenItChanges(t *testing.T) {
	m := newMachine(t)
	m.open()
	file := filepath.Join(m.folder, "studio.pem")
	k := m.opened(certificate.Given(file, file, m.clock, m.known))
	assert.False(t, k.Own())
	assert.Nil(t, m.facts(k).Trusted)
	first := m.shown(k).SerialNumber
	m.names.Hosts = []string{"kiln.home"}
	m.open() // writes another into the same files
	assert.Equal(t, first, m.shown(k).SerialNumber)
	m.now = m.now.Add(6 * time.Minute)
	assert.NotEqual(t, first, m.shown(k).SerialNumber)
	require.NoError(t, os.Remove(file))
	m.now = m.now.Add(6 * time.Minute)
	assert.NotNil(t, m.shown(k), "while it cannot be read the one before serves")
	_, err := certificate.Given(file, file, m.clock, m.known)
	assert.ErrorContains(t, err, "reading the certificate")
}

func TestNamesOfTheMachine(t *testing.T) {
	hosts, err := certificate.ReadNames(" Studio.Home, kiln ,")
	require.NoError(t, err)
	assert.Equal(t, []string{"studio.home", "kiln"}, hosts)
	for _, wrong := range []string{"192.168.1.20", "a b", "-x", "studio..home", "*.home", "https://studio.home"} {
		_, err := certificate.ReadNames(wrong)
		assert.Error(t, err, wrong)
	}
	one, err := certificate.OfMachine(hosts, netip.MustParseAddr("127.0.0.2"))
	require.NoError(t, err)
	assert.Contains(t, one.Hosts, "studio.home")
	assert.Equal(t, []netip.Addr{netip.MustParseAddr("127.0.0.2")}, one.Addresses)
	all, err := certificate.OfMachine(nil, netip.IPv4Unspecified())
	require.NoError(t, err)
	for _, a := range all.Addresses {
		assert.False(t, a.IsLoopback() || a.IsUnspecified(), a)
	}
}
