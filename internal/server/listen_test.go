package server_test

import (
	"context"
	"crypto/tls"
	"crypto/x509"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/netip"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/server"
)

func TestAnAddressIsInNumbersAndSaysWhetherOthersReachIt(t *testing.T) {
	for text, beyond := range map[string]bool{
		"127.0.0.1:8420": false, "localhost:8420": false, "[::1]:8420": false, "[::ffff:127.0.0.1]:80": false,
		"127.0.0.2:8420": true, "0.0.0.0:8420": true, "[::]:8420": true, "192.168.1.20:443": true, "[fd00::1]:8420": true,
	} {
		a, err := server.ParseAddress(text)
		require.NoError(t, err, text)
		assert.Equal(t, beyond, a.Beyond(), text)
	}
	for text, says := range map[string]string{"nonsense": "must be a host and a port", "studio.home:8420": "in numbers", "127.0.0.1:http": "in numbers", "127.0.0.1:99999": "in numbers"} {
		_, err := server.ParseAddress(text)
		assert.ErrorContains(t, err, says, text)
	}
}

func TestAPortThatIsTakenIsSaid(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	_, err = server.OpenReach(server.ReachOptions{Address: l.Addr().String()})
	assert.ErrorContains(t, err, "already running")
}

// inTheHouse is a studio that listens on an address of the house's network, which is one
// of this machine's own here, and what trusts its authority.
type inTheHouse struct {
	*testing.T
	port   uint16
	trust  string
	client *http.Client
}

func newInTheHouse(t *testing.T) *inTheHouse {
	port := freePort(t)
	reach, err := server.OpenReach(server.ReachOptions{Address: fmt.Sprint("127.0.0.2:", port), TrustAddress: "127.0.0.2:0", Names: "studio.home", Folder: t.TempDir()})
	require.NoError(t, err)
	db := dbtest.New(t)
	rooms := housed(t, db)
	rooms.Access.ReachedBy(reach.House)
	ctx, stop := context.WithCancel(context.Background())
	ended := make(chan error, 1)
	h := server.Handler(server.Options{DB: db, Now: clock, House: rooms, Pages: built, Stopping: ctx.Done(), Address: reach.Address, Certificate: reach.Certificate})
	go func() { ended <- reach.Serve(ctx, h) }()
	t.Cleanup(func() {
		stop()
		assert.NoError(t, <-ended)
		assert.NoError(t, reach.Close())
	})
	facts, err := reach.Certificate.Facts()
	require.NoError(t, err)
	authority, err := x509.ParseCertificate(facts.Trusted)
	require.NoError(t, err)
	roots := x509.NewCertPool()
	roots.AddCert(authority)
	return &inTheHouse{t, port, "http://" + reach.TrustAt(), &http.Client{Transport: &http.Transport{
		TLSClientConfig: &tls.Config{RootCAs: roots}, ForceAttemptHTTP2: true,
		DialContext: func(ctx context.Context, network, address string) (net.Conn, error) {
			address = strings.Replace(address, "studio.home", "127.0.0.2", 1)
			return new(net.Dialer).DialContext(ctx, network, address)
		},
	}}}
}

func freePort(t *testing.T) uint16 {
	l, err := net.Listen("tcp", "127.0.0.2:0")
	require.NoError(t, err)
	defer l.Close()
	return netip.MustParseAddrPort(l.Addr().String()).Port()
}

func (s *inTheHouse) get(url string, change ...func(*http.Request)) (*http.Response, string) {
	s.Helper()
	r, err := http.NewRequestWithContext(s.Context(), "GET", url, nil)
	require.NoError(s, err)
	for _, c := range change {
		c(r)
	}
	answer, err := s.client.Do(r)
	require.NoError(s, err)
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	require.NoError(s, err)
	return answer, string(text)
}

