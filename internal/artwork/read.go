package artwork

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"image/png"

	"github.com/gen2brain/heic"
	"github.com/kovidgoyal/imaging"
	"github.com/kovidgoyal/imaging/prism/meta"
	"github.com/kovidgoyal/imaging/prism/meta/icc"
	"github.com/rwcarlsen/goexif/exif"
	"golang.org/x/image/webp"

	"tidykiln/core/picture"
)

// kindOf is the kind of file that these are the first bytes of; a refusal with the
// way out where it is none that can be worked with.
type kindOfFile string

const (
	jpegFile kindOfFile = "JPEG"
	pngFile  kindOfFile = "PNG"
	webpFile kindOfFile = "WebP"
	heicFile kindOfFile = "HEIC"
)

// refusal is why a file is not taken, in words for whoever sent it.
type refusal struct{ words string }

func (r refusal) Error() string { return r.words }

func refused(format string, args ...any) error { return refusal{fmt.Sprintf(format, args...)} }

const wayOut = "Save it as PNG or JPEG and put that in."

func sniff(head []byte) (kindOfFile, error) {
	has := func(at int, mark string) bool {
		return len(head) >= at+len(mark) && string(head[at:at+len(mark)]) == mark
	}
	switch {
	case len(head) == 0:
		return "", refused("The file is empty.")
	case has(0, "\xff\xd8\xff"):
		return jpegFile, nil
	case has(0, "\x89PNG\r\n\x1a\n"):
		return pngFile, nil
	case has(0, "RIFF") && has(8, "WEBP"):
		return webpFile, nil
	case has(4, "ftyp"):
		for _, brand := range []string{"heic", "heix", "heim", "heis", "mif1", "hevc"} {
			if has(8, brand) {
				return heicFile, nil
			}
		}
		return "", refused("This is a film, or a kind of picture that cannot be read here. %s", wayOut)
	case has(0, "GIF8"), has(0, "BM"), has(0, "II*\x00"), has(0, "MM\x00*"), has(0, "8BPS"):
		return "", refused("Pictures of this kind are not read here. %s", wayOut)
	case has(0, "%PDF"):
		return "", refused("This is a PDF, not a picture. Save the page as PNG, at 300 pixels an inch or more, and put that in.")
	case bytes.Contains(bytes.ToLower(head), []byte("<svg")), has(0, "<?xml"):
		return "", refused("This is a drawing in lines (SVG), which can carry programs and is not taken as a picture. Save it as PNG, large enough for its print.")
	}
	return "", refused("This is no picture that can be read here, whatever its name says. PNG, JPEG, WebP and HEIC are.")
}

// checkHead refuses a file by its first bytes and what it says of its size, before it
// is believed. A HEIC's size is looked at when it is read.
func checkHead(content []byte) (kindOfFile, error) {
	kind, err := sniff(content[:min(len(content), 4096)])
	if err != nil || kind == heicFile {
		return kind, err
	}
	var config image.Config
	switch r := bytes.NewReader(content); kind {
	case jpegFile:
		config, err = jpeg.DecodeConfig(r)
	case pngFile:
		config, err = png.DecodeConfig(r)
	default:
		config, err = webp.DecodeConfig(r)
	}
	if err != nil {
		return kind, refused("The file begins like a %s, but it is cut off or damaged.", kind)
	}
	if err := picture.Bound(config.Width, config.Height); err != nil {
		return kind, refused("This picture cannot be worked with: %s. Scale it down and put that in.", err)
	}
	return kind, nil
}

// upright is a picture as it is printed: the right way up, in sRGB, on white.
type upright struct {
	pixels *image.RGBA
	// notes say what was done for that.
	notes []string
	// sharp tells that it came without loss, and is kept so.
	sharp bool
}

// decode reads a picture whole. What it cannot read is a refusal; other errors do not happen.
func decode(content []byte) (u upright, err error) {
	defer func() {
		if r := recover(); r != nil { // the readers of files are not ours, and the files are anybody's
			err = refused("The file is damaged and cannot be read.")
		}
	}()
	kind, err := checkHead(content)
	if err != nil {
		return u, err
	}
	u.sharp = kind == pngFile || kind == webpFile && len(content) > 16 && string(content[12:16]) == "VP8L"
	img, data, err := u.decoded(kind, content)
	if err != nil {
		return u, err
	}
	u.note(kind, data)
	b := img.Bounds()
	u.pixels = image.NewRGBA(image.Rect(0, 0, b.Dx(), b.Dy()))
	draw.Draw(u.pixels, u.pixels.Bounds(), image.NewUniform(color.White), image.Point{}, draw.Src)
	draw.Draw(u.pixels, u.pixels.Bounds(), img, b.Min, draw.Over)
	return u, nil
}

