// Withdatabase runs a command with a throw-away database server up, named to it
// in TIDYKILN_TEST_DSN, and a folder in TIDYKILN_TEST_FOLDER. Nothing is synced to disk.
package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"

	"tidykiln/internal/database/mariadb"
)

func main() {
	code, err := run(os.Args[1:])
	if err != nil {
		fmt.Fprintln(os.Stderr, "withdatabase:", err)
		code = 1
	}
	os.Exit(code)
}

func run(command []string) (code int, err error) {
	dir, err := os.MkdirTemp("", "tidykiln-test-")
	if err != nil {
		return 0, err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
	server, err := mariadb.Start(context.Background(), dir, "--innodb-flush-log-at-trx-commit=0", "--innodb-doublewrite=0", "--sync-frm=0", "--skip-innodb-use-native-aio")
	if err != nil {
		return 0, err
	}
	defer func() { err = errors.Join(err, server.Stop()) }()
	cmd := exec.Command(command[0], command[1:]...)
	cmd.Stdin, cmd.Stdout, cmd.Stderr = os.Stdin, os.Stdout, os.Stderr
	cmd.Env = append(os.Environ(), "TIDYKILN_TEST_DSN="+server.DSN(""), "TIDYKILN_TEST_FOLDER="+dir)
	if err := cmd.Run(); err != nil {
		var exit *exec.ExitError
		if errors.As(err, &exit) {
			return exit.ExitCode(), nil
		}
		return 0, err
	}
	return 0, nil
}
