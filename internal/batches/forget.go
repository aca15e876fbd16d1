package batches

import (
	"fmt"

	"gorm.io/gorm"

	"tidykiln/internal/database"
)

// ForgetNames takes the names and the pictures of a person's pieces out: those made for
// what they wanted, and those with such a name that serve nobody. It names the pictures.
func ForgetNames(tx *gorm.DB, wants []uint64, names []string) (artworks []uint64, err error) {
	var pieces []Piece
	if err := tx.Where("want_id IN ? OR want_id IS NULL AND lettering IN ?", wants, names).Find(&pieces).Error; err != nil {
		return nil, fmt.Errorf("reading whose pieces are to be forgotten: %w", err)
	}
	var ids, in []uint64
	for _, p := range pieces {
		ids = append(ids, p.ID)
		if p.BatchID != nil {
			in = append(in, *p.BatchID)
		}
		if p.ArtworkID != nil {
			artworks = append(artworks, *p.ArtworkID)
		}
	}
	err = tx.Model(&Piece{}).Where("id IN ? AND lettering <> ''", ids).Update("lettering", "…").Error
	if err != nil {
		return nil, fmt.Errorf("forgetting the names of pieces: %w", err)
	}
	if err := tx.Model(&Piece{}).Where("id IN ?", ids).Update("artwork_id", nil).Error; err != nil {
		return nil, fmt.Errorf("forgetting the pictures of pieces: %w", err)
	}
	// What happened to a batch names pieces by what stands on them: of a batch that held
	// a person's, no names are kept.
	err = tx.Exec("UPDATE batch_events SET text = REGEXP_REPLACE(text, '“[^”]*”', '“…”') WHERE batch_id IN ?", in).Error
	if err != nil {
		return nil, fmt.Errorf("forgetting names in what happened to batches: %w", err)
	}
	return artworks, database.Redact(tx, "pieces", ids, "", "lettering")
}
