package server

// TrustAt is where the trust page is served.
func (r *Reach) TrustAt() string { return r.trust.Addr().String() }
