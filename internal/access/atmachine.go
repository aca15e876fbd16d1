package access

import (
	"context"
	"strings"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// What whoever is at the machine itself can do without signing in: they hold the
// database's own files already.

// givenLetters make a password of nearly 80 bits, to be written down and changed.
const givenLetters = 16

// MakeOwner makes the first owner of a studio, and gives the password made for them.
func (a *Area) MakeOwner(ctx context.Context, name string) (password string, err error) {
	password = inGroups(newSecret(givenLetters))
	in, err := a.SetUp(Arriving(ctx, Arrival{Here: true}), NewOwner{Name: name, Password: password, Device: "the command line"})
	if err != nil {
		return "", err
	}
	// Nobody came in by it: the one who is to, comes by the password.
	return password, a.db.Write(ctx, database.Access, func(tx *gorm.DB) error { return endSessions(tx, a.now(), in.Me.MemberID, 0) })
}

// ResetOwner gives an owner another password, made for them, and ends what came in by
// the old one. Without a name it is the only owner's.
func (a *Area) ResetOwner(ctx context.Context, name string) (owner, password string, err error) {
	password = inGroups(newSecret(givenLetters))
	made, err := hash(password)
	if err != nil {
		return "", "", err
	}
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		members, err := loadMembers(tx)
		if err != nil {
			return err
		}
		found, err := ownerOf(members, name)
		if err != nil {
			return err
		}
		owner = found.Name
		if err := setPassword(tx, found.ID, made); err != nil {
			return err
		}
		return endSessions(tx, a.now(), found.ID, 0)
	})
	return owner, password, err
}

func ownerOf(members []Member, name string) (found Member, err error) {
	var names []string
	for _, m := range members {
		if m.Role != wire.RoleOwner {
			continue
		}
		names = append(names, m.Name)
		if name == "" || strings.EqualFold(m.Name, strings.TrimSpace(name)) {
			found = m
		}
	}
	switch {
	case len(names) == 0:
		return found, problem.Invalid("name", "this studio has no owner yet: tidykiln owner set NAME makes one")
	case found.ID == 0:
		return found, problem.Invalid("name", "no owner is called %s; there is %s", name, strings.Join(names, ", "))
	case name == "" && len(names) > 1:
		return found, problem.Invalid("name", "say whose: %s", strings.Join(names, ", "))
	}
	return found, nil
}
