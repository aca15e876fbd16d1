package picture

import (
	"image"
	"math"

	"tidykiln/core/fault"
)

// Colours is what a print's colours are brought down to.
type Colours string

const (
	// AsTheyAre leaves them.
	AsTheyAre Colours = "colour"
	// Greys has tones and no colour.
	Greys Colours = "greys"
	// BlackOnly has black where the picture is darker than a threshold, and paper elsewhere.
	BlackOnly Colours = "black"
	// Lines makes a line drawing of a scan: what is darker than the paper round it is
	// black, however grey or shadowed that paper came out.
	Lines Colours = "lines"
)

// CleanUp is what people do to a picture by hand before they print it. The zero value
// does nothing.
type CleanUp struct {
	Colours Colours `json:"colours,omitempty" enum:"colour,greys,black,lines"`
	// Threshold is how light black may be, from 1 to 254, for BlackOnly, and how much
	// lighter than a line its paper is for Lines; 0 is the middle.
	Threshold int `json:"threshold,omitempty" minimum:"0" maximum:"254"`
	// Light and Contrast are from -100 to 100.
	Light    int `json:"light,omitempty" minimum:"-100" maximum:"100"`
	Contrast int `json:"contrast,omitempty" minimum:"-100" maximum:"100"`
	// NearlyWhite is how far under white, in steps of 255, is made paper.
	NearlyWhite int `json:"nearlyWhite,omitempty" minimum:"0" maximum:"80"`
}

// Validate reports the first field that no clean-up can have, by its name.
func (c CleanUp) Validate() error {
	switch {
	case c.Colours != "" && c.Colours != AsTheyAre && c.Colours != Greys && c.Colours != BlackOnly && c.Colours != Lines:
		return fault.At("colours", "%q is not known here", c.Colours)
	case c.Threshold < 0 || c.Threshold > 254:
		return fault.At("threshold", "must be from 1 to 254; 0 for the middle")
	case c.Light < -100 || c.Light > 100:
		return fault.At("light", "must be from -100 to 100")
	case c.Contrast < -100 || c.Contrast > 100:
		return fault.At("contrast", "must be from -100 to 100")
	case c.NearlyWhite < 0 || c.NearlyWhite > 80:
		return fault.At("nearlyWhite", "must be from 0 to 80")
	}
	return nil
}

// Nothing tells that it leaves a picture as it is.
func (c CleanUp) Nothing() bool {
	return (c.Colours == "" || c.Colours == AsTheyAre) && c.Light == 0 && c.Contrast == 0 && c.NearlyWhite == 0
}

// Apply cleans an opaque picture up where it is.
func (c CleanUp) Apply(img *image.RGBA) {
	c.apply(img, float64(max(img.Rect.Dx(), img.Rect.Dy())))
}

// apply cleans up a part of a picture whose longer side has so many pixels.
func (c CleanUp) apply(img *image.RGBA, longer float64) {
	if c.Nothing() {
		return
	}
	curve := c.curve()
	grey := c.Colours == Greys || c.Colours == BlackOnly || c.Colours == Lines
	for y := range img.Rect.Dy() {
		row := img.Pix[y*img.Stride : y*img.Stride+4*img.Rect.Dx()]
		for i := 0; i+3 < len(row); i += 4 {
			r, g, b := curve[row[i]], curve[row[i+1]], curve[row[i+2]]
			if grey {
				r = luma(r, g, b)
				g, b = r, r
			}
			if c.NearlyWhite > 0 && int(min(r, g, b)) >= 255-c.NearlyWhite {
				r, g, b = 255, 255, 255
			}
			row[i], row[i+1], row[i+2] = r, g, b
		}
	}
	switch c.Colours {
	case BlackOnly:
		c.blacken(img)
	case Lines:
		c.draw(img, longer)
	}
}

// curve is what light and contrast make of each step of a channel: contrast turns it
// round the middle, light moves it.
func (c CleanUp) curve() (to [256]uint8) {
	slope := math.Tan((float64(c.Contrast)/100*0.9 + 1) * math.Pi / 4)
	for i := range to {
		v := (float64(i)-127.5)*slope + 127.5 + float64(c.Light)/100*127.5
		to[i] = uint8(math.Round(min(255, max(0, v))))
	}
	return to
}

// soft is how many steps of 255 an edge is soft by, so that it is not a staircase.
const soft = 12

func (c CleanUp) blacken(img *image.RGBA) {
	threshold := 128.0
	if c.Threshold > 0 {
		threshold = float64(c.Threshold)
	}
	for i := 0; i+3 < len(img.Pix); i += 4 {
		img.Pix[i] = step(float64(img.Pix[i]), threshold)
		img.Pix[i+1], img.Pix[i+2] = img.Pix[i], img.Pix[i]
	}
}

// step is black under a threshold and white over it, softly between.
func step(v, threshold float64) uint8 {
	return uint8(math.Round(min(1, max(0, (v-threshold)/(2*soft)+0.5)) * 255))
}

// draw holds each pixel against the mean of those round it (Bradley and Roth, Adaptive
// Thresholding Using the Integral Image, 2007): a line is darker than its paper by a
// share that Threshold says.
func (c CleanUp) draw(img *image.RGBA, longer float64) {
	w, h := img.Rect.Dx(), img.Rect.Dy()
	sums := make([]uint64, (w+1)*(h+1))
	for y := range h {
		row := uint64(0)
		for x := range w {
			row += uint64(img.Pix[y*img.Stride+4*x])
			sums[(y+1)*(w+1)+x+1] = sums[y*(w+1)+x+1] + row
		}
	}
	around := max(4, int(longer/50))
	darker := 0.15
	if c.Threshold > 0 {
		darker = 0.3 * float64(255-c.Threshold) / 255
	}
	for y := range h {
		top, foot := max(0, y-around), min(h, y+around+1)
		for x := range w {
			left, right := max(0, x-around), min(w, x+around+1)
			sum := sums[foot*(w+1)+right] - sums[top*(w+1)+right] - sums[foot*(w+1)+left] + sums[top*(w+1)+left]
			paper := float64(sum) / float64((foot-top)*(right-left))
			p := img.Pix[y*img.Stride+4*x:]
			v := step(float64(p[0]), paper*(1-darker))
			p[0], p[1], p[2] = v, v, v
		}
	}
}
