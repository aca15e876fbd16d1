// Package papers holds what the studio issues in writing: invoices, credit notes, receipts,
// packing slips, order sheets, care cards, labels. A paper is made once and kept as issued.
package papers

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"tidykiln/core/calendar"
	"tidykiln/internal/artwork"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/document"
	"tidykiln/internal/problem"
	"tidykiln/internal/selling"
	"tidykiln/internal/trade"
)

// Kind of a paper. Each kind is numbered by itself, without a gap.
type Kind string

// The kinds of papers. Invoices, credit notes and receipts speak of money.
const (
	Invoice     Kind = "invoice"
	CreditNote  Kind = "credit_note"
	Receipt     Kind = "receipt"
	PackingSlip Kind = "packing_slip"
	OrderSheet  Kind = "order_sheet"
	CareCard    Kind = "care_card"
)

var kindNames = map[Kind]string{Invoice: "Invoice", CreditNote: "Credit note", Receipt: "Receipt", PackingSlip: "Packing slip", OrderSheet: "Order sheet", CareCard: "Care cards"}

// OfMoney tells whether a paper is one that the books need, and the law asks to be kept.
func (k Kind) OfMoney() bool { return k == Invoice || k == CreditNote || k == Receipt }

// IssuedPaper is a paper as it was issued. Amounts are in the studio's currency; those of a
// credit note are what it takes off.
type IssuedPaper struct {
	ID      uint64 `json:"id"`
	Kind    Kind   `json:"kind" enum:"invoice,credit_note,receipt,packing_slip,order_sheet,care_card"`
	Number  int    `json:"number"`
	OrderID uint64 `json:"orderId"`
	// PaymentID is the payment that a receipt is for, CreditsID the invoice that a credit note is for.
	PaymentID  *uint64         `json:"paymentId,omitempty"`
	CreditsID  *uint64         `json:"creditsId,omitempty"`
	IssuedAt   time.Time       `json:"issuedAt"`
	IssuedOn   calendar.Date   `json:"issuedOn" format:"date"`
	Net        decimal.Decimal `json:"net"`
	Tax        decimal.Decimal `json:"tax"`
	Gross      decimal.Decimal `json:"gross"`
	TaxPercent decimal.Decimal `json:"taxPercent"`
	Content    content         `json:"-" gorm:"serializer:json"`
	File       string          `json:"-"`
	NameUntil  *calendar.Date  `json:"-"`
}

// content is what stands on a paper: text, or cards.
type content struct {
	Paper *document.Paper     `json:"paper,omitempty"`
	Cards []document.CareCard `json:"cards,omitempty"`
	// Note is what was said besides; it stands among the words.
	Note string `json:"note,omitempty"`
}

// Letterhead is what stands on every paper of the studio.
type Letterhead struct {
	LetterheadForm
	Version int `json:"version"`
}

func (Letterhead) TableName() string { return "letterhead" }

// LetterheadForm is what the owner says of it.
type LetterheadForm struct {
	Seller    string `json:"seller" maxLength:"600" doc:"who sells, line by line: name, address, tax number; the studio's name where empty"`
	Foot      string `json:"foot" maxLength:"1000" doc:"what is said under an invoice, such as how it is paid"`
	DaysToPay int    `json:"daysToPay" minimum:"0" maximum:"365"`
	YearsKept int    `json:"yearsKept" minimum:"0" maximum:"30" doc:"how long after the end of its year an invoice keeps a name that is to be erased"`
	// FirstNumber begins a series of which there is no paper yet.
	FirstNumber int `json:"firstNumber" minimum:"1" maximum:"9999999"`
}

// nameUntil is until when a paper issued on a day keeps the name of whose data is erased.
func (f LetterheadForm) nameUntil(issued calendar.Date) calendar.Date {
	return calendar.DateOf(time.Date(issued.At(0, time.UTC).Year()+1+f.YearsKept, 1, 1, 0, 0, 0, 0, time.UTC), time.UTC)
}

// LetterheadChange is an edit of the letterhead as it was read at a version.
type LetterheadChange struct {
	LetterheadForm
	Version int `json:"version" minimum:"1"`
}

// mostSellerLines bounds what stands at the head of a paper.
const mostSellerLines = 10

// check refuses what no letterhead can be. It tidies what was typed.
func (f *LetterheadForm) check() error {
	f.Seller, f.Foot = customers.TidyLines(f.Seller), strings.TrimSpace(f.Foot)
	for field, n := range map[string][3]int{"daysToPay": {f.DaysToPay, 0, 365}, "yearsKept": {f.YearsKept, 0, 30}, "firstNumber": {f.FirstNumber, 1, 9_999_999}} {
		if n[0] < n[1] || n[0] > n[2] {
			return problem.Invalid(field, "from %d to %d", n[1], n[2])
		}
	}
	if strings.Count(f.Seller, "\n") >= mostSellerLines {
		return problem.Invalid("seller", "at most %d lines", mostSellerLines)
	}
	return nil
}

// Area answers for papers.
type Area struct {
	db      *database.DB
	now     func() time.Time
	artwork *artwork.Area
	trade   *trade.Area
	selling *selling.Area
}

// New makes the area on its database and clock.
func New(db *database.DB, now func() time.Time, artwork *artwork.Area, trade *trade.Area, selling *selling.Area) *Area {
	return &Area{db, now, artwork, trade, selling}
}

// Letterhead is the studio's.
func (a *Area) Letterhead(ctx context.Context) (Letterhead, error) {
	return database.Look(ctx, a.db, loadLetterhead)
}

// ChangeLetterhead changes it for the papers to come.
func (a *Area) ChangeLetterhead(ctx context.Context, in LetterheadChange) error {
	if err := in.check(); err != nil {
		return err
	}
	return a.db.Write(ctx, database.Orders, func(tx *gorm.DB) error {
		h, err := loadLetterhead(tx.Clauses(clause.Locking{Strength: "UPDATE"}))
		if err != nil {
			return err
		}
		if err := problem.IfStale(in.Version, h.Version, "The letterhead was changed by someone since you opened it."); err != nil {
			return err
		}
		h.LetterheadForm, h.Version = in.LetterheadForm, h.Version+1
		if err := tx.Where("id = 1").Select("*").Updates(&h).Error; err != nil {
			return fmt.Errorf("saving the letterhead: %w", err)
		}
		return nil
	})
}
