package messages

import (
	"bytes"
	"context"
	"fmt"
	"net/url"
	"slices"
	"strings"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/message"
	"tidykiln/internal/access"
	"tidykiln/internal/batches"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/document"
	"tidykiln/internal/orders"
	"tidykiln/internal/planning"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/trade"
	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

// Message is a text that is ready to go.
type Message struct {
	Kind    Kind   `json:"kind" enum:"quote,proof,moved,ready,on_its_way,thanks"`
	Called  string `json:"called"`
	To      string `json:"to" doc:"an e-mail address; empty where none is known"`
	Subject string `json:"subject"`
	Body    string `json:"body"`
	// Missing are words of the text of which nothing is known: their lines are left out.
	Missing []string `json:"missing" nullable:"false"`
	// Fits says that it is what the order is at now.
	Fits bool `json:"fits"`
}

// MessageAsk is a request for messages about a thing.
type MessageAsk struct {
	wire.ID
	Origin string `query:"origin" maxLength:"200" doc:"where the studio is reached, such as https://studio.example: what links begin with"`
	Kind   Kind   `query:"kind" enum:"quote,proof,moved,ready,on_its_way,thanks" default:"ready" doc:"which, where one is asked for"`
}

// origin is what links begin with; it refuses what is no such beginning.
func (in MessageAsk) origin() (string, error) {
	if in.Origin == "" {
		return "", nil
	}
	at, err := url.Parse(in.Origin)
	if err != nil || at.Scheme != "http" && at.Scheme != "https" || at.Host == "" || strings.Trim(at.Path, "/") != "" || at.User != nil {
		return "", problem.Invalid("origin", "an address such as https://studio.example")
	}
	return at.Scheme + "://" + at.Host, nil
}

// OfOrder are the messages about an order.
func (a *Area) OfOrder(ctx context.Context, in *MessageAsk) ([]Message, error) {
	origin, err := in.origin()
	if err != nil {
		return nil, err
	}
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]Message, error) {
		o, err := orders.Load(tx, in.ID.ID)
		if err != nil {
			return nil, err
		}
		w, err := workshop.LoadAlone(tx)
		if err != nil {
			return nil, err
		}
		known, err := ofOrder(tx, o, w, origin)
		if err != nil {
			return nil, err
		}
		readyOn, late, err := planning.PromiseOf(tx, o.ID)
		if err != nil {
			return nil, err
		}
		if readyOn != nil && o.State == orders.Open {
			known["ready"] = day(w, *readyOn)
		}
		begun, finished, err := madeOf(tx, o)
		if err != nil {
			return nil, err
		}
		fits := map[Kind]bool{ForProof: o.State == orders.Open && !begun && known["link"] != "", Moved: o.State == orders.Open && late && !finished,
			Ready: o.State == orders.Open && finished, OnItsWay: o.State == orders.HandedOver && o.DaysOnTheWay > 0, Thanks: o.State == orders.HandedOver}
		return fill(tx, known, o.CustomerID, fits, func(k Kind) bool { return k != ForQuote })
	})
}

// madeOf tells whether any piece of an order is made up, and whether all are finished.
func madeOf(tx *gorm.DB, o orders.Order) (begun, finished bool, err error) {
	pieces, err := batches.PiecesByWant(tx, o.WantIDs())
	ready := 0
	for _, p := range pieces {
		if p.State == batches.PieceFinished {
			ready++
		}
	}
	return len(pieces) > 0, ready == o.Pieces(), err
}

func day(w workshop.Workshop, d calendar.Date) string {
	return w.Habit.Date(d.At(0, w.Location()))
}

// ofOrder is what is known of an order, in words.
func ofOrder(tx *gorm.DB, o orders.Order, w workshop.Workshop, origin string) (map[string]string, error) {
	money, err := trade.StandingOf(tx, o)
	if err != nil {
		return nil, err
	}
	known := map[string]string{"customer": o.Customer.Name, "studio": w.Name, "order": fmt.Sprint(o.Number), "due": day(w, o.DueOn),
		"asked": w.Money(money.Asked), "there": day(w, o.DueOn.Add(o.DaysOnTheWay))}
	if money.Open.IsPositive() && o.State != orders.Cancelled {
		known["open"] = w.Money(money.Open)
	}
	if money.Ahead.IsPositive() && o.State == orders.Open {
		known["deposit"] = w.Money(money.Ahead)
	}
	var pieces []string
	var ids []uint64
	for _, l := range o.Lines {
		pieces, ids = append(pieces, fmt.Sprintf("%d × %s", l.Quantity, l.ProductName)), append(ids, l.ProductID)
	}
	known["pieces"] = strings.Join(pieces, ", ")
	if known["care"], err = care(tx, ids); err != nil {
		return nil, err
	}
	known["link"], err = link(tx, access.OpensProof, o.ID, origin)
	return known, err
}

