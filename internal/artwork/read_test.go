package artwork

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/draw"
	"image/gif"
	"image/jpeg"
	"image/png"
	"math"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// flag is a picture whose left half is red and whose right half is blue.
func flag(w, h int) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(img, image.Rect(0, 0, w/2, h), image.NewUniform(color.RGBA{220, 20, 20, 255}), image.Point{}, draw.Src)
	draw.Draw(img, image.Rect(w/2, 0, w, h), image.NewUniform(color.RGBA{20, 20, 220, 255}), image.Point{}, draw.Src)
	return img
}

func asPNG(t testing.TB, img image.Image) []byte {
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, img))
	return out.Bytes()
}

func asJPEG(t testing.TB, img image.Image, segments ...[]byte) []byte {
	var out bytes.Buffer
	require.NoError(t, jpeg.Encode(&out, img, &jpeg.Options{Quality: 100}))
	file := append([]byte{}, out.Bytes()[:2]...)
	for _, s := range segments {
		file = append(file, s...)
	}
	return append(file, out.Bytes()[2:]...)
}

// segment is an application's part of a JPEG.
func segment(marker byte, content string) []byte {
	return append([]byte{0xff, marker, byte((len(content) + 2) >> 8), byte(len(content) + 2)}, content...)
}

// exifOf says how a camera was held, and where.
func exifOf(orientation byte) []byte {
	return segment(0xe1, "Exif\x00\x00MM\x00\x2a\x00\x00\x00\x08\x00\x02"+
		"\x01\x12\x00\x03\x00\x00\x00\x01\x00"+string(orientation)+"\x00\x00"+
		"\x01\x10\x00\x02\x00\x00\x00\x03Hi\x00\x00"+
		"\x00\x00\x00\x00")
}

// wideProfile is a colour profile whose red, green and blue are purer than sRGB's
// (ICC.1:2010: a matrix of columns in XYZ, a gamma of 2.2).
func wideProfile(name string) []byte {
	type tag struct {
		sign    string
		content []byte
	}
	fixed := func(v float64) []byte { return binary.BigEndian.AppendUint32(nil, uint32(int32(math.Round(v*65536)))) }
	xyz := func(x, y, z float64) []byte {
		return append(append(append([]byte("XYZ \x00\x00\x00\x00"), fixed(x)...), fixed(y)...), fixed(z)...)
	}
	gamma := []byte("curv\x00\x00\x00\x00\x00\x00\x00\x01\x02\x33\x00\x00")
	description := append([]byte("desc\x00\x00\x00\x00"), binary.BigEndian.AppendUint32(nil, uint32(len(name)+1))...)
	description = append(append(description, name...), make([]byte, 1+78+(4-(len(name)+3)%4)%4)...)
	tags := []tag{{"desc", description}, {"wtpt", xyz(0.9642, 1, 0.8249)},
		{"rXYZ", xyz(0.6097, 0.3111, 0.0195)}, {"gXYZ", xyz(0.2053, 0.6257, 0.0609)}, {"bXYZ", xyz(0.1492, 0.0632, 0.7446)},
		{"rTRC", gamma}, {"gTRC", gamma}, {"bTRC", gamma}}
	table := binary.BigEndian.AppendUint32(nil, uint32(len(tags)))
	var contents []byte
	at := 128 + 4 + 12*len(tags)
	for _, tg := range tags {
		table = append(table, tg.sign...)
		table = binary.BigEndian.AppendUint32(table, uint32(at+len(contents)))
		table = binary.BigEndian.AppendUint32(table, uint32(len(tg.content)))
		contents = append(contents, tg.content...)
		for len(contents)%4 != 0 {
			contents = append(contents, 0)
		}
	}
	head := make([]byte, 128)
	binary.BigEndian.PutUint32(head, uint32(at+len(contents)))
	copy(head[8:], "\x02\x10\x00\x00mntrRGB XYZ ")
	copy(head[36:], "acsp")
	copy(head[68:], xyz(0.9642, 1, 0.8249)[8:])
	return append(append(head, table...), contents...)
}

func withProfile(profile []byte) []byte {
	return segment(0xe2, "ICC_PROFILE\x00\x01\x01"+string(profile))
}

func near(t *testing.T, want, got color.Color, off float64) {
	t.Helper()
	r, g, b, _ := want.RGBA()
	r2, g2, b2, _ := got.RGBA()
	for i, pair := range [][2]uint32{{r, r2}, {g, g2}, {b, b2}} {
		assert.InDelta(t, float64(pair[0]>>8), float64(pair[1]>>8), off, "channel %d", i)
	}
}

