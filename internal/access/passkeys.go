package access

import (
	"context"
	"encoding/binary"
	"encoding/json"
	"errors"
	"fmt"
	"net/netip"
	"net/url"
	"strings"
	"time"

	"github.com/go-webauthn/webauthn/protocol"
	"github.com/go-webauthn/webauthn/webauthn"
	lru "github.com/hashicorp/golang-lru/v2"
	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// Passkey is a key that a device keeps for a member, for one host name.
type Passkey struct {
	ID            uint64              `json:"id"`
	MemberID      uint64              `json:"-"`
	Host          string              `json:"host"`
	Device        string              `json:"device"`
	CredentialKey []byte              `json:"-"`
	Credential    webauthn.Credential `json:"-" gorm:"serializer:json"`
	CreatedAt     time.Time           `json:"createdAt"`
	UsedAt        *time.Time          `json:"usedAt,omitempty"`
}

func (Passkey) TableName() string { return "passkeys" }

// Passkeys are one's own, and whether there can be any where one is.
type Passkeys struct {
	Possible bool      `json:"possible" doc:"the studio was reached by a name: an address alone cannot carry passkeys"`
	Keys     []Passkey `json:"keys" nullable:"false"`
}

// Ceremony is what the browser is asked for, in the form of the Web Authentication API.
type Ceremony struct {
	ID      string          `json:"id"`
	Options json.RawMessage `json:"options"`
}

// CeremonyAnswer is what the browser says to it.
type CeremonyAnswer struct {
	ID     string          `json:"id" maxLength:"100"`
	Answer json.RawMessage `json:"answer"`
	Device string          `json:"device,omitempty" maxLength:"80"`
}

const (
	// ceremonyWithin is how long somebody may take to touch their key.
	ceremonyWithin = 5 * time.Minute
	// mostCeremonies bounds those under way; the oldest are given up.
	mostCeremonies = 2000
)

// ceremonies are those under way: a restart in the midst of one begins it again.
type ceremonies struct {
	now    func() time.Time
	opened *lru.Cache[string, ceremony]
}

type ceremony struct {
	session webauthn.SessionData
	began   time.Time
	member  uint64
}

func newCeremonies(now func() time.Time) *ceremonies {
	opened, _ := lru.New[string, ceremony](mostCeremonies) // only a size under 1 fails
	return &ceremonies{now, opened}
}

func (c *ceremonies) open(session webauthn.SessionData, member uint64, options any) (Ceremony, error) {
	id := newToken()
	text, err := json.Marshal(options)
	if err != nil {
		return Ceremony{}, fmt.Errorf("writing what a key is asked: %w", err)
	}
	session.Expires = time.Time{} // the studio's clock says when, and it is not always the machine's
	c.opened.Add(id, ceremony{session, c.now(), member})
	return Ceremony{id, text}, nil
}

// take gives a ceremony that is under way, once.
func (c *ceremonies) take(id string, member uint64) (ceremony, error) {
	is, there := c.opened.Peek(id)
	if !there || is.member != member || c.now().Sub(is.began) > ceremonyWithin || !c.opened.Remove(id) {
		return ceremony{}, problem.Conflict(problem.Moved, "This took too long, or was done already. Begin again.")
	}
	return is, nil
}

// hostOf is the name under which a request came; empty where it came by an address.
func hostOf(from Arrival) string {
	u, err := url.Parse(from.Origin)
	if err != nil {
		return ""
	}
	if _, err := netip.ParseAddr(strings.Trim(u.Hostname(), "[]")); err == nil {
		return ""
	}
	return u.Hostname()
}

// party is the studio as a key knows it, under the name by which it was reached.
func party(ctx context.Context) (*webauthn.WebAuthn, error) {
	from := arrival(ctx)
	host := hostOf(from)
	if host == "" {
		return nil, problem.Conflict(problem.Unfit, "A passkey belongs to a name, and this studio was reached by an address. Give the machine a name in your house and open the studio by it.")
	}
	w, err := webauthn.New(&webauthn.Config{RPID: host, RPDisplayName: "Tidy Kiln", RPOrigins: []string{from.Origin}})
	if err != nil {
		return nil, fmt.Errorf("preparing for passkeys: %w", err)
	}
	return w, nil
}

// keeper is a member as the holder of keys.
type keeper struct {
	Member
	keys []Passkey
}

func (k keeper) WebAuthnID() []byte          { return binary.BigEndian.AppendUint64(nil, k.Member.ID) }
func (k keeper) WebAuthnName() string        { return k.Member.Name }
func (k keeper) WebAuthnDisplayName() string { return k.Member.Name }
func (k keeper) WebAuthnCredentials() (all []webauthn.Credential) {
	for _, p := range k.keys {
		all = append(all, p.Credential)
	}
	return all
}

// Passkeys lists one's own.
func (a *Area) Passkeys(ctx context.Context) (all Passkeys, err error) {
	all.Possible = hostOf(arrival(ctx)) != ""
	all.Keys, err = database.Look(ctx, a.db, func(tx *gorm.DB) ([]Passkey, error) { return loadPasskeys(tx, wire.Acts(ctx).MemberID) })
	return all, err
}

func (a *Area) keeper(ctx context.Context) (k keeper, err error) {
	if k.Member, err = a.own(ctx); err != nil {
		return k, err
	}
	k.keys, err = database.Look(ctx, a.db, func(tx *gorm.DB) ([]Passkey, error) { return loadPasskeys(tx, k.Member.ID) })
	return k, err
}

// BeginPasskey begins to make a passkey for whoever asks.
func (a *Area) BeginPasskey(ctx context.Context) (c Ceremony, err error) {
	k, err := a.keeper(ctx)
	if err != nil {
		return c, err
	}
	w, err := party(ctx)
	if err != nil {
		return c, err
	}
	options, session, err := w.BeginRegistration(k, webauthn.WithResidentKeyRequirement(protocol.ResidentKeyRequirementRequired),
		webauthn.WithExclusions(webauthn.Credentials(k.WebAuthnCredentials()).CredentialDescriptors()))
	if err != nil {
		return c, fmt.Errorf("beginning a passkey: %w", err)
	}
	return a.ceremony.open(*session, k.Member.ID, options)
}

// AddPasskey keeps the key that a browser has made.
func (a *Area) AddPasskey(ctx context.Context, in CeremonyAnswer) (made Passkey, err error) {
	k, err := a.keeper(ctx)
	if err != nil {
		return made, err
	}
	w, err := party(ctx)
	if err != nil {
		return made, err
	}
	under, err := a.ceremony.take(in.ID, k.Member.ID)
	if err != nil {
		return made, err
	}
	said, err := protocol.ParseCredentialCreationResponseBytes(in.Answer)
	if err != nil {
		return made, problem.Invalid("answer", "this is no answer of a key")
	}
	credential, err := w.CreateCredential(k, under.session, said)
	if err != nil {
		return made, problem.Invalid("answer", "this key is not taken: it answers something else than was asked")
	}
	made = Passkey{MemberID: k.Member.ID, Host: hostOf(arrival(ctx)), Device: in.Device, CredentialKey: digest(string(credential.ID)), Credential: *credential, CreatedAt: a.now()}
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		err := tx.Create(&made).Error
		if errors.Is(err, gorm.ErrDuplicatedKey) {
			return problem.Conflict(problem.TakenBack, "This key is known here already.")
		}
		return err
	})
	return made, err
}

