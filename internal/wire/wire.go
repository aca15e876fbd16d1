// Package wire holds the shapes that routes of every area read and answer.
package wire

// Body wraps what a route reads or answers.
type Body[T any] struct{ Body T }

// ByID is a request for one thing.
type ByID struct {
	ID uint64 `path:"id"`
}

// ByKey is a request for one thing that has a name of plain letters.
type ByKey struct {
	Key string `path:"key" maxLength:"60"`
}

// Edit is a request to change one thing.
type Edit[T any] struct {
	ID   uint64 `path:"id"`
	Body T
}

// Versioned is a request about a thing as it was read at a version.
type Versioned struct {
	Version int `json:"version" minimum:"1"`
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
