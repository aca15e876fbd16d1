package document

import (
	"fmt"
	"io"
	"mime"
	"mime/quotedprintable"
	"net/mail"
	"strings"
	"time"
)

// Mail is a message for a mail program; it opens as one that was not sent yet.
type Mail struct {
	// To is an e-mail address; empty where none is known.
	To, Subject, Body string
	At                time.Time
}

// WriteMail writes a message as RFC 5322 describes it, as plain text.
func WriteMail(w io.Writer, m Mail) error {
	var head strings.Builder
	field := func(name, value string) { fmt.Fprintf(&head, "%s: %s\r\n", name, value) }
	if m.To != "" {
		field("To", (&mail.Address{Address: m.To}).String())
	}
	field("Subject", mime.QEncoding.Encode("utf-8", strings.Join(strings.Fields(m.Subject), " ")))
	field("Date", m.At.Format(time.RFC1123Z))
	field("X-Unsent", "1")
	field("MIME-Version", "1.0")
	field("Content-Type", "text/plain; charset=utf-8")
	field("Content-Transfer-Encoding", "quoted-printable")
	if _, err := io.WriteString(w, head.String()+"\r\n"); err != nil {
		return fmt.Errorf("writing a message: %w", err)
	}
	body := quotedprintable.NewWriter(w)
	if _, err := io.WriteString(body, strings.ReplaceAll(m.Body, "\n", "\r\n")+"\r\n"); err != nil {
		return fmt.Errorf("writing a message: %w", err)
	}
	if err := body.Close(); err != nil {
		return fmt.Errorf("writing a message: %w", err)
	}
	return nil
}
