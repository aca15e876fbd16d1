package server_test

import (
	"fmt"
)

// printJob is a sound request for sheets.
func (s studio) printJob() map[string]any {
	return map[string]any{"batchIds": []any{s.read("/api/print-jobs", 0, "batchIds", 0)}, "pieceIds": []any{}, "trimMm": 1, "cut": "none", "spare": false, "acceptWords": true, "shopSheet": "0.25",
		"paper": map[string]any{"name": "A3", "widthMm": 297, "heightMm": 420, "marginMm": 6, "gapMm": 2, "up": 1}}
}

// aDesign is a sound design of a round blank of 90 mm.
func aDesign() map[string]any {
	return map[string]any{"follows": "blank", "borderMm": 3, "widthMm": 60, "heightMm": 60, "seamMm": 0,
		"placing":   map[string]any{"fit": "fill", "zoom": 1, "turn": 0, "xMm": 0, "yMm": 0},
		"cleanUp":   map[string]any{"colours": "colour", "threshold": 128, "light": 0, "contrast": 0, "nearlyWhite": 0},
		"lettering": map[string]any{"text": "{name}", "face": "sans", "heightMm": 6, "leastMm": 3, "colour": "#101010", "lies": "along", "where": "below", "edgeMm": 4, "haloMm": 0},
		"hole":      map[string]any{"xMm": 45, "yMm": 8, "diameterMm": 4}}
}

// wantedBy is a piece that an order wants.
func (s studio) wantedBy(order string) any {
	return s.read("/api/orders/"+order, "lines", 0, "pieces", 0, "wantId")
}

// pictured is an order whose pieces have their customers' pictures; nil without one.
func (s studio) pictured() any {
	rows, _ := s.read("/api/orders").([]any)
	for _, row := range rows {
		id := within(row, "id")
		if own, _ := s.read(fmt.Sprint("/api/orders/", id), "lines", 0, "ownPictures").(bool); own {
			return id
		}
	}
	return nil
}

// likeLots are next steps of lots that can be taken up together.
func (s studio) likeLots() (lots []any) {
	ready, _ := s.read("/api/today", "ready").([]any)
	var most []any
	for _, sitting := range ready {
		if like, _ := within(sitting, "lots").([]any); len(like) > len(most) {
			most = like
		}
	}
	for _, lot := range most {
		lots = append(lots, map[string]any{"lotId": within(lot, "lotId"), "step": within(lot, "step")})
	}
	return lots
}

// sitting is one in hand; where there is none, some like lots are taken up.
func (s studio) sitting() any {
	for again := range 2 {
		inHand, _ := s.read("/api/today", "inHand").([]any)
		for _, work := range inHand {
			if within(work, "sittingId") != nil {
				return work
			}
		}
		if again == 0 {
			ask(s.h, "POST", "/api/sittings", inJSON(map[string]any{"personId": 1, "lots": s.likeLots(), "acceptRisk": true}))
		}
	}
	return nil
}