func (u *upright) decoded(kind kindOfFile, content []byte) (image.Image, *meta.Data, error) {
	if kind == heicFile {
		img, err := u.decodeHEIC(content)
		return img, nil, err
	}
	all, _, err := imaging.DecodeAll(bytes.NewReader(content), imaging.Backends(imaging.GO_IMAGE), imaging.ColorSpace(imaging.NO_CHANGE_OF_COLORSPACE))
	if err != nil || all == nil || len(all.Frames) == 0 {
		return nil, nil, refused("The file is cut off or damaged: not all of the picture is there.")
	}
	if len(all.Frames) > 1 {
		u.notes = append(u.notes, fmt.Sprintf("moves: the first of its %d pictures is taken", len(all.Frames)))
	}
	img := all.SingleFrame()
	if profile, err := all.Metadata.ICCProfile(); err == nil && profile != nil {
		img = u.toSRGB(profile, img)
	} else if _, cmyk := img.(*image.CMYK); cmyk {
		u.notes = append(u.notes, "colours of four inks made into sRGB without a profile: look at them")
	}
	return img, all.Metadata, nil
}

// toSRGB converts by a profile, and says so; a profile that cannot be used is said too.
func (u *upright) toSRGB(profile *icc.Profile, img image.Image) image.Image {
	if profile.IsSRGB() {
		return img
	}
	name, err := profile.Description()
	if err != nil || name == "" {
		name = "its own colours"
	}
	converted, err := imaging.ConvertToSRGB(profile, profile.Header.RenderingIntent, true, img)
	if err != nil {
		u.notes = append(u.notes, fmt.Sprintf("its colour profile (%s) could not be used: look at the colours", name))
		return img
	}
	u.notes = append(u.notes, fmt.Sprintf("colours converted from %s to sRGB", name))
	return converted
}

// note says what was done to a picture beside its colours.
func (u *upright) note(kind kindOfFile, data *meta.Data) {
	if kind == heicFile {
		u.notes = append(u.notes, "place and device are not kept with the print")
		return
	}
	if data.BitsPerComponent > 8 {
		u.notes = append(u.notes, fmt.Sprintf("%d bits a colour brought to 8", data.BitsPerComponent))
	}
	x, err := data.Exif()
	if err != nil || x == nil {
		return
	}
	if tag, err := x.Get(exif.Orientation); err == nil {
		if v, err := tag.Int(0); err == nil && v > 1 {
			u.notes = append(u.notes, "turned upright")
		}
	}
	u.notes = append(u.notes, "place and device are not kept with the print")
}

func (u *upright) decodeHEIC(content []byte) (image.Image, error) {
	config, err := heic.DecodeConfig(bytes.NewReader(content))
	if err == nil {
		if err := picture.Bound(config.Width, config.Height); err != nil {
			return nil, refused("This picture cannot be worked with: %s. Scale it down and put that in.", err)
		}
		var img image.Image
		if img, err = heic.Decode(bytes.NewReader(content)); err == nil {
			if profile := profileOf(content); profile != nil {
				return u.toSRGB(profile, img), nil
			}
			return img, nil
		}
	}
	return nil, refused("This HEIC cannot be read here. On the phone, share it as JPEG (settings of the camera: most compatible) and put that in.")
}

// profileOf is the colour profile in a HEIC: the first colour box that holds one
// (ISO/IEC 14496-12, 12.1.5).
func profileOf(content []byte) *icc.Profile {
	for _, mark := range []string{"colrprof", "colrrICC"} {
		i := bytes.Index(content, []byte(mark))
		if i < 4 {
			continue
		}
		size := int(content[i-4])<<24 | int(content[i-3])<<16 | int(content[i-2])<<8 | int(content[i-1])
		if size < 12 || size > len(content)-i+4 {
			continue
		}
		profile, err := icc.DecodeProfile(bytes.NewReader(content[i+len(mark) : i-4+size]))
		if err == nil {
			return profile
		}
	}
	return nil
}

// encoded writes a picture for keeping: without loss where it came so.
func encoded(img image.Image, sharp bool, quality int) ([]byte, error) {
	var out bytes.Buffer
	var err error
	if sharp {
		err = (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(&out, img)
	} else {
		err = jpeg.Encode(&out, img, &jpeg.Options{Quality: quality})
	}
	if err != nil {
		return nil, fmt.Errorf("writing a picture: %w", err)
	}
	return out.Bytes(), nil
}

// within scales a picture down until neither side is longer.
func within(img image.Image, longest int) image.Image {
	w, h := img.Bounds().Dx(), img.Bounds().Dy()
	if max(w, h) <= longest {
		return img
	}
	scale := float64(longest) / float64(max(w, h))
	return imaging.Resize(img, max(1, int(float64(w)*scale+0.5)), max(1, int(float64(h)*scale+0.5)), imaging.CatmullRom)
}

// isRefusal gives the words of a refusal.
func isRefusal(err error) (words string, is bool) {
	var r refusal
	is = errors.As(err, &r)
	return r.words, is
}
