package access_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/access"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

func TestMembersAreOfOneNameAndOnePerson(t *testing.T) {
	d := newDoor(t)
	owner, _ := d.owned()
	for field, in := range map[string]access.MemberForm{
		"name":     {Name: " MAREN ", Role: wire.RoleMaker},
		"personId": {Name: "Other", Role: wire.RoleMaker, PersonID: &d.person},
	} {
		_, err := d.Add(owner.as(), access.NewMember{MemberForm: in})
		assert.Equal(t, field, housetest.AtFault(t, err))
	}
	_, err := d.Add(owner.as(), access.NewMember{MemberForm: access.MemberForm{Name: "Other", Role: wire.RoleMaker, PersonID: new(uint64(999))}})
	assert.Equal(t, "personId", housetest.AtFault(t, err))
	_, err = d.Add(owner.as(), access.NewMember{MemberForm: access.MemberForm{Name: "Other", Role: wire.RoleOwner}})
	assert.Equal(t, "password", housetest.AtFault(t, err), "an owner can sign in")
	made, err := d.Add(owner.as(), access.NewMember{MemberForm: access.MemberForm{Name: "Tove", Role: wire.RoleHelper}})
	require.NoError(t, err)
	assert.False(t, made.HasPassword, "a helper may come in by a paired device only")
	assert.Equal(t, problem.Wrong, kindOf(t, d.at("192.168.1.30").signIn("Tove", goodPassword)))
}

func TestTheLastOwnerStays(t *testing.T) {
	d := newDoor(t)
	owner, _ := d.owned()
	me, err := d.Me(owner.as())
	require.NoError(t, err)
	demote := access.MemberChange{MemberForm: access.MemberForm{Name: "Maren", Role: wire.RoleMaker}, Version: 1}
	_, err = d.Change(owner.as(), me.MemberID, demote)
	assert.Equal(t, problem.InUse, kindOf(t, err))
	assert.Equal(t, problem.InUse, kindOf(t, d.Close(owner.as(), me.MemberID)))
	d.let(owner, "Ilse", wire.RoleOwner)
	_, err = d.Change(owner.as(), me.MemberID, demote)
	require.NoError(t, err)
	assert.Equal(t, wire.RoleMaker, owner.role(), "at once")
}

func TestWhatAMemberIsHoldsAtOnceAndAClosedOneIsOut(t *testing.T) {
	d := newDoor(t)
	owner, _ := d.owned()
	ilse := d.let(owner, "Ilse", wire.RoleMaker)
	laptop, tablet := d.at("192.168.1.30"), d.at("192.168.1.31")
	require.NoError(t, laptop.signIn("Ilse", otherPassword))
	require.NoError(t, tablet.signIn("Ilse", otherPassword))
	change := access.MemberChange{MemberForm: access.MemberForm{Name: "Ilse", Role: wire.RoleViewer}, Version: 7}
	_, err := d.Change(owner.as(), ilse.ID, change)
	assert.Equal(t, problem.Stale, kindOf(t, err))
	change.Version = 1
	changed, err := d.Change(owner.as(), ilse.ID, change)
	require.NoError(t, err)
	assert.Equal(t, 2, changed.Version)
	assert.Equal(t, wire.RoleViewer, laptop.role())

	require.NoError(t, d.ChangePassword(laptop.as(), access.OwnPassword{Old: otherPassword, New: goodPassword}))
	assert.Equal(t, wire.RoleViewer, laptop.role())
	assert.Equal(t, wire.Nobody, tablet.role(), "another password ends what came in by the old one")
	change.Version, change.Password = 3, otherPassword
	_, err = d.Change(owner.as(), ilse.ID, change)
	require.NoError(t, err)
	assert.Equal(t, wire.Nobody, laptop.role(), "also where the owner sets it")

	require.NoError(t, laptop.signIn("Ilse", otherPassword))
	require.NoError(t, d.Close(owner.as(), ilse.ID))
	assert.Equal(t, wire.Nobody, laptop.role())
	assert.Equal(t, problem.Wrong, kindOf(t, laptop.signIn("Ilse", otherPassword)))
	d.let(owner, "Ilse", wire.RoleHelper) // the name is free again
}

