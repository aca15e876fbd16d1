package craft

import "slices"

// Surface is what a blank is made of, as the print meets it.
type Surface string

// The surfaces that methods are judged by.
const (
	WoodBare        Surface = "wood-bare"
	WoodPainted     Surface = "wood-painted"
	Canvas          Surface = "canvas"
	Stone           Surface = "stone"
	CeramicUnglazed Surface = "ceramic-unglazed"
	CeramicGlazed   Surface = "ceramic-glazed"
	Glass           Surface = "glass"
	GlassPainted    Surface = "glass-painted"
	Metal           Surface = "metal"
	MetalCoated     Surface = "metal-coated"
	Plastic         Surface = "plastic"
	FabricCotton    Surface = "fabric-cotton"
	FabricPolyester Surface = "fabric-polyester"
	CandleWax       Surface = "candle"
	CoatedBoard     Surface = "coated-board"
	MugCoated       Surface = "mug-coated"
	BoardPainted    Surface = "board-painted"
	StonePainted    Surface = "stone-painted"
)

var surfaceWords = []struct {
	Surface Surface
	Words   string
}{
	{WoodBare, "bare wood"}, {WoodPainted, "painted wood"}, {BoardPainted, "painted board"}, {Canvas, "canvas"}, {Stone, "stone"}, {StonePainted, "painted stone"},
	{CeramicUnglazed, "unglazed ceramic"}, {CeramicGlazed, "glazed ceramic"}, {Glass, "glass"}, {GlassPainted, "painted glass"},
	{Metal, "bare metal"}, {MetalCoated, "coated metal"}, {Plastic, "smooth plastic"}, {FabricCotton, "cotton"}, {FabricPolyester, "polyester"},
	{CandleWax, "candle wax"}, {CoatedBoard, "coated board"}, {MugCoated, "a coated mug"},
}

// Surfaces lists all surfaces, wood first.
func Surfaces() []Surface {
	var all []Surface
	for _, s := range surfaceWords {
		all = append(all, s.Surface)
	}
	return all
}

// Words names the surface as people say it.
func (s Surface) Words() string {
	for _, known := range surfaceWords {
		if known.Surface == s {
			return known.Words
		}
	}
	return string(s)
}

// Drillable tells whether a hanging hole can be drilled into it, and Hard
// whether that takes a bit for stone, and water.
func (s Surface) Drillable() bool {
	return slices.Contains([]Surface{WoodBare, WoodPainted, BoardPainted}, s) || s.Hard()
}

// Hard tells stone and ceramic from what wood bits drill.
func (s Surface) Hard() bool {
	return slices.Contains([]Surface{Stone, StonePainted, CeramicUnglazed, CeramicGlazed}, s)
}

// Sandable tells whether a print can be sanded back without losing the blank.
func (s Surface) Sandable() bool {
	return slices.Contains([]Surface{WoodBare, WoodPainted, BoardPainted, Stone, StonePainted, CeramicUnglazed, Metal}, s)
}

// Clear tells whether people can look through it.
func (s Surface) Clear() bool { return s == Glass || s == Plastic }

// Fabric tells cloth from what is solid.
func (s Surface) Fabric() bool { return s == FabricCotton || s == FabricPolyester }

// Tone is how light the blank is under the picture.
type Tone string

const (
	Light  Tone = "light"
	Medium Tone = "medium"
	Dark   Tone = "dark"
)

// Tones lists them.
func Tones() []Tone { return []Tone{Light, Medium, Dark} }

// PrintKind is what the picture is printed with.
type PrintKind string

const (
	Toner       PrintKind = "toner"
	Inkjet      PrintKind = "inkjet"
	Sublimation PrintKind = "sublimation"
)

// PrintKinds lists them.
func PrintKinds() []PrintKind { return []PrintKind{Toner, Inkjet, Sublimation} }

// Carrier is what the picture is printed on.
type Carrier string

const (
	Paper         Carrier = "paper"
	Tissue        Carrier = "tissue"
	DecalClear    Carrier = "decal-clear"
	DecalWhite    Carrier = "decal-white"
	TransferPaper Carrier = "transfer-paper"
)

