package prints

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"tidykiln/core/craft"
	"tidykiln/core/design"
	"tidykiln/core/fault"
	"tidykiln/core/lettering"
	"tidykiln/core/picture"
	"tidykiln/core/shape"
	"tidykiln/core/sheet"
	"tidykiln/internal/artwork"
	"tidykiln/internal/batches"
	"tidykiln/internal/library"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/stores"
	"tidykiln/internal/workshop"
)

// matter is what a job is laid out from, as it was read.
type matter struct {
	batches  []batches.ToPrint
	pictures map[uint64]artwork.Artwork
	methods  library.Methods
	// wants are those of open orders, by their number.
	wants    map[uint64]orders.OpenWant
	workshop workshop.Workshop
	// materials are for what it costs.
	materials stores.Materials
}

// Concern is something to know before sheets are made. Blocks tells that they are not
// made until it is seen to, or, for words, taken as they are.
type Concern struct {
	Batch  int    `json:"batch"`
	Name   string `json:"name,omitempty" doc:"what the piece is called; empty for all of the batch"`
	Text   string `json:"text"`
	Blocks bool   `json:"blocks"`
	// Words tells that acceptWords lets it pass.
	Words bool `json:"words"`
}

// laidKind is a kind with what is drawn of it.
type laidKind struct {
	Kind
	print  design.Print
	design design.Design
	blank  shape.Shape
	batch  batches.ToPrint
	trim   float64
	cut    Cut
	// texts is what stands on each piece, setter sets it on the prints, and labels what
	// stands beside them.
	texts          map[uint64]string
	setter, labels *lettering.Setter
}

// kinds are the prints of each batch.
func (m matter) kinds(r JobRequest) (kinds []laidKind, concerns []Concern, err error) {
	for _, b := range m.batches {
		method, known := m.methods[b.Recipe.Method]
		if !known {
			return nil, nil, problem.Invalid("batchIds", "batch %d is made with a method that is not in the library any more: nobody can say whether it is mirrored", b.Number)
		}
		if first := m.batches[0]; b.Picture.Kind != first.Picture.Kind || b.Picture.Carrier != first.Picture.Carrier {
			return nil, nil, problem.Invalid("batchIds", "batch %d is printed on %s and batch %d on %s: they cannot share a sheet", first.Number, carrierOf(first.Picture), b.Number, carrierOf(b.Picture))
		}
		d := products.LaidAs(b.Design, b.Picture)
		k := laidKind{design: d, blank: b.Blank.Shape, batch: b, print: d.Print(b.Blank.Shape), trim: max(r.Trim, float64(b.Recipe.PrintMargin())), cut: r.Cut}
		k.Kind = Kind{BatchID: b.ID, Batch: b.Number, ProductName: b.ProductName, Trim: k.trim, Mirrored: method.MustMirror(b.Blank.ThroughBlank), Sides: b.Blank.PrintedSides()}
		k.Why = WhyMirrored(method, b.Blank)
		k.measure(r.Paper.Gap)
		k.texts = m.texts(k)
		k.setter, k.labels = d.Setter(k.print), k.labelSetter()
		kinds = append(kinds, k)
		concerns = append(concerns, m.concerns(k)...)
	}
	return kinds, concerns, nil
}

func carrierOf(p craft.Picture) string {
	if p.Kind == "" || p.Carrier == "" {
		return "what nobody has said yet"
	}
	return string(p.Kind) + " on " + strings.ReplaceAll(string(p.Carrier), "-", " ")
}

// WhyMirrored says whether a print is mirrored, and why.
func WhyMirrored(m craft.Method, b craft.Blank) string {
	switch {
	case b.ThroughBlank && m.MustMirror(true):
		return "mirrored: the printed face is what people look at, and they look through the blank"
	case b.ThroughBlank:
		return "not mirrored: the side the paper was on is turned round again by looking through the blank"
	case m.MustMirror(false):
		return "mirrored: people will see the side the paper was on"
	}
	return "not mirrored: people will see the printed face as it is"
}

// measure works out the item that a print takes on a sheet: with its margin for cutting,
// the blank's outline where that is traced, and a small name beside it.
func (k *laidKind) measure(gap float64) {
	room := max(k.trim, k.markRoom(gap))
	left, top, right, foot := room, room, room, room
	blankW, blankH := k.blank.Box()
	if k.cut == CutBlank {
		left, top = max(left, k.print.X), max(top, k.print.Y)
		right, foot = max(right, float64(blankW)-k.print.X-k.print.Width), max(foot, float64(blankH)-k.print.Y-k.print.Height)
		if k.Mirrored {
			left, right = right, left
		}
	}
	_, round := k.print.Circle()
	if round && (k.cut != CutBlank || k.blank.Kind == shape.Disc) {
		around := max(left, 0) + sheet.LabelRoom
		k.Diameter = up(k.print.Width + 2*around)
		k.Width, k.Height, k.X, k.Y = k.Diameter, k.Diameter, around, around
		return
	}
	k.Width, k.Height = up(k.print.Width+left+right), up(k.print.Height+top+foot+sheet.LabelRoom)
	k.X, k.Y = left, top
}

