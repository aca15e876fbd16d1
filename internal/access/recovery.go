package access

import (
	"context"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// recoveryCodes is how many a member gets at a time; each works once.
const recoveryCodes = 8

// recoveryLetters make a code of nearly 80 bits.
const recoveryLetters = 16

// Recovery is a code instead of a forgotten password, and the new one.
type Recovery struct {
	Name     string `json:"name" minLength:"1" maxLength:"80"`
	Code     string `json:"code" minLength:"1" maxLength:"60"`
	Password string `json:"password" minLength:"1" maxLength:"200"`
	Device   string `json:"device,omitempty" maxLength:"80"`
}

// Confirmation is one's password once more.
type Confirmation struct {
	Password string `json:"password,omitempty" maxLength:"200"`
}

// Recover sets a new password by a recovery code, which is used up, and ends all
// sessions of the member.
func (a *Area) Recover(ctx context.Context, in Recovery) (arrived Arrived, err error) {
	next, err := hashed("password", in.Name, in.Password)
	if err != nil {
		return arrived, err
	}
	member, limits, err := a.toldBy(ctx, in.Name)
	if err != nil {
		return arrived, err
	}
	if wait := a.guesses.try(limits...); wait > 0 {
		return arrived, locked(wait)
	}
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		used, err := useRecoveryCode(tx, member.ID, digest(plainCode(in.Code)), a.now())
		if err != nil {
			return err
		}
		if !used {
			return problem.Unknown(problem.Wrong, "This is no code of that name, or it was used before.")
		}
		if err := setPassword(tx, member.ID, next); err != nil {
			return err
		}
		if err := endSessions(tx, a.now(), member.ID, 0); err != nil {
			return err
		}
		return a.arrive(tx, &arrived, member, byRecovery, in.Device)
	})
	if err == nil {
		a.guesses.right(limits...)
	}
	return arrived, err
}

// RenewRecoveryCodes gives whoever asks new codes; those before do not work any more.
func (a *Area) RenewRecoveryCodes(ctx context.Context, in Confirmation) (codes []string, err error) {
	member, err := a.own(ctx)
	if err != nil {
		return nil, err
	}
	if member.Password == nil {
		return nil, problem.Conflict(problem.Unfit, "Recovery codes are for a forgotten password, and you have none.")
	}
	if err := a.confirmed(ctx, member, "password", in.Password); err != nil {
		return nil, err
	}
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		codes, err = newRecoveryCodes(tx, member.ID)
		return err
	})
	return codes, err
}

func newRecoveryCodes(tx *gorm.DB, member uint64) (codes []string, err error) {
	if err := forgetRecoveryCodes(tx, member); err != nil {
		return nil, err
	}
	for range recoveryCodes {
		code := newSecret(recoveryLetters)
		if err := keepRecoveryCode(tx, member, digest(code)); err != nil {
			return nil, err
		}
		codes = append(codes, inGroups(code))
	}
	return codes, nil
}