func TestOnesOwnPasswordIsChangedByTheOldOne(t *testing.T) {
	d := newDoor(t)
	owner, _ := d.owned()
	assert.Equal(t, "old", housetest.AtFault(t, d.ChangePassword(owner.as(), access.OwnPassword{Old: "not this one", New: otherPassword})))
	assert.Equal(t, "new", housetest.AtFault(t, d.ChangePassword(owner.as(), access.OwnPassword{Old: goodPassword, New: "short"})))
	for range 4 {
		assert.Equal(t, "old", housetest.AtFault(t, d.ChangePassword(owner.as(), access.OwnPassword{Old: "not this one", New: otherPassword})))
	}
	assert.Equal(t, problem.Locked, kindOf(t, d.ChangePassword(owner.as(), access.OwnPassword{Old: goodPassword, New: otherPassword})), "whoever found the device open guesses no more than others")
}

func TestARecoveryCodeWorksOnce(t *testing.T) {
	d := newDoor(t)
	owner, codes := d.owned()
	laptop := d.at("192.168.1.30")
	recover := func(code string) error {
		return laptop.keep(d.Recover(laptop.as(), access.Recovery{Name: "Maren", Code: code, Password: otherPassword}))
	}
	assert.Equal(t, problem.Wrong, kindOf(t, recover("aaaa-bbbb-cccc-dddd")))
	require.NoError(t, recover(codes[3]))
	assert.Equal(t, wire.RoleOwner, laptop.role())
	assert.Equal(t, wire.Nobody, owner.role(), "whoever was in is out")
	assert.Equal(t, problem.Wrong, kindOf(t, recover(codes[3])))
	require.NoError(t, laptop.signIn("Maren", otherPassword))

	fresh, err := d.RenewRecoveryCodes(laptop.as(), access.Confirmation{Password: otherPassword})
	require.NoError(t, err)
	assert.Equal(t, problem.Wrong, kindOf(t, recover(codes[4])), "the old ones are void")
	_, err = d.RenewRecoveryCodes(laptop.as(), access.Confirmation{Password: goodPassword})
	assert.Equal(t, "password", housetest.AtFault(t, err))
	require.NoError(t, recover(fresh[0]))
}

func TestSessionsAreListedAndEnded(t *testing.T) {
	d := newDoor(t)
	owner, _ := d.owned()
	d.let(owner, "Ilse", wire.RoleMaker)
	laptop, tablet := d.at("192.168.1.30"), d.at("192.168.1.31")
	require.NoError(t, laptop.signIn("Ilse", otherPassword))
	d.now = d.now.Add(time.Hour)
	require.NoError(t, tablet.signIn("Ilse", otherPassword))

	d.now = d.now.Add(2 * time.Minute)
	mine, err := d.Sessions(laptop.as())
	require.NoError(t, err)
	require.Len(t, mine, 2)
	all, err := d.Sessions(owner.as())
	require.NoError(t, err)
	require.Len(t, all, 3)
	owners := all[1]
	assert.Equal(t, "192.168.1.30", mine[0].Address, "the last used first")
	assert.True(t, mine[0].Here)
	assert.Equal(t, []any{"Maren", wire.RoleOwner, "password", "workbench"}, []any{owners.Member, owners.Role, owners.Way, owners.Device})

	housetest.Missing(t, d.End(laptop.as(), owners.ID)) // somebody else's
	require.NoError(t, d.End(owner.as(), mine[1].ID))
	assert.Equal(t, wire.Nobody, tablet.role())
	require.NoError(t, d.EndOthers(owner.as()))
	assert.Equal(t, []wire.Role{wire.RoleOwner, wire.Nobody}, []wire.Role{owner.role(), laptop.role()})

	for range 5 {
		assert.Equal(t, problem.Wrong, kindOf(t, d.at("192.168.1.30").signIn("Ilse", "one guess of many")))
	}
	assert.Equal(t, problem.Locked, kindOf(t, laptop.signIn("Ilse", otherPassword)), "a device whose session was ended for it is a stranger again")
}
