package access

import (
	"fmt"
	"net/netip"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

func owned(tx *gorm.DB) (there bool, err error) {
	err = tx.Raw("SELECT EXISTS (SELECT 1 FROM members WHERE role = 'owner' AND closed_at IS NULL)").Scan(&there).Error
	if err != nil {
		return false, fmt.Errorf("looking for an owner: %w", err)
	}
	return there, nil
}

func loadMembers(tx *gorm.DB) ([]Member, error) {
	members := []Member{}
	if err := tx.Where("closed_at IS NULL").Order("name").Find(&members).Error; err != nil {
		return nil, fmt.Errorf("reading the members: %w", err)
	}
	for i := range members {
		members[i].tell()
	}
	return members, nil
}

func loadMember(tx *gorm.DB, id uint64) (member Member, err error) {
	err = problem.OrNotFound(tx.Where("closed_at IS NULL").First(&member, id).Error, "member")
	member.tell()
	return member, err
}

// hasPIN tells whether a person at the bench is a member with a PIN.
func hasPIN(tx *gorm.DB, person uint64) (bool, error) {
	var with int64
	if err := tx.Model(&Member{}).Where("closed_at IS NULL AND person_id = ? AND pin IS NOT NULL", person).Count(&with).Error; err != nil {
		return false, fmt.Errorf("looking for a PIN: %w", err)
	}
	return with > 0, nil
}

func saveMember(tx *gorm.DB, a Member) error {
	if err := tx.Model(&a).Select("name", "role", "person_id", "password", "version").Updates(&a).Error; err != nil {
		return fmt.Errorf("saving a member: %w", err)
	}
	return nil
}

// closeMember ends a member with all that it can show who it is with.
func closeMember(tx *gorm.DB, a Member, now time.Time) error {
	for _, of := range []any{&Passkey{}, &recoveryCode{}, &Pairing{}} {
		if err := tx.Where("member_id = ?", a.ID).Delete(of).Error; err != nil {
			return fmt.Errorf("clearing after a member: %w", err)
		}
	}
	if err := endSessions(tx, now, a.ID, 0); err != nil {
		return err
	}
	if err := tx.Model(&Session{}).Where("holder_id = ?", a.ID).Update("holder_id", nil).Error; err != nil {
		return fmt.Errorf("taking a shared device from whoever held it: %w", err)
	}
	return tx.Model(&a).Updates(map[string]any{"closed_at": now, "password": nil, "pin": nil, "version": gorm.Expr("version + 1")}).Error
}

func checkPerson(tx *gorm.DB, id *uint64) error {
	if id == nil {
		return nil
	}
	w, err := workshop.Load(tx)
	if err != nil {
		return err
	}
	for _, p := range w.People {
		if p.ID == *id {
			return nil
		}
	}
	return problem.Invalid("personId", "nobody of this number works here")
}

func setPassword(tx *gorm.DB, member uint64, hash string) error {
	return tx.Model(&Member{ID: member}).Updates(map[string]any{"password": hash, "version": gorm.Expr("version + 1")}).Error
}

func setPIN(tx *gorm.DB, member uint64, hash *string) error {
	return tx.Model(&Member{ID: member}).Updates(map[string]any{"pin": hash, "version": gorm.Expr("version + 1")}).Error
}

// sessionOf is a session with what its member may.
type sessionOf struct {
	Session
	MemberName string
	MemberRole *wire.Role
	PersonID   *uint64
	HolderName string
}

// actor is who presses by the session.
func (s sessionOf) actor() (who wire.Actor) {
	who.SessionID, who.Device = s.ID, s.Session.Device
	if s.MemberID != nil {
		who.MemberID = *s.MemberID
		who.Role = *s.MemberRole
	} else {
		who.Role = *s.SharedRole
	}
	if s.PersonID != nil {
		who.PersonID = *s.PersonID
	}
	return who
}

// openSessions are the sessions that have not ended, with their members; of a
// shared device the person is who holds it.
func openSessions(tx *gorm.DB) *gorm.DB {
	return tx.Table("sessions AS s").Select("s.*, a.name AS member_name, a.role AS member_role, COALESCE(h.name, '') AS holder_name, COALESCE(a.person_id, h.person_id) AS person_id").
		Joins("LEFT JOIN members AS a ON a.id = s.member_id").Joins("LEFT JOIN members AS h ON h.id = s.holder_id").Where("s.ended_at IS NULL")
}

// findSession is the open session of a token; an empty one where there is none.
func findSession(tx *gorm.DB, token []byte) (s sessionOf, err error) {
	if err = openSessions(tx).Where("s.token = ?", token).Scan(&s).Error; err != nil {
		return s, fmt.Errorf("looking for a session: %w", err)
	}
	return s, nil
}

func sessionByID(tx *gorm.DB, id uint64) (s sessionOf, err error) {
	if err = openSessions(tx).Where("s.id = ?", id).Scan(&s).Error; err != nil {
		return s, fmt.Errorf("reading a session: %w", err)
	}
	return s, nil
}

func loadSession(tx *gorm.DB, id uint64) (s Session, err error) {
	return s, problem.OrNotFound(tx.First(&s, id).Error, "session")
}

// loadSessions are those that somebody sees, the last used first.
func loadSessions(tx *gorm.DB, now time.Time, who wire.Actor) ([]Session, error) {
	var rows []sessionOf
	mine := openSessions(tx).Order("s.used_at DESC, s.id DESC")
	switch {
	case who.Role == wire.RoleOwner:
	case who.MemberID > 0:
		mine = mine.Where("s.member_id = ?", who.MemberID)
	default:
		mine = mine.Where("s.id = ?", who.SessionID)
	}
	if err := mine.Scan(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading the sessions: %w", err)
	}
	sessions := []Session{}
	for _, r := range rows {
		if now.After(r.endsAt()) {
			continue
		}
		r.Session.Member, r.Session.Role, r.Session.Holder = r.MemberName, r.actor().Role, r.HolderName
		sessions = append(sessions, r.Session)
	}
	return sessions, nil
}

func noteUse(tx *gorm.DB, id uint64, now time.Time, from netip.Addr) error {
	return tx.Model(&Session{ID: id}).Updates(map[string]any{"used_at": now, "address": from.String()}).Error
}

// endSession ends a session, and its device counts as one that was never in.
func endSession(tx *gorm.DB, now time.Time, id uint64) error {
	return tx.Model(&Session{ID: id}).Updates(map[string]any{"ended_at": now, "known": nil}).Error
}

// leave ends a session whose device stays known.
func leave(tx *gorm.DB, now time.Time, id uint64) error {
	return tx.Model(&Session{}).Where("id = ? AND ended_at IS NULL", id).Update("ended_at", now).Error
}

// endSessions ends all sessions of a member but one.
func endSessions(tx *gorm.DB, now time.Time, member, but uint64) error {
	err := tx.Model(&Session{}).Where("member_id = ? AND ended_at IS NULL AND id <> ?", member, but).Updates(map[string]any{"ended_at": now, "known": nil}).Error
	if err != nil {
		return fmt.Errorf("ending the sessions of a member: %w", err)
	}
	return nil
}

// endOther ends the session of a token where it is not the given one.
func endOther(tx *gorm.DB, now time.Time, token []byte, but uint64) error {
	return tx.Model(&Session{}).Where("token = ? AND ended_at IS NULL AND id <> ?", token, but).Update("ended_at", now).Error
}

// knows tells whether a device has been in by a member.
func knows(tx *gorm.DB, member uint64, known []byte) (bool, error) {
	var n int64
	err := tx.Model(&Session{}).Where("known = ? AND member_id = ?", known, member).Count(&n).Error
	return n > 0, err
}

func setHolder(tx *gorm.DB, session uint64, holder *uint64) error {
	return tx.Model(&Session{ID: session}).Update("holder_id", holder).Error
}

func loadPairing(tx *gorm.DB, id uint64) (p Pairing, err error) {
	return p, problem.OrNotFound(tx.First(&p, id).Error, "code")
}

// pairingOf is the pairing of a code; an empty one where there is none.
func pairingOf(tx *gorm.DB, code []byte) (p Pairing, err error) {
	err = tx.Where("code = ?", code).Limit(1).Find(&p).Error
	return p, err
}

func usePairing(tx *gorm.DB, id, session uint64) error {
	return tx.Model(&Pairing{ID: id}).Update("session_id", session).Error
}

// forgetPairings clears codes that nobody asks for any more.
func forgetPairings(tx *gorm.DB, now time.Time) error {
	return tx.Where("ends_at < ?", now.Add(-24*time.Hour)).Delete(&Pairing{}).Error
}

type recoveryCode struct {
	ID       uint64
	MemberID uint64
	Code     []byte
	UsedAt   *time.Time
}

func (recoveryCode) TableName() string { return "recovery_codes" }

func keepRecoveryCode(tx *gorm.DB, member uint64, code []byte) error {
	return tx.Create(&recoveryCode{MemberID: member, Code: code}).Error
}

func forgetRecoveryCodes(tx *gorm.DB, member uint64) error {
	return tx.Where("member_id = ?", member).Delete(&recoveryCode{}).Error
}

// useRecoveryCode uses a code of a member up, if it is one that was not used.
func useRecoveryCode(tx *gorm.DB, member uint64, code []byte, now time.Time) (bool, error) {
	done := tx.Model(&recoveryCode{}).Where("member_id = ? AND code = ? AND used_at IS NULL", member, code).Update("used_at", now)
	return done.RowsAffected > 0, done.Error
}

// passkeyOf is the passkey of a credential at a host; an empty one where there is none.
func passkeyOf(tx *gorm.DB, host string, credential []byte) (k Passkey, err error) {
	err = tx.Where("credential_key = ? AND host = ?", digest(string(credential)), host).Limit(1).Find(&k).Error
	return k, err
}

func loadPasskeys(tx *gorm.DB, member uint64) ([]Passkey, error) {
	keys := []Passkey{}
	if err := tx.Where("member_id = ?", member).Order("id").Find(&keys).Error; err != nil {
		return nil, fmt.Errorf("reading the passkeys: %w", err)
	}
	return keys, nil
}
