package access

import (
	"context"
	"encoding/base64"
	"fmt"
	"time"

	"github.com/skip2/go-qrcode"
)

// House is how the studio is reached on its house's network.
type House struct {
	// Address is where phones go; empty where the studio listens to its own machine only.
	Address   string   `json:"address"`
	Addresses []string `json:"addresses" nullable:"false" doc:"all that it answers to"`
	// TrustPage is where a device comes to trust a certificate made here.
	TrustPage   string     `json:"trustPage,omitempty"`
	TrustCode   string     `json:"trustCode,omitempty" doc:"a picture of the page's address for a phone to scan, as a data address"`
	Fingerprint string     `json:"fingerprint,omitempty"`
	Own         bool       `json:"own" doc:"the certificate is made here, not given"`
	Until       *time.Time `json:"until,omitempty" doc:"when the certificate ends"`
}

// ReachedBy tells the area how the studio is reached; until then it is by its own machine only.
func (a *Area) ReachedBy(house func() (House, error)) { a.house = house }

// House tells how the studio is reached.
func (a *Area) House(context.Context) (h House, err error) {
	if h, err = a.house(); err != nil {
		return h, err
	}
	if h.Addresses == nil {
		h.Addresses = []string{}
	}
	if h.TrustPage != "" {
		h.TrustCode, err = scanned(h.TrustPage)
	}
	return h, err
}

// AddressFor is where a device is sent: the house's address, or the one that was asked by.
func (a *Area) AddressFor(ctx context.Context) string {
	if h, err := a.house(); err == nil && h.Address != "" {
		return h.Address
	}
	return arrival(ctx).Origin
}

// scanned draws an address for a phone to scan.
func scanned(address string) (string, error) {
	picture, err := qrcode.Encode(address, qrcode.Medium, 480)
	if err != nil {
		return "", fmt.Errorf("drawing a code: %w", err)
	}
	return "data:image/png;base64," + base64.StdEncoding.EncodeToString(picture), nil
}
