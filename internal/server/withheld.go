package server

import (
	"bytes"
	"encoding/json"
	"fmt"
	"reflect"
	"strings"
	"sync"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/wire"
)

// A field with the tag seen:"makers" holds a price or customers' data. Whoever works
// at the bench only gets the answer without it.
const seenTag = "seen"

// veil is what of a type is withheld: fields by their name in JSON, nil for the whole
// of one; "" are the elements of a list or the values of a map.
type veil map[string]veil

var veils sync.Map // of reflect.Type to veil

// withheld takes out of an answer what whoever asks is not shown.
func withheld(ctx huma.Context, _ string, v any) (any, error) {
	if wire.SeesBusiness(ctx.Context()) || v == nil {
		return v, nil
	}
	hidden := veilOf(reflect.TypeOf(v))
	if len(hidden) == 0 {
		return v, nil
	}
	text, err := json.Marshal(v)
	if err != nil {
		return nil, fmt.Errorf("writing an answer: %w", err)
	}
	var plain any
	numbers := json.NewDecoder(bytes.NewReader(text))
	numbers.UseNumber()
	if err := numbers.Decode(&plain); err != nil {
		return nil, fmt.Errorf("reading an answer again: %w", err)
	}
	hidden.draw(plain)
	return plain, nil
}

// draw takes what is hidden out of a value as JSON has it.
func (h veil) draw(v any) {
	switch v := v.(type) {
	case map[string]any:
		for name, one := range v {
			within, named := h[name]
			if !named {
				within, named = h[""]
			}
			switch {
			case named && within == nil:
				delete(v, name)
			case named:
				within.draw(one)
			}
		}
	case []any:
		for _, one := range v {
			h[""].draw(one)
		}
	}
}

func veilOf(t reflect.Type) veil {
	if known, there := veils.Load(t); there {
		return known.(veil)
	}
	h := newVeil(t, nil)
	veils.Store(t, h)
	return h
}

// newVeil looks through a type; within are the types it is looked at inside of.
func newVeil(t reflect.Type, within []reflect.Type) veil {
	for _, outer := range within {
		if outer == t {
			return nil
		}
	}
	within = append(within, t)
	h := veil{}
	switch t.Kind() {
	case reflect.Pointer:
		return newVeil(t.Elem(), within)
	case reflect.Slice, reflect.Array, reflect.Map:
		if inner := newVeil(t.Elem(), within); len(inner) > 0 {
			h[""] = inner
		}
	case reflect.Struct:
		for i := range t.NumField() {
			h.see(t.Field(i), within)
		}
	}
	return h
}

func (h veil) see(f reflect.StructField, within []reflect.Type) {
	name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
	switch {
	case !f.IsExported() || name == "-":
	case f.Tag.Get(seenTag) == string(wire.Makers):
		h[name] = nil
	case f.Anonymous && name == "":
		for inner, hidden := range newVeil(f.Type, within) {
			h[inner] = hidden
		}
	default:
		if inner := newVeil(f.Type, within); len(inner) > 0 {
			h[name] = inner
		}
	}
}
