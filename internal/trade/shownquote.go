package trade

import (
	"context"
	"errors"
	"slices"

	"gorm.io/gorm"

	"tidykiln/internal/access"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

// A quote under a secret address: whom it was made for looks at it and answers without a
// sign-in.

// QuoteAddress is where a quote is shown; nowhere until an address is made.
func (a *Area) QuoteAddress(ctx context.Context, id uint64) (access.SecretAddress, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (at access.SecretAddress, err error) {
		if _, err := a.quote(tx, id); err != nil {
			return at, err
		}
		return access.SecretOf(tx, access.OpensQuote, id)
	})
}

// RenewQuoteAddress gives a quote another address; the one before opens nothing any more.
func (a *Area) RenewQuoteAddress(ctx context.Context, id uint64) (at access.SecretAddress, err error) {
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		if _, err := a.quote(tx, id); err != nil {
			return err
		}
		at, err = access.RenewSecret(tx, access.OpensQuote, id, a.now())
		return err
	})
	return at, err
}

// ShownQuote is a quote as whom it was made for sees it, in the studio's own way of
// writing: they know nothing of its settings.
type ShownQuote struct {
	Studio   string     `json:"studio"`
	Number   int        `json:"number"`
	Customer string     `json:"customer"`
	State    QuoteState `json:"state" enum:"open,accepted,declined,withdrawn,lapsed"`
	// Words say when it is ready and how long it stands.
	Words   []string    `json:"words" nullable:"false"`
	Note    string      `json:"note"`
	Lines   []ShownLine `json:"lines" nullable:"false"`
	Sums    []ShownSum  `json:"sums" nullable:"false"`
	Deposit string      `json:"deposit" doc:"what is asked ahead; empty for nothing"`
}

// ShownLine is a line of a quote in words.
type ShownLine struct {
	ID        uint64   `json:"id"`
	Product   string   `json:"product"`
	Quantity  int      `json:"quantity"`
	Each      string   `json:"each"`
	Amount    string   `json:"amount"`
	Lettered  bool     `json:"lettered"`
	Lettering []string `json:"lettering" nullable:"false"`
	// Pictured says that there is a picture of it.
	Pictured bool `json:"pictured"`
}

// ShownSum is a line under the lines; the main one is what is to be paid.
type ShownSum struct {
	Name   string `json:"name"`
	Amount string `json:"amount"`
	Main   bool   `json:"main"`
}

// opened is the quote that a token opens, and the studio it is of.
func (a *Area) opened(ctx context.Context, token string) (q Quote, w workshop.Workshop, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		id, err := access.OpenedBy(tx, access.OpensQuote, token)
		if err != nil {
			return err
		}
		if w, err = workshop.LoadAlone(tx); err != nil {
			return err
		}
		q, err = a.quote(tx, id)
		return err
	})
	return q, w, err
}

// ShownQuote is what a secret address shows.
func (a *Area) ShownQuote(ctx context.Context, in *access.ByToken) (s ShownQuote, err error) {
	q, w, err := a.opened(ctx, in.Token)
	if err != nil {
		return s, err
	}
	s = ShownQuote{Studio: w.Name, Number: q.Number, Customer: q.Customer.Name, State: q.State, Words: q.inWords(w), Note: q.Note, Lines: []ShownLine{}, Sums: []ShownSum{}}
	for _, l := range q.Lines {
		s.Lines = append(s.Lines, ShownLine{l.ID, l.ProductName, l.Quantity, w.Money(l.UnitPrice), w.Money(l.amount()), l.Lettered, l.Lettering, l.Thumb != ""})
	}
	for _, sum := range q.sums(w) {
		s.Sums = append(s.Sums, ShownSum(sum))
	}
	if q.Deposit.IsPositive() {
		s.Deposit = w.Money(q.Deposit)
	}
	return s, nil
}

// QuoteAnswer is what whom it was made for says.
type QuoteAnswer struct {
	Accept bool `json:"accept"`
	// Lettering holds the names of the pieces, a list a line.
	Lettering [][]string `json:"lettering,omitempty" maxItems:"20" nullable:"false"`
}

// Answer notes the answer to the quote that a token opens. An order that can be taken as
// it was promised is taken; where something is in the way it is accepted, and the studio
// takes it.
func (a *Area) Answer(ctx context.Context, token string, in QuoteAnswer) error {
	q, _, err := a.opened(ctx, token)
	if err != nil {
		return err
	}
	if !in.Accept {
		return a.DeclineQuote(ctx, q.ID, q.Version)
	}
	_, err = a.AcceptQuote(ctx, q.ID, Acceptance{Lettering: in.Lettering})
	if inTheWay(err) {
		return a.noteAccepted(ctx, q, in.Lettering)
	}
	return err
}

// inTheWay tells a promise that cannot be held as it was made from what was answered wrongly.
func inTheWay(err error) bool {
	var why *problem.Problem
	if !errors.As(err, &why) {
		return false
	}
	passed := func(f problem.Field) bool { return f.Location == "body.dueOn" }
	return why.Type == problem.BreaksPromises || slices.ContainsFunc(why.Errors, passed)
}

// noteAccepted notes that somebody wants what was quoted, though the order cannot be taken
// as it is; the names they gave are kept.
func (a *Area) noteAccepted(ctx context.Context, q Quote, lettering [][]string) error {
	return a.db.Write(ctx, database.Orders, func(tx *gorm.DB) error {
		q, err := a.quote(tx, q.ID)
		if err != nil {
			return err
		}
		if err := q.mayBeTaken(); err != nil || q.State == QuoteAccepted {
			return err
		}
		for i, l := range q.Lines {
			if i < len(lettering) && len(lettering[i]) > 0 {
				if err := saveLettering(tx, l.ID, lettering[i]); err != nil {
					return err
				}
			}
		}
		return saveQuote(tx, q, map[string]any{"state": QuoteAccepted, "answered_at": a.now()})
	})
}

// shownThumb is a picture of a quote by a secret address.
type shownThumb struct {
	Token string `path:"token" maxLength:"100"`
	Line  uint64 `path:"line"`
}

// ShownThumb is the picture of a line.
func (a *Area) ShownThumb(ctx context.Context, in *shownThumb) (*wire.File, error) {
	q, _, err := a.opened(ctx, in.Token)
	if err != nil {
		return nil, err
	}
	for _, l := range q.Lines {
		if l.ID != in.Line || l.Thumb == "" {
			continue
		}
		content, kind, err := a.artwork.FileOf(ctx, l.Thumb)
		if err != nil {
			return nil, err
		}
		if content != nil {
			return &wire.File{Type: kind, Body: content}, nil
		}
	}
	return nil, problem.NotFound("picture in this quote")
}

// ShownQuotePDF is the quote on paper, by a secret address.
func (a *Area) ShownQuotePDF(ctx context.Context, in *access.ByToken) (*wire.File, error) {
	q, w, err := a.opened(ctx, in.Token)
	if err != nil {
		return nil, err
	}
	return a.quotePDF(ctx, q, w)
}
