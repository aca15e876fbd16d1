// Package wire holds the shapes of requests and answers that routes of every
// area share, and the one way in which a route is added.
package wire

// Sent wraps what a route reads or answers.
type Sent[T any] struct{ Body T }

// ID is a request about one thing.
type ID struct {
	ID uint64 `path:"id"`
}

// Key is a request about one thing that has a name of plain letters.
type Key struct {
	Key string `path:"key" maxLength:"60"`
}

// SentTo is a request that brings something for one thing.
type SentTo[T any] struct {
	ID   uint64 `path:"id"`
	Body T
}

// Versioned is a request about a thing as it was read at a version.
type Versioned struct {
	Version int `json:"version" minimum:"1"`
}

// Made names what a request has made.
type Made struct {
	ID     uint64 `json:"id"`
	Number int    `json:"number,omitempty"`
}

// Found is one thing that a search has found.
type Found struct {
	Kind   string `json:"kind" enum:"order,product,lot,batch,customer"`
	ID     uint64 `json:"id"`
	Title  string `json:"title"`
	Detail string `json:"detail"`
}

// File is an answer that the browser saves.
type File struct {
	Type        string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

// NewFile is a file of a media type, under a name of plain letters.
func NewFile(mediaType, name string, body []byte) *File {
	return &File{Type: mediaType, Disposition: `attachment; filename="` + name + `"`, Body: body}
}