// up rounds a length up to a hundredth of a mm, so that what is laid has room.
func up(v float64) float64 { return math.Ceil(v*100-1e-6) / 100 }

// concerns are what is not in order with the prints of a batch.
func (m matter) concerns(k laidKind) (all []Concern) {
	say := func(name string, blocks bool, format string, args ...any) {
		all = append(all, Concern{Batch: k.Batch, Name: name, Text: fmt.Sprintf(format, args...), Blocks: blocks})
	}
	b := k.batch
	if len(b.Pieces) == 0 {
		say("", true, "It has no piece at work that could be printed.")
	}
	if !b.OwnPictures && b.ArtworkID == nil && k.design.Lettering == nil {
		say("", true, "It has no picture. Put one on the product, and make the batch up again.")
	}
	coarse := map[uint64]bool{}
	for _, p := range b.Pieces {
		id := b.PictureOf(p)
		pic, there := artwork.Artwork{}, false
		if id != nil {
			pic, there = m.pictures[*id]
		}
		switch {
		case b.OwnPictures && id == nil:
			say(p.Called(), true, "Its customer's picture has not come.")
		case id != nil && (!there || pic.State != artwork.Ready):
			say(p.Called(), true, "Its picture is not read yet, or was refused.")
		case there && !coarse[pic.ID]:
			coarse[pic.ID] = true
			if ppi := math.Floor(k.design.Ppi(k.print, pic.Pixels)); picture.SharpnessAt(ppi) == picture.Refused {
				say(nameIf(b.OwnPictures, p), false, "“%s” has %g pixels an inch at this size: it will look blocky.", pic.Title, ppi)
			}
		}
		all = append(all, k.wordConcerns(p)...)
	}
	return all
}

func nameIf(own bool, p batches.Piece) string {
	if own {
		return p.Called()
	}
	return ""
}

// wordConcerns are letters that no face has, and words without room.
func (k laidKind) wordConcerns(p batches.Piece) (all []Concern) {
	if k.setter == nil {
		return nil
	}
	set := k.setter.Set(k.texts[p.ID])
	if len(set.Missing) > 0 {
		all = append(all, Concern{Batch: k.Batch, Name: p.Called(), Blocks: true, Words: true, Text: "No typeface here has " + strings.Join(set.Missing, " ") + "."})
	}
	if !set.Fits {
		all = append(all, Concern{Batch: k.Batch, Name: p.Called(), Blocks: true, Words: true, Text: fmt.Sprintf("It does not fit, even at %g mm. Shorten it, or let it become smaller.", set.Height)})
	}
	return all
}

// copy is a print that is wanted: of a piece, or a spare one like it.
type copyOf struct {
	kind  int
	piece batches.Piece
	spare bool
}

// layoutRounds bounds the search for a layout by count, so that what a job is said to
// cost and what is laid out are the same.
const layoutRounds = 40

// mostSpares bounds how many spare prints are looked for.
const mostSpares = 400

// lay lays kinds out on a paper.
func lay(ctx context.Context, r JobRequest, kinds []laidKind) (l Layout, err error) {
	var copies []copyOf
	for i, k := range kinds {
		for _, p := range k.batch.Pieces {
			copies = append(copies, copyOf{kind: i, piece: p})
		}
	}
	if len(copies) == 0 {
		return l, problem.Invalid("batchIds", "there is nothing to print")
	}
	answer, err := pack(ctx, r.Paper, kinds, copies)
	if err != nil {
		return l, err
	}
	if r.Spare {
		if copies, answer, err = withSpares(ctx, r.Paper, kinds, copies, answer); err != nil {
			return l, err
		}
	}
	l = Layout{Kinds: []Kind{}, Sheets: []Sheet{}, LowerBound: answer.LowerBound, Fill: fill(r.Paper, kinds, copies, answer.SheetCount)}
	for _, k := range kinds {
		l.Kinds = append(l.Kinds, k.Kind)
	}
	for _, laid := range answer.Sheets {
		l.Sheets = append(l.Sheets, sheetOf(laid, kinds, copies))
	}
	return l.withBacks(), nil
}

// sidesOnSheet is how many prints of a piece lie beside each other: those of a piece
// with two sides lie on two sheets that match.
func (k Kind) sidesOnSheet() int {
	if k.Sides == 2 {
		return 1
	}
	return k.Sides
}

