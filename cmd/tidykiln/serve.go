package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"strings"
	"sync"
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

// settings are the configuration, read from the environment.
type settings struct {
	dsn, folder, pictures, metrics, logLevel string
	reach                                    server.ReachOptions
	// backups keeps them, second has a copy of each, passphraseFile what they are encrypted with.
	backups, second, passphraseFile string
}

// certificates is the folder of the studio's own authority.
func (s settings) certificates() string { return filepath.Join(s.folder, "certificate") }

func readSettings() settings {
	get := func(name, otherwise string) string {
		if v := os.Getenv(name); v != "" {
			return v
		}
		return otherwise
	}
	folder := get("TIDYKILN_VAR", "var")
	return settings{
		reach: server.ReachOptions{
			Address: get("TIDYKILN_ADDRESS", "127.0.0.1:8420"), Names: os.Getenv("TIDYKILN_NAMES"), Folder: folder,
			CertificateFile: os.Getenv("TIDYKILN_CERTIFICATE"), KeyFile: os.Getenv("TIDYKILN_KEY"), TrustAddress: os.Getenv("TIDYKILN_TRUST_ADDRESS"),
		},
		dsn:      os.Getenv("TIDYKILN_DSN"),
		folder:   folder,
		pictures: os.Getenv("TIDYKILN_PICTURES"),
		metrics:  os.Getenv("TIDYKILN_METRICS"),
		logLevel: get("TIDYKILN_LOG", "info"),
		backups:  get("TIDYKILN_BACKUPS", filepath.Join(folder, "backups")),
		second:   os.Getenv("TIDYKILN_BACKUPS_SECOND"),

		passphraseFile: os.Getenv("TIDYKILN_BACKUPS_PASSPHRASE_FILE"),
	}
}

func serve(ctx context.Context, args []string) error {
	if len(args) > 0 {
		return badInput{errors.New("serve takes no arguments")}
	}
	return withDatabase(ctx, studioName(false), func(dsn string) (*database.DB, *demo.Clock, error) {
		db, err := database.Open(ctx, dsn)
		return db, nil, err
	})
}

func serveDemo(ctx context.Context, args []string) error {
	if len(args) > 1 || len(args) == 1 && args[0] != "--reset" {
		return badInput{errors.New("demo takes only --reset")}
	}
	reset := len(args) == 1
	return withDatabase(ctx, studioName(true), func(dsn string) (*database.DB, *demo.Clock, error) { return openDemo(ctx, dsn, reset) })
}

// openDemo opens the demo studio, sets it up where it is new, and sets its clock going.
func openDemo(ctx context.Context, dsn string, reset bool) (_ *database.DB, _ *demo.Clock, err error) {
	if reset {
		if err := clearPictures(ctx, dsn); err != nil {
			return nil, nil, err
		}
		if err := database.Drop(ctx, dsn); err != nil {
			return nil, nil, err
		}
	}
	db, err := database.Open(ctx, dsn)
	if err != nil {
		return nil, nil, err
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, db.Close())
		}
	}()
	begin, err := demo.Morning(time.Now(), localTimeZone())
	if err != nil {
		return nil, nil, err
	}
	files, err := openFiles(ctx, db, readSettings())
	if err != nil {
		return nil, nil, err
	}
	loaded, err := demo.Load(ctx, db, files, begin, localTimeZone())
	if err := errors.Join(err, files.Close()); err != nil {
		return nil, nil, err
	}
	if loaded {
		fmt.Println("The demo studio, Withy Landing, is set up.")
	} else {
		begin = time.Now() // one from before the demo had a clock of its own
	}
	clock, err := demo.OpenClock(ctx, db, time.Now, begin)
	return db, clock, err
}

// withDatabase takes the port, brings the database up, serves until ctx ends,
// and closes everything in the other order.
func withDatabase(ctx context.Context, name string, open func(dsn string) (*database.DB, *demo.Clock, error)) (err error) {
	s := readSettings()
	if name == studioName(true) { // whose backups are no business of the studio's own
		s.backups = filepath.Join(s.backups, "demo")
		if s.second != "" {
			s.second = filepath.Join(s.second, "demo")
		}
	}
	var level slog.Level
	if err := level.UnmarshalText([]byte(s.logLevel)); err != nil {
		return badInput{fmt.Errorf("TIDYKILN_LOG: %q must be debug, info, warn or error", s.logLevel)}
	}
	slog.SetDefault(slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: level})))
	reach, err := server.OpenReach(s.reach)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, reach.Close()) }()
	blocked, err := dropRoot(s.folder) // the ports are taken
	if err != nil {
		return err
	}
	if blocked != "" {
		slog.Warn("it runs as root: nobody else can get to its folder", "folder", s.folder, "through", blocked)
	}
	dsn := s.dsn
	if dsn == "" {
		private, err := mariadb.Start(ctx, filepath.Join(s.folder, "mariadb"))
		if err != nil {
			return err
		}
		stop := private.Keep(func(what string, err error) { slog.Error("database", "what", what, "error", err) })
		defer func() { err = errors.Join(err, stop()) }()
		dsn = private.DSN(name)
	}
	db, clock, err := open(dsn)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	now := time.Now
	if clock != nil {
		now = clock.Now
	}
	rooms := house.New(db, now, &standin.Hygrometer{}, standin.NewPrinter(now))
	if err := mayBeReached(ctx, rooms, reach); err != nil {
		return err
	}
	rooms.Access.ReachedBy(reach.House)
	files, err := openFiles(ctx, db, s)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, files.Close()) }()
	rooms.Artwork.KeepIn(files)
	rooms.Health.Keeps(s.folder)
	passphrase, err := readPassphrase(s.passphraseFile)
	if err != nil {
		return err
	}
	rooms.Backup.KeepIn(backup.Places{Folder: s.backups, Second: s.second, DSN: dsn, Passphrase: passphrase, Files: files, Certificates: s.certificates()})
	rooms.Planning.Patience = planPatience
	watched := watch(ctx, rooms, clock)
	defer watched.Wait()
	metrics := server.NewMetrics(db)
	if s.metrics != "" {
		served, err := server.OpenMetrics(s.metrics)
		if err != nil {
			return err
		}
		watched.Go(func() {
			if err := server.Serve(ctx, metrics.Handler(), served); err != nil {
				slog.Error("metrics", "error", err)
			}
		})
	}
	if err := announce(reach); err != nil {
		return err
	}
	return reach.Serve(ctx, server.Handler(server.Options{DB: db, Now: now, House: rooms, Time: demo.NewTime(db, clock, rooms), Pages: ui.Files(), Stopping: ctx.Done(), Address: reach.Address, Certificate: reach.Certificate, Metrics: metrics}))
}

