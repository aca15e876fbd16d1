package backup

import (
	"archive/tar"
	"bufio"
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"os"
	"regexp"
	"slices"
	"strings"

	"github.com/klauspost/compress/gzip"

	"filippo.io/age"
)

// Damaged says what is wrong with an archive.
type Damaged struct{ What string }

func (d Damaged) Error() string { return "the backup is damaged: " + d.What }

// Errors of opening an archive.
var (
	ErrNeedsPassphrase = errors.New("the backup is encrypted: give its passphrase")
	ErrWrongPassphrase = errors.New("this is not the passphrase of the backup")
)

// Archive is one that was read to its end and found whole. Its file stays open, so that
// it is put back from what was checked.
type Archive struct {
	file       *os.File
	size       int64
	passphrase string
	About      About
	Manifest   Manifest
	Encrypted  bool
}

// Limits of what is read: an archive may come from anywhere.
const (
	mostSmall  = 16 << 20
	mostLine   = 64 << 20
	mostFile   = 1 << 30
	mostInAll  = 1 << 38
	mostGuess  = 18
	mostNamed  = 2_000_000
	ageBegins  = "age-encryption.org/"
	gzipBegins = "\x1f\x8b"
)

// entryNames are the names that an archive may have in it.
var entryNames = regexp.MustCompile(`^(about\.json|manifest\.json|tables/[a-z_]{1,64}\.jsonl|pictures/[0-9a-f]{64}|certificate/[a-z]{1,20}\.pem)$`)

// Open reads an archive to its end and checks all of it: nothing is missing, nothing was
// changed, and nothing is in it that does not belong there. It is to be closed.
func Open(ctx context.Context, path, passphrase string) (a *Archive, err error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, fmt.Errorf("opening the backup: %w", err)
	}
	a = &Archive{file: f, passphrase: passphrase}
	if err := a.check(ctx); err != nil {
		return nil, errors.Join(err, f.Close())
	}
	return a, nil
}

// Close closes the archive's file.
func (a *Archive) Close() error { return a.file.Close() }

func (a *Archive) check(ctx context.Context) error {
	info, err := a.file.Stat()
	if err != nil {
		return fmt.Errorf("looking at the backup: %w", err)
	}
	a.size = info.Size()
	all := map[string]found{}
	named := map[string]bool{}
	err = a.each(ctx, func(name string, r io.Reader) error {
		if _, twice := all[name]; twice {
			return Damaged{name + " is in it twice"}
		}
		if len(all) > mostNamed {
			return Damaged{"there is too much in it"}
		}
		f, err := a.look(name, r, named)
		all[name] = f
		return err
	})
	if err != nil {
		return err
	}
	return a.holds(all, named)
}

// found is what an entry turned out to be.
type found struct {
	bytes, lines int64
	sum          string
}

// look reads an entry to its end.
func (a *Archive) look(name string, r io.Reader, named map[string]bool) (f found, err error) {
	sum := sha256.New()
	through := io.TeeReader(r, sum)
	switch {
	case name == aboutName:
		f.bytes, err = readJSON(name, through, &a.About)
		if err == nil {
			err = a.About.check()
		}
	case name == manifestName:
		f.bytes, err = readJSON(name, through, &a.Manifest)
	case strings.HasPrefix(name, tablesIn):
		table := strings.TrimSuffix(strings.TrimPrefix(name, tablesIn), ".jsonl")
		err = eachLine(through, func(line []byte) error {
			f.lines, f.bytes = f.lines+1, f.bytes+int64(len(line))
			if !json.Valid(line) {
				return Damaged{fmt.Sprintf("line %d of %s is no JSON", f.lines, name)}
			}
			return namedIn(table, line, named)
		})
	default:
		f.bytes, err = io.Copy(io.Discard, through)
		err = unreadable(err)
	}
	f.sum = hex.EncodeToString(sum.Sum(nil))
	if hash, is := strings.CutPrefix(name, picturesIn); is && err == nil && hash != f.sum {
		err = Damaged{name + " is not what its name says"}
	}
	return f, err
}

func (a About) check() error {
	switch {
	case a.Program != program:
		return Damaged{"it is not a backup of this program"}
	case a.Format > Format || a.Format < 1:
		return fmt.Errorf("the backup is of form %d, and this program reads forms up to %d: it was made by a later version", a.Format, Format)
	case !regexp.MustCompile(`^[0-9a-f-]{8,64}$`).MatchString(a.Studio):
		return Damaged{"it does not say of which studio it is"}
	}
	return nil
}

