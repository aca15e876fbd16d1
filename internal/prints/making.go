package prints

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"math"
	"runtime"
	"slices"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/design"
	"tidykiln/core/lettering"
	"tidykiln/core/measure"
	"tidykiln/core/picture"
	"tidykiln/core/shape"
	"tidykiln/core/sheet"
	"tidykiln/internal/background"
	"tidykiln/internal/database"
	"tidykiln/internal/document"
)

const (
	// claimedFor is how long a server may be silent about a job before another takes it up.
	claimedFor = 2 * time.Minute
	// tellEvery is how often it is said how far the making has come.
	tellEvery = time.Second
	// sharpest is as many pixels an inch as a print needs; what is more is not put in.
	sharpest = 300.0
	quality  = 92
)

// errGone ends the making of a job that was stopped or removed meanwhile.
var errGone = errors.New("the job was stopped")

// KeepMaking makes sheets as jobs come, one at a time, until ctx ends.
func (a *Area) KeepMaking(ctx context.Context, report func(error)) {
	a.making.Keep(ctx, a.MakeNext, report)
}

// MakeNext makes the sheets of the job that has waited longest; more tells that there
// was one.
func (a *Area) MakeNext(ctx context.Context) (more bool, err error) {
	j, err := a.making.Next(ctx)
	if err != nil || j == nil {
		return false, err
	}
	if j.Tries >= background.MostTries {
		failure := fmt.Sprintf("Making these sheets was begun %d times and never ended. Take fewer batches at a time.", j.Tries)
		return true, a.finish(ctx, j.ID, map[string]any{"state": Failed, "failure": failure, "claimed_until": nil})
	}
	file, err := a.make(ctx, *j)
	switch {
	case errors.Is(err, errGone):
		return true, nil
	case ctx.Err() != nil:
		return false, ctx.Err() // the claim runs out, and it is made later
	case err != nil:
		failure := "The sheets could not be made. Try again; if it happens again, look whether the pictures are still there."
		return true, errors.Join(err, a.finish(ctx, j.ID, map[string]any{"state": Failed, "failure": failure, "claimed_until": nil}))
	}
	return true, a.finish(ctx, j.ID, map[string]any{"state": Ready, "file": file, "done": len(j.Layout.Sheets), "claimed_until": nil})
}

// finish writes how a job ended, unless it was stopped meanwhile.
func (a *Area) finish(ctx context.Context, id uint64, columns map[string]any) error {
	return a.db.Write(ctx, database.Prints, func(tx *gorm.DB) error {
		columns["version"] = gorm.Expr("version + 1")
		if err := tx.Model(&PrintJob{}).Where("id = ? AND state = ?", id, Making).Updates(columns).Error; err != nil {
			return fmt.Errorf("saving a print job: %w", err)
		}
		return nil
	})
}

// tell says how far a job has come, and finds out whether it goes on.
func (a *Area) tell(ctx context.Context, id uint64, done int) error {
	return a.db.Write(ctx, database.Prints, func(tx *gorm.DB) error {
		q := tx.Model(&PrintJob{}).Where("id = ? AND state = ?", id, Making).Updates(map[string]any{"done": done, "claimed_until": a.making.Until()})
		if q.Error == nil && q.RowsAffected == 0 {
			return errGone
		}
		return q.Error
	})
}

// make makes the PDF of a job and keeps it.
func (a *Area) make(ctx context.Context, j PrintJob) (file string, err error) {
	d, err := a.drafting(ctx, j)
	if err != nil {
		return "", err
	}
	ctx, stop := context.WithCancelCause(ctx)
	defer stop(nil)
	last := time.Now()
	told := func(page int) {
		if time.Since(last) < tellEvery {
			return
		}
		last = time.Now()
		if err := a.tell(ctx, j.ID, page); err != nil {
			stop(err)
		}
	}
	d.tick = func() { told(0) }
	var out bytes.Buffer
	err = document.WritePrintSheets(ctx, &out, d.sheets(), told)
	if cause := context.Cause(ctx); cause != nil {
		return "", cause
	}
	if err != nil {
		return "", err
	}
	return a.artworks.KeepFile(ctx, out.Bytes())
}

// drafting turns a layout into what is drawn.
type drafting struct {
	area   *Area
	matter matter
	kinds  []laidKind
	job    PrintJob
	// prints are what is drawn of a picture in a kind, by the key it has in the PDF.
	prints map[string]toDraw
	// tick is called while pictures are prepared.
	tick func()
}

type toDraw struct {
	kind    int
	artwork uint64
}

// drafting reads what a job is drawn from: its pieces as they were laid out.
func (a *Area) drafting(ctx context.Context, j PrintJob) (*drafting, error) {
	var ids []uint64
	for _, s := range j.Layout.Sheets {
		for _, it := range s.Items {
			ids = append(ids, it.PieceID)
		}
	}
	m, err := database.Look(ctx, a.db, func(tx *gorm.DB) (matter, error) { return a.read(tx, j.BatchIDs, ids) })
	if err != nil {
		return nil, err
	}
	kinds, _, err := m.kinds(j.JobRequest)
	if err != nil {
		return nil, err
	}
	return &drafting{area: a, matter: m, kinds: kinds, job: j, tick: func() {}}, nil
}

