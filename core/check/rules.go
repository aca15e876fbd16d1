package check

import (
	"fmt"
	"slices"

	"tidykiln/core/craft"
)

// rule is something that goes wrong: when it does, why, and what to do about it.
type rule struct {
	name  string
	why   string
	fix   string
	fires func(facts) []hit
}

const day = 24 * 60

// muchWhite is the share of a picture from which it is worth saying that white shows the base.
const muchWhite = 0.15

// LeastRimGap is how far below a drinking rim a picture stays, in mm.
const LeastRimGap = 15

// RestOverCeiling names the rule that the bench asks of rests as they really were.
const RestOverCeiling = "rest-over-ceiling"

// rules is the table, in the order in which findings of a level are told.
var rules = []rule{
	{"mirror-missing", "At the end people look at the side the paper was on, and the print is not mirrored: lettering would read backwards.", "Mirror the picture before it is printed.",
		func(f facts) []hit { return when(is(f.Print.Mirrored, false) && f.mustMirror(), f.graver()) }},
	{"mirror-unwanted", "At the end people look at the printed face as it is, and the print is mirrored: lettering would read backwards.", "Print the picture as it is, not mirrored.",
		func(f facts) []hit { return when(is(f.Print.Mirrored, true) && !f.mustMirror(), f.graver()) }},
	{"inkjet-bleeds", "Inkjet colours run under a water-based medium.", "Photocopy the print, or have it printed in toner at a shop.", inkjetBleeds},
	{"decal-unsealed", "An inkjet print on decal film washes off in the soak unless it is spray-sealed first.", "Add a spray-seal step before the decal is soaked, and let it dry for half an hour.", decalUnsealed},
	{"wrong-ink", "The press needs sublimation ink, and sublimation ink works with nothing but the press.", "Print with the ink that belongs to the method, or choose another method.",
		func(f facts) []hit {
			return when(f.Print.Kind != nil && f.of().OwnInk != is(f.Print.Kind, craft.Sublimation), Stop)
		}},
	{"not-for-surface", "%s does not hold on %s.", "Choose a method made for this surface; the chooser ranks them.",
		func(f facts) []hit {
			return whenAll(f.Blank.Surface != nil && !slices.Contains(f.method.Surfaces, *f.Blank.Surface), surfaceHit(f))
		}},
	{"oil-based-medium", "Oil-based varnish never lets go of the paper.", "Lay it in water-based varnish.",
		func(f facts) []hit {
			return f.perStep(Stop, func(_ int, s Step) bool { return s.Do == craft.Lay && s.With == craft.VarnishOil })
		}},
	{"base-not-cured", "The last base coat has less than 72 h before the lay: it feels dry and is not cured, and cream lifts it.", "Let the base cure for 72 h before the print is laid.", baseNotCured},
	{"paper-heavy", "Paper over 100 g/m² rubs off hard and takes the picture with it.", "Print on plain paper of 60 to 100 g/m².",
		func(f facts) []hit {
			return when(f.of().PaperLift && f.Print.Gsm != nil && *f.Print.Gsm > 100 && (f.Print.Carrier == nil || is(f.Print.Carrier, craft.Paper)), Caution)
		}},
	{"dark-base", "The picture is clear where it has no colour, and a base that is not light swallows it.", "Paint the base light, or use a method whose ground is white: photo medium, white film, ink-backed film.",
		darkBase},
	{"white-film-feathered", "White film has a hard white edge that cannot be feathered.", "Print on clear film, and dab the white ink behind it.",
		func(f facts) []hit {
			return when(f.of().NoWhiteFilm && is(f.Print.Carrier, craft.DecalWhite), Stop)
		}},
	{"candle-dark", "Tissue turns clear in the wax, so on a candle that is not light the picture is lost.", "Use a white or ivory candle.",
		func(f facts) []hit { return byTone(f, f.of().Ground == craft.GroundWax, Stop, Caution) }},
	{"rest-under-floor", "The rest after the lay may be as short as %s; %s needs at least %s. Not waiting is the commonest way to lose pieces.", "Lengthen the rest after the lay to its floor or more.", restUnderFloor},
	{"forced-heat", "Warm air before the paper is off dries the top and not the middle: the picture lifts.", "Take the warm air out, and let it rest flat.",
		func(f facts) []hit {
			lay, off := f.first(0, len(f.steps), craft.Lay), f.last(0, len(f.steps), craft.RemovePaper)
			return whenAll(f.of().PaperLift && lay >= 0, f.perStep(Caution, func(i int, s Step) bool { return s.Do == craft.HeatDry && i > lay && i < off }))
		}},
	{"wax-under-varnish", "Nothing holds on wax: the seal coat would peel.", "Seal first, wax last.",
		func(f facts) []hit {
			return f.perStep(Stop, func(i int, s Step) bool { return s.Do == craft.Seal && f.first(0, i, waxes...) >= 0 })
		}},
	{"dark-wax-alone", "Dark wax straight on the piece stains it for good.", "Clear wax first, to tack; then dark wax as an accent.",
		func(f facts) []hit {
			return f.perStep(Caution, func(i int, s Step) bool { return s.Do == craft.WaxDark && f.first(0, i, craft.WaxLight) < 0 })
		}},
	{"powder-without-wax", "Dusting powder holds only in wax.", "Wax first, and dust while it is tacky.",
		func(f facts) []hit {
			return f.perStep(Caution, func(i int, s Step) bool { return s.Do == craft.DustPowder && f.first(0, i, waxes...) < 0 })
		}},
	{"stain-left", "Gel stain that is not wiped back within minutes dries dark and streaky.", "Wipe the stain back at once, piece by piece.", stainLeft},
	{"drill-before-seal", "A hole drilled before the last seal coat lets water under the film, and the drill may tear it.", "Drill after sealing, with scrap wood behind, and seal the hole.",
		func(f facts) []hit {
			return f.perStep(Tip, func(i int, s Step) bool { return s.Do == craft.Drill && f.first(i, len(f.steps), craft.Seal) >= 0 })
		}},
	{"topcoat-clouds", "Glue as the top coat may dry cloudy, and this piece is to be crisp.", "Seal the last coat with water-based varnish.",
		func(f facts) []hit {
			i := f.last(0, len(f.steps), craft.Seal)
			if i < 0 || !is(f.Look, craft.Crisp) {
				return nil
			}
			glue := f.steps[i].With == craft.Glue || f.steps[i].With == craft.Same && f.layWith(i) == craft.Glue
			return whenAll(glue, at(Caution, i))
		}},
	{"edge-unsealed", "The film's edge stays open, and there it peels.", "Seal right over the edge.", edgeUnsealed},
	{"no-final-cure", "It is packed before it has cured: coats stick to the wrapping and print through.", "Set the pieces out to cure for at least 12 h before packing.",
		func(f facts) []hit {
			if f.of().NothingToCure {
				return nil
			}
			cured := func(s Step) bool { return s.Do == craft.FinalCure && s.RestMinutes >= day/2 }
			return f.perStep(Caution, func(i int, s Step) bool { return s.Do == craft.Pack && !slices.ContainsFunc(f.steps[:i], cured) })
		}},
	{"solvent-near-heat", "Spray or solvent is used less than an hour before heat: its fumes can catch fire.", "Keep an hour of rest and fresh air between the two.",
		func(f facts) []hit {
			return f.perStep(Stop, func(k int, heat Step) bool {
				for i, s := range f.steps[:k] {
					if slices.Contains(heats, heat.Do) && s.flammable() && f.rest(i, k) < craft.ApartMinutes {
						return true
					}
				}
				return false
			})
		}},
	{"lip-zone", "The picture comes within 15 mm of the rim, where lips touch it.", "Move the picture down, at least 15 mm from the rim.",
		func(f facts) []hit {
			return when(is(f.Blank.Drinkware, true) && f.Blank.RimGapMm != nil && *f.Blank.RimGapMm < LeastRimGap, Stop)
		}},
	{"food-contact", "Food touches this piece, and no seal coat is one whose label says food-safe.", "Keep the picture off faces that food touches, or seal with what is labelled food-safe.",
		func(f facts) []hit {
			safe := func(s Step) bool { return s.Do == craft.Seal && s.FoodSafe }
			return when(f.recipe && is(f.Blank.FoodContact, true) && !slices.ContainsFunc(f.steps, safe), Stop)
		}},
	{"candle-no-label", "A candle or candle glass is handed over without its caution label.", "Add the caution label and care card before packing.", candleNoLabel},
	{"bow-unweighted", "Covered board bows as it cools from the press.", "Cool it flat under weight for 15 to 30 min.",
		func(f facts) []hit {
			i := f.last(0, len(f.steps), craft.Press)
			fires := is(f.Blank.Surface, craft.CoatedBoard) && i >= 0 && f.first(i, len(f.steps), craft.WeighFlat) < 0
			return whenAll(fires, at(Caution, i))
		}},
	{"side-unpressed", "%d sides are printed and the recipe presses %d: each side is pressed alone.", "Add a press step for each printed side.",
		func(f facts) []hit {
			presses := 0
			for _, s := range f.steps {
				if s.Do == craft.Press {
					presses++
				}
			}
			if !f.recipe || !f.of().PressEachSide || f.Blank.PrintedSides == nil || presses >= *f.Blank.PrintedSides {
				return nil
			}
			return whole(Stop, *f.Blank.PrintedSides, presses)
		}},
	{"wash-before-cure", "It is washed before the picture has cured: water gets under it.", "Wash after the full cure; 72 h for photo medium unless its label says more.", washBeforeCure},
	{"picture-too-big", "The picture is larger than the face it goes on.", "Make the picture smaller, or choose a larger blank.", pictureTooBig},
	{"border-thin", "A border under 2 mm shows every tenth of a millimetre it is off.", "Leave at least 2 mm all round, or go full to the edge.",
		func(f facts) []hit {
			w, wKnown := f.border(f.Blank.WidthMm, f.Artwork.WidthMm)
			h, hKnown := f.border(f.Blank.HeightMm, f.Artwork.HeightMm)
			return when(wKnown && thin(w) || hKnown && thin(h), Caution)
		}},
	{"white-shows", "%.0f %% of the picture is white, and this film is clear there: it will show what is under it, which is light but not white.", "Lay it on a white base, or reckon with its colour; a white ground (photo medium, white film) keeps white white.",
		func(f facts) []hit {
			if !f.clear() || f.Artwork.WhiteShare == nil || *f.Artwork.WhiteShare < muchWhite || !is(f.tone(), craft.Light) {
				return nil
			}
			return whole(Tip, *f.Artwork.WhiteShare*100)
		}},
	{"picture-coarse", "The picture has %.0f pixels an inch at this size.", "300 is good and 200 will do for a weathered look: find a larger original, or place it smaller.", pictureCoarse},
	{"rights-unknown", "Nobody has said by what right this picture is used.", "Ask whose it is: permission, out of copyright, or your own; consent where people are shown.",
		func(f facts) []hit { return when(is(f.Artwork.Rights, craft.RightsUnknown), Caution) }},
	{"room-cold", fmt.Sprintf("The room is under %g °C: water-based films do not form.", craft.TooCold), "Warm the room, and mind the night's low, before anything is laid, sealed or painted.",
		func(f facts) []hit {
			return when(f.has(wetWork...) && f.Room.Celsius != nil && *f.Room.Celsius < craft.TooCold, Stop)
		}},
	{"room-damp", fmt.Sprintf("The air is over %g %% damp: water leaves the coats slowly.", craft.TooDamp*100), "Air or dry the room, and give every rest more time.",
		func(f facts) []hit {
			return when(f.has(wetWork...) && f.Room.Humidity != nil && *f.Room.Humidity > craft.TooDamp, Caution)
		}},
	{RestOverCeiling, "The rest after this step lasts longer than its ceiling: the next coat no longer bonds by itself.", "Shorten the rest, or sand until evenly dull before the next coat.",
		func(f facts) []hit {
			return f.perStep(Stop, func(_ int, s Step) bool { return s.CeilingMinutes != nil && s.RestMinutes > *s.CeilingMinutes })
		}},
	{"oil-under-water", "Oil against haze that is still wet keeps a water-based coat from holding.", "Let the oil dry for half a day, until nothing comes off on a finger.", oilUnderWater},
	{"gloss-under-matt", "A coat shinier than the look asked for shows through as patches.", "Use a matt or satin last coat that matches the look.",
		func(f facts) []hit {
			i := f.last(0, len(f.steps), craft.Seal)
			return whenAll(i >= 0 && is(f.Sheen, craft.Matt) && f.steps[max(i, 0)].Sheen == craft.Gloss, at(Caution, i))
		}},
	{"resin-uncautioned", "Resin is poured without its cautions beside the step: gloves, fresh air, exact ratio, pot life.", "Put the cautions of the resin's label on the step.",
		func(f facts) []hit {
			return f.perStep(Stop, func(_ int, s Step) bool {
				return s.Do == craft.Seal && s.With == craft.Resin && is(s.Cautioned, false)
			})
		}},
}

// RuleNames lists the rules in the order of the table.
func RuleNames() []string {
	names := make([]string, len(rules))
	for i, r := range rules {
		names[i] = r.name
	}
	return names
}
