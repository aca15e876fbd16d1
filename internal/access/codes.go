package access

import (
	"crypto/rand"
	"strings"
)

// secretLetters are those of codes that people read and type: none looks like another.
const secretLetters = "abcdefghjkmnpqrstuvwxyz23456789"

// newSecret is a random code of so many letters; each is worth nearly five bits.
func newSecret(letters int) string {
	const whole = 256 - 256%len(secretLetters) // what is over would make some letters likelier
	code := make([]byte, 0, letters)
	for len(code) < letters {
		b := make([]byte, letters)
		_, _ = rand.Read(b) // never fails, by its contract
		for _, v := range b {
			if int(v) < whole && len(code) < letters {
				code = append(code, secretLetters[int(v)%len(secretLetters)])
			}
		}
	}
	return string(code)
}

// inGroups writes a code as it is read best, in fours.
func inGroups(code string) string {
	groups := []string{}
	for len(code) > 4 {
		groups, code = append(groups, code[:4]), code[4:]
	}
	return strings.Join(append(groups, code), "-")
}

// plainCode is a code as it is kept, however it was typed.
func plainCode(typed string) string {
	return strings.NewReplacer("-", "", " ", "").Replace(strings.ToLower(typed))
}
