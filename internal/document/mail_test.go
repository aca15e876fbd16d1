package document_test

import (
	"bytes"
	"io"
	"mime"
	"mime/quotedprintable"
	"net/mail"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/document"
)

func TestAMailIsReadAgainAsItWasWritten(t *testing.T) {
	body := "Dear Ada,\n\n" + strings.Repeat("ein sehr langer Satz mit ä und 李娜, ", 40) + "\n.\nFrom here = on"
	var out bytes.Buffer
	require.NoError(t, document.WriteMail(&out, document.Mail{To: "ada@heron.example", Subject: "Größe\r\nBcc: all@heron.example", Body: body, At: time.Date(2027, 5, 4, 10, 0, 0, 0, time.UTC)}))
	m, err := mail.ReadMessage(bytes.NewReader(out.Bytes()))
	require.NoError(t, err)
	subject, err := new(mime.WordDecoder).DecodeHeader(m.Header.Get("Subject"))
	require.NoError(t, err)
	assert.Equal(t, "Größe Bcc: all@heron.example", subject, "a subject is one line, and no other field")
	assert.Empty(t, m.Header.Get("Bcc"))
	to, err := m.Header.AddressList("To")
	require.NoError(t, err)
	assert.Equal(t, "ada@heron.example", to[0].Address)
	assert.Equal(t, "1", m.Header.Get("X-Unsent"))
	read, err := io.ReadAll(quotedprintable.NewReader(m.Body))
	require.NoError(t, err)
	assert.Equal(t, body, strings.TrimSuffix(strings.ReplaceAll(string(read), "\r\n", "\n"), "\n"))
	for line := range strings.SplitSeq(out.String(), "\r\n") {
		assert.LessOrEqual(t, len(line), 998)
	}
	out.Reset()
	require.NoError(t, document.WriteMail(&out, document.Mail{}))
	assert.NotContains(t, out.String(), "To:")
}
