package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"path/filepath"
	"strings"
	"time"

	"tidykiln/internal/access"
	"tidykiln/internal/database"
	"tidykiln/internal/database/mariadb"
	"tidykiln/internal/problem"
)

const ownerUsage = "owner takes: set NAME, or reset [NAME]; with --demo before it for the demo studio"

// owner makes an owner, or gives one another password, from the machine itself.
func owner(ctx context.Context, args []string) error {
	flags := flag.NewFlagSet("owner", flag.ContinueOnError)
	flags.SetOutput(io.Discard)
	demo := flags.Bool("demo", false, "")
	if err := flags.Parse(args); err != nil || flags.NArg() == 0 {
		return badInput{errors.New(ownerUsage)}
	}
	name := strings.Join(flags.Args()[1:], " ")
	ctx = database.By(ctx, database.Author{Device: "the machine itself", Doing: "tidykiln owner " + flags.Arg(0)})
	var do func(*access.Area) (who, password string, err error)
	switch what := flags.Arg(0); {
	case what == "set" && name != "":
		do = func(a *access.Area) (string, string, error) {
			password, err := a.MakeOwner(ctx, name)
			return name, password, err
		}
	case what == "reset":
		do = func(a *access.Area) (string, string, error) { return a.ResetOwner(ctx, name) }
	default:
		return badInput{errors.New(ownerUsage)}
	}
	return withStudio(ctx, *demo, func(db *database.DB, _ string) error {
		who, password, err := do(access.New(db, time.Now))
		var refused *problem.Problem
		if errors.As(err, &refused) {
			return badInput{refused}
		}
		if err != nil {
			return err
		}
		fmt.Printf("%s signs in with this password, and chooses another then under Workshop, Who may come in:\n%s\n", who, password)
		return nil
	})
}

// withStudio opens the studio's database beside a server that may be running, or by
// itself, and leaves its server as it was.
func withStudio(ctx context.Context, demo bool, do func(db *database.DB, dsn string) error) (err error) {
	s := readSettings()
	if _, err := dropRoot(s.folder); err != nil {
		return err
	}
	dsn := s.dsn
	if dsn == "" {
		private, err := mariadb.Start(ctx, filepath.Join(s.folder, "mariadb"))
		if err != nil {
			return err
		}
		if !private.Found() {
			defer func() { err = errors.Join(err, private.Stop()) }()
		}
		dsn = private.DSN(studioName(demo))
	}
	db, err := database.Open(ctx, dsn)
	if err != nil {
		return err
	}
	return errors.Join(do(db, dsn), db.Close())
}

// studioName is the database of a studio on the private server.
func studioName(demo bool) string {
	if demo {
		return "tidykiln_demo"
	}
	return "tidykiln"
}
