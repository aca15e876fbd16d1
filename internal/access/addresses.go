package access

import (
	"fmt"
	"regexp"
	"time"

	"tidykiln/internal/problem"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Opens is what a secret address opens.
type Opens string

const (
	// OpensCalendar is the plan for calendar programs.
	OpensCalendar Opens = "calendar"
	// OpensProof is an order's proof, for its customer.
	OpensProof Opens = "proof"
	// OpensQuote is a quote, for whom it was made.
	OpensQuote Opens = "quote"
)

// secretAddress opens one thing to whoever knows its token, without a sign-in. The
// token is kept as it is, so that it can be shown again: what it opens lies beside it.
type secretAddress struct {
	Opens   Opens  `gorm:"primaryKey"`
	ThingID uint64 `gorm:"primaryKey;autoIncrement:false"`
	Token   string
	MadeAt  time.Time
}

func (secretAddress) TableName() string { return "secret_addresses" }

// SecretAddress is where something is opened to whoever knows the address; the path
// is empty where nothing is.
type SecretAddress struct {
	Path string `json:"path"`
}

// addressOf is an address by its token.
func (o Opens) addressOf(token string) SecretAddress {
	if token == "" {
		return SecretAddress{}
	}
	return SecretAddress{o.paths() + token}
}

// paths are where what is opened stands, before the token.
func (o Opens) paths() string {
	if o == OpensCalendar {
		return "/api/calendars/"
	}
	return "/" + string(o) + "/"
}

// SecretOf is the address that opens a thing.
func SecretOf(tx *gorm.DB, opens Opens, thing uint64) (SecretAddress, error) {
	var found secretAddress
	err := tx.Where("opens = ? AND thing_id = ?", opens, thing).Limit(1).Find(&found).Error
	return opens.addressOf(found.Token), err
}

// RenewSecret makes a new address for a thing; the one before opens nothing any more.
func RenewSecret(tx *gorm.DB, opens Opens, thing uint64, now time.Time) (SecretAddress, error) {
	fresh := secretAddress{opens, thing, newToken(), now}
	if err := tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&fresh).Error; err != nil {
		return SecretAddress{}, fmt.Errorf("making a secret address: %w", err)
	}
	return opens.addressOf(fresh.Token), nil
}

// ForgetSecret closes a secret address.
func ForgetSecret(tx *gorm.DB, opens Opens, thing uint64) error {
	return tx.Where("opens = ? AND thing_id = ?", opens, thing).Delete(&secretAddress{}).Error
}

// ByToken is a request by a secret address.
type ByToken struct {
	Token string `path:"token" maxLength:"100"`
}

var tokenForm = regexp.MustCompile(`^[A-Za-z0-9_-]{43}$`)

// OpenedBy is the thing that a token opens.
func OpenedBy(tx *gorm.DB, opens Opens, token string) (thing uint64, err error) {
	var found secretAddress
	if !tokenForm.MatchString(token) {
		return 0, problem.NotFound(string(opens) + " under this address")
	}
	if err := tx.Where("token = ? AND opens = ?", token, opens).Limit(1).Find(&found).Error; err != nil {
		return 0, fmt.Errorf("looking for a secret address: %w", err)
	}
	if found.Token == "" {
		return 0, problem.NotFound(string(opens) + " under this address")
	}
	return found.ThingID, nil
}
