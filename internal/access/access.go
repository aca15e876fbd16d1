// Package access knows who may come in: members and their roles, how they show
// who they are, the devices that are let in, and who is slowed down for guessing.
package access

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// Member is somebody who may come in.
type Member struct {
	ID   uint64    `json:"id"`
	Name string    `json:"name"`
	Role wire.Role `json:"role" enum:"owner,maker,helper,viewer"`
	// PersonID is who this is at the bench; nil for somebody who does not work there.
	PersonID *uint64 `json:"personId,omitempty"`
	Version  int     `json:"version"`
	// HasPassword and HasPIN say what they can show who they are with.
	HasPassword bool       `json:"hasPassword" gorm:"-"`
	HasPIN      bool       `json:"hasPin" gorm:"-"`
	Password    *string    `json:"-"`
	PIN         *string    `json:"-" gorm:"column:pin"`
	CreatedAt   time.Time  `json:"createdAt"`
	ClosedAt    *time.Time `json:"-"`
}

func (Member) TableName() string { return "members" }

// MemberForm is what an owner says of a member.
type MemberForm struct {
	Name     string    `json:"name" minLength:"1" maxLength:"80"`
	Role     wire.Role `json:"role" enum:"owner,maker,helper,viewer"`
	PersonID *uint64   `json:"personId,omitempty"`
}

// NewMember is a member that is made, with its first password where it is to have one.
type NewMember struct {
	MemberForm
	Password string `json:"password,omitempty" maxLength:"200"`
}

// MemberChange is a member as it was read, and what it is to be. An empty
// password leaves the one there is.
type MemberChange struct {
	MemberForm
	Version  int    `json:"version" minimum:"1"`
	Password string `json:"password,omitempty" maxLength:"200"`
}

// NewOwner is the first owner of a studio.
type NewOwner struct {
	Name     string  `json:"name" minLength:"1" maxLength:"80"`
	Password string  `json:"password" minLength:"1" maxLength:"200"`
	PersonID *uint64 `json:"personId,omitempty"`
	Device   string  `json:"device,omitempty" maxLength:"80"`
}

// Area answers for who may come in.
type Area struct {
	db       *database.DB
	now      func() time.Time
	guesses  *guesses
	ceremony *ceremonies
	house    func() (House, error)
}

// New makes the area on its database and clock.
func New(db *database.DB, now func() time.Time) *Area {
	return &Area{db, now, newGuesses(now), newCeremonies(now), func() (House, error) { return House{}, nil }}
}

// Owned tells whether the studio has an owner who can sign in. Until then it is
// open to whoever is at its machine, and to nobody else.
func (a *Area) Owned(ctx context.Context) (bool, error) { return owned(a.db.Peek(ctx)) }

// SetUp makes the first owner, signs them in on this device, and gives them
// their recovery codes. It is done at the studio's own machine.
func (a *Area) SetUp(ctx context.Context, in NewOwner) (made Arrived, err error) {
	if !arrival(ctx).Here {
		return made, problem.Conflict(problem.Unfit, "The first owner is set up at the studio's own computer.")
	}
	hash, err := hashed("password", in.Name, in.Password)
	if err != nil {
		return made, err
	}
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		if there, err := owned(tx); err != nil {
			return err
		} else if there {
			return problem.Conflict(problem.Moved, "This studio has an owner already. Sign in instead.")
		}
		owner, err := a.add(tx, MemberForm{in.Name, wire.RoleOwner, in.PersonID}, &hash)
		if err != nil {
			return err
		}
		if made.RecoveryCodes, err = newRecoveryCodes(tx, owner.ID); err != nil {
			return err
		}
		return a.arrive(tx, &made, owner, byPassword, in.Device)
	})
	return made, err
}

// Members lists who may come in.
func (a *Area) Members(ctx context.Context) ([]Member, error) {
	return database.Look(ctx, a.db, loadMembers)
}

// Add makes a member.
func (a *Area) Add(ctx context.Context, in NewMember) (made Member, err error) {
	hash, err := firstPassword(in.MemberForm, in.Password)
	if err != nil {
		return made, err
	}
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		made, err = a.add(tx, in.MemberForm, hash)
		return err
	})
	return made, err
}