var red, blue = color.RGBA{220, 20, 20, 255}, color.RGBA{20, 20, 220, 255}

func TestPicturesAreReadUpright(t *testing.T) {
	for name, c := range map[string]struct {
		content  []byte
		size     image.Point
		at       image.Point // where it is red
		notes    []string
		sharp    bool
		tolerant float64
	}{
		"PNG":           {asPNG(t, flag(40, 20)), image.Pt(40, 20), image.Pt(5, 5), nil, true, 0},
		"JPEG":          {asJPEG(t, flag(48, 32)), image.Pt(48, 32), image.Pt(5, 5), nil, false, 4},
		"held as usual": {asJPEG(t, flag(48, 32), exifOf(1)), image.Pt(48, 32), image.Pt(5, 5), []string{"place and device are not kept with the print"}, false, 4},
		"upside down":   {asJPEG(t, flag(48, 32), exifOf(3)), image.Pt(48, 32), image.Pt(43, 5), []string{"turned upright", "place and device are not kept with the print"}, false, 4},
		"on its right":  {asJPEG(t, flag(48, 32), exifOf(6)), image.Pt(32, 48), image.Pt(5, 5), []string{"turned upright", "place and device are not kept with the print"}, false, 4},
		"on its left":   {asJPEG(t, flag(48, 32), exifOf(8)), image.Pt(32, 48), image.Pt(5, 43), []string{"turned upright", "place and device are not kept with the print"}, false, 4},
		"sixteen bits": {asPNG(t, func() image.Image {
			i := image.NewNRGBA64(image.Rect(0, 0, 9, 9))
			draw.Draw(i, i.Rect, flag(9, 9), image.Point{}, draw.Src)
			return i
		}()), image.Pt(9, 9), image.Pt(1, 1), []string{"16 bits a colour brought to 8"}, true, 1},
		"a few colours": {asPNG(t, func() image.Image { i := image.NewPaletted(image.Rect(0, 0, 9, 9), color.Palette{red, blue}); return i }()), image.Pt(9, 9), image.Pt(1, 1), nil, true, 0},
	} {
		t.Run(name, func(t *testing.T) {
			u, err := decode(c.content)
			require.NoError(t, err)
			assert.Equal(t, c.size, u.pixels.Rect.Size())
			near(t, red, u.pixels.At(c.at.X, c.at.Y), c.tolerant)
			assert.Equal(t, c.notes, u.notes)
			assert.Equal(t, c.sharp, u.sharp)
		})
	}
}

func TestColourProfilesAreHonoured(t *testing.T) {
	middle := image.NewRGBA(image.Rect(0, 0, 32, 32))
	draw.Draw(middle, middle.Rect, image.NewUniform(color.RGBA{90, 150, 90, 255}), image.Point{}, draw.Src)
	u, err := decode(asJPEG(t, middle, withProfile(wideProfile("Wide"))))
	require.NoError(t, err)
	assert.Equal(t, []string{"colours converted from Wide to sRGB"}, u.notes)
	// By the matrices: linear (0.101, 0.311, 0.101) of the profile is (0.017, 0.311, 0.092) in sRGB.
	near(t, color.RGBA{37, 151, 85, 255}, u.pixels.At(16, 16), 3)
	plain, err := decode(asJPEG(t, middle, withProfile([]byte("no profile at all"))))
	require.NoError(t, err)
	near(t, color.RGBA{90, 150, 90, 255}, plain.pixels.At(16, 16), 3)
}

func TestFilesOfOtherProgramsAreRead(t *testing.T) {
	for name, c := range map[string]struct {
		at    color.Color
		sharp bool
		note  string
	}{
		"cmyk.jpg":    {color.RGBA{244, 0, 10, 255}, false, "four inks"},
		"still.webp":  {color.RGBA{30, 90, 150, 255}, true, ""},
		"moving.webp": {color.RGBA{30, 90, 150, 255}, false, "the first of its 2 pictures"},
		"moving.png":  {color.RGBA{30, 90, 150, 255}, true, "the first of its 2 pictures"},
	} {
		content, err := os.ReadFile("testdata/" + name)
		require.NoError(t, err)
		u, err := decode(content)
		require.NoError(t, err, name)
		near(t, c.at, u.pixels.At(2, 2), 2)
		assert.Equal(t, c.sharp, u.sharp, name)
		assert.Contains(t, strings.Join(u.notes, "; "), c.note, name)
	}
}

