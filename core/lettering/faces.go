package lettering

import (
	"bytes"
	"sync"

	"github.com/go-fonts/dejavu/dejavusans"
	"github.com/go-fonts/dejavu/dejavusansbold"
	"github.com/go-fonts/dejavu/dejavusanscondensed"
	"github.com/go-fonts/dejavu/dejavusansmono"
	"github.com/go-fonts/dejavu/dejavuserif"
	"github.com/go-fonts/dejavu/dejavuserifbold"
	"github.com/go-fonts/dejavu/dejavuserifitalic"
	"github.com/go-text/typesetting/font"
)

// Face is a typeface. Each has Latin, Greek and Cyrillic letters; for what it lacks
// (Hebrew, Arabic, Armenian, Georgian, signs) the upright one steps in.
type Face string

const (
	Sans        Face = "sans"
	SansBold    Face = "sans-bold"
	Condensed   Face = "condensed"
	Serif       Face = "serif"
	SerifBold   Face = "serif-bold"
	SerifItalic Face = "serif-italic"
	Mono        Face = "mono"
)

// Faces lists the typefaces.
func Faces() []Face {
	return []Face{Sans, SansBold, Condensed, Serif, SerifBold, SerifItalic, Mono}
}

// faces are parsed when they are first used.
var faces = map[Face]func() *font.Face{
	Sans:        parsed(dejavusans.TTF),
	SansBold:    parsed(dejavusansbold.TTF),
	Condensed:   parsed(dejavusanscondensed.TTF),
	Serif:       parsed(dejavuserif.TTF),
	SerifBold:   parsed(dejavuserifbold.TTF),
	SerifItalic: parsed(dejavuserifitalic.TTF),
	Mono:        parsed(dejavusansmono.TTF),
}

func parsed(file []byte) func() *font.Face {
	return sync.OnceValue(func() *font.Face {
		f, err := font.ParseTTF(bytes.NewReader(file))
		if err != nil {
			panic(err) // the fonts are part of the program
		}
		return f
	})
}

// chain is a face with those that step in for what it lacks, in their order.
type chain []*font.Face

// Face gives them for reading glyphs. A parsed font is shared; what is read through it
// is not, so each setting of words takes its own.
func (f Face) chain() chain {
	if faces[f] == nil {
		f = SansBold
	}
	names := []Face{f}
	if f == SerifBold || f == SansBold {
		names = append(names, SansBold)
	}
	names = append(names, Sans)
	var c chain
	for _, n := range names {
		c = append(c, font.NewFace(faces[n]().Font))
	}
	return c
}

// ResolveFace is the first of them that has a letter, or the first where none has.
func (c chain) ResolveFace(r rune) *font.Face {
	for _, f := range c {
		if _, has := f.NominalGlyph(r); has {
			return f
		}
	}
	return c[0]
}

func (c chain) has(r rune) bool {
	for _, f := range c {
		if _, has := f.NominalGlyph(r); has {
			return true
		}
	}
	return false
}
