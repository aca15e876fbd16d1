package certificate

import (
	"bytes"
	_ "embed"
	"html/template"
	"net/http"
)

//go:embed trust.html
var trustText string

var trustPage = template.Must(template.New("trust").Parse(trustText))

// TrustPage serves the authority's certificate, what to hold it against, and how a phone
// comes to trust it, and nothing else. It is plain, since nothing is trusted before it.
func (k *Keeper) TrustPage(studio func() string) http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("GET /tidy-kiln.crt", func(w http.ResponseWriter, r *http.Request) {
		f, err := k.Facts()
		if err != nil || f.Trusted == nil {
			http.NotFound(w, r)
			return
		}
		w.Header().Set("Content-Type", "application/x-x509-ca-cert")
		w.Header().Set("Content-Disposition", `attachment; filename="tidy-kiln.crt"`)
		_, _ = w.Write(f.Trusted) // whoever has gone needs it no more
	})
	mux.HandleFunc("GET /{$}", func(w http.ResponseWriter, r *http.Request) {
		f, err := k.Facts()
		if err != nil {
			http.Error(w, "The certificate cannot be read just now.", http.StatusServiceUnavailable)
			return
		}
		var page bytes.Buffer
		if err := trustPage.Execute(&page, struct{ Studio, Fingerprint string }{studio(), f.Fingerprint}); err != nil {
			http.Error(w, "This page cannot be shown just now.", http.StatusInternalServerError)
			return
		}
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		w.Header().Set("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'")
		w.Header().Set("X-Content-Type-Options", "nosniff")
		_, _ = w.Write(page.Bytes())
	})
	return mux
}
