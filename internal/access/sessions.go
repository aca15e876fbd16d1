package access

import (
	"context"
	"crypto/rand"
	"encoding/base64"
	"fmt"
	"net/netip"
	"strings"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// Ways in which a session began.
const (
	byPassword = "password"
	byPasskey  = "passkey"
	byRecovery = "recovery"
	byPairing  = "pairing"
)

const (
	// idle is how long a session lasts unused; a paired device's lasts longer, since
	// its owner is not there to let it in again.
	idle       = 30 * 24 * time.Hour
	idlePaired = 180 * 24 * time.Hour
	// notedEvery is how exactly the last use is kept.
	notedEvery = time.Minute
)

// Session is a device that has come in.
type Session struct {
	ID uint64 `json:"id"`
	// Member is by whose member; empty for a shared device.
	Member string    `json:"member" gorm:"-"`
	Role   wire.Role `json:"role" enum:"owner,maker,helper,viewer" gorm:"-"`
	// Holder is who holds a shared device now, where they said so.
	Holder    string    `json:"holder" gorm:"-"`
	Way       string    `json:"way" enum:"password,passkey,recovery,pairing"`
	Device    string    `json:"device"`
	Address   string    `json:"address"`
	CreatedAt time.Time `json:"createdAt"`
	UsedAt    time.Time `json:"usedAt"`
	// Here is the one that asks.
	Here bool `json:"here" gorm:"-"`

	Token      []byte     `json:"-"`
	Known      []byte     `json:"-"`
	MemberID   *uint64    `json:"-"`
	SharedRole *wire.Role `json:"-" gorm:"column:role"`
	HolderID   *uint64    `json:"-"`
	EndedAt    *time.Time `json:"-"`
}

func (Session) TableName() string { return "sessions" }

// endsAt is when a session that is not used any more has ended.
func (s Session) endsAt() time.Time {
	if s.Way == byPairing {
		return s.UsedAt.Add(idlePaired)
	}
	return s.UsedAt.Add(idle)
}

// Arrival is how a request has come.
type Arrival struct {
	// Token is the secret of its session, Known the one by which a device that has been in before shows so.
	Token, Known string
	// From is the address it came from; Here says that this is the machine itself.
	From netip.Addr
	Here bool
	// Origin is the scheme, the host and the port under which it came.
	Origin string
}

type arrivalKey struct{}

// Arriving marks a context with how its request has come.
func Arriving(ctx context.Context, a Arrival) context.Context {
	return context.WithValue(ctx, arrivalKey{}, a)
}

func arrival(ctx context.Context) Arrival {
	a, _ := ctx.Value(arrivalKey{}).(Arrival)
	return a
}

// Arrived is what somebody gets who has come in.
type Arrived struct {
	Me            Me
	RecoveryCodes []string
	token, known  string
}

// Who tells who has come: by the session of their token, as the owner where nobody
// owns the studio yet and they are at its machine, or as nobody.
func (a *Area) Who(ctx context.Context) (actor wire.Actor, err error) {
	return a.who(ctx, arrival(ctx).Token)
}

func (a *Area) who(ctx context.Context, token string) (actor wire.Actor, err error) {
	if token == "" {
		there, err := a.Owned(ctx)
		if err == nil && !there && arrival(ctx).Here {
			actor.Role = wire.RoleOwner
		}
		return actor, err
	}
	s, err := findSession(a.db.Peek(ctx), digest(token))
	if err != nil {
		return actor, err
	}
	if s.ID == 0 || a.now().After(s.endsAt()) {
		return a.who(ctx, "")
	}
	if a.now().Sub(s.UsedAt) > notedEvery {
		if err := a.db.Note(ctx, func(tx *gorm.DB) error { return noteUse(tx, s.ID, a.now(), arrival(ctx).From) }); err != nil {
			return actor, err
		}
	}
	return s.actor(), nil
}

// arrive begins a session on the device that asks. What it was in by before ends.
func (a *Area) arrive(tx *gorm.DB, in *Arrived, member Member, way, device string) error {
	s := Session{MemberID: &member.ID, Way: way, Device: device}
	if err := a.begin(tx, in, &s); err != nil {
		return err
	}
	return endOther(tx, a.now(), digest(arrival(tx.Statement.Context).Token), s.ID)
}

func (a *Area) begin(tx *gorm.DB, in *Arrived, s *Session) error {
	from := arrival(tx.Statement.Context)
	in.token, in.known = newToken(), newToken()
	s.Token, s.Known, s.CreatedAt, s.UsedAt, s.Address = digest(in.token), digest(in.known), a.now(), a.now(), from.From.String()
	if s.Device = strings.TrimSpace(s.Device); s.Device == "" {
		s.Device = "a browser"
	}
	if err := tx.Create(s).Error; err != nil {
		return fmt.Errorf("beginning a session: %w", err)
	}
	found, err := findSession(tx, s.Token)
	if err == nil {
		in.Me, err = meOf(tx, found.actor())
	}
	return err
}

func newToken() string {
	b := make([]byte, 32)
	_, _ = rand.Read(b) // never fails, by its contract
	return base64.RawURLEncoding.EncodeToString(b)
}

// Sessions lists the devices that are in: all of them for an owner, else one's own.
func (a *Area) Sessions(ctx context.Context) ([]Session, error) {
	who := wire.Acts(ctx)
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]Session, error) {
		sessions, err := loadSessions(tx, a.now(), who)
		for i := range sessions {
			sessions[i].Here = sessions[i].ID == who.SessionID
		}
		return sessions, err
	})
}

// End ends a session: an owner any, everybody else their own.
func (a *Area) End(ctx context.Context, id uint64) error {
	who := wire.Acts(ctx)
	return a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		sessions, err := loadSessions(tx, a.now(), who)
		if err != nil {
			return err
		}
		for _, s := range sessions {
			if s.ID == id {
				return endSession(tx, a.now(), id)
			}
		}
		return problem.NotFound("session")
	})
}

// EndOthers ends every session that End could, but the one that asks.
func (a *Area) EndOthers(ctx context.Context) error {
	who := wire.Acts(ctx)
	return a.db.Write(ctx, database.Access, func(tx *gorm.DB) error {
		sessions, err := loadSessions(tx, a.now(), who)
		if err != nil {
			return err
		}
		for _, s := range sessions {
			if s.ID == who.SessionID {
				continue
			}
			if err := endSession(tx, a.now(), s.ID); err != nil {
				return err
			}
		}
		return nil
	})
}

// SignOut ends the session that asks.
func (a *Area) SignOut(ctx context.Context) error {
	if wire.Acts(ctx).SessionID == 0 {
		return nil
	}
	return a.db.Write(ctx, database.Access, func(tx *gorm.DB) error { return leave(tx, a.now(), wire.Acts(ctx).SessionID) })
}
