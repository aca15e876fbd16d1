package products

import (
	"errors"
	"fmt"
	"math"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/artwork"
	"tidykiln/internal/problem"
)

// withArtwork gives products their pictures: what is measured and known of a picture
// goes before what was typed.
func withArtwork(tx *gorm.DB, products ...*Product) error {
	var ids []uint64
	for _, p := range products {
		if p.ArtworkID != nil {
			ids = append(ids, *p.ArtworkID)
		}
	}
	if len(ids) == 0 {
		return nil
	}
	pictures, err := artwork.ByID(tx, ids)
	if err != nil {
		return err
	}
	for _, p := range products {
		if p.ArtworkID == nil {
			continue
		}
		if pic, there := pictures[*p.ArtworkID]; there {
			p.Artwork = &pic
			p.Picture = measured(p.Picture, pic)
			p.asPrinted()
		}
	}
	return nil
}

// measured is a print with what its picture says of it.
func measured(print craft.Picture, pic artwork.Artwork) craft.Picture {
	print.Ppi = math.Floor(pic.Pixels.Ppi(float64(print.Width), float64(print.Height)))
	print.InkShare = pic.Pixels.Ink.Alone
	print.Inks = new(pic.Pixels.Ink.Printed(pic.Pixels.Grey))
	print.WhiteShare = pic.Pixels.White
	print.Rights = pic.Rights
	print.Slogan = pic.Lettering
	return print
}

// asPrinted puts what is known of the print, as it is placed and cleaned up, before
// what is known of the whole picture.
func (p *Product) asPrinted() {
	if p.Design != nil {
		p.Picture.Ppi = math.Floor(p.Design.Ppi(p.Design.Print(p.Blank.Shape), p.Artwork.Pixels))
	}
	if p.Printed != nil && p.Printed.ArtworkID == p.Artwork.ID {
		p.Picture.InkShare, p.Picture.WhiteShare, p.Picture.Inks = p.Printed.Ink.Alone, p.Printed.White, new(p.Printed.Ink.Printed(p.Printed.Grey))
	}
}

// artworkOf reads the picture that a form names; nil where it names none.
func artworkOf(tx *gorm.DB, at string, id *uint64) (*artwork.Artwork, error) {
	if id == nil {
		return nil, nil
	}
	pic, err := artwork.Load(tx, *id)
	if err != nil {
		return nil, problem.OrInvalid(err, at+".artworkId", "there is no such picture")
	}
	if pic.State != artwork.Ready {
		return nil, problem.Invalid(at+".artworkId", "%q is not read yet, or was refused", pic.Title)
	}
	return &pic, nil
}

// Picture reads a form with the picture that it names, whose pixels and rights go
// before what was typed. Errors name its fields under at.
func Picture(tx *gorm.DB, at string, f PictureForm, units measure.System) (print craft.Picture, pic *artwork.Artwork, err error) {
	if print, err = f.Picture(at, units); err != nil {
		return print, nil, err
	}
	if pic, err = artworkOf(tx, at, f.ArtworkID); err != nil || pic == nil {
		return print, nil, err
	}
	return measured(print, *pic), pic, nil
}

// UseOfArtwork names a product that has a picture on it; empty where none does.
func UseOfArtwork(tx *gorm.DB, id uint64) (string, error) {
	var p Product
	err := tx.Select("name").Where("artwork_id = ? AND archived_at IS NULL", id).Order("id").First(&p).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return "", nil
	}
	if err != nil {
		return "", fmt.Errorf("reading the products of a picture: %w", err)
	}
	return p.Name, nil
}

// Look is what of a product stands in an offer.
type Look struct {
	Lettered bool
	// Thumb is the file of the small picture on it; empty without one.
	Thumb string
}

// Looks are the looks of products, by their id.
func Looks(tx *gorm.DB, ids []uint64) (map[uint64]Look, error) {
	var list []Product
	if err := tx.Select("id", "lettered", "artwork_id").Where("id IN ?", ids).Find(&list).Error; err != nil {
		return nil, fmt.Errorf("reading what products look like: %w", err)
	}
	var pictures []uint64
	for _, p := range list {
		if p.ArtworkID != nil {
			pictures = append(pictures, *p.ArtworkID)
		}
	}
	thumbs, err := artwork.Thumbs(tx, pictures)
	if err != nil {
		return nil, err
	}
	looks := map[uint64]Look{}
	for _, p := range list {
		look := Look{Lettered: p.Lettered}
		if p.ArtworkID != nil {
			look.Thumb = thumbs[*p.ArtworkID]
		}
		looks[p.ID] = look
	}
	return looks, nil
}
