package main

import (
	"fmt"
	"io/fs"
	"os"
	"os/user"
	"path/filepath"
	"regexp"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// effective is the user that a process runs as.
func effective(t *testing.T, pid int) string {
	t.Helper()
	text, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	require.NoError(t, err)
	return regexp.MustCompile(`(?m)^Uid:\t\d+\t(\d+)`).FindStringSubmatch(string(text))[1]
}

// ownersOf are whose the files in a folder are.
func ownersOf(t *testing.T, folder string) map[uint32]bool {
	t.Helper()
	owners := map[uint32]bool{}
	require.NoError(t, filepath.WalkDir(folder, func(path string, _ fs.DirEntry, err error) error {
		info, statErr := os.Lstat(path)
		if err == nil && statErr == nil {
			owners[info.Sys().(*syscall.Stat_t).Uid] = true
		}
		return nil
	}))
	return owners
}

func TestStartedAsRootItGoesOnAsAnother(t *testing.T) {
	s := newStudio(t)
	if own := uint32(os.Geteuid()); own != 0 { // whoever has no such rights stays who they are
		s.start("serve")
		assert.Equal(t, fmt.Sprint(own), effective(t, s.cmd.Process.Pid))
		s.stop()
		assert.Equal(t, map[uint32]bool{own: true}, ownersOf(t, s.folder))
		return
	}
	require.NoError(t, os.Chmod(filepath.Dir(s.folder), 0o755)) // others may go through
	nobody, err := accountOf(user.Lookup("nobody"))
	require.NoError(t, err)
	s.start("serve")
	assert.Equal(t, fmt.Sprint(nobody.uid), effective(t, s.cmd.Process.Pid))
	assert.Equal(t, fmt.Sprint(nobody.uid), effective(t, s.databasePID()), "and so does its database")
	// What root asks for is written where root alone may write.
	kept := filepath.Join(t.TempDir(), "all.tar.gz")
	require.NoError(t, os.Chmod(filepath.Dir(kept), 0o700))
	out, code := s.told("backup", kept)
	require.Zero(t, code, out)
	assert.Equal(t, map[uint32]bool{0: true}, ownersOf(t, filepath.Dir(kept)))
	s.stop()
	assert.Equal(t, map[uint32]bool{uint32(nobody.uid): true}, ownersOf(t, s.folder))

	require.NoError(t, os.RemoveAll(s.folder))
	out, code = s.told("restore", kept)
	require.Zero(t, code, out)
	assert.Equal(t, map[uint32]bool{uint32(nobody.uid): true}, ownersOf(t, s.folder))

	// Whose the folder is goes before; a command from the machine itself leaves its files to them.
	require.NoError(t, handOver(s.folder, account{uid: 12345, gid: 12345}))
	out, code = s.told("owner", "set", "Maren")
	require.Zero(t, code, out)
	assert.Equal(t, map[uint32]bool{12345: true}, ownersOf(t, s.folder))
}

func TestAFolderThatNobodyElseGetsToIsSaid(t *testing.T) {
	around := t.TempDir()
	require.NoError(t, os.Chmod(filepath.Dir(around), 0o755))
	closed := filepath.Join(around, "closed")
	require.NoError(t, os.Mkdir(closed, 0o700))
	stranger := account{uid: 12345, gid: 12345}
	assert.Equal(t, closed, notReached(filepath.Join(closed, "var"), stranger))
	require.NoError(t, os.Chmod(closed, 0o711))
	assert.Empty(t, notReached(filepath.Join(closed, "var"), stranger))
	info, err := os.Stat(closed)
	require.NoError(t, err)
	owner := info.Sys().(*syscall.Stat_t)
	for mode, may := range map[fs.FileMode][3]bool{0o100: {true, false, false}, 0o010: {false, true, false}, 0o001: {false, false, true}} {
		require.NoError(t, os.Chmod(closed, mode))
		info, err = os.Stat(closed)
		require.NoError(t, err)
		for i, a := range []account{{uid: int(owner.Uid), gid: int(owner.Gid)}, {uid: 12345, gid: int(owner.Gid)}, stranger} {
			assert.Equal(t, may[i], mayGoThrough(info, a), "%o %d", mode, i)
		}
	}
}