// mayBeReached refuses to be reached by other machines as long as nobody would have to sign in.
func mayBeReached(ctx context.Context, rooms *house.House, reach *server.Reach) error {
	if !reach.Address.Beyond() {
		return nil
	}
	there, err := rooms.Access.Owned(ctx)
	if err == nil && !there {
		err = fmt.Errorf("TIDYKILN_ADDRESS: %s can be reached by other machines, and this studio has no owner who signs in yet; start it without the setting, open it here, and set one up under Workshop, Who may come in", reach.Address)
	}
	return err
}

// announce says where the studio is.
func announce(reach *server.Reach) error {
	fmt.Printf("Tidy Kiln is at %s (Ctrl-C stops it)\n", reach.Itself())
	h, err := reach.House()
	if err != nil || h.Address == "" {
		return err
	}
	fmt.Printf("In the house it is at %s\n", h.Address)
	if h.TrustPage != "" {
		fmt.Printf("Devices come to trust it at %s\nThe certificate's fingerprint: %s\n", h.TrustPage, h.Fingerprint)
	}
	return nil
}

// clearPictures removes the pictures of a studio that is about to go.
func clearPictures(ctx context.Context, dsn string) (err error) {
	db, err := database.Open(ctx, dsn)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	files, err := openFiles(ctx, db, readSettings())
	if err != nil {
		return err
	}
	return errors.Join(files.Clear(ctx), files.Close())
}

// openFiles opens the place where the studio of a database keeps its pictures.
func openFiles(ctx context.Context, db *database.DB, s settings) (*artwork.Files, error) {
	studio, err := db.Studio(ctx)
	if err != nil {
		return nil, err
	}
	return artwork.OpenFiles(ctx, s.pictures, filepath.Join(s.folder, "pictures"), studio)
}

// planPatience is how long a page waits for a new plan before it is answered by the one that stands.
const planPatience = 100 * time.Millisecond

// watch keeps the room's readings, the plan and where the demo's clock stands until ctx ends.
func watch(ctx context.Context, rooms *house.House, clock *demo.Clock) *sync.WaitGroup {
	var watched sync.WaitGroup
	if clock != nil {
		watched.Go(func() {
			clock.Keep(ctx, func(err error) { slog.Warn("the demo's clock", "error", err) })
		})
	}
	watched.Go(func() {
		rooms.Workshop.WatchRoom(ctx, func(err error) { slog.Warn("room sensor", "error", err) })
	})
	watched.Go(func() {
		rooms.Planning.KeepPlanning(ctx, func(err error) { slog.Warn("planning", "error", err) })
	})
	watched.Go(func() {
		rooms.Artwork.KeepReading(database.By(ctx, database.Author{Doing: "Read a picture"}), func(err error) { slog.Warn("pictures", "error", err) })
	})
	watched.Go(func() {
		rooms.Prints.KeepMaking(database.By(ctx, database.Author{Doing: "Make print sheets"}), func(err error) { slog.Warn("print sheets", "error", err) })
	})
	watched.Go(func() {
		rooms.Papers.KeepLosingNames(database.By(ctx, database.Author{Doing: "Take names out of old papers"}), func(err error) { slog.Warn("papers", "error", err) })
	})
	watched.Go(func() {
		rooms.Backup.Keep(ctx, func(err error) { slog.Error("backup", "error", err) })
	})
	watched.Go(func() {
		rooms.Prints.KeepPrinting(database.By(ctx, database.Author{Doing: "Print"}), func(err error) { slog.Warn("printer", "error", err) })
	})
	return &watched
}

func printOpenAPI(args []string) error {
	if len(args) > 0 {
		return badInput{errors.New("openapi takes no arguments")}
	}
	text, err := server.OpenAPI()
	if err != nil {
		return err
	}
	_, err = fmt.Println(string(text))
	return err
}

// localTimeZone is the IANA name of this machine's time zone, as far as it can be told.
func localTimeZone() string {
	if name := os.Getenv("TZ"); name != "" {
		if _, err := time.LoadLocation(name); err == nil {
			return name
		}
	}
	if target, err := os.Readlink("/etc/localtime"); err == nil {
		if _, name, found := strings.Cut(target, "zoneinfo/"); found {
			return name
		}
	}
	return "Etc/UTC"
}
