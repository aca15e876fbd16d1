package prints

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/design"
	"tidykiln/core/lettering"
	"tidykiln/internal/artwork"
	"tidykiln/internal/database"
	"tidykiln/internal/document"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

// ProofState is what the customer said of a piece as it will look.
type ProofState string

const (
	// Unshown: nobody has shown it yet, or it has changed since.
	Unshown  ProofState = "unshown"
	Shown    ProofState = "shown"
	Approved ProofState = "approved"
	Change   ProofState = "change"
)

// proof is a row of what was said.
type proof struct {
	WantID uint64 `gorm:"primaryKey;autoIncrement:false"`
	Shown  string
	State  ProofState
	Note   string
	At     time.Time
}

func (proof) TableName() string { return "proofs" }

// Proof is an order's pieces as they will look.
type Proof struct {
	OrderID  uint64        `json:"orderId"`
	Number   int           `json:"number"`
	Customer string        `json:"customer"`
	DueOn    calendar.Date `json:"dueOn" format:"date"`
	Version  int           `json:"version"`
	// Looks are how the order's products look, Pieces the pieces by their place there.
	Looks  []DesignPage `json:"looks" nullable:"false"`
	Pieces []ProofPiece `json:"pieces" nullable:"false"`
}

// ProofPiece is one piece as it will look.
type ProofPiece struct {
	WantID  uint64           `json:"wantId"`
	Look    int              `json:"look"`
	Name    string           `json:"name" doc:"what is lettered on it; empty without"`
	Text    string           `json:"text" doc:"all that stands on it, in lines"`
	Path    string           `json:"path" doc:"its words, from the corner of the print's box"`
	Fits    bool             `json:"fits"`
	Missing []string         `json:"missing" nullable:"false"`
	Artwork *artwork.Artwork `json:"artwork,omitempty"`
	State   ProofState       `json:"state" enum:"unshown,shown,approved,change"`
	Note    string           `json:"note"`
	At      *time.Time       `json:"at,omitempty"`
	outline lettering.Outline
}

// ProofAnswers are what the customer said.
type ProofAnswers struct {
	Answers []ProofAnswer `json:"answers" minItems:"1" maxItems:"500" nullable:"false"`
}

// ProofAnswer is what the customer said of one piece.
type ProofAnswer struct {
	WantID uint64     `json:"wantId"`
	State  ProofState `json:"state" enum:"shown,approved,change"`
	Note   string     `json:"note,omitempty" maxLength:"400"`
}

// fingerprint is how a piece looks, in short.
func fingerprint(d design.Design, words string, pic *uint64) string {
	text, err := json.Marshal(d)
	if err != nil {
		panic(err) // designs are plain values
	}
	id := uint64(0)
	if pic != nil {
		id = *pic
	}
	sum := sha256.Sum256(fmt.Appendf(text, "\x00%s\x00%d", words, id))
	return hex.EncodeToString(sum[:])
}

// Proof shows an order's pieces as they will look, with what was said of them.
func (a *Area) Proof(ctx context.Context, id uint64) (Proof, error) {
	p, _, err := a.proof(ctx, id)
	return p, err
}

func (a *Area) proof(ctx context.Context, id uint64) (p Proof, prints map[uint64]string, err error) {
	var o orders.Order
	var pictures map[uint64]artwork.Artwork
	said := map[uint64]proof{}
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		if o, err = orders.Load(tx, id); err != nil {
			return err
		}
		if pictures, err = artwork.ByID(tx, o.ArtworkIDs()); err != nil {
			return err
		}
		var rows []proof
		if err := tx.Where("want_id IN ?", o.WantIDs()).Find(&rows).Error; err != nil {
			return fmt.Errorf("reading the proofs: %w", err)
		}
		for _, r := range rows {
			said[r.WantID] = r
		}
		return nil
	})
	if err != nil {
		return p, nil, err
	}
	p = Proof{OrderID: o.ID, Number: o.Number, Customer: o.Customer.Name, DueOn: o.DueOn, Version: o.Version, Looks: []DesignPage{}, Pieces: []ProofPiece{}}
	prints = map[uint64]string{}
	for _, l := range o.Lines {
		in, err := a.designed(ctx, l.ProductID)
		if problem.IsNotFound(err) {
			continue // it is not made any more
		}
		if err != nil {
			return p, nil, err
		}
		d := in.product.Laid()
		look, err := a.page(ctx, in, d)
		if err != nil {
			return p, nil, err
		}
		p.Looks = append(p.Looks, look)
		for _, w := range l.Wants {
			piece := a.proofPiece(o, in, d, w)
			piece.Look = len(p.Looks) - 1
			piece.Artwork = pictureOfWant(in.product, w, pictures)
			print := fingerprint(d, piece.Text, artworkID(piece.Artwork))
			prints[w.ID] = print
			if s, is := said[w.ID]; is && s.Shown == print {
				piece.State, piece.Note, piece.At = s.State, s.Note, &s.At
			}
			p.Pieces = append(p.Pieces, piece)
		}
	}
	return p, prints, nil
}