func link(tx *gorm.DB, opens access.Opens, id uint64, origin string) (string, error) {
	at, err := access.SecretOf(tx, opens, id)
	if err != nil || at.Path == "" || origin == "" {
		return "", err
	}
	return origin + at.Path, nil
}

// care is how products are looked after, each word of it once.
func care(tx *gorm.DB, ids []uint64) (string, error) {
	var said []string
	made, err := products.LoadEver(tx, ids)
	if err != nil {
		return "", err
	}
	for _, id := range ids {
		p := made[id]
		for _, words := range craft.CareFor(p.Bench(), p.Blank) {
			if !slices.Contains(said, words) {
				said = append(said, words)
			}
		}
	}
	return strings.Join(said, "\n"), nil
}

// OfQuote are the messages about a quote.
func (a *Area) OfQuote(ctx context.Context, in *MessageAsk) ([]Message, error) {
	origin, err := in.origin()
	if err != nil {
		return nil, err
	}
	q, err := a.trade.Quote(ctx, in.ID.ID)
	if err != nil {
		return nil, err
	}
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]Message, error) {
		w, err := workshop.LoadAlone(tx)
		if err != nil {
			return nil, err
		}
		known := map[string]string{"customer": q.Customer.Name, "studio": w.Name, "quote": fmt.Sprint(q.Number), "due": day(w, q.DueOn), "asked": w.Money(q.Gross),
			"there": day(w, q.DueOn.Add(q.DaysOnTheWay)), "until": day(w, q.StandsUntil)}
		if q.Deposit.GreaterThan(decimal.Zero) {
			known["deposit"] = w.Money(q.Deposit)
		}
		var pieces []string
		for _, l := range q.Lines {
			pieces = append(pieces, fmt.Sprintf("%d × %s", l.Quantity, l.ProductName))
		}
		known["pieces"] = strings.Join(pieces, ", ")
		if known["link"], err = link(tx, access.OpensQuote, q.ID, origin); err != nil {
			return nil, err
		}
		return fill(tx, known, q.Customer.ID, map[Kind]bool{ForQuote: q.State == "open"}, func(k Kind) bool { return k == ForQuote })
	})
}

// fill fills the texts of some kinds.
func fill(tx *gorm.DB, known map[string]string, customer uint64, fits map[Kind]bool, of func(Kind) bool) ([]Message, error) {
	email, err := customers.EmailOf(tx, customer)
	if err != nil {
		return nil, err
	}
	texts, err := templates(tx)
	if err != nil {
		return nil, err
	}
	list := []Message{}
	for _, t := range texts {
		if !of(t.Kind) {
			continue
		}
		m := Message{Kind: t.Kind, Called: t.Called, To: email, Missing: []string{}, Fits: fits[t.Kind]}
		m.Subject, _ = message.Fill(t.Subject, known)
		var missing []string
		m.Body, missing = message.Fill(t.Body, known)
		m.Missing = append(m.Missing, missing...)
		list = append(list, m)
	}
	return list, nil
}

// MailOfOrder is a message about an order as a file for a mail program.
func (a *Area) MailOfOrder(ctx context.Context, in *MessageAsk) (*wire.File, error) {
	return a.mail(ctx, in, a.OfOrder)
}

// MailOfQuote is the message about a quote as a file for a mail program.
func (a *Area) MailOfQuote(ctx context.Context, in *MessageAsk) (*wire.File, error) {
	in.Kind = ForQuote
	return a.mail(ctx, in, a.OfQuote)
}

func (a *Area) mail(ctx context.Context, in *MessageAsk, read func(context.Context, *MessageAsk) ([]Message, error)) (*wire.File, error) {
	list, err := read(ctx, in)
	if err != nil {
		return nil, err
	}
	at := slices.IndexFunc(list, func(m Message) bool { return m.Kind == in.Kind })
	if at < 0 {
		return nil, problem.Invalid("kind", "there is no such message about this")
	}
	m := list[at]
	var out bytes.Buffer
	if err := document.WriteMail(&out, document.Mail{To: m.To, Subject: m.Subject, Body: m.Body, At: a.now()}); err != nil {
		return nil, err
	}
	return wire.NewFile("message/rfc822", strings.ReplaceAll(string(m.Kind), "_", "-")+".eml", out.Bytes()), nil
}
