package check

import "tidykiln/core/craft"

// Unsaid lists what nobody has said of a product and would have to, for the
// checks to say more. It is no part of the file format, where a missing fact
// switches rules off.
func Unsaid(p Product) []Finding {
	f := newFacts(p.Problem(Room{}))
	say := func(rule, why, fix string, level Level) Finding {
		return Finding{Rule: rule, Level: level, Why: why, Fix: fix}
	}
	tip := Tip
	if is(f.Artwork.Lettering, true) {
		tip = Caution
	}
	var unsaid []Finding
	if p.Picture.Mirrored == nil && f.has(craft.PrintOut) {
		must := "as it is"
		if f.mustMirror() {
			must = "mirrored"
		}
		unsaid = append(unsaid, say("mirror-unsaid", "Nobody has said whether the print file is mirrored; here it must be printed "+must+".", "Look at the file, and say which it is.", tip))
	}
	if f.of().PaperLift && p.Picture.Gsm == 0 {
		unsaid = append(unsaid, say("paper-unsaid", "Nobody has said how heavy the paper is: over 100 g/m² it rubs off hard.", "Read it off the pack; plain copy paper is 80 g/m².", Tip))
	}
	if p.Picture.Ppi == 0 {
		unsaid = append(unsaid, say("sharpness-unsaid", "Nobody has said how sharp the picture is at this size.", "Divide the pixels across by the inches across: 300 is good, under 150 is coarse.", Tip))
	}
	if p.Picture.Rights == "" {
		unsaid = append(unsaid, say("rights-unsaid", "Nobody has said by what right the picture is used.", "Say whose it is: your own, with permission, out of copyright, or the customer's.", Tip))
	}
	if !f.has(puttings...) {
		unsaid = append(unsaid, say("nothing-laid", "No step of this recipe puts the picture on.", "Add the step that lays, presses or melts it on; a kit says how in its guide.", Caution))
	}
	if p.Blank.ThroughBlank && !p.Blank.Surface.Clear() {
		unsaid = append(unsaid, say("not-clear", "People are to look through this blank, and nobody can look through "+p.Blank.Surface.Words()+".", "Say that they look at its face, or choose glass or clear plastic.", Caution))
	}
	return unsaid
}

// Offer is what the troubles guide changes in a product's recipe, in words:
// empty when nothing would change, or when the checks would speak against it.
func Offer(t craft.Trouble, p Product, ask craft.Ask) (craft.Recipe, string) {
	changed, words := t.Offer(p.Recipe, ask)
	if words == "" {
		return p.Recipe, ""
	}
	before, after := p, p
	after.Recipe = changed
	if worse(Find(before.Problem(Room{})), Find(after.Problem(Room{}))) {
		return p.Recipe, ""
	}
	return changed, words
}

// worse tells whether some rule fires in after that did not before, or more often.
func worse(before, after []Finding) bool {
	count := map[string]int{}
	for _, f := range before {
		count[f.Rule+string(f.Level)]++
	}
	for _, f := range after {
		if count[f.Rule+string(f.Level)]--; count[f.Rule+string(f.Level)] < 0 {
			return true
		}
	}
	return false
}