func TestTransparentIsPaper(t *testing.T) {
	u, err := decode(asPNG(t, image.NewNRGBA(image.Rect(0, 0, 4, 4))))
	require.NoError(t, err)
	assert.Equal(t, color.RGBA{255, 255, 255, 255}, u.pixels.At(2, 2))
}

func TestAHEICIsRead(t *testing.T) {
	content, err := os.ReadFile("testdata/boat.heic")
	require.NoError(t, err)
	u, err := decode(content)
	require.NoError(t, err)
	assert.Equal(t, image.Pt(600, 400), u.pixels.Rect.Size())
	near(t, color.RGBA{200, 30, 30, 255}, u.pixels.At(20, 20), 4)
	near(t, color.RGBA{40, 80, 130, 255}, u.pixels.At(20, 380), 4)
	_, err = decode(content[:len(content)/2])
	words, is := isRefusal(err)
	assert.True(t, is)
	assert.Contains(t, words, "as JPEG")
}

// claiming is a PNG whose head says so many pixels.
func claiming(w, h uint32) []byte {
	chunk := func(name string, content []byte) []byte {
		out := binary.BigEndian.AppendUint32(nil, uint32(len(content)))
		body := append([]byte(name), content...)
		return binary.BigEndian.AppendUint32(append(out, body...), crc32.ChecksumIEEE(body))
	}
	head := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, w), h)
	return append([]byte("\x89PNG\r\n\x1a\n"), chunk("IHDR", append(head, 8, 2, 0, 0, 0))...)
}

func TestWhatIsNoPictureIsRefusedInWords(t *testing.T) {
	var moving bytes.Buffer
	require.NoError(t, gif.EncodeAll(&moving, &gif.GIF{Image: []*image.Paletted{image.NewPaletted(image.Rect(0, 0, 2, 2), color.Palette{red})}, Delay: []int{1}}))
	whole := asJPEG(t, flag(400, 300))
	for name, c := range map[string]struct {
		content []byte
		says    string
	}{
		"nothing":                     {nil, "empty"},
		"a text renamed":              {[]byte("dear diary"), "no picture"},
		"a program renamed":           {[]byte("\x7fELF\x02\x01\x01"), "no picture"},
		"a film":                      {[]byte("\x00\x00\x00\x18ftypmp42"), "film"},
		"a moving picture":            {moving.Bytes(), "PNG or JPEG"},
		"a document":                  {[]byte("%PDF-1.7"), "PDF"},
		"a drawing with a program":    {[]byte(`<?xml version="1.0"?><svg xmlns="x"><script>alert(1)</script></svg>`), "SVG"},
		"a drawing":                   {[]byte(`  <SVG viewBox="0 0 1 1"/>`), "SVG"},
		"cut off":                     {whole[:len(whole)/2], "cut off"},
		"cut off in its head":         {whole[:20], "cut off"},
		"a PNG without its pixels":    {claiming(10, 10), "cut off"},
		"a hundred thousand each way": {claiming(100_000, 100_000), "100000 × 100000"},
		"no pixels":                   {claiming(0, 10), "cut off"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := decode(c.content)
			words, is := isRefusal(err)
			require.True(t, is, "%v", err)
			assert.Contains(t, words, c.says)
		})
	}
}

// Whatever stands in a damaged file, it is read or refused, and nothing else happens.
func FuzzDecode(f *testing.F) {
	f.Add(asPNG(f, flag(8, 8)))
	f.Add(asJPEG(f, flag(16, 16), exifOf(6), withProfile(wideProfile("Wide"))))
	f.Fuzz(func(t *testing.T, content []byte) {
		if u, err := decode(content); err != nil {
			words, is := isRefusal(err)
			assert.True(t, is)
			assert.NotEmpty(t, words)
		} else {
			assert.False(t, u.pixels.Rect.Empty())
		}
	})
}

func TestTitlesComeFromNames(t *testing.T) {
	for name, title := range map[string]string{
		"harbour_at  noon.jpg":       "harbour at noon",
		"../../etc/passwd":           "passwd",
		`C:\photos\Lock gate 3.JPEG`: "Lock gate 3",
		".png":                       "Picture",
		"":                           "Picture",
		"a\x00b\n.png":               "ab",
		strings.Repeat("long ", 40):  strings.TrimSpace(strings.Repeat("long ", 12)),
		"\xff\xfe.png":               "Picture",
	} {
		assert.Equal(t, title, titleOf(name), "%q", name)
	}
}