func artworkID(p *artwork.Artwork) *uint64 {
	if p == nil {
		return nil
	}
	return &p.ID
}

// pictureOfWant is the picture that a wanted piece will have.
func pictureOfWant(p products.Product, w orders.Want, pictures map[uint64]artwork.Artwork) *artwork.Artwork {
	if !p.OwnPictures {
		return p.Artwork
	}
	if w.ArtworkID == nil {
		return nil
	}
	pic, there := pictures[*w.ArtworkID]
	if !there {
		return nil
	}
	return &pic
}

func (a *Area) proofPiece(o orders.Order, in designed, d design.Design, w orders.Want) ProofPiece {
	piece := ProofPiece{WantID: w.ID, Name: w.Lettering, Fits: true, Missing: []string{}, State: Unshown}
	piece.Text = textOf(d, fieldsOf(in.basis.Workshop, w.Lettering, o.DueOn, w.Position+1))
	if d.Lettering == nil {
		return piece
	}
	set := a.lettered(in.product.Blank.Shape, d, piece.Text)
	piece.Path, piece.Fits, piece.Missing, piece.outline = set.Outline.Path(), set.Fits, set.Missing, set.Outline
	return piece
}

// AnswerProof notes what the customer said of pieces, as they look now.
func (a *Area) AnswerProof(ctx context.Context, id uint64, in ProofAnswers) error {
	p, prints, err := a.proof(ctx, id)
	if err != nil {
		return err
	}
	for i, answer := range in.Answers {
		if prints[answer.WantID] == "" {
			return problem.Conflict(problem.Moved, "Some of these pieces are not wanted any more. Look again at the order.")
		}
		if answer.State == Change && strings.TrimSpace(answer.Note) == "" {
			return problem.Invalid(fmt.Sprintf("answers[%d].note", i), "say what is to be changed")
		}
	}
	return a.db.Write(ctx, database.Orders, func(tx *gorm.DB) error {
		counts := map[ProofState]int{}
		for _, answer := range in.Answers {
			row := proof{WantID: answer.WantID, Shown: prints[answer.WantID], State: answer.State, Note: strings.TrimSpace(answer.Note), At: a.now()}
			if err := tx.Save(&row).Error; err != nil {
				return fmt.Errorf("noting a proof: %w", err)
			}
			counts[answer.State]++
		}
		for _, state := range []struct {
			of   ProofState
			text string
		}{{Shown, "shown to the customer"}, {Approved, "approved by the customer"}, {Change, "to be changed, says the customer"}} {
			if n := counts[state.of]; n > 0 {
				if err := orders.AddEvent(tx, p.OrderID, a.now(), "Proof: %d of %d %s", n, len(p.Pieces), state.text); err != nil {
					return err
				}
			}
		}
		return nil
	})
}

