package access

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

const (
	// pairingLetters make a code of nearly 60 bits, that lives for minutes.
	pairingLetters = 12
	pairWithin     = 10 * time.Minute
)

// NewPairing says what for a device is let in: for a member, or shared with a role.
type NewPairing struct {
	MemberID *uint64    `json:"memberId,omitempty"`
	Role     *wire.Role `json:"role,omitempty" enum:"maker,helper,viewer"`
	Device   string     `json:"device" minLength:"1" maxLength:"80" doc:"what the device is called, such as phone by the sink"`
}

// PairingCode is what the owner shows to the device.
type PairingCode struct {
	ID   uint64 `json:"id"`
	Code string `json:"code"`
	// Address is where the device goes with it; what comes after its mark no server is told.
	Address string    `json:"address"`
	Scanned string    `json:"scanned" doc:"a picture of the address for a phone to scan, as a data address"`
	EndsAt  time.Time `json:"endsAt"`
}

// Pairing is a code that a device can come in by once.
type Pairing struct {
	ID        uint64 `gorm:"primaryKey"`
	Code      []byte
	MemberID  *uint64
	Role      *wire.Role
	Device    string
	EndsAt    time.Time
	SessionID *uint64
}

func (Pairing) TableName() string { return "pairings" }

// Pair makes a code for one device. It is kept as a digest only.
func (a *Area) Pair(ctx context.Context, in NewPairing) (made PairingCode, err error) {
	if (in.MemberID == nil) == (in.Role == nil) {
		return made, problem.Invalid("role", "say whose the device is, or what a shared one may do")
	}
	code := newSecret(pairingLetters)
	p := Pairing{Code: digest(code), MemberID: in.MemberID, Role: in.Role, Device: in.Device, EndsAt: a.now().Add(pairWithin)}
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		if in.MemberID != nil {
			member, err := loadMember(tx, *in.MemberID)
			if problem.IsNotFound(err) {
				return problem.Invalid("memberId", "there is no such member")
			}
			if err != nil {
				return err
			}
			if member.Role == wire.RoleOwner {
				return problem.Invalid("memberId", "%s is an owner: an owner signs in by password or passkey, so that no code of minutes opens everything", member.Name)
			}
		}
		if err := forgetPairings(tx, a.now()); err != nil {
			return err
		}
		if err := tx.Create(&p).Error; err != nil {
			return fmt.Errorf("making a pairing code: %w", err)
		}
		return nil
	})
	if err != nil {
		return made, err
	}
	made = PairingCode{ID: p.ID, Code: inGroups(code), Address: a.AddressFor(ctx) + "/pair#" + code, EndsAt: p.EndsAt}
	made.Scanned, err = scanned(made.Address)
	return made, err
}

// Paired tells whether a device has come in by a pairing code.
func (a *Area) Paired(ctx context.Context, id uint64) (done PairingState, err error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (PairingState, error) {
		p, err := loadPairing(tx, id)
		return PairingState{Done: p.SessionID != nil, Over: p.SessionID == nil && a.now().After(p.EndsAt)}, err
	})
}

// PairingState is how far a pairing is.
type PairingState struct {
	Done bool `json:"done"`
	Over bool `json:"over" doc:"the code has run out unused"`
}

// Redemption is a pairing code that a device shows.
type Redemption struct {
	Code string `json:"code" minLength:"1" maxLength:"60"`
}

// Redeem lets a device in by a pairing code, which is used up.
func (a *Area) Redeem(ctx context.Context, in Redemption) (arrived Arrived, err error) {
	from := strangers(arrival(ctx))
	from.key = "pairing " + from.key
	if wait := a.guesses.try(from); wait > 0 {
		return arrived, locked(wait)
	}
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		p, err := pairingOf(tx, digest(plainCode(in.Code)))
		if err != nil {
			return err
		}
		switch {
		case p.ID == 0:
			return problem.Unknown(problem.Wrong, "This code is not known here. Let the owner show a new one.")
		case p.SessionID != nil:
			return problem.Unknown(problem.Wrong, "This code was used already. Let the owner show a new one.")
		case a.now().After(p.EndsAt):
			return problem.Unknown(problem.Wrong, "This code has run out. Let the owner show a new one.")
		}
		s := Session{MemberID: p.MemberID, SharedRole: p.Role, Way: byPairing, Device: p.Device}
		if err := a.begin(tx, &arrived, &s); err != nil {
			return err
		}
		if err := endOther(tx, a.now(), digest(arrival(ctx).Token), s.ID); err != nil {
			return err
		}
		return usePairing(tx, p.ID, s.ID)
	})
	if err == nil {
		a.guesses.right(from)
	}
	return arrived, err
}

// Holder is somebody who may hold a shared device.
type Holder struct {
	MemberID uint64 `json:"memberId"`
	Name     string `json:"name"`
	HasPIN   bool   `json:"hasPin"`
	PersonID uint64 `json:"personId,omitempty"`
}

// Holders lists who may hold a shared device: everybody with a member and work at the bench.
func (a *Area) Holders(ctx context.Context) ([]Holder, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]Holder, error) {
		members, err := loadMembers(tx)
		holders := []Holder{}
		for _, o := range members {
			if o.PersonID != nil {
				holders = append(holders, Holder{o.ID, o.Name, o.HasPIN, *o.PersonID})
			}
		}
		return holders, err
	})
}

// Holding says who holds a shared device.
type Holding struct {
	MemberID uint64 `json:"memberId" doc:"0 for nobody any more"`
	PIN      string `json:"pin,omitempty" maxLength:"8"`
}

// Hold says who holds the shared device that asks, by their PIN where they have
// one. It says whose work it is; what the device may do stays as the owner set it.
func (a *Area) Hold(ctx context.Context, in Holding) (me Me, err error) {
	who := wire.Acts(ctx)
	if who.SessionID == 0 || who.MemberID != 0 {
		return me, problem.Conflict(problem.Unfit, "This device is not a shared one.")
	}
	var holder *uint64
	if in.MemberID != 0 {
		member, err := database.Look(ctx, a.db, func(tx *gorm.DB) (Member, error) { return loadMember(tx, in.MemberID) })
		if problem.IsNotFound(err) || err == nil && member.PersonID == nil {
			return me, problem.Invalid("memberId", "nobody of this member works at the bench")
		}
		if err != nil {
			return me, err
		}
		if err := a.checkHolder(ctx, member, in.PIN); err != nil {
			return me, err
		}
		holder = &member.ID
	}
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		if err := setHolder(tx, who.SessionID, holder); err != nil {
			return err
		}
		s, err := sessionByID(tx, who.SessionID)
		if err != nil {
			return err
		}
		me, err = meOf(tx, s.actor())
		return err
	})
	return me, err
}

// Believes tells whether it is believed without more when a device that nobody signed in
// on says that a person holds it: whoever has a PIN says it by that.
func (a *Area) Believes(ctx context.Context, person uint64) (bool, error) {
	guarded, err := hasPIN(a.db.Peek(ctx), person)
	return !guarded, err
}

func (a *Area) checkHolder(ctx context.Context, member Member, pin string) error {
	if member.PIN == nil {
		return nil
	}
	limit := limit{fmt.Sprint("pin ", member.ID, " ", wire.Acts(ctx).SessionID), freeTries}
	if wait := a.guesses.try(limit); wait > 0 {
		return locked(wait)
	}
	right, err := fits(ctx, pin, member.PIN)
	if err != nil {
		return err
	}
	if !right {
		return problem.Invalid("pin", "this is not the PIN of %s", member.Name)
	}
	a.guesses.right(limit)
	return nil
}
