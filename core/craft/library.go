package craft

import (
	"bytes"
	"embed"
	"encoding/json"
	"fmt"
	"slices"

	"tidykiln/core/measure"
)

//go:embed library
var libraryFiles embed.FS

// library is the built-in data.
var library = mustLoadLibrary()

type libraryData struct {
	work     workFacts
	blocks   []Block
	methods  []Method
	schools  []School
	cautions []caution
	care     []caution
	troubles []Trouble
	// layFilms and coatFilms are the usual films by material.
	layFilms, coatFilms map[string]measure.Length
}

// Block is a building block of recipes: a step with its stage of the work.
type Block struct {
	Stage Stage `json:"stage" enum:"prepare,print,lay,remove,seal,finish"`
	MethodStep
}

// MethodSchema is the JSON Schema of a method written as a file.
func MethodSchema() []byte { return mustReadFile("library/method.schema.json") }

// WorkSchema is the JSON Schema of the facts of the kinds of work.
func WorkSchema() []byte { return mustReadFile("library/work.schema.json") }

// WorkFacts are the facts of the kinds of work, as they are written.
func WorkFacts() []byte { return mustReadFile("library/work.json") }

func mustReadFile(name string) []byte {
	text, err := libraryFiles.ReadFile(name)
	if err != nil {
		panic(err)
	}
	return text
}

// Methods lists the built-in methods.
func Methods() []Method { return slices.Clone(library.methods) }

// MethodByKey finds a built-in method.
func MethodByKey(key string) (Method, bool) {
	i := slices.IndexFunc(library.methods, func(m Method) bool { return m.Key == key })
	if i < 0 {
		return Method{}, false
	}
	return library.methods[i], true
}

// Blocks lists the building blocks in the order of the work.
func Blocks() []Block { return slices.Clone(library.blocks) }

// BlockByKey finds a building block by the ID of its step.
func BlockByKey(key string) (Block, bool) {
	i := slices.IndexFunc(library.blocks, func(b Block) bool { return b.ID == key })
	if i < 0 {
		return Block{}, false
	}
	return library.blocks[i], true
}

// methodFile is a built-in method whose steps are building blocks with changes.
type methodFile struct {
	Method
	Recipe []json.RawMessage `json:"recipe"`
}

// mustLoadLibrary panics on bad data: the files are part of the program.
func mustLoadLibrary() libraryData {
	var data libraryData
	var work workFile
	mustRead("library/work.json", &work)
	data.work = work.indexed()
	var raw []json.RawMessage
	mustRead("library/blocks.json", &raw)
	blocks := map[string]json.RawMessage{}
	for _, text := range raw {
		var b Block
		mustDecode("library/blocks.json", text, &b)
		blocks[b.ID] = text
		data.blocks = append(data.blocks, b)
	}
	mustRead("library/schools.json", &data.schools)
	mustRead("library/cautions.json", &data.cautions)
	mustRead("library/care.json", &data.care)
	mustRead("library/troubles.json", &data.troubles)
	entries, err := libraryFiles.ReadDir("library/methods")
	if err != nil {
		panic(err)
	}
	for _, entry := range entries {
		var file methodFile
		name := "library/methods/" + entry.Name()
		mustRead(name, &file)
		m := file.Method
		m.Format, m.Family = MethodFormat, m.Key
		for _, change := range file.Recipe {
			m.Steps = append(m.Steps, mustBuild(name, blocks, change))
		}
		data.methods = append(data.methods, m)
	}
	data.layFilms, data.coatFilms = usualFilms(data)
	return data
}

// mustBuild reads a step as its block with the changes on top.
func mustBuild(name string, blocks map[string]json.RawMessage, change json.RawMessage) MethodStep {
	var built Block
	var named struct {
		Block string          `json:"block"`
		Uses  json.RawMessage `json:"uses"`
	}
	if err := json.Unmarshal(change, &named); err != nil {
		panic(fmt.Errorf("%s: %w", name, err))
	}
	block, known := blocks[named.Block]
	if !known {
		panic(fmt.Sprintf("%s: no block %q", name, named.Block))
	}
	mustDecode(name, block, &built)
	if named.Uses != nil {
		// JSON is read into the elements that are there: what replaces them must begin empty.
		built.Uses = nil
	}
	var changed struct {
		Block string `json:"block"`
		*MethodStep
	}
	changed.MethodStep = &built.MethodStep
	mustDecode(name, change, &changed)
	if built.Checklist == nil {
		built.Checklist = []string{}
	}
	if built.Uses == nil {
		built.Uses = []Use{}
	}
	if built.Cautions == nil {
		built.Cautions = []string{}
	}
	return built.MethodStep
}

func mustRead(name string, into any) {
	mustDecode(name, mustReadFile(name), into)
}

func mustDecode(name string, text []byte, into any) {
	decoder := json.NewDecoder(bytes.NewReader(text))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(into); err != nil {
		panic(fmt.Errorf("%s: %w", name, err))
	}
}
