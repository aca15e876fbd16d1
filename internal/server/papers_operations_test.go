package server_test

import (
	"fmt"
	"strings"
)

// soundOfPapers is a body that an operation about papers, or what came back, takes; nil for
// the others.
func (s studio) soundOfPapers(o operation) any {
	sheet := func() map[string]any {
		return map[string]any{"name": "words", "pageWidth": 210, "pageHeight": 297, "columns": 2, "rows": 4, "labelWidth": 90, "labelHeight": 50, "marginLeft": 5, "marginTop": 5, "gapX": 1, "gapY": 1}
	}
	switch o.ID {
	case "change-letterhead":
		return map[string]any{"seller": "words", "foot": "words", "daysToPay": 14, "yearsKept": 10, "firstNumber": 1, "version": s.read("/api/letterhead", "version")}
	case "change-message-template":
		return map[string]any{"kind": "thanks", "subject": "words", "body": "words for {customer}", "version": s.read("/api/message-templates", "templates", 5, "version")}
	case "issue-paper":
		return map[string]any{"kind": "packing_slip", "to": "words", "note": "words"}
	case "credit-invoice":
		return map[string]any{"whole": true, "reason": "words"}
	case "add-label-sheet":
		return sheet()
	case "change-label-sheet":
		form := sheet()
		form["version"] = s.read("/api/label-sheets", 0, "version")
		return form
	case "remove-label-sheet":
		return map[string]any{"version": 1}
	case "return-pieces":
		return map[string]any{"pieces": []any{map[string]any{"wantId": s.read("/api/orders/1", "lines", 0, "pieces", 0, "wantId"), "goes": "stays"}}, "cause": "ring", "amount": "0", "note": "words", "version": s.read("/api/orders/1", "version")}
	}
	return nil
}

// thingOfPapers is what an operation about papers, or what came back, speaks of; nil for the
// others. Order 1 of the demo was handed over.
func (s studio) thingOfPapers(o operation) any {
	switch {
	case o.ID == "return-pieces":
		return 1
	case o.ID == "credit-invoice":
		papers := fmt.Sprintf("/api/orders/%v/papers", s.openRow("/api/orders"))
		ask(s.h, "POST", papers, `{"kind":"invoice"}`)
		return s.read(papers, "standsId")
	case strings.HasPrefix(o.path, "/api/returns/"):
		ask(s.h, "POST", "/api/orders/1/returns", fmt.Sprintf(`{"pieces":[{"wantId":%v,"goes":"stays"}],"amount":"0","version":%v}`, s.read("/api/orders/1", "lines", 0, "pieces", 0, "wantId"), s.read("/api/orders/1", "version")))
		returns, _ := s.read("/api/orders/1/money", "returns").([]any)
		return within(returns[len(returns)-1], "id")
	case o.ID == "remove-label-sheet":
		return s.made("/api/label-sheets", `{"name":"To go","pageWidth":210,"pageHeight":297,"columns":2,"rows":4,"labelWidth":90,"labelHeight":50,"marginLeft":5,"marginTop":5,"gapX":1,"gapY":1}`)
	case strings.HasPrefix(o.path, "/api/label-sheets/"):
		return s.read("/api/label-sheets", 0, "id")
	}
	return nil
}