// firstPassword is the hash of a password that may be left out, but not by an owner:
// theirs is what else is opened with.
func firstPassword(in MemberForm, password string) (*string, error) {
	if password == "" && in.Role != wire.RoleOwner {
		return nil, nil
	}
	hash, err := hashed("password", in.Name, password)
	return &hash, err
}

func (a *Area) add(tx *gorm.DB, in MemberForm, hash *string) (Member, error) {
	in.Name = strings.TrimSpace(in.Name)
	if err := checkForm(tx, in, 0); err != nil {
		return Member{}, err
	}
	made := Member{Name: in.Name, Role: in.Role, PersonID: in.PersonID, Password: hash, Version: 1, CreatedAt: a.now()}
	if err := tx.Create(&made).Error; err != nil {
		return Member{}, fmt.Errorf("making a member: %w", err)
	}
	made.tell()
	return made, nil
}

// Change sets what a member is. Its sessions go on, with what it may now.
func (a *Area) Change(ctx context.Context, id uint64, in MemberChange) (changed Member, err error) {
	in.Name = strings.TrimSpace(in.Name)
	var hash string
	if in.Password != "" {
		if hash, err = hashed("password", in.Name, in.Password); err != nil {
			return changed, err
		}
	}
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		changed, err = loadMember(tx, id)
		if err != nil {
			return err
		}
		if err := problem.IfStale(in.Version, changed.Version, "This member was changed meanwhile. Look at it again."); err != nil {
			return err
		}
		if err := checkForm(tx, in.MemberForm, id); err != nil {
			return err
		}
		if in.Role == wire.RoleOwner && changed.Password == nil && hash == "" {
			return problem.Invalid("password", "an owner needs a password")
		}
		if in.Role != wire.RoleOwner {
			if err := othersOwn(tx, changed); err != nil {
				return err
			}
		}
		changed.Name, changed.Role, changed.PersonID, changed.Version = in.Name, in.Role, in.PersonID, changed.Version+1
		if hash != "" {
			changed.Password = &hash
			if err := endSessions(tx, a.now(), id, wire.Acts(ctx).SessionID); err != nil {
				return err
			}
		}
		changed.tell()
		return saveMember(tx, changed)
	})
	return changed, err
}

// Close ends a member and everything that came in by it.
func (a *Area) Close(ctx context.Context, id uint64) error {
	return a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		member, err := loadMember(tx, id)
		if err != nil {
			return err
		}
		if err := othersOwn(tx, member); err != nil {
			return err
		}
		return closeMember(tx, member, a.now())
	})
}

// othersOwn refuses to take the role of the last owner away.
func othersOwn(tx *gorm.DB, member Member) error {
	if member.Role != wire.RoleOwner {
		return nil
	}
	members, err := loadMembers(tx)
	if err != nil {
		return err
	}
	if slices.ContainsFunc(members, func(o Member) bool { return o.Role == wire.RoleOwner && o.ID != member.ID }) {
		return nil
	}
	return problem.Conflict(problem.InUse, "%s is the only owner. Make somebody else an owner first.", member.Name)
}

func (a *Member) tell() { a.HasPassword, a.HasPIN = a.Password != nil, a.PIN != nil }

// checkForm refuses a name or a person that another open member has.
func checkForm(tx *gorm.DB, in MemberForm, self uint64) error {
	if in.Name == "" {
		return problem.Invalid("name", "give the name to sign in with")
	}
	members, err := loadMembers(tx)
	if err != nil {
		return err
	}
	for _, o := range members {
		if o.ID == self {
			continue
		}
		if strings.EqualFold(o.Name, in.Name) {
			return problem.Invalid("name", "there is a member of this name already")
		}
		if in.PersonID != nil && database.Same(o.PersonID, in.PersonID) {
			return problem.Invalid("personId", "%s has this person's work already", o.Name)
		}
	}
	return checkPerson(tx, in.PersonID)
}

// locked refuses a try for the time that is left.
func locked(wait time.Duration) error {
	return &problem.Problem{Type: problem.Locked, Title: http.StatusText(http.StatusTooManyRequests), Status: http.StatusTooManyRequests,
		Detail: fmt.Sprintf("Too many wrong tries from here. Try again in %s.", inWords(wait))}
}

func inWords(wait time.Duration) string {
	if seconds := int(wait.Seconds()) + 1; seconds < 90 {
		return fmt.Sprintf("%d seconds", seconds)
	}
	return fmt.Sprintf("%d minutes", int(wait.Minutes())+1)
}