// RemovePasskey forgets one of one's own.
func (a *Area) RemovePasskey(ctx context.Context, id uint64) error {
	return a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		gone := tx.Where("id = ? AND member_id = ?", id, wire.Acts(ctx).MemberID).Delete(&Passkey{})
		if gone.Error == nil && gone.RowsAffected == 0 {
			return problem.NotFound("passkey")
		}
		return gone.Error
	})
}

// BeginPasskeySignIn begins to let somebody in by a passkey; who it is the key says.
func (a *Area) BeginPasskeySignIn(ctx context.Context) (c Ceremony, err error) {
	w, err := party(ctx)
	if err != nil {
		return c, err
	}
	options, session, err := w.BeginDiscoverableLogin(webauthn.WithUserVerification(protocol.VerificationRequired))
	if err != nil {
		return c, fmt.Errorf("beginning to sign in by passkey: %w", err)
	}
	return a.ceremony.open(*session, 0, options)
}

// PasskeySignIn lets in whoever holds a passkey.
func (a *Area) PasskeySignIn(ctx context.Context, in CeremonyAnswer) (arrived Arrived, err error) {
	w, err := party(ctx)
	if err != nil {
		return arrived, err
	}
	under, err := a.ceremony.take(in.ID, 0)
	if err != nil {
		return arrived, err
	}
	said, err := protocol.ParseCredentialRequestResponseBytes(in.Answer)
	if err != nil {
		return arrived, problem.Invalid("answer", "this is no answer of a key")
	}
	err = a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		key, err := passkeyOf(tx, hostOf(arrival(ctx)), said.RawID)
		if err != nil {
			return err
		}
		unknown := problem.Unknown(problem.Wrong, "This passkey is not known here. It may have been removed.")
		if key.ID == 0 {
			return unknown
		}
		member, err := loadMember(tx, key.MemberID)
		if err != nil {
			return unknown
		}
		k := keeper{member, []Passkey{key}}
		_, credential, err := w.ValidatePasskeyLogin(func(_, handle []byte) (webauthn.User, error) {
			if string(handle) != string(k.WebAuthnID()) {
				return nil, errors.New("the key names another member")
			}
			return k, nil
		}, under.session, said)
		if err != nil || credential.Authenticator.CloneWarning {
			return unknown
		}
		if err := tx.Model(&key).Select("credential", "used_at").Updates(&Passkey{Credential: *credential, UsedAt: new(a.now())}).Error; err != nil {
			return fmt.Errorf("noting the use of a passkey: %w", err)
		}
		return a.arrive(tx, &arrived, member, byPasskey, in.Device)
	})
	return arrived, err
}
