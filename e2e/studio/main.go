// Studio runs the application for the browser tests and the pictures: the demo
// studio, or an empty one, by a clock that a test can move on.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"os/signal"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"time"

	"tidykiln/internal/artwork"
	"tidykiln/internal/backup"
	"tidykiln/internal/database"
	"tidykiln/internal/database/mariadb"
	"tidykiln/internal/demo"
	"tidykiln/internal/house"
	"tidykiln/internal/server"
	"tidykiln/internal/standin"
	"tidykiln/ui"
)

func main() {
	folder := flag.String("var", "", "folder for the database")
	address := flag.String("address", "127.0.0.1:8421", "address to listen on")
	clockFile := flag.String("clock", "", "file whose text is the time at its last change")
	names := flag.String("names", "", "names by which it is reached in its house")
	empty := flag.Bool("empty", false, "begin with an empty studio instead of the demo")
	backups := flag.Bool("backups", false, "make backups by itself and when asked")
	own := flag.Bool("own", false, "go by the demo's own clock, which begins at the time of the file")
	flag.Parse()
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := run(ctx, *folder, *address, *names, *clockFile, *empty, *own, *backups); err != nil {
		fmt.Fprintln(os.Stderr, "studio:", err)
		os.Exit(1)
	}
}

func run(ctx context.Context, folder, address, names, clockFile string, empty, own, backups bool) (err error) {
	now := func() time.Time {
		base, since := readClock(clockFile)
		return base.Add(since)
	}
	reach, err := server.OpenReach(server.ReachOptions{Address: address, Names: names, Folder: folder})
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, reach.Close()) }()
	// What a killed process wrote is kept; no test cuts the power.
	private, err := mariadb.Start(ctx, filepath.Join(folder, "mariadb"), "--innodb-flush-log-at-trx-commit=2", "--innodb-doublewrite=0", "--skip-innodb-use-native-aio")
	if err != nil {
		return err
	}
	stop := private.Keep(func(what string, err error) { fmt.Fprintln(os.Stderr, "studio:", what, err) })
	defer func() { err = errors.Join(err, stop()) }()
	db, err := database.Open(ctx, private.DSN("studio"))
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	studio, err := db.Studio(ctx)
	if err != nil {
		return err
	}
	files, err := artwork.OpenFiles(ctx, "", filepath.Join(folder, "pictures"), studio)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, files.Close()) }()
	if !empty {
		// However long the database took to start, the story begins at the moment asked for.
		begin, _ := readClock(clockFile)
		if _, err := demo.Load(ctx, db, files, begin, "Etc/UTC"); err != nil {
			return err
		}
	}
	var clock *demo.Clock
	if own {
		if clock, err = demo.OpenClock(ctx, db, now, now()); err != nil {
			return err
		}
		now = clock.Now
	}
	rooms := house.New(db, now, &standin.Hygrometer{}, standin.NewPrinter(now))
	rooms.Artwork.KeepIn(files)
	rooms.Access.ReachedBy(reach.House)
	rooms.Health.Keeps(folder)
	if err := rooms.Workshop.KeepReading(ctx); err != nil {
		return err
	}
	var watched sync.WaitGroup
	defer watched.Wait()
	if backups {
		rooms.Backup.KeepIn(backup.Places{Folder: filepath.Join(folder, "backups"), DSN: private.DSN("studio"), Files: files})
		watched.Go(func() {
			rooms.Backup.Keep(ctx, func(err error) { fmt.Fprintln(os.Stderr, "studio: backup", err) })
		})
	}
	watched.Go(func() {
		rooms.Planning.KeepPlanning(ctx, func(err error) { fmt.Fprintln(os.Stderr, "studio: planning", err) })
	})
	watched.Go(func() {
		rooms.Artwork.KeepReading(ctx, func(err error) { fmt.Fprintln(os.Stderr, "studio: pictures", err) })
	})
	watched.Go(func() {
		rooms.Prints.KeepMaking(ctx, func(err error) { fmt.Fprintln(os.Stderr, "studio: sheets", err) })
	})
	watched.Go(func() {
		rooms.Prints.KeepPrinting(ctx, func(err error) { fmt.Fprintln(os.Stderr, "studio: printer", err) })
	})
	fmt.Printf("ready database=%d\n", private.PID())
	return reach.Serve(ctx, server.Handler(server.Options{DB: db, Now: now, House: rooms, Time: demo.NewTime(db, clock, rooms), Pages: ui.Files(), Stopping: ctx.Done(), Address: reach.Address, Certificate: reach.Certificate}))
}

// readClock gives the file's time, and how long ago it was written. A clock that
// cannot be read stops the test.
func readClock(name string) (base time.Time, since time.Duration) {
	file, err := os.Open(name)
	if err != nil {
		panic(err)
	}
	defer file.Close()
	text, err := io.ReadAll(file)
	if err != nil {
		panic(err)
	}
	info, err := file.Stat()
	if err != nil {
		panic(err)
	}
	base, err = time.Parse(time.RFC3339, strings.TrimSpace(string(text)))
	if err != nil {
		panic(err)
	}
	return base.UTC(), time.Since(info.ModTime())
}
