package main

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/user"
	"path/filepath"
	"strconv"
	"syscall"
)

// account is a user of the machine.
type account struct {
	name     string
	uid, gid int
}

// dropRoot goes on as another user where the program was started as root: whose files
// the studio's folder is, who is named by TIDYKILN_USER, or one without rights of its own.
// The folder becomes theirs. Where nobody else can get to it, it stays root and says
// through which folder they cannot.
func dropRoot(folder string) (blocked string, err error) {
	return goOnAsAnother(folder, func(a account) error { return syscall.Setuid(a.uid) })
}

// lendRoot does the same until it is asked back.
func lendRoot(folder string) (rootAgain func() error, err error) {
	if os.Geteuid() != 0 {
		return func() error { return nil }, nil
	}
	_, err = goOnAsAnother(folder, func(a account) error { return syscall.Setresuid(a.uid, a.uid, 0) })
	return func() error { return syscall.Setresuid(0, 0, 0) }, err
}

func goOnAsAnother(folder string, become func(account) error) (blocked string, err error) {
	if os.Geteuid() != 0 {
		return "", nil
	}
	if folder, err = filepath.Abs(folder); err != nil {
		return "", err
	}
	into, err := instead(folder)
	if err != nil {
		return "", err
	}
	if blocked := notReached(folder, into); blocked != "" {
		if os.Getenv("TIDYKILN_USER") != "" {
			return "", badInput{fmt.Errorf("TIDYKILN_USER: %s cannot get to %s, through %s", into.name, folder, blocked)}
		}
		return blocked, nil
	}
	if err := handOver(folder, into); err != nil {
		return "", fmt.Errorf("handing %s over to %s: %w", folder, into.name, err)
	}
	if err := errors.Join(syscall.Setgroups([]int{into.gid}), syscall.Setgid(into.gid), become(into)); err != nil {
		return "", fmt.Errorf("going on as %s: %w", into.name, err)
	}
	return "", nil
}

// instead is who the program goes on as.
func instead(folder string) (account, error) {
	if name := os.Getenv("TIDYKILN_USER"); name != "" {
		a, err := accountOf(user.Lookup(name))
		if err != nil || a.uid == 0 {
			return a, badInput{fmt.Errorf("TIDYKILN_USER: %q is no user without root's rights on this machine", name)}
		}
		return a, nil
	}
	if info, err := os.Stat(folder); err == nil {
		if owner := info.Sys().(*syscall.Stat_t); owner.Uid != 0 {
			return account{name: strconv.Itoa(int(owner.Uid)), uid: int(owner.Uid), gid: int(owner.Gid)}, nil
		}
	}
	a, err := accountOf(user.Lookup("tidykiln"))
	if err != nil {
		a, err = accountOf(user.Lookup("nobody"))
	}
	return a, err
}

func accountOf(u *user.User, err error) (a account, _ error) {
	if err != nil {
		return a, err
	}
	a.name = u.Username
	if a.uid, err = strconv.Atoi(u.Uid); err != nil {
		return a, err
	}
	a.gid, err = strconv.Atoi(u.Gid)
	return a, err
}

// notReached is the first folder on the way to a folder that a user may not go through; empty where there is none.
func notReached(folder string, a account) string {
	for at := filepath.Dir(folder); ; at = filepath.Dir(at) {
		if info, err := os.Stat(at); err == nil && !mayGoThrough(info, a) {
			return at
		}
		if at == filepath.Dir(at) {
			return ""
		}
	}
}

func mayGoThrough(info fs.FileInfo, a account) bool {
	owner := info.Sys().(*syscall.Stat_t)
	switch mode := info.Mode().Perm(); {
	case int(owner.Uid) == a.uid:
		return mode&0o100 != 0
	case int(owner.Gid) == a.gid:
		return mode&0o010 != 0
	default:
		return mode&0o001 != 0
	}
}

// handOver makes a folder and all that is in it a user's.
func handOver(folder string, a account) error {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return err
	}
	return filepath.WalkDir(folder, func(path string, _ fs.DirEntry, err error) error {
		if errors.Is(err, fs.ErrNotExist) {
			return nil // a database that still runs has removed it
		}
		if err == nil {
			err = os.Lchown(path, a.uid, a.gid)
		}
		if errors.Is(err, fs.ErrNotExist) {
			return nil
		}
		return err
	})
}
