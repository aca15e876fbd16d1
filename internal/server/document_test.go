package server_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"tidykiln/internal/server"
)

// schema is the part of a JSON Schema that the tests need to write bodies.
type schema struct {
	Ref        string            `json:"$ref"`
	Type       any               `json:"type"`
	Format     string            `json:"format"`
	Enum       []any             `json:"enum"`
	Pattern    string            `json:"pattern"`
	Minimum    float64           `json:"minimum"`
	Items      *schema           `json:"items"`
	Properties map[string]schema `json:"properties"`
}

func (s schema) is() string {
	if list, several := s.Type.([]any); several {
		return fmt.Sprint(list[0])
	}
	return fmt.Sprint(s.Type)
}

// operation is one thing that can be asked of the server.
type operation struct {
	ID         string   `json:"operationId"`
	May        string   `json:"x-may"`
	Reads      []string `json:"x-reads"`
	Secret     bool     `json:"x-secret"`
	Parameters []struct {
		Name   string `json:"name"`
		In     string `json:"in"`
		Schema schema `json:"schema"`
	} `json:"parameters"`
	RequestBody *struct {
		Content map[string]struct {
			Schema schema `json:"schema"`
		} `json:"content"`
	} `json:"requestBody"`
	method, path string
}

// document is the OpenAPI document as far as the tests read it.
type document struct {
	Paths      map[string]map[string]operation `json:"paths"`
	Components struct {
		Schemas map[string]schema `json:"schemas"`
	} `json:"components"`
}

func readDocument(t testing.TB) (d document) {
	text, err := server.OpenAPI()
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(text, &d))
	return d
}

// operations lists every operation but leaving, in the order of path and method.
func (d document) operations() []operation {
	return slices.DeleteFunc(d.everything(), func(op operation) bool { return op.ID == "sign-out" })
}

func (d document) everything() (all []operation) {
	for _, path := range slices.Sorted(maps.Keys(d.Paths)) {
		for _, method := range slices.Sorted(maps.Keys(d.Paths[path])) {
			op := d.Paths[path][method]
			op.method, op.path = strings.ToUpper(method), path
			all = append(all, op)
		}
	}
	return all
}

func (d document) resolve(s schema) schema {
	if s.Ref == "" {
		return s
	}
	return d.Components.Schemas[s.Ref[strings.LastIndex(s.Ref, "/")+1:]]
}

func (o operation) body(d document) (schema, bool) {
	if o.RequestBody == nil {
		return schema{}, false
	}
	content, takes := o.RequestBody.Content["application/json"]
	return d.resolve(content.Schema), takes
}

// madeFromAny tells whether one of the topics may make the answer another one. Files say
// nothing of what they are made from: it may be any but who may come in.
func (o operation) madeFromAny(topics []string) bool {
	return slices.ContainsFunc(topics, func(topic string) bool {
		return slices.Contains(o.Reads, topic) || !o.answersJSON() && topic != "access"
	})
}
