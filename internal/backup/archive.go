// Package backup puts everything a studio knows into one archive, and back: docs/formats.md
// describes it. An archive is proven by being put into a database of its own and counted.
package backup

import (
	"archive/tar"
	"bufio"
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"time"

	"github.com/klauspost/compress/gzip"

	"filippo.io/age"

	"tidykiln/internal/database"
)

// Format is the version of the archive's own form.
const Format = 1

// About is the first entry of an archive: what it is.
type About struct {
	Format  int       `json:"format"`
	Program string    `json:"program"`
	MadeAt  time.Time `json:"madeAt"`
	// Schema is the version of the tables, Studio the name that keeps the studio's files apart.
	Schema int64  `json:"schema"`
	Studio string `json:"studio"`
}

// Manifest is the last entry: all that is in an archive.
type Manifest struct {
	Entries []Entry                  `json:"entries"`
	Tables  []database.ArchivedTable `json:"tables"`
	// Pictures is how many files of pictures there are, Rows how many rows in all tables.
	Pictures int   `json:"pictures"`
	Rows     int64 `json:"rows"`
	// Missing are files of pictures that the studio had lost, or that were damaged, when the archive was made.
	Missing []string `json:"missing"`
}

// picturesOf are the columns that name files, by table: of pictures, print sheets, papers.
var picturesOf = map[string][]string{"artworks": {"original", "print", "view", "thumb"}, "print_jobs": {"file"}, "issued_papers": {"file"}}

// namedIn adds the files of pictures that a row names.
func namedIn(table string, line []byte, into map[string]bool) error {
	columns := picturesOf[table]
	if columns == nil {
		return nil
	}
	var row map[string]any
	if err := json.Unmarshal(line, &row); err != nil {
		return fmt.Errorf("a row of %s is no JSON: %w", table, err)
	}
	for _, c := range columns {
		if hash, _ := row[c].(string); hash != "" {
			into[hash] = true
		}
	}
	return nil
}

// Entry is a file in an archive.
type Entry struct {
	Name   string `json:"name"`
	Bytes  int64  `json:"bytes"`
	SHA256 string `json:"sha256"`
}

// Names of entries.
const (
	aboutName      = "about.json"
	manifestName   = "manifest.json"
	tablesIn       = "tables/"
	picturesIn     = "pictures/"
	certificatesIn = "certificate/"
)

const program = "Tidy Kiln"

// workFactor makes a guess at a passphrase cost 128 MiB and some tenths of a second; a
// studio's small machine has to afford it too.
const workFactor = 17

// writer writes an archive.
type writer struct {
	tar      *tar.Writer
	closing  []io.Closer
	manifest Manifest
	at       time.Time
	// named are the files of pictures that rows name.
	named map[string]bool
	// spool is a file that a table is written to first: an entry's length comes before it.
	spool *os.File
}

// newWriter begins an archive, encrypted where there is a passphrase.
func newWriter(f *File, passphrase string, at time.Time) (*writer, error) {
	out := &writer{at: at, named: map[string]bool{}, spool: f.spool}
	w := io.Writer(f.part)
	if passphrase != "" {
		recipient, err := age.NewScryptRecipient(passphrase)
		if err != nil {
			return nil, fmt.Errorf("taking the passphrase: %w", err)
		}
		recipient.SetWorkFactor(workFactor)
		sealed, err := age.Encrypt(w, recipient)
		if err != nil {
			return nil, fmt.Errorf("beginning to encrypt: %w", err)
		}
		out.closing, w = append(out.closing, sealed), sealed
	}
	// What takes room in it are pictures, which do not become smaller.
	squeezed, err := gzip.NewWriterLevel(w, gzip.BestSpeed)
	if err != nil {
		return nil, err
	}
	out.tar = tar.NewWriter(squeezed)
	out.closing = append([]io.Closer{out.tar, squeezed}, out.closing...)
	return out, nil
}

// put writes an entry of a known length.
func (w *writer) put(name string, size int64, r io.Reader) error {
	sum := sha256.New()
	if err := w.putSummed(name, size, io.TeeReader(r, sum)); err != nil {
		return err
	}
	w.manifest.Entries = append(w.manifest.Entries, Entry{name, size, hex.EncodeToString(sum.Sum(nil))})
	return nil
}

// putPicture writes a file of a picture, whose name is its sum.
func (w *writer) putPicture(p picture) error {
	name, size := picturesIn+p.hash, int64(len(p.content))
	if err := w.putSummed(name, size, bytes.NewReader(p.content)); err != nil {
		return err
	}
	w.manifest.Pictures++
	w.manifest.Entries = append(w.manifest.Entries, Entry{name, size, p.hash})
	return nil
}

// putSummed writes an entry; who asks for it knows or finds its sum.
func (w *writer) putSummed(name string, size int64, r io.Reader) error {
	if err := w.tar.WriteHeader(&tar.Header{Name: name, Mode: 0o600, Size: size, ModTime: w.at, Format: tar.FormatPAX}); err != nil {
		return fmt.Errorf("writing %s: %w", name, err)
	}
	if _, err := io.Copy(w.tar, r); err != nil {
		return fmt.Errorf("writing %s: %w", name, err)
	}
	return nil
}

func (w *writer) putJSON(name string, v any) error {
	text, err := json.MarshalIndent(v, "", "  ")
	if err != nil {
		return err
	}
	return w.put(name, int64(len(text)), bytes.NewReader(text))
}

// putTable writes the rows of a table.
func (w *writer) putTable(ctx context.Context, s *database.Snapshot, t database.ArchivedTable) error {
	if err := w.spool.Truncate(0); err != nil {
		return err
	}
	if _, err := w.spool.Seek(0, io.SeekStart); err != nil {
		return err
	}
	lines := bufio.NewWriterSize(w.spool, 1<<16)
	err := s.Rows(ctx, t, func(line []byte) error {
		t.Rows++
		if _, err := lines.Write(line); err != nil {
			return err
		}
		return namedIn(t.Name, line, w.named)
	})
	if err == nil {
		err = lines.Flush()
	}
	if err != nil {
		return fmt.Errorf("writing %s: %w", t.Name, err)
	}
	size, err := w.spool.Seek(0, io.SeekCurrent)
	if err != nil {
		return err
	}
	if _, err := w.spool.Seek(0, io.SeekStart); err != nil {
		return err
	}
	w.manifest.Tables = append(w.manifest.Tables, t)
	w.manifest.Rows += t.Rows
	return w.put(tablesIn+t.Name+".jsonl", size, w.spool)
}

// finish writes what is in it, and closes it.
func (w *writer) finish() error {
	if err := w.putJSON(manifestName, w.manifest); err != nil {
		return err
	}
	for _, c := range w.closing {
		if err := c.Close(); err != nil {
			return fmt.Errorf("ending the archive: %w", err)
		}
	}
	return nil
}
