package craft_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"

	"tidykiln/core/craft"
)

// Whatever method file is brought in, it is refused or proposes recipes that are sound.
func FuzzMethod(f *testing.F) {
	for _, m := range craft.Methods() {
		text, err := json.Marshal(m)
		assert.NoError(f, err)
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text []byte) {
		var m craft.Method
		if json.Unmarshal(text, &m) != nil || m.Validate() != nil {
			return
		}
		for _, surface := range m.Surfaces {
			blank := craft.Blank{Surface: surface, Tone: craft.Light}
			blank.Shape.Kind, blank.Shape.Width, blank.Shape.Height, blank.Shape.Thickness = "rectangle", 90, 90, 6
			r, err := m.Propose(craft.Ask{Blank: blank, Look: craft.Crisp, Material: "plain-blank"})
			if err != nil {
				continue
			}
			assert.NoError(t, r.Validate(), "%s", text)
		}
	})
}
