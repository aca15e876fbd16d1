package main

import (
	"fmt"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// told runs a command beside the studio and gives what it prints.
func (s *studio) told(args ...string) (out string, code int) {
	s.Helper()
	cmd := exec.Command(binary, args...)
	cmd.Env = s.environment()
	text, err := cmd.CombinedOutput()
	if err != nil {
		require.IsType(s, &exec.ExitError{}, err)
	}
	return string(text), cmd.ProcessState.ExitCode()
}

// password is the one that a command has made up.
func (s *studio) password(args ...string) string {
	s.Helper()
	out, code := s.told(args...)
	require.Zero(s, code, out)
	lines := strings.Split(strings.TrimSpace(out), "\n")
	return lines[len(lines)-1]
}

func TestAnOwnerIsMadeAndHelpedFromTheMachineItself(t *testing.T) {
	s := newStudio(t)
	out, code := s.told("owner", "reset")
	assert.Equal(t, 2, code)
	assert.Contains(t, out, "no owner yet")
	_, err := os.Stat(filepath.Join(s.folder, "mariadb", "server.json"))
	assert.ErrorIs(t, err, os.ErrNotExist, "the database that it started for itself has ended")

	s.start("serve")
	var me struct{ Role string }
	s.get("/api/me", &me)
	assert.Equal(t, "owner", me.Role, "without an owner it is as simple as it was")
	first := s.password("owner", "set", "Maren")
	s.get("/api/me", &me)
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	browser := http.Client{Jar: jar}
	ask := func(path string) int {
		answer, err := browser.Get("http://" + s.address + path)
		require.NoError(t, err)
		require.NoError(t, answer.Body.Close())
		return answer.StatusCode
	}
	signIn := func(password string) int {
		answer, err := browser.Post("http://"+s.address+"/api/sign-in", "application/json", strings.NewReader(fmt.Sprintf(`{"name":"Maren","password":%q}`, password)))
		require.NoError(t, err)
		require.NoError(t, answer.Body.Close())
		return answer.StatusCode
	}
	assert.Equal(t, http.StatusUnauthorized, ask("/api/today"), "at once, in the server that runs")
	assert.Equal(t, http.StatusOK, signIn(first))
	assert.Equal(t, http.StatusOK, ask("/api/today"))

	second := s.password("owner", "reset")
	assert.Equal(t, http.StatusUnauthorized, ask("/api/today"))
	assert.Equal(t, http.StatusUnauthorized, signIn(first))
	assert.Equal(t, http.StatusOK, signIn(second))
	for _, wrong := range [][]string{{"owner"}, {"owner", "set"}, {"owner", "set", "Ilse"}, {"owner", "reset", "Ilse"}, {"owner", "remove"}, {"owner", "--all"}} {
		out, code := s.told(wrong...)
		assert.Equal(t, 2, code, wrong)
		assert.Equal(t, 1, strings.Count(out, "\n"), out)
	}
	s.stop()
}