// holds compares what was found with what the manifest says.
func (a *Archive) holds(all map[string]found, named map[string]bool) error {
	if _, has := all[manifestName]; !has {
		return Damaged{"it ends too early"}
	}
	delete(all, manifestName)
	for _, e := range a.Manifest.Entries {
		f, has := all[e.Name]
		if !has || f.sum != e.SHA256 || f.bytes != e.Bytes {
			return Damaged{e.Name + " is missing or was changed"}
		}
		delete(all, e.Name)
		if hash, is := strings.CutPrefix(e.Name, picturesIn); is {
			delete(named, hash)
		}
		for _, t := range a.Manifest.Tables {
			if e.Name == tablesIn+t.Name+".jsonl" && f.lines != t.Rows {
				return Damaged{fmt.Sprintf("%s has %d rows, and had %d", t.Name, f.lines, t.Rows)}
			}
		}
	}
	for _, hash := range a.Manifest.Missing {
		delete(named, hash)
	}
	for _, name := range slices.Sorted(maps.Keys(all)) {
		return Damaged{name + " does not belong in it"}
	}
	for _, hash := range slices.Sorted(maps.Keys(named)) {
		return Damaged{"the picture " + hash + " is missing"}
	}
	return nil
}

// each goes through the entries of an archive in their order.
func (a *Archive) each(ctx context.Context, visit func(name string, r io.Reader) error) error {
	plain, err := a.opened(bufio.NewReaderSize(io.NewSectionReader(a.file, 0, a.size), 1<<16))
	if err != nil {
		return err
	}
	squeezed, err := gzip.NewReader(plain)
	if err != nil {
		return unreadable(err)
	}
	in := tar.NewReader(io.LimitReader(squeezed, mostInAll))
	for first := true; ; first = false {
		if err := ctx.Err(); err != nil {
			return err
		}
		header, err := in.Next()
		if errors.Is(err, io.EOF) {
			return a.atEnd(squeezed)
		}
		if err != nil {
			return unreadable(err)
		}
		if header.Typeflag != tar.TypeReg || !entryNames.MatchString(header.Name) || header.Size > mostFile {
			return Damaged{fmt.Sprintf("%.80q does not belong in it", header.Name)}
		}
		if first != (header.Name == aboutName) {
			return Damaged{"it does not begin with what it is"}
		}
		if err := visit(header.Name, in); err != nil {
			return err
		}
	}
}

// atEnd reads what is left, so that the sums at the very end are checked too.
func (a *Archive) atEnd(squeezed io.Reader) error {
	_, err := io.Copy(io.Discard, squeezed)
	return unreadable(err)
}

// opened takes the encryption off.
func (a *Archive) opened(r *bufio.Reader) (io.Reader, error) {
	begins, _ := r.Peek(len(ageBegins)) // a shorter one is found out by who reads on
	if !bytes.Equal(begins, []byte(ageBegins)) {
		if !bytes.HasPrefix(begins, []byte(gzipBegins)) {
			return nil, Damaged{"it is no backup"}
		}
		return r, nil
	}
	a.Encrypted = true
	if a.passphrase == "" {
		return nil, ErrNeedsPassphrase
	}
	identity, err := age.NewScryptIdentity(a.passphrase)
	if err != nil {
		return nil, fmt.Errorf("taking the passphrase: %w", err)
	}
	identity.SetMaxWorkFactor(mostGuess)
	plain, err := age.Decrypt(r, identity)
	var none *age.NoIdentityMatchError
	if errors.As(err, &none) {
		return nil, ErrWrongPassphrase
	}
	return plain, unreadable(err)
}

// unreadable says of what cannot be read that it is damaged.
func unreadable(err error) error {
	if err == nil {
		return nil
	}
	var damaged Damaged
	if errors.As(err, &damaged) {
		return err
	}
	if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
		return Damaged{"it ends too early"}
	}
	return Damaged{err.Error()}
}

func readJSON(name string, r io.Reader, into any) (int64, error) {
	text, err := io.ReadAll(io.LimitReader(r, mostSmall+1))
	if err != nil {
		return 0, unreadable(err)
	}
	if len(text) > mostSmall || json.Unmarshal(text, into) != nil {
		return 0, Damaged{name + " cannot be read"}
	}
	return int64(len(text)), nil
}

// eachLine goes through the lines of a table; the last one ends like the others.
func eachLine(r io.Reader, each func(line []byte) error) error {
	next := lines(r)
	for {
		line, err := next()
		if err != nil || line == nil {
			return err
		}
		if err := each(line); err != nil {
			return err
		}
	}
}

// lines gives one line after the other, and nil at the end.
func lines(r io.Reader) func() ([]byte, error) {
	in := bufio.NewReaderSize(r, 1<<16)
	var line []byte
	return func() ([]byte, error) {
		line = line[:0]
		for {
			part, err := in.ReadSlice('\n')
			line = append(line, part...)
			switch {
			case err == nil:
				return line, nil
			case errors.Is(err, bufio.ErrBufferFull) && len(line) < mostLine:
			case errors.Is(err, io.EOF) && len(line) == 0:
				return nil, nil
			default:
				return nil, unreadable(err)
			}
		}
	}
}
