package prints

import (
	"context"
	"fmt"

	"gorm.io/gorm"

	"tidykiln/internal/access"
	"tidykiln/internal/database"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// A proof under a secret address: its customer looks at it and answers without a sign-in.

// ProofAddress is where an order's customer sees its proof.
func (a *Area) ProofAddress(ctx context.Context, id uint64) (access.SecretAddress, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (at access.SecretAddress, err error) {
		if _, err := orders.Load(tx, id); err != nil {
			return at, err
		}
		return access.SecretOf(tx, access.OpensProof, id)
	})
}

// RenewProofAddress gives an order's proof another address; the one before opens nothing any more.
func (a *Area) RenewProofAddress(ctx context.Context, id uint64) (at access.SecretAddress, err error) {
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		if _, err := orders.Load(tx, id); err != nil {
			return err
		}
		at, err = access.RenewSecret(tx, access.OpensProof, id, a.now())
		return err
	})
	return at, err
}

// shownOrder is the order whose proof a secret address opens.
func (a *Area) shownOrder(ctx context.Context, token string) (uint64, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (uint64, error) { return access.OpenedBy(tx, access.OpensProof, token) })
}

// ShownProof is what the customer sees.
func (a *Area) ShownProof(ctx context.Context, in *access.ByToken) (Proof, error) {
	id, err := a.shownOrder(ctx, in.Token)
	if err != nil {
		return Proof{}, err
	}
	return a.Proof(ctx, id)
}

// shownAnswers is what the customer says by a secret address.
type shownAnswers struct {
	Token string `path:"token" maxLength:"100"`
	Body  ProofAnswers
}

// AnswerShownProof notes what the customer said.
func (a *Area) AnswerShownProof(ctx context.Context, in *shownAnswers) (wire.Nothing, error) {
	id, err := a.shownOrder(ctx, in.Token)
	if err != nil {
		return wire.Nothing{}, err
	}
	for i, answer := range in.Body.Answers {
		if answer.State == Shown {
			return wire.Nothing{}, problem.Invalid(fmt.Sprintf("answers[%d].state", i), "say whether it is right, or what is to be changed")
		}
	}
	return wire.Nothing{}, a.AnswerProof(ctx, id, in.Body)
}

// shownPicture is a picture of a proof by a secret address.
type shownPicture struct {
	Token   string `path:"token" maxLength:"100"`
	Look    int    `path:"look"`
	Artwork uint64 `path:"artwork"`
}

// ShownPicture is a picture as the proof shows it.
func (a *Area) ShownPicture(ctx context.Context, in *shownPicture) (*wire.File, error) {
	id, err := a.shownOrder(ctx, in.Token)
	if err != nil {
		return nil, err
	}
	p, _, err := a.proof(ctx, id)
	if err != nil {
		return nil, err
	}
	for _, piece := range p.Pieces {
		if piece.Look == in.Look && piece.Artwork != nil && piece.Artwork.ID == in.Artwork && piece.Artwork.View != nil {
			image, err := a.proofImage(ctx, p, fmt.Sprintf("%d of %d", in.Artwork, in.Look))
			kind := map[bool]string{true: "image/jpeg", false: "image/png"}[image.JPEG]
			return &wire.File{Type: kind, Body: image.Content}, err
		}
	}
	return nil, problem.NotFound("picture in this proof")
}
