package standin

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"slices"
	"sync"
	"time"

	"github.com/klippa-app/go-pdfium"
	"github.com/klippa-app/go-pdfium/requests"
	"github.com/klippa-app/go-pdfium/webassembly"
	"golang.org/x/image/draw"
)

// How the simulated printer works.
const (
	pageTakes = 3 * time.Second
	fullTray  = 250
	// tonerPerPage is how much of a cartridge a page takes.
	tonerPerPage = 1.0 / 1500
	// viewedAt is at how many pixels an inch printed sheets can be looked at.
	viewedAt = 100
	// keptPrints is how many printouts lie in its tray.
	keptPrints = 12
)

// PrinterStatus is how a printer stands.
type PrinterStatus struct {
	Paper  int     `json:"paper" doc:"sheets in its tray"`
	Toner  float64 `json:"toner" doc:"share of the cartridge that is left"`
	Jammed bool    `json:"jammed"`
	Scale  float64 `json:"scale" doc:"percent of the true size that it prints at"`
	// Job and Page are what it has in hand; Job is 0 when nothing is.
	Job     uint64 `json:"job"`
	Page    int    `json:"page"`
	Waiting int    `json:"waiting"`
	// Says is what keeps it from printing; empty when nothing does.
	Says string `json:"says"`
}

// PageOut is a page that came out.
type PageOut struct {
	Job  uint64
	Page int
}

// Printer is a simulated printer: it takes its time, runs out of paper and toner, jams
// when it is told to, and prints a little smaller when it is told to.
type Printer struct {
	now func() time.Time

	mu     sync.Mutex
	paper  int
	toner  float64
	jammed bool
	scale  float64
	queue  []printout
	done   []printout
	// since is when the page in hand was begun, or, while it cannot go on, nil.
	since *time.Time

	// reading is held while a sheet is drawn; pool is made when the first one is looked at.
	reading sync.Mutex
	pool    pdfium.Pool
}

type printout struct {
	job    uint64
	pdf    []byte
	pages  int
	out    int
	scales []float64
}

// NewPrinter is a printer with a full tray and a new cartridge.
func NewPrinter(now func() time.Time) *Printer {
	return &Printer{now: now, paper: fullTray, toner: 1, scale: 100}
}

// Send puts a PDF into its queue.
func (p *Printer) Send(job uint64, pdf []byte, pages int) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.goOn()
	p.queue = append(p.queue, printout{job: job, pdf: pdf, pages: pages})
	p.begin()
}

// Knows tells whether a job is in its queue.
func (p *Printer) Knows(job uint64) bool {
	p.mu.Lock()
	defer p.mu.Unlock()
	return slices.ContainsFunc(p.queue, func(q printout) bool { return q.job == job })
}

// Cancel takes a job out of its queue; what came out of it stays.
func (p *Printer) Cancel(job uint64) {
	p.mu.Lock()
	defer p.mu.Unlock()
	for i, q := range p.queue {
		if q.job == job {
			p.keep(q)
			p.queue = slices.Delete(p.queue, i, i+1)
			p.since = nil
			p.begin()
			return
		}
	}
}

// says is what keeps it from going on.
func (p *Printer) says() string {
	switch {
	case p.jammed:
		return "Paper is jammed in it."
	case p.paper == 0:
		return "Its tray is empty."
	case p.toner < tonerPerPage:
		return "Its cartridge is empty."
	}
	return ""
}

// begin starts the next page where it can.
func (p *Printer) begin() {
	if p.since == nil && len(p.queue) > 0 && p.says() == "" {
		now := p.now()
		p.since = &now
	}
}

// goOn lets the pages come out for which there was time, and gives them.
func (p *Printer) goOn() (out []PageOut) {
	for p.since != nil && len(p.queue) > 0 && p.now().Sub(*p.since) >= pageTakes {
		ended := p.since.Add(pageTakes)
		q := &p.queue[0]
		q.out++
		q.scales = append(q.scales, p.scale)
		p.paper--
		p.toner -= tonerPerPage
		out = append(out, PageOut{q.job, q.out})
		if q.out == q.pages {
			p.keep(*q)
			p.queue = p.queue[1:]
		}
		p.since = nil
		if len(p.queue) > 0 && p.says() == "" {
			p.since = &ended
		}
	}
	return out
}

