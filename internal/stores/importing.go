package stores

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"reflect"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/document"
	"tidykiln/internal/problem"
)

// What a file that is taken in may hold at most.
const (
	MostRows  = 10_000
	MostBytes = 16 << 20
)

// shownFaults and shownActs are how many of each an answer lists.
const (
	shownFaults = 100
	shownActs   = 50
)

// Import is what a file would change, or has changed.
type Import struct {
	Rows int `json:"rows" doc:"that were read"`
	// Added and Changed are materials, or receipts; Same are those that are in the stores already, just so.
	Added   int              `json:"added"`
	Changed int              `json:"changed"`
	Same    int              `json:"same"`
	Acts    []ImportAct      `json:"acts" nullable:"false" doc:"what is added and changed, the first of them"`
	Faults  []document.Fault `json:"faults" nullable:"false" doc:"what is wrong, the first of it; with any, nothing is saved"`
	Wrong   int              `json:"wrong" doc:"all faults there are"`
	Saved   bool             `json:"saved"`
	// seen maps what the file has named to its line, to find what is named twice.
	seen map[string]int
}

// ImportAct is one thing that a file adds or changes.
type ImportAct struct {
	Line int    `json:"line"`
	New  bool   `json:"new"`
	Name string `json:"name"`
	Text string `json:"text"`
}

// Progress tells how far taking a file in has come.
type Progress struct {
	Doing string `json:"doing" enum:"checking,saving"`
	Done  int    `json:"done"`
	Of    int    `json:"of"`
}

// Importing says how to take a file in.
type Importing struct {
	// Save saves it; else it is only looked through.
	Save bool
	// Tell is told now and then how far it has come.
	Tell func(Progress)
}

// toldEvery is after how many rows Tell is told.
const toldEvery = 500

func (o Importing) told(doing string, done, of int) {
	if done%toldEvery == 0 || done == of {
		o.Tell(Progress{doing, done, of})
	}
}

func (imp *Import) fault(line int, column, message string) {
	imp.Wrong++
	if len(imp.Faults) < shownFaults {
		imp.Faults = append(imp.Faults, document.Fault{Line: line, Column: cut(column), Message: cut(message)})
	}
}

func (imp *Import) act(line int, isNew bool, name, text string) {
	if isNew {
		imp.Added++
	} else {
		imp.Changed++
	}
	if len(imp.Acts) < shownActs {
		imp.Acts = append(imp.Acts, ImportAct{line, isNew, name, cut(text)})
	}
}

// cut keeps what is said of a row short, whatever stands in it.
func cut(text string) string {
	const most = 300
	if letters := []rune(text); len(letters) > most {
		return string(letters[:most]) + "…"
	}
	return text
}

// blame notes an error at a line when it is the file's fault, and returns any other.
func (imp *Import) blame(line int, err error) error {
	var fault *document.Fault
	var refused *problem.Problem
	switch {
	case errors.As(err, &fault):
		imp.fault(fault.Line, fault.Column, fault.Message)
	case errors.As(err, &refused):
		imp.fault(line, "", refused.Detail)
	default:
		return err
	}
	return nil
}

// file is a table that was read: its rows, and the reader of their numbers.
type file struct {
	*document.Table
	rows []document.Row
}

// readFile reads the rows of a table as far as they are allowed. What is wrong with them is noted.
func (imp *Import) readFile(r io.Reader, want document.Columns) (f file, err error) {
	in := &io.LimitedReader{R: r, N: MostBytes + 1}
	if f.Table, err = document.OpenTable(in, want); err != nil {
		return f, imp.blame(1, err)
	}
	for {
		row, err := f.Next()
		switch {
		case in.N == 0:
			imp.fault(1, "", fmt.Sprintf("the file is larger than %d MiB; split it", MostBytes>>20))
			return f, drain(r)
		case errors.Is(err, io.EOF):
			return f, nil
		case err != nil:
			if err2 := imp.blame(0, err); err2 != nil || errors.Is(err, document.ErrBroken) {
				return f, errors.Join(err2, drain(r))
			}
			continue
		case len(f.rows) == MostRows:
			imp.fault(row.Line, "", fmt.Sprintf("a file may have %d rows, and this one has more; split it", MostRows))
			return f, drain(r)
		}
		f.rows = append(f.rows, row)
		imp.Rows++
	}
}

// drain reads what is left of a file without keeping it, within bounds, so that
// whoever sends it hears the answer.
func drain(r io.Reader) error {
	if _, err := io.CopyN(io.Discard, r, 4*MostBytes); err != nil && !errors.Is(err, io.EOF) {
		return fmt.Errorf("reading a file: %w", err)
	}
	return nil
}

// takeIn reads a table, has it checked, and has it saved when that is asked for and nothing is wrong.
func (a *Area) takeIn(ctx context.Context, r io.Reader, want document.Columns, o Importing, check func(*gorm.DB, *Import, file) (save func() error, err error)) (Import, error) {
	read := Import{Acts: []ImportAct{}, Faults: []document.Fault{}}
	f, err := read.readFile(r, want)
	if err != nil { // only whoever sends it can be at fault
		return read, &problem.Problem{Title: "Not whole", Status: http.StatusBadRequest, Detail: "The file ended before it was whole. Send it again."}
	}
	run := func(tx *gorm.DB) (imp Import, err error) {
		imp = read
		imp.Faults, imp.seen = slices.Clone(read.Faults), map[string]int{}
		if f.Table == nil {
			return imp, nil
		}
		save, err := check(tx, &imp, f)
		if err != nil || !o.Save || imp.Wrong > 0 {
			return imp, err
		}
		imp.Saved = true
		return imp, save()
	}
	if o.Save {
		return database.Answer(ctx, a.db, database.Stores, run)
	}
	return database.Look(ctx, a.db, run)
}

// form checks fields against what the pages may send, by the same bounds.
type form struct {
	schemas huma.Registry
	schema  *huma.Schema
}

func formOf[T any]() form {
	schemas := huma.NewMapRegistry("#/components/schemas/", huma.DefaultSchemaNamer)
	return form{schemas, schemas.Schema(reflect.TypeFor[T](), false, "")}
}

// fill reads fields into a value, or says what is wrong with each.
func (f form) fill(fields map[string]any, into any) (faults []problem.Field, err error) {
	var found huma.ValidateResult
	huma.Validate(f.schemas, f.schema, huma.NewPathBuffer([]byte{}, 0), huma.ModeWriteToServer, fields, &found)
	for _, e := range found.Errors {
		fault := problem.FieldOf(e)
		fault.Location = strings.TrimPrefix(fault.Location, ".")
		faults = append(faults, fault)
	}
	if len(faults) > 0 {
		return faults, nil
	}
	text, err := json.Marshal(fields)
	if err == nil {
		err = json.Unmarshal(text, into)
	}
	if err != nil {
		return nil, fmt.Errorf("reading a row: %w", err)
	}
	return nil, nil
}
