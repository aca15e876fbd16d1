// Package messages has the words ready that go to a customer, filled from the order and in
// the studio's own texts. Nothing is sent from here.
package messages

import (
	"context"
	"fmt"
	"strings"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"tidykiln/core/fault"
	"tidykiln/core/message"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/trade"
)

// Kind of a message.
type Kind string

// The kinds of messages, as an order goes on.
const (
	ForQuote Kind = "quote"
	ForProof Kind = "proof"
	Moved    Kind = "moved"
	Ready    Kind = "ready"
	OnItsWay Kind = "on_its_way"
	Thanks   Kind = "thanks"
)

// text is a message before it is filled.
type text struct {
	kind                  Kind
	called, subject, body string
}

// standard are the texts as they come.
var standard = []text{
	{ForQuote, "A quote", "Quote {quote} from {studio}", "Dear {customer},\n\nthank you for asking. We would make {pieces} for {asked}.\nIt would be ready {due}.\nThe quote stands until {until}.\nYou can look at it and answer here: {link}\n\n{studio}"},
	{ForProof, "A proof to look at", "Please look at your order {order}", "Dear {customer},\n\nthis is how your pieces will look: {link}\nPlease read every name: we begin when you have said that it is right.\n\n{studio}"},
	{Moved, "It will be another day", "Your order {order}", "Dear {customer},\n\nwe are sorry: your order will not be ready {due}.\nIt will be ready {ready}.\nA coat rests as long as it needs to, and yours is resting.\n\n{studio}"},
	{Ready, "It is ready", "Your order {order} is ready", "Dear {customer},\n\nthis is ready for you: {pieces}.\nStill open are {open}.\n\n{studio}"},
	{OnItsWay, "It is on its way", "Your order {order} is on its way", "Dear {customer},\n\nthis is on its way to you: {pieces}.\nIt should be with you by {there}.\nStill open are {open}.\n\n{studio}"},
	{Thanks, "Thanks, and how to look after it", "Thank you, and how to look after it", "Dear {customer},\n\nthank you for your order. So that it lasts:\n\n{care}\n\nShould anything be wrong with it, tell us.\n\n{studio}"},
}

// Word is what can be filled into a text.
type Word struct {
	Name string `json:"name"`
	Is   string `json:"is"`
}

// words are those that can stand in braces.
var words = []Word{
	{"customer", "whom it is for"}, {"studio", "the studio’s name"}, {"order", "the order’s number"}, {"quote", "the quote’s number"}, {"pieces", "what was ordered or offered"},
	{"due", "the day of the hand-over"}, {"ready", "the day on which it is ready by the plan"}, {"there", "the day by which it is at the customer’s"}, {"asked", "what it costs"},
	{"deposit", "what is asked ahead and has not come"}, {"open", "what is still to be paid"}, {"until", "how long the quote stands"}, {"link", "where the proof or the quote is shown"}, {"care", "how the pieces are looked after"},
}

func wordNames() (names []string) {
	for _, w := range words {
		names = append(names, w.Name)
	}
	return names
}

// MessageTemplate is the text of a kind of message.
type MessageTemplate struct {
	MessageTemplateForm
	Called string `json:"called" gorm:"-"`
	// StandardSubject and StandardBody are the text as it came.
	StandardSubject string `json:"standardSubject" gorm:"-"`
	StandardBody    string `json:"standardBody" gorm:"-"`
	Version         int    `json:"version"`
}

// MessageTemplateForm is a text that the studio writes.
type MessageTemplateForm struct {
	Kind    Kind   `json:"kind" enum:"quote,proof,moved,ready,on_its_way,thanks" gorm:"primaryKey"`
	Subject string `json:"subject" minLength:"1" maxLength:"200"`
	Body    string `json:"body" minLength:"1" maxLength:"4000"`
}

// MessageTemplateChange is an edit of a text as it was read at a version.
type MessageTemplateChange struct {
	MessageTemplateForm
	Version int `json:"version" minimum:"1"`
}

// MessageTemplates are the texts, and what can be filled into them.
type MessageTemplates struct {
	Templates []MessageTemplate `json:"templates" nullable:"false"`
	Words     []Word            `json:"words" nullable:"false"`
}

// Area answers for messages.
type Area struct {
	db    *database.DB
	now   func() time.Time
	trade *trade.Area
}

// New makes the area on its database and clock.
func New(db *database.DB, now func() time.Time, trade *trade.Area) *Area {
	return &Area{db, now, trade}
}

// Templates are the studio's texts.
func (a *Area) Templates(ctx context.Context) (MessageTemplates, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (MessageTemplates, error) {
		list, err := templates(tx)
		return MessageTemplates{list, words}, err
	})
}

// templates are the texts of all kinds: as the studio wrote them, or as they came.
func templates(tx *gorm.DB) ([]MessageTemplate, error) {
	var own []MessageTemplate
	if err := tx.Find(&own).Error; err != nil {
		return nil, fmt.Errorf("reading the texts of messages: %w", err)
	}
	list := []MessageTemplate{}
	for _, s := range standard {
		t := MessageTemplate{MessageTemplateForm: MessageTemplateForm{s.kind, s.subject, s.body}, Version: 1}
		for _, o := range own {
			if o.Kind == s.kind {
				t = o
			}
		}
		t.Called, t.StandardSubject, t.StandardBody = s.called, s.subject, s.body
		list = append(list, t)
	}
	return list, nil
}

// ChangeTemplate changes the text of a kind of message.
func (a *Area) ChangeTemplate(ctx context.Context, in MessageTemplateChange) error {
	in.Subject, in.Body = strings.TrimSpace(in.Subject), strings.TrimSpace(strings.ReplaceAll(in.Body, "\r", ""))
	for field, text := range map[string]string{"subject": in.Subject, "body": in.Body} {
		if text == "" {
			return problem.Invalid(field, "this cannot be empty")
		}
		if err := message.Check(text, wordNames()); err != nil {
			return problem.Invalid(field, "%s", fault.Of(err).Message)
		}
	}
	if strings.ContainsAny(in.Subject, "\n") {
		return problem.Invalid("subject", "a subject is one line")
	}
	return a.db.Write(ctx, database.Orders, func(tx *gorm.DB) error {
		list, err := templates(tx.Clauses(clause.Locking{Strength: "UPDATE"}))
		if err != nil {
			return err
		}
		for _, t := range list {
			if t.Kind != in.Kind {
				continue
			}
			if err := problem.IfStale(in.Version, t.Version, "This text was changed by someone since you opened it."); err != nil {
				return err
			}
			t.MessageTemplateForm, t.Version = in.MessageTemplateForm, t.Version+1
			if err := tx.Save(&t).Error; err != nil {
				return fmt.Errorf("saving the text of a message: %w", err)
			}
			return nil
		}
		return problem.Invalid("kind", "there is no such message")
	})
}