func (p *Printer) keep(q printout) {
	p.done = append(p.done, q)
	p.done = p.done[max(0, len(p.done)-keptPrints):]
}

// Out gives the pages that came out since it was asked last.
func (p *Printer) Out() []PageOut {
	p.mu.Lock()
	defer p.mu.Unlock()
	return p.goOn()
}

// Status says how it stands.
func (p *Printer) Status() PrinterStatus {
	p.mu.Lock()
	defer p.mu.Unlock()
	s := PrinterStatus{Paper: p.paper, Toner: max(0, p.toner), Jammed: p.jammed, Scale: p.scale, Says: p.says()}
	if len(p.queue) > 0 {
		s.Job, s.Page, s.Waiting = p.queue[0].job, p.queue[0].out+1, len(p.queue)-1
	}
	return s
}

// Set changes how it stands: what is in its tray and its cartridge, whether paper is
// jammed, and at what percent of the true size it prints.
func (p *Printer) Set(s PrinterStatus) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.goOn()
	p.paper, p.toner, p.jammed, p.scale = s.Paper, s.Toner, s.Jammed, s.Scale
	if p.says() != "" {
		p.since = nil
	}
	p.begin()
}

// ErrNotPrinted says that there is no such sheet.
var ErrNotPrinted = errors.New("this sheet has not come out")

// Sheet is a page that came out, as a picture.
func (p *Printer) Sheet(job uint64, page int) ([]byte, error) {
	p.mu.Lock()
	var found *printout
	for _, list := range [][]printout{p.done, p.queue} {
		for i := range list {
			if list[i].job == job && page >= 1 && page <= list[i].out {
				found = &list[i]
			}
		}
	}
	if found == nil {
		p.mu.Unlock()
		return nil, ErrNotPrinted
	}
	pdf, scale := found.pdf, found.scales[page-1]
	p.mu.Unlock()
	return p.draw(pdf, page, scale)
}

// draw draws a page as it came out: smaller than it should where the printer scaled it.
func (p *Printer) draw(pdf []byte, page int, scale float64) ([]byte, error) {
	p.reading.Lock()
	defer p.reading.Unlock()
	if p.pool == nil {
		pool, err := webassembly.Init(webassembly.Config{MaxIdle: 1, MaxTotal: 1})
		if err != nil {
			return nil, fmt.Errorf("starting to draw sheets: %w", err)
		}
		p.pool = pool
	}
	instance, err := p.pool.GetInstance(30 * time.Second)
	if err != nil {
		return nil, fmt.Errorf("starting to draw sheets: %w", err)
	}
	defer func() { _ = instance.Close() }()
	doc, err := instance.OpenDocument(&requests.OpenDocument{File: &pdf})
	if err != nil {
		return nil, fmt.Errorf("reading the sheets: %w", err)
	}
	drawn, err := instance.RenderPageInDPI(&requests.RenderPageInDPI{DPI: viewedAt, Page: requests.Page{ByIndex: &requests.PageByIndex{Document: doc.Document, Index: page - 1}}})
	if err != nil {
		return nil, fmt.Errorf("drawing a sheet: %w", err)
	}
	defer drawn.Cleanup()
	src := drawn.Result.RenderedImage
	out := image.NewRGBA(src.Bounds())
	draw.Draw(out, out.Rect, image.NewUniform(color.White), image.Point{}, draw.Src)
	shown := image.Rect(0, 0, int(float64(src.Bounds().Dx())*scale/100+0.5), int(float64(src.Bounds().Dy())*scale/100+0.5))
	draw.BiLinear.Scale(out, shown, src, src.Bounds(), draw.Over, nil)
	var file bytes.Buffer
	if err := png.Encode(&file, out); err != nil {
		return nil, fmt.Errorf("drawing a sheet: %w", err)
	}
	return file.Bytes(), nil
}

// Close lets go of what draws sheets.
func (p *Printer) Close() error {
	p.reading.Lock()
	defer p.reading.Unlock()
	if p.pool == nil {
		return nil
	}
	return p.pool.Close()
}
