package access

import (
	"context"
	"fmt"
	"strings"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// Me is who asks, as far as the studio knows.
type Me struct {
	// Owned says that the studio has an owner, so that one has to sign in.
	Owned bool `json:"owned"`
	// Role is what one may here; left out for nobody.
	Role wire.Role `json:"role,omitempty" enum:"owner,maker,helper,viewer"`
	// MemberID and Member are left out for a shared device, and where nobody owns the studio yet.
	MemberID uint64 `json:"memberId,omitempty"`
	Member   string `json:"member,omitempty"`
	// PersonID is who works: by the member, or as the holder of a shared device has said.
	PersonID uint64 `json:"personId,omitempty"`
	// Shared says that the device is for whoever holds it.
	Shared bool   `json:"shared"`
	Device string `json:"device,omitempty"`
	HasPIN bool   `json:"hasPin"`
}

// Credentials are a name and a password.
type Credentials struct {
	Name     string `json:"name" minLength:"1" maxLength:"80"`
	Password string `json:"password" minLength:"1" maxLength:"200"`
	Device   string `json:"device,omitempty" maxLength:"80"`
}

// Me tells who asks.
func (a *Area) Me(ctx context.Context) (Me, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (Me, error) { return meOf(tx, wire.Acts(ctx)) })
}

func meOf(tx *gorm.DB, who wire.Actor) (me Me, err error) {
	if me.Owned, err = owned(tx); err != nil || who.Role == wire.Nobody {
		return me, err
	}
	me.Role, me.MemberID, me.PersonID = who.Role, who.MemberID, who.PersonID
	if who.SessionID == 0 {
		return me, nil
	}
	s, err := loadSession(tx, who.SessionID)
	if err != nil {
		return me, err
	}
	me.Device, me.Shared = s.Device, s.MemberID == nil
	if me.Shared {
		return me, nil
	}
	member, err := loadMember(tx, who.MemberID)
	me.Member, me.HasPIN = member.Name, member.PIN != nil
	return me, err
}

// SignIn lets in whoever gives the password of a name.
func (a *Area) SignIn(ctx context.Context, in Credentials) (arrived Arrived, err error) {
	member, limits, err := a.toldBy(ctx, in.Name)
	if err != nil {
		return arrived, err
	}
	if wait := a.guesses.try(limits...); wait > 0 {
		return arrived, locked(wait)
	}
	right, err := fits(ctx, in.Password, member.Password)
	if err != nil {
		return arrived, err
	}
	if !right {
		return arrived, problem.Unknown(problem.Wrong, "This name and this password do not belong together.")
	}
	a.guesses.right(limits...)
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		// The password may have been changed, or the member closed, while it was tried.
		is, err := loadMember(tx, member.ID)
		if err != nil {
			return err
		}
		if !database.Same(is.Password, member.Password) {
			return problem.Unknown(problem.Wrong, "The password was changed a moment ago.")
		}
		return a.arrive(tx, &arrived, is, byPassword, in.Device)
	})
	return arrived, err
}

// toldBy is the open member of a name, empty where there is none, and the limits
// under which whoever asks may try for it.
func (a *Area) toldBy(ctx context.Context, name string) (member Member, limits []limit, err error) {
	from := arrival(ctx)
	known := false
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		members, err := loadMembers(tx)
		if err != nil {
			return err
		}
		for _, o := range members {
			if strings.EqualFold(o.Name, strings.TrimSpace(name)) {
				member = o
			}
		}
		if member.ID > 0 && from.Known != "" {
			known, err = knows(tx, member.ID, digest(from.Known))
		}
		return err
	})
	switch {
	case err != nil:
		return member, nil, err
	case known:
		return member, []limit{{fmt.Sprintf("device %x", digest(from.Known)), freeTries}}, nil
	case from.Here:
		return member, []limit{{fmt.Sprint("here ", member.ID), freeTries}}, nil
	}
	limits = []limit{strangers(from)}
	if member.ID > 0 {
		limits = append(limits, limit{fmt.Sprint("member ", member.ID), manyTries})
	}
	return member, limits, nil
}

// strangers are whoever comes from an address; of the newer kind of address,
// whoever has the same network, since that is what one house is given.
func strangers(from Arrival) limit {
	network, err := from.From.Unmap().Prefix(min(64, from.From.Unmap().BitLen()))
	if err != nil {
		return limit{"nowhere", freeTries}
	}
	return limit{"at " + network.String(), freeTries}
}

// OwnPassword is a new password, and the one before.
type OwnPassword struct {
	Old string `json:"old,omitempty" maxLength:"200"`
	New string `json:"new" minLength:"1" maxLength:"200"`
}

// ChangePassword sets the password of whoever asks, and ends their other sessions.
func (a *Area) ChangePassword(ctx context.Context, in OwnPassword) error {
	member, err := a.own(ctx)
	if err != nil {
		return err
	}
	next, err := hashed("new", member.Name, in.New)
	if err != nil {
		return err
	}
	if member.Password != nil {
		if err := a.confirmed(ctx, member, "old", in.Old); err != nil {
			return err
		}
	}
	who := wire.Acts(ctx)
	return a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		if err := setPassword(tx, member.ID, next); err != nil {
			return err
		}
		return endSessions(tx, a.now(), member.ID, who.SessionID)
	})
}

// confirmed refuses a password that is not the member's, beside its field.
func (a *Area) confirmed(ctx context.Context, member Member, field, password string) error {
	limit := limit{fmt.Sprint("session ", wire.Acts(ctx).SessionID), freeTries}
	if wait := a.guesses.try(limit); wait > 0 {
		return locked(wait)
	}
	right, err := fits(ctx, password, member.Password)
	if err != nil {
		return err
	}
	if !right {
		return problem.Invalid(field, "this is not your password")
	}
	a.guesses.right(limit)
	return nil
}

// own is the member of whoever asks.
func (a *Area) own(ctx context.Context) (Member, error) {
	id := wire.Acts(ctx).MemberID
	if id == 0 {
		return Member{}, problem.Conflict(problem.Unfit, "This is for somebody with a member of their own; nobody has signed in here by name.")
	}
	return database.Look(ctx, a.db, func(tx *gorm.DB) (Member, error) { return loadMember(tx, id) })
}

// NewPIN is a PIN, or none.
type NewPIN struct {
	PIN string `json:"pin" maxLength:"8" doc:"4 to 8 digits; empty for none"`
}

// SetPIN sets by what whoever asks says on a shared device that it is they who hold it.
func (a *Area) SetPIN(ctx context.Context, in NewPIN) error {
	member, err := a.own(ctx)
	if err != nil {
		return err
	}
	var kept *string
	if in.PIN != "" {
		if err := checkPIN(in.PIN); err != nil {
			return err
		}
		text, err := hash(in.PIN)
		if err != nil {
			return err
		}
		kept = &text
	}
	return a.db.Write(ctx, database.Access, func(tx *gorm.DB) error { return setPIN(tx, member.ID, kept) })
}