func pack(ctx context.Context, p Paper, kinds []laidKind, copies []copyOf) (sheet.Answer, error) {
	rounds := layoutRounds
	q := sheet.Problem{Format: sheet.ProblemFormat, Sheet: p.sheet(), Rounds: &rounds}
	for i, c := range copies {
		k := kinds[c.kind]
		item := sheet.Item{ID: strconv.Itoa(i), Shape: sheet.Rect, WidthMm: k.Width, HeightMm: k.Height, Count: k.sidesOnSheet(), MayTurn: true}
		if k.Diameter > 0 {
			item = sheet.Item{ID: strconv.Itoa(i), Shape: sheet.Circle, DiameterMm: k.Diameter, Count: k.sidesOnSheet()}
		}
		q.Items = append(q.Items, item)
	}
	a, err := sheet.Solve(ctx, q)
	if err != nil {
		return a, tooLarge(err, p, kinds)
	}
	return a, nil
}

// tooLarge says of what does not fit the paper how large it is.
func tooLarge(err error, p Paper, kinds []laidKind) error {
	s := p.sheet()
	for _, k := range kinds {
		w, h := s.WidthMm-2*s.MarginMm, s.HeightMm-2*s.MarginMm
		if (k.Width > w || k.Height > h) && (k.Height > w || k.Width > h || k.Diameter > 0) {
			return problem.Invalid("paper.widthMm", "a print of %s takes %g × %g mm with its margin and its name, and of this paper %g × %g mm can be printed", k.ProductName, k.Width, k.Height, math.Max(0, w), math.Max(0, h))
		}
	}
	return problem.Invalid("paper.widthMm", "%s", fault.Of(err).Message)
}

// withSpares adds as many prints as find room without another sheet, of all in turn.
func withSpares(ctx context.Context, p Paper, kinds []laidKind, copies []copyOf, answer sheet.Answer) ([]copyOf, sheet.Answer, error) {
	more := func(n int) []copyOf {
		all := slices.Clone(copies)
		for i := range n {
			c := copies[i%len(copies)]
			c.spare = true
			all = append(all, c)
		}
		return all
	}
	low, high, best := 0, mostSpares+1, copies
	for step := 1; low+1 < high; {
		n := min(low+step, high-1)
		tried, err := pack(ctx, p, kinds, more(n))
		if err != nil {
			return nil, answer, err
		}
		if tried.SheetCount > answer.SheetCount {
			high, step = n, max(1, (n-low)/2)
			continue
		}
		low, best, answer = n, more(n), tried
		if high > mostSpares {
			step *= 2
		} else {
			step = max(1, (high-low)/2)
		}
	}
	return best, answer, nil
}

// fill is the share of the sheets that prints cover.
func fill(p Paper, kinds []laidKind, copies []copyOf, sheets int) float64 {
	covered := 0.0
	for _, c := range copies {
		covered += float64(kinds[c.kind].print.Area()) * float64(kinds[c.kind].sidesOnSheet())
	}
	return math.Round(covered/(p.Width*p.Height/float64(p.up())*float64(sheets))*1000) / 1000
}

func sheetOf(laid sheet.Laid, kinds []laidKind, copies []copyOf) Sheet {
	s := Sheet{Items: []Item{}}
	side := map[string]int{}
	for _, placed := range laid.Items {
		i, err := strconv.Atoi(placed.ID)
		if err != nil {
			panic(err) // the layout hands out our own numbers
		}
		c := copies[i]
		k := kinds[c.kind]
		it := Item{Kind: c.kind, PieceID: c.piece.ID, Name: c.piece.Called(), Spare: c.spare, X: placed.XMm, Y: placed.YMm, Turned: placed.Turned,
			ArtworkID: k.batch.PictureOf(c.piece), Lettering: k.texts[c.piece.ID]}
		if k.Sides > 1 {
			side[placed.ID]++
			it.Side = side[placed.ID]
		}
		s.Items = append(s.Items, it)
	}
	slices.SortStableFunc(s.Items, func(a, b Item) int { return cmp.Or(cmp.Compare(a.Y, b.Y), cmp.Compare(a.X, b.X)) })
	return s
}

// withBacks puts after the sheets those of the second sides, each print where that of
// its first side lies.
func (l Layout) withBacks() Layout {
	var backs []Sheet
	for _, s := range l.Sheets {
		back := Sheet{Items: []Item{}}
		for _, it := range s.Items {
			if l.Kinds[it.Kind].Sides == 2 {
				it.Side = 2
				back.Items = append(back.Items, it)
			}
		}
		if len(back.Items) > 0 {
			backs = append(backs, back)
		}
	}
	l.Sheets = append(l.Sheets, backs...)
	return l
}

// pages is how many sheets of the paper go into the printer.
func (l Layout) pages(p Paper) int { return (len(l.Sheets) + p.up() - 1) / p.up() }

func (l Layout) prints() (n int) {
	for _, s := range l.Sheets {
		n += len(s.Items)
	}
	return n
}