// Carriers lists them.
func Carriers() []Carrier { return []Carrier{Paper, Tissue, DecalClear, DecalWhite, TransferPaper} }

// Rights say by what right a picture is used.
type Rights string

const (
	RightsOwn        Rights = "own"
	RightsPermission Rights = "permission"
	RightsOut        Rights = "out-of-copyright"
	RightsCustomer   Rights = "customer"
	RightsUnknown    Rights = "unknown"
)

// AllRights lists them.
func AllRights() []Rights {
	return []Rights{RightsOwn, RightsPermission, RightsOut, RightsCustomer, RightsUnknown}
}

// Do is a kind of work.
type Do string

// The kinds of work that checks speak of.
const (
	Clean          Do = "clean"
	Degrease       Do = "degrease"
	Sand           Do = "sand"
	Cut            Do = "cut"
	PaintBase      Do = "paint-base"
	PrintOut       Do = "print"
	SpraySealPrint Do = "spray-seal-print"
	Trim           Do = "trim"
	InkBack        Do = "ink-back"
	SprayGround    Do = "spray-ground"
	WipeSolvent    Do = "wipe-solvent"
	Lay            Do = "lay"
	SoakPrint      Do = "soak"
	ApplyDecal     Do = "apply-decal"
	ApplyTape      Do = "apply-tape"
	Melt           Do = "melt"
	Press          Do = "press"
	WeighFlat      Do = "weigh-flat"
	HeatDry        Do = "heat-dry"
	RemovePaper    Do = "remove-paper"
	Inspect        Do = "inspect"
	TouchUp        Do = "touch-up"
	SandEdges      Do = "sand-edges"
	Seal           Do = "seal"
	SandBetween    Do = "sand-between"
	Stain          Do = "stain"
	WipeStain      Do = "wipe-stain"
	WaxLight       Do = "wax-light"
	WaxDark        Do = "wax-dark"
	DustPowder     Do = "dust-powder"
	Buff           Do = "buff"
	OilHaze        Do = "oil-haze"
	Drill          Do = "drill"
	String         Do = "string"
	LabelCaution   Do = "label-caution"
	FinalCure      Do = "final-cure"
	Wash           Do = "wash"
	Pack           Do = "pack"
)

// Handwork is work that no check speaks of: feet, ribbon, care cards.
const Handwork Do = "handwork"

func knownDo(d Do) bool { return d == Handwork || slices.Contains(Dos(), d) }

// With is the medium or the sealer that a step is done with.
type With string

const (
	Gel          With = "gel"
	Glue         With = "glue"
	VarnishWater With = "varnish-water"
	VarnishOil   With = "varnish-oil"
	Clearcoat    With = "clearcoat"
	QuickGel     With = "quick-gel"
	Cream        With = "cream"
	Lotion       With = "lotion"
	Photo        With = "photo"
	// Same seals with what the print was laid in.
	Same         With = "same"
	SprayAcrylic With = "spray-acrylic"
	Resin        With = "resin"
)

// Withs lists what a kind of work can be done with; most have no choice.
func Withs(d Do) []With {
	switch d {
	case Lay:
		return []With{Gel, Glue, VarnishWater, VarnishOil, Clearcoat, QuickGel, Cream, Lotion, Photo}
	case Seal:
		return []With{Same, Glue, VarnishWater, VarnishOil, SprayAcrylic, Gel, Resin}
	}
	return nil
}

// Sheen is how a finish shines.
type Sheen string

const (
	Matt  Sheen = "matt"
	Satin Sheen = "satin"
	Gloss Sheen = "gloss"
)

// Holding is a place or machine that only one step can have at a time.
type Holding string

const (
	HeatPress  Holding = "press"
	HotAir     Holding = "hot-air"
	SprayPlace Holding = "spray-place"
	// Turner turns pieces on its spindles while they rest; no step has it.
	Turner Holding = "turner"
)

// Holdings lists what a step can have to itself.
func Holdings() []Holding { return []Holding{HeatPress, HotAir, SprayPlace} }

// Machines lists all places and machines, the turner too.
func Machines() []Holding { return append(Holdings(), Turner) }
