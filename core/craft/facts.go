package craft

import "slices"

// Facts are what is true of a method's family whatever the recipe: checks, the
// chooser, the bench and the plan ask them. They stand in the library's files
// (method.schema.json says what each means).
type Facts struct {
	PaperLift bool   `json:"paperLift,omitempty"`
	Ground    Ground `json:"ground" enum:"blank,film,white,wax,sprayed"`
	OnDark    string `json:"onDark,omitempty"`
	// Inkjet is stop or caution; empty where an inkjet print does no harm.
	Inkjet string `json:"inkjet,omitempty"`
	OwnInk bool   `json:"ownInk,omitempty"`
	// BaseCureMinutes and WashAfterMinutes are 0 where nothing is asked.
	BaseCureMinutes  int    `json:"baseCureMinutes,omitempty"`
	WashAfterMinutes int    `json:"washAfterMinutes,omitempty"`
	NoWhiteFilm      bool   `json:"noWhiteFilm,omitempty"`
	NothingToCure    bool   `json:"nothingToCure,omitempty"`
	OpenEdge         bool   `json:"openEdge,omitempty"`
	PressEachSide    bool   `json:"pressEachSide,omitempty"`
	Lettering        string `json:"lettering,omitempty"`
	CrispEdge        bool   `json:"crispEdge,omitempty"`
}

// Ground is what is behind the picture where it has no colour.
type Ground string

const (
	GroundBlank   Ground = "blank"
	GroundFilm    Ground = "film"
	GroundWhite   Ground = "white"
	GroundWax     Ground = "wax"
	GroundSprayed Ground = "sprayed"
)

// ShowsThrough tells whether a blank that is not light swallows a picture on this carrier.
func (f Facts) ShowsThrough(carrier Carrier) bool {
	return f.Ground == GroundBlank || f.Ground == GroundFilm && carrier == DecalClear
}

// LosesWhite tells whether areas without colour take on another than white.
func (f Facts) LosesWhite(carrier Carrier) bool {
	return f.ShowsThrough(carrier) || f.Ground == GroundWax || f.Ground == GroundSprayed
}

// LosesTones tells whether fine tones of a photo lift here and there.
func (f Facts) LosesTones() bool { return f.PaperLift && f.Ground != GroundWhite }

// work is what is true of a kind of work (library/work.schema.json).
type work struct {
	Do        Do        `json:"do"`
	Stage     Stage     `json:"stage"`
	Name      string    `json:"name"`
	Carries   bool      `json:"carries"`
	OnPicture bool      `json:"onPicture"`
	Flammable bool      `json:"flammable"`
	Solvent   bool      `json:"solvent"`
	Hot       bool      `json:"hot"`
	FormsFilm bool      `json:"formsFilm"`
	Wax       bool      `json:"wax"`
	Outcomes  []Outcome `json:"outcomes"`
	Place     Holding   `json:"place"`
}

// medium is what is true of a medium or sealer.
type medium struct {
	With      With `json:"with"`
	Flammable bool `json:"flammable"`
	NoWater   bool `json:"noWater"`
}

// workFile is library/work.json.
type workFile struct {
	Work  []work   `json:"work"`
	Media []medium `json:"media"`
}

// workFacts are the facts of the kinds of work, in the order of the work, and of the media.
type workFacts struct {
	dos   []Do
	work  map[Do]work
	media map[With]medium
}

func (f workFile) indexed() workFacts {
	facts := workFacts{work: map[Do]work{}, media: map[With]medium{}}
	for _, w := range f.Work {
		facts.dos, facts.work[w.Do] = append(facts.dos, w.Do), w
	}
	for _, m := range f.Media {
		facts.media[m.With] = m
	}
	return facts
}

func (d Do) facts() work     { return library.work.work[d] }
func (w With) facts() medium { return library.work.media[w] }

// Dos lists the kinds of work that checks speak of, in the order of the work.
func Dos() []Do { return slices.Clone(library.work.dos) }

// Name is what people call the kind of work; empty for work of the owner's own,
// which goes by the name of its step.
func (d Do) Name() string { return d.facts().Name }

// Carries tells whether a step puts the picture on the blank.
func (d Do) Carries() bool { return d.facts().Carries }

// Hot tells whether the work brings a flame's worth of heat.
func (d Do) Hot() bool { return d.facts().Hot }

// FormsFilm tells whether it lays a film that does not form in the cold.
func (d Do) FormsFilm() bool { return d.facts().FormsFilm }

// Wax tells whether it leaves wax, on which nothing holds.
func (d Do) Wax() bool { return d.facts().Wax }

// Sprays tells whether work done with something sprays or wipes what can catch
// fire: it keeps from heat also on the same piece.
func (d Do) Sprays(with With) bool { return d.facts().Flammable || with.facts().Flammable }

// Water tells whether a medium or sealer holds water, which has to leave it.
func (w With) Water() bool { return !w.facts().NoWater }

// Below TooCold (°C) water-based films must not be laid, above TooDamp (relative
// humidity, 0 to 1) they dry badly.
const (
	TooCold = 10.0
	TooDamp = 0.85
)