func (d *drafting) sheets() document.PrintSheets {
	d.prints = map[string]toDraw{}
	p := d.job.Paper.lying()
	s := document.PrintSheets{Title: "Tidy Kiln, " + d.job.Title, Width: p.Width, Height: p.Height, Rule: 100, Image: d.image}
	part := p.Width / float64(p.up())
	for part < s.Rule+15 && s.Rule > 10 {
		s.Rule -= 10
	}
	for from := 0; from < len(d.job.Layout.Sheets); from += p.up() {
		page := document.PrintPage{Foot: d.foot(), Carrier: d.kinds[0].batch.Picture.Carrier == craft.Tissue}
		for i, laid := range d.job.Layout.Sheets[from:min(from+p.up(), len(d.job.Layout.Sheets))] {
			if i > 0 {
				page.Apart = append(page.Apart, part*float64(i))
			}
			for _, it := range laid.Items {
				at := d.item(it)
				at.X += part * float64(i)
				page.Prints = append(page.Prints, at)
			}
		}
		s.Pages = append(s.Pages, page)
	}
	return s
}

// foot is said beside the line that is measured.
func (d *drafting) foot() string {
	if slices.ContainsFunc(d.kinds, func(k laidKind) bool { return k.design.Handle != nil }) {
		return d.job.Title + "   Two marks: the handle; one: opposite."
	}
	return d.job.Title
}

func (d *drafting) item(it Item) document.PrintAt {
	k := d.kinds[it.Kind]
	at := document.PrintAt{X: it.X, Y: it.Y, Width: k.Width, Height: k.Height, Turned: it.Turned, Label: label(k, it)}
	at.Print = document.PrintBox{X: k.X, Y: k.Y, Width: k.print.Width, Height: k.print.Height, Mirrored: k.Mirrored, Outline: k.print.Outline}
	if it.ArtworkID != nil {
		at.Print.Picture = fmt.Sprintf("%d of %d", *it.ArtworkID, it.Kind)
		d.prints[at.Print.Picture] = toDraw{it.Kind, *it.ArtworkID}
	}
	if k.setter != nil {
		set := k.setter.Set(it.Lettering)
		at.Print.Words = append(at.Print.Words, document.PrintWords{Outline: set.Outline, Colour: k.design.Lettering.Colour, Halo: k.design.Lettering.Halo})
	}
	at.Cut, at.Marks = cutLines(k)
	return at
}

// image prepares a picture as it is printed.
func (d *drafting) image(ctx context.Context, key string) (document.PrintImage, error) {
	d.tick()
	draw := d.prints[key]
	pic, known := d.matter.pictures[draw.artwork]
	if !known || pic.Print == nil {
		return document.PrintImage{}, fmt.Errorf("picture %d is not there any more", draw.artwork)
	}
	src, err := d.area.artworks.Image(ctx, *pic.Print)
	if err != nil {
		return document.PrintImage{}, err
	}
	if src == nil {
		return document.PrintImage{}, fmt.Errorf("the file of picture %d is gone", draw.artwork)
	}
	k := d.kinds[draw.kind]
	return drawn(src, k.design, k.print, sharpest)
}

// drawn is a picture's print as a file: no more pixels than are needed, lines without
// loss, greys as greys.
func drawn(src image.Image, d design.Design, p design.Print, most float64) (img document.PrintImage, err error) {
	ppi := d.Ppi(p, picture.Pixels{WidthPx: src.Bounds().Dx(), HeightPx: src.Bounds().Dy()})
	hard := d.CleanUp.Colours == picture.BlackOnly || d.CleanUp.Colours == picture.Lines
	if ppi = math.Min(most, ppi); hard {
		ppi = most // edges are drawn, however coarse the picture is
	}
	out := d.Draw(p, src, ppi)
	var made image.Image = out
	if grey := picture.Grey(out); grey != nil {
		made = grey
	}
	var file bytes.Buffer
	if img.JPEG = !hard && !picture.Flat(out); img.JPEG {
		err = jpeg.Encode(&file, made, &jpeg.Options{Quality: quality})
	} else {
		err = (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(&file, made)
	}
	if err != nil {
		return img, fmt.Errorf("drawing a print: %w", err)
	}
	img.Content = file.Bytes()
	// A picture of many pixels leaves a hundred MB behind: they go before the next one.
	runtime.GC()
	return img, nil
}

// What is said beside a print is in letters of this height, and at least this one.
const (
	labelHeight = 1.4
	labelLeast  = 1.0
)

// labelSetter sets small names in the room beside a print: under it, or round it.
func (k laidKind) labelSetter() *lettering.Setter {
	style := lettering.Style{Face: lettering.Sans, Height: labelHeight, Least: labelLeast, Edge: 0.2}
	if k.Diameter > 0 {
		style.Lies = lettering.Along
		return style.On(shape.Shape{Kind: shape.Disc, Diameter: measure.Length(k.Diameter)}.Outline())
	}
	return style.On([]shape.Point{{}, {X: k.Width}, {X: k.Width, Y: sheet.LabelRoom}, {Y: sheet.LabelRoom}})
}

// label is the small name beside a print, by which cut prints are told apart.
func label(k laidKind, it Item) lettering.Outline {
	text := fmt.Sprintf("%d · %s", k.Batch, it.Name)
	switch {
	case k.Sides == 2 && it.Side == 2:
		text += " · back"
	case k.Sides == 2:
		text += " · front"
	case it.Side > 0:
		text += fmt.Sprintf(" · side %d", it.Side)
	}
	if it.Spare {
		text += " · spare"
	}
	y := k.Height - sheet.LabelRoom
	if k.Diameter > 0 {
		y = 0
	}
	for runes := []rune(text); len(runes) > 1; runes = runes[:len(runes)-1] {
		set := k.labels.Set(string(runes))
		if set.Fits {
			return set.Outline.Moved(0, y)
		}
	}
	return nil
}