func TestBeyondTheMachineItIsTLSAndOnItPlain(t *testing.T) {
	t.Parallel()
	s := newInTheHouse(t)
	for _, host := range []string{"127.0.0.2", "studio.home"} {
		answer, said := s.get(fmt.Sprintf("https://%s:%d/api/me", host, s.port))
		assert.Equal(t, http.StatusOK, answer.StatusCode, host)
		assert.Equal(t, "HTTP/2.0", answer.Proto)
		assert.JSONEq(t, `{"owned":false,"shared":false,"hasPin":false}`, said, "nobody is the owner of a studio from another machine")
		answer, _ = s.get(fmt.Sprintf("https://%s:%d/api/today", host, s.port))
		assert.Equal(t, http.StatusUnauthorized, answer.StatusCode)
		assert.Empty(t, answer.Header.Get("Strict-Transport-Security"), "the certificate is not the owner's own")
	}
	answer, _ := s.get(fmt.Sprintf("http://127.0.0.1:%d/api/today", s.port))
	assert.Equal(t, http.StatusOK, answer.StatusCode, "on the machine itself nothing has changed")
	answer, _ = s.get(fmt.Sprintf("http://127.0.0.2:%d/api/today", s.port))
	assert.Equal(t, http.StatusBadRequest, answer.StatusCode, "and plain words are not spoken beyond it")
	answer, _ = s.get(fmt.Sprintf("https://127.0.0.2:%d/api/me", s.port), func(r *http.Request) { r.Host = fmt.Sprint("evil.example:", s.port) })
	assert.Equal(t, http.StatusMisdirectedRequest, answer.StatusCode)
	_, err := http.Get(fmt.Sprintf("https://127.0.0.2:%d/api/me", s.port))
	assert.ErrorContains(t, err, "certificate", "whoever has not come to trust it is told")
}

func TestTheTrustPageServesTheCertificateAndNothingElse(t *testing.T) {
	t.Parallel()
	s := newInTheHouse(t)
	answer, page := s.get(s.trust + "/")
	assert.Equal(t, http.StatusOK, answer.StatusCode)
	house, said := s.get(fmt.Sprintf("http://127.0.0.1:%d/api/house", s.port))
	require.Equal(t, http.StatusOK, house.StatusCode)
	for _, text := range []string{fmt.Sprintf("https://127.0.0.2:%d", s.port), "Get the certificate"} {
		assert.Contains(t, page, text)
	}
	fingerprint := page[strings.Index(page, "<code>")+6 : strings.Index(page, "</code>")]
	assert.Contains(t, said, fingerprint, "Workshop shows the same figures")
	answer, raw := s.get(s.trust + "/tidy-kiln.crt")
	assert.Equal(t, "application/x-x509-ca-cert", answer.Header.Get("Content-Type"))
	authority, err := x509.ParseCertificate([]byte(raw))
	require.NoError(t, err)
	assert.True(t, authority.IsCA)
	for _, path := range []string{"/api/today", "/api/me", "/orders", "/index.html", "/studio.pem", "/authority.pem"} {
		answer, _ := s.get(s.trust + path)
		assert.Equal(t, http.StatusNotFound, answer.StatusCode, path)
	}
}

func TestASlowSenderIsLetGo(t *testing.T) {
	t.Parallel()
	s := newInTheHouse(t)
	c, err := net.Dial("tcp", fmt.Sprint("127.0.0.2:", s.port))
	require.NoError(t, err)
	defer c.Close()
	require.NoError(t, c.SetDeadline(time.Now().Add(30*time.Second)))
	_, err = c.Write([]byte{22}) // the first byte of a handshake, and no more
	require.NoError(t, err)
	_, err = c.Read(make([]byte, 1))
	assert.Error(t, err)
	assert.NotErrorIs(t, err, os.ErrDeadlineExceeded, "the server ends it first")
}

func TestOneAddressDoesNotTakeAllConnections(t *testing.T) {
	t.Parallel()
	s := newInTheHouse(t)
	const most = 64
	var held []net.Conn
	t.Cleanup(func() {
		for _, c := range held {
			_ = c.Close()
		}
	})
	dial := func() (c net.Conn) {
		c, err := net.Dial("tcp", fmt.Sprint("127.0.0.2:", s.port))
		require.NoError(t, err)
		held = append(held, c)
		return c
	}
	for range most {
		dial()
	}
	over := dial()
	require.NoError(t, over.SetDeadline(time.Now().Add(20*time.Second)))
	_, err := over.Read(make([]byte, 1))
	require.Error(t, err)
	assert.NotErrorIs(t, err, os.ErrDeadlineExceeded, "it is closed at once")
	answer, _ := s.get(fmt.Sprintf("http://127.0.0.1:%d/api/today", s.port))
	assert.Equal(t, http.StatusOK, answer.StatusCode, "whoever sits at the machine comes in")
	require.NoError(t, held[0].Close())
	assert.Eventually(t, func() bool {
		_, err := s.client.Get(fmt.Sprintf("https://127.0.0.2:%d/api/me", s.port))
		return err == nil
	}, 20*time.Second, 20*time.Millisecond, "and one that is given back is another's")
}
