package prints

import (
	"bytes"
	"context"
	"fmt"
	"slices"

	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/document"
)

// ShopPage is the page for a copy shop that prints a job's sheets.
func (a *Area) ShopPage(ctx context.Context, id uint64) ([]byte, error) {
	j, err := a.Get(ctx, id)
	if err != nil {
		return nil, err
	}
	d, err := a.drafting(ctx, j)
	if err != nil {
		return nil, err
	}
	pic := d.kinds[0].batch.Picture
	mirrored := slices.ContainsFunc(d.kinds, func(k laidKind) bool { return k.Mirrored })
	o := document.ShopOrder{Title: "To be printed: " + j.Title, Lines: []string{
		fmt.Sprintf("%s of %s, one copy of each, printed on one side.", measure.Count(j.Sheets, "page"), j.Paper.describe()),
		"At 100 %, its true size. On every page there is a line of 100 mm to measure.",
	}, Cautions: []string{"Do not fit it to the page, and do not scale it."}}
	switch {
	case pic.Kind == craft.Inkjet:
		o.Lines = append(o.Lines, "On an inkjet printer.")
	case pic.Kind == craft.Sublimation:
		o.Lines = append(o.Lines, "In sublimation ink, on transfer paper.")
	default:
		o.Lines = append(o.Lines, "On a laser printer or a copier, in toner.")
		o.Cautions = append(o.Cautions, "No inkjet: its ink bleeds under what is laid on it.")
	}
	if pic.Carrier == "" || pic.Carrier == craft.Paper {
		weight := "from 60 to 100 g/m²"
		if pic.Gsm > 0 {
			weight = fmt.Sprintf("of %g g/m²", pic.Gsm)
		}
		o.Lines = append(o.Lines, "On plain, uncoated paper "+weight+".")
	}
	if mirrored {
		o.Lines = append(o.Lines, "It is mirrored already, and its lettering reads backwards: that is as it should be.")
		o.Cautions = append(o.Cautions, "Do not mirror it again.")
	}
	var out bytes.Buffer
	err = document.WriteShopOrder(&out, o)
	return out.Bytes(), err
}

// describe is the paper in words.
func (p Paper) describe() string {
	size := fmt.Sprintf("%g × %g mm", p.Width, p.Height)
	if p.Name == "" || p.Name == "own" {
		return size
	}
	return p.Name + " (" + size + ")"
}