// ProofPDF is the proof on paper.
func (a *Area) ProofPDF(ctx context.Context, id uint64) (name string, content []byte, err error) {
	p, _, err := a.proof(ctx, id)
	if err != nil {
		return "", nil, err
	}
	doc := document.Proof{Title: fmt.Sprintf("Order %d, as it will look", p.Number), Subtitle: "For " + p.Customer, Image: func(ctx context.Context, key string) (document.PrintImage, error) { return a.proofImage(ctx, p, key) }}
	for i, piece := range p.Pieces {
		look := p.Looks[piece.Look]
		s, d := look.shape, look.Design
		print := d.Print(s)
		b := document.ProofPiece{Name: strings.ReplaceAll(piece.Text, "\n", " · "), Product: look.Product, Number: i + 1, Width: look.Width, Height: look.Height, Blank: design.BlankOutline(s), Ground: groundOf(look), Opaque: look.Opaque,
			Print: document.PrintBox{X: print.X, Y: print.Y, Width: print.Width, Height: print.Height, Outline: print.Outline}}
		if piece.Artwork != nil && piece.Artwork.View != nil {
			b.Print.Picture = fmt.Sprintf("%d of %d", piece.Artwork.ID, piece.Look)
		}
		if len(piece.outline) > 0 {
			b.Print.Words = []document.PrintWords{{Outline: piece.outline, Colour: d.Lettering.Colour, Halo: d.Lettering.Halo}}
		}
		doc.Pieces = append(doc.Pieces, b)
	}
	var out bytes.Buffer
	err = document.WriteProof(ctx, &out, doc)
	return fmt.Sprintf("proof-%d.pdf", p.Number), out.Bytes(), err
}

// proofImage is a picture as a proof shows it: smaller than it is printed.
func (a *Area) proofImage(ctx context.Context, p Proof, key string) (document.PrintImage, error) {
	var id uint64
	var look int
	if _, err := fmt.Sscanf(key, "%d of %d", &id, &look); err != nil {
		return document.PrintImage{}, err
	}
	for _, piece := range p.Pieces {
		if piece.Artwork == nil || piece.Artwork.ID != id || piece.Artwork.View == nil {
			continue
		}
		src, err := a.artworks.Pixels(ctx, *piece.Artwork.View)
		if err != nil || src == nil {
			return document.PrintImage{}, fmt.Errorf("the file of picture %d is gone: %w", id, err)
		}
		d := p.Looks[look].Design
		return drawn(src, d, d.Print(p.Looks[look].shape), proofPpi)
	}
	return document.PrintImage{}, fmt.Errorf("picture %d is not in the proof", id)
}

// proofPpi is how sharp a proof is: to be looked at, not printed from.
const proofPpi = 150.0

// groundOf is the colour of a blank under its picture, as proofs draw it.
func groundOf(p DesignPage) [3]int {
	switch {
	case p.Tone == "dark":
		return [3]int{71, 76, 87}
	case strings.HasPrefix(p.Surface, "wood"), strings.HasPrefix(p.Surface, "board"):
		return [3]int{227, 191, 142}
	case strings.HasPrefix(p.Surface, "stone"):
		return [3]int{139, 144, 148}
	case strings.HasPrefix(p.Surface, "canvas"), strings.HasPrefix(p.Surface, "fabric"):
		return [3]int{239, 230, 211}
	case strings.HasPrefix(p.Surface, "glass"), strings.HasPrefix(p.Surface, "plastic"):
		return [3]int{220, 233, 230}
	}
	return [3]int{251, 250, 245}
}

// unapproved counts the pieces that were shown to a customer and not approved as they
// look now, by batch.
func unapproved(tx *gorm.DB, kinds []laidKind) (counts map[uint64]int, err error) {
	counts = map[uint64]int{}
	for _, k := range kinds {
		var wants []uint64
		for _, p := range k.batch.Pieces {
			if p.WantID != nil {
				wants = append(wants, *p.WantID)
			}
		}
		var rows []proof
		if err := tx.Where("want_id IN ?", wants).Find(&rows).Error; err != nil {
			return nil, fmt.Errorf("reading the proofs: %w", err)
		}
		said := map[uint64]proof{}
		for _, r := range rows {
			said[r.WantID] = r
		}
		for _, p := range k.batch.Pieces {
			if p.WantID == nil {
				continue
			}
			s, is := said[*p.WantID]
			if is && (s.State != Approved || s.Shown != fingerprint(k.design, k.texts[p.ID], k.batch.PictureOf(p))) {
				counts[k.BatchID]++
			}
		}
	}
	return counts, nil
}

// ForgetProofs takes what a customer said of pieces out.
func ForgetProofs(tx *gorm.DB, wants []uint64) error {
	if err := tx.Model(&proof{}).Where("want_id IN ?", wants).Update("note", "").Error; err != nil {
		return fmt.Errorf("forgetting what was said of proofs: %w", err)
	}
	return nil
}
