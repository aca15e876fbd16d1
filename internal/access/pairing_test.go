package access_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/access"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// pair makes a code for a shared device of a role.
func (d *door) pair(owner *device, role wire.Role) access.PairingCode {
	code, err := d.Pair(owner.as(), access.NewPairing{Role: &role, Device: "phone by the sink"})
	require.NoError(d, err)
	return code
}

func (v *device) redeem(code string) error {
	return v.keep(v.Redeem(v.as(), access.Redemption{Code: code}))
}

func TestADeviceIsPairedByACodeOnce(t *testing.T) {
	d := newDoor(t)
	owner, _ := d.owned()
	code := d.pair(owner, wire.RoleHelper)
	assert.Equal(t, "https://studio.home:8420/pair#"+strings.ReplaceAll(code.Code, "-", ""), code.Address)
	state, err := d.Paired(owner.as(), code.ID)
	require.NoError(t, err)
	assert.Equal(t, access.PairingState{}, state)

	phone := d.at("192.168.1.40")
	require.NoError(t, phone.redeem(strings.ToUpper(code.Code)), "also typed")
	assert.Equal(t, wire.RoleHelper, phone.role())
	state, err = d.Paired(owner.as(), code.ID)
	require.NoError(t, err)
	assert.True(t, state.Done)
	me, err := d.Me(phone.as())
	require.NoError(t, err)
	assert.Equal(t, access.Me{Owned: true, Role: wire.RoleHelper, Shared: true, Device: "phone by the sink"}, me)

	err = d.at("192.168.1.41").redeem(code.Code)
	assert.Equal(t, problem.Wrong, kindOf(t, err))
	assert.ErrorContains(t, err, "used already")
	d.now = d.now.Add(170 * 24 * time.Hour)
	assert.Equal(t, wire.RoleHelper, phone.role(), "a paired device stays for half a year")
}

func TestAPairingCodeLivesForMinutes(t *testing.T) {
	d := newDoor(t)
	owner, _ := d.owned()
	code := d.pair(owner, wire.RoleMaker)
	d.now = d.now.Add(11 * time.Minute)
	assert.ErrorContains(t, d.at("192.168.1.40").redeem(code.Code), "run out")
	state, err := d.Paired(owner.as(), code.ID)
	require.NoError(t, err)
	assert.Equal(t, access.PairingState{Over: true}, state)
}

func TestPairingCodesAreNotGuessed(t *testing.T) {
	d := newDoor(t)
	owner, _ := d.owned()
	code := d.pair(owner, wire.RoleHelper)
	phone := d.at("192.168.1.40")
	for range 5 {
		assert.Equal(t, problem.Wrong, kindOf(t, phone.redeem("aaaa-bbbb-cccc")))
	}
	assert.Equal(t, problem.Locked, kindOf(t, phone.redeem(code.Code)))
	require.NoError(t, d.at("192.168.1.41").redeem(code.Code))
}

func TestAPairedDeviceIsOfAMemberOrSharedAndNeverAnOwners(t *testing.T) {
	d := newDoor(t)
	owner, _ := d.owned()
	ilse := d.let(owner, "Ilse", wire.RoleMaker)
	me, err := d.Me(owner.as())
	require.NoError(t, err)
	role := wire.RoleHelper
	for field, in := range map[string]access.NewPairing{
		"role":     {Device: "phone"},
		"memberId": {MemberID: &me.MemberID, Device: "phone"},
	} {
		_, err := d.Pair(owner.as(), in)
		assert.Equal(t, field, housetest.AtFault(t, err))
	}
	_, err = d.Pair(owner.as(), access.NewPairing{MemberID: &ilse.ID, Role: &role, Device: "phone"})
	assert.Equal(t, "role", housetest.AtFault(t, err))
	code, err := d.Pair(owner.as(), access.NewPairing{MemberID: &ilse.ID, Device: "Ilse's phone"})
	require.NoError(t, err)
	phone := d.at("192.168.1.40")
	require.NoError(t, phone.redeem(code.Code))
	assert.Equal(t, wire.RoleMaker, phone.role())
	require.NoError(t, d.Close(owner.as(), ilse.ID))
	assert.Equal(t, wire.Nobody, phone.role(), "it goes with its member")
}

func TestWhoHoldsASharedDeviceSaysSoByPIN(t *testing.T) {
	d := newDoor(t)
	owner, _ := d.owned()
	require.NoError(t, d.SetPIN(owner.as(), access.NewPIN{PIN: "4711"}))
	for _, pin := range []string{"123", "123456789", "12a4"} {
		assert.Equal(t, "pin", housetest.AtFault(t, d.SetPIN(owner.as(), access.NewPIN{PIN: pin})), pin)
	}
	phone := d.at("192.168.1.40")
	require.NoError(t, phone.redeem(d.pair(owner, wire.RoleHelper).Code))
	holders, err := d.Holders(phone.as())
	require.NoError(t, err)
	require.Len(t, holders, 1)
	maren := holders[0]
	assert.Equal(t, access.Holder{MemberID: maren.MemberID, Name: "Maren", HasPIN: true, PersonID: d.person}, maren)

	_, err = d.Hold(phone.as(), access.Holding{MemberID: maren.MemberID, PIN: "0000"})
	assert.Equal(t, "pin", housetest.AtFault(t, err))
	me, err := d.Hold(phone.as(), access.Holding{MemberID: maren.MemberID, PIN: "4711"})
	require.NoError(t, err)
	assert.Equal(t, d.person, me.PersonID)
	who := wire.Acts(phone.as())
	assert.Equal(t, d.person, who.PersonID)
	assert.Equal(t, wire.RoleHelper, who.Role, "it says who holds it, and opens nothing")
	sessions, err := d.Sessions(owner.as())
	require.NoError(t, err)
	assert.Equal(t, "Maren", sessions[0].Holder)

	me, err = d.Hold(phone.as(), access.Holding{})
	require.NoError(t, err)
	assert.Zero(t, me.PersonID)
	for range 5 {
		_, err = d.Hold(phone.as(), access.Holding{MemberID: maren.MemberID, PIN: "0000"})
		assert.Equal(t, "pin", housetest.AtFault(t, err))
	}
	_, err = d.Hold(phone.as(), access.Holding{MemberID: maren.MemberID, PIN: "4711"})
	assert.Equal(t, problem.Locked, kindOf(t, err))
	_, err = d.Hold(owner.as(), access.Holding{MemberID: maren.MemberID, PIN: "4711"})
	assert.Equal(t, problem.Unfit, kindOf(t, err))
}
