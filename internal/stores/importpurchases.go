package stores

import (
	"context"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/internal/document"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

// purchaseColumns are the header of a table of purchases (docs/formats.md).
func purchaseColumns() document.Columns {
	return document.Columns{
		Known:  []string{"receipt", "supplier", "received_on", "material", "packs", "pack", "price", "shipping", "tax", "rejects", "note"},
		Needed: []string{"supplier", "received_on", "material", "pack", "price"},
	}
}

// purchaseField is the column that a field of a receipt is read from.
var purchaseField = map[string]string{"supplier": "supplier", "receivedOn": "received_on", "shipping": "shipping", "tax": "tax", "note": "note",
	"materialId": "material", "packs": "packs", "pack": "pack", "price": "price", "rejects": "rejects"}

// ImportPurchases takes a table of purchases in. Receipts that are in the
// stores already, just so, are left out, so that a file can be taken in again.
func (a *Area) ImportPurchases(ctx context.Context, r io.Reader, o Importing) (Import, error) {
	return a.takeIn(ctx, r, purchaseColumns(), o, func(tx *gorm.DB, imp *Import, f file) (func() error, error) {
		groups := imp.group(f)
		reading, err := a.readerOf(tx, f)
		if err != nil {
			return nil, err
		}
		var deliveries []delivery
		done := 0
		for _, g := range groups {
			for range g {
				done++
				o.told("checking", done, len(f.rows))
			}
			d, err := reading.receipt(imp, g)
			if err != nil {
				return nil, err
			}
			if d != nil {
				deliveries = append(deliveries, *d)
			}
		}
		return func() error {
			return enter(tx, deliveries, func(through int) { o.Tell(Progress{"saving", through, len(f.rows)}) })
		}, nil
	})
}

// group gathers the rows of each receipt: those of the same label, or one alone without a label.
func (imp *Import) group(f file) (groups [][]document.Row) {
	at := map[string]int{}
	for _, row := range f.rows {
		label := row.Text("receipt")
		i, begun := at[label]
		if label == "" || !begun {
			i = len(groups)
			at[label] = i
			groups = append(groups, nil)
		}
		groups[i] = append(groups[i], row)
	}
	return groups
}

// receiptReader reads receipts from rows against what the stores know.
type receiptReader struct {
	file
	form      form
	workshop  workshop.Workshop
	now       time.Time
	materials shelved
	byID      map[uint64]Material
	// entered counts the receipts that are in the stores, by what is in them.
	entered map[string]int
}

func (a *Area) readerOf(tx *gorm.DB, f file) (r receiptReader, err error) {
	r = receiptReader{file: f, form: formOf[NewReceipt](), now: a.now(), byID: map[uint64]Material{}}
	if r.workshop, err = workshop.Load(tx); err != nil {
		return r, err
	}
	var all []Material
	if err := tx.Order("id").Find(&all).Error; err != nil {
		return r, fmt.Errorf("reading the materials: %w", err)
	}
	r.materials = shelve(all)
	for _, m := range all {
		r.byID[m.ID] = m
	}
	entered, err := standingReceipts(tx)
	if err != nil {
		return r, err
	}
	r.entered = map[string]int{}
	for _, d := range entered {
		r.entered[d.signature()]++
	}
	return r, nil
}

func (r receiptReader) find(id uint64) (Material, error) {
	m, known := r.byID[id]
	if !known {
		return m, problem.NotFound("material")
	}
	return m, nil
}

// receipt reads the rows of one receipt; nil when one is at fault, or it is in the stores already.
func (r receiptReader) receipt(imp *Import, rows []document.Row) (*delivery, error) {
	before := imp.Wrong
	fields := r.head(imp, rows)
	lines := make([]any, len(rows))
	for i, row := range rows {
		lines[i] = r.line(imp, row)
	}
	fields["lines"] = lines
	if imp.Wrong > before {
		return nil, nil
	}
	var in NewReceipt
	faults, err := r.form.fill(fields, &in)
	if err != nil {
		return nil, err
	}
	if len(faults) == 0 {
		d, err := in.read(r.workshop, r.now, r.find)
		if err == nil {
			return r.unless(imp, rows[0], d), nil
		}
		var refused *problem.Problem
		if !errors.As(err, &refused) {
			return nil, err
		}
		faults = refused.Errors
	}
	for _, fault := range faults {
		row, column := placeOf(fault.Location, rows)
		imp.fault(row.Line, column, fault.Message)
	}
	return nil, nil
}

// unless is the delivery unless it is in the stores already.
func (r receiptReader) unless(imp *Import, first document.Row, d delivery) *delivery {
	if r.entered[d.signature()] > 0 {
		r.entered[d.signature()]--
		imp.Same++
		return nil
	}
	paid := d.Shipping.Add(d.Tax)
	for _, p := range d.purchases {
		paid = paid.Add(p.Price)
		if m := r.byID[p.MaterialID]; m.ArchivedAt != nil {
			imp.fault(first.Line, "material", m.Name+" was taken out of the stores")
			return nil
		}
	}
	goods := strconv.Itoa(len(d.purchases)) + " materials"
	if len(d.purchases) == 1 {
		goods = r.byID[d.purchases[0].MaterialID].Name
	}
	imp.act(first.Line, true, d.supplier, fmt.Sprintf("%s, %s: %s", r.workshop.Habit.DateAndYear(d.ReceivedOn.At(0, time.UTC)), goods, r.workshop.Money(paid)))
	return &d
}

// head reads what the rows say of their receipt; a row may leave it empty after the first that says it.
func (r receiptReader) head(imp *Import, rows []document.Row) map[string]any {
	fields := map[string]any{}
	for _, field := range []string{"supplier", "receivedOn", "shipping", "tax", "note"} {
		column, said := purchaseField[field], ""
		for _, row := range rows {
			text, ok := r.cell(imp, row, column)
			switch {
			case !ok || text == "":
			case said == "":
				said = text
			case said != text:
				imp.fault(row.Line, column, fmt.Sprintf("the same receipt says %s before", said))
			}
		}
		if said != "" || field == "supplier" || field == "receivedOn" {
			fields[field] = said
		}
	}
	return fields
}

func (r receiptReader) line(imp *Import, row document.Row) map[string]any {
	line := map[string]any{"packs": 1.0}
	if m := r.materials.meant(row.Text("material")); m != nil {
		line["materialId"] = float64(m.ID)
	} else {
		imp.fault(row.Line, "material", fmt.Sprintf("no material in the stores has the key or the name %q", row.Text("material")))
	}
	line["pack"] = row.Text("pack")
	if text, ok := r.cell(imp, row, "price"); ok {
		line["price"] = text
	}
	for _, column := range []string{"packs", "rejects"} {
		text, ok := r.cell(imp, row, column)
		if !ok || text == "" {
			continue
		}
		n, err := strconv.ParseFloat(text, 64)
		if err != nil {
			imp.fault(row.Line, column, "this is beyond what a number can be here")
		}
		line[column] = n
	}
	return line
}

// cell reads a cell: an amount with its decimal point, a date as the calendar writes it, or text.
func (r receiptReader) cell(imp *Import, row document.Row, column string) (text string, ok bool) {
	text = row.Text(column)
	var err error
	switch column {
	case "shipping", "tax", "price", "packs", "rejects":
		text, err = r.Number(row, column)
	case "received_on":
		text, err = dateIn(row)
	}
	if err != nil {
		imp.fault(row.Line, column, faultIn(err))
	}
	return text, err == nil
}

var dayFirst = regexp.MustCompile(`^(\d{1,2})\.(\d{1,2})\.(\d{4})$`)

// dateIn reads 2027-05-03, or 3.5.2027; with slashes nobody knows which is the month.
func dateIn(row document.Row) (string, error) {
	text := row.Text("received_on")
	if m := dayFirst.FindStringSubmatch(text); m != nil {
		text = fmt.Sprintf("%s-%02s-%02s", m[3], m[2], m[1])
	}
	if text == "" {
		return "", nil
	}
	if _, err := time.Parse(time.DateOnly, text); err != nil {
		return "", &document.Fault{Line: row.Line, Column: "received_on", Message: "a date such as 2027-05-03 or 3.5.2027"}
	}
	return text, nil
}

var lineAt = regexp.MustCompile(`^lines\[(\d+)\]\.?(\w*)`)

// placeOf is the row and column that a field of a receipt was read from.
func placeOf(location string, rows []document.Row) (document.Row, string) {
	location = strings.TrimPrefix(location, "body.")
	if m := lineAt.FindStringSubmatch(location); m != nil {
		if i, err := strconv.Atoi(m[1]); err == nil && i < len(rows) {
			return rows[i], purchaseField[m[2]]
		}
	}
	return rows[0], purchaseField[location]
}

// standingReceipts reads all receipts that were not taken back, with their purchases.
func standingReceipts(tx *gorm.DB) (deliveries []delivery, err error) {
	var receipts []struct {
		Receipt
		Supplier string
	}
	err = tx.Table("receipts").Select("receipts.*, suppliers.name AS supplier").Joins("JOIN suppliers ON suppliers.id = receipts.supplier_id").
		Where("reversed_at IS NULL").Order("received_on, receipts.id").Scan(&receipts).Error
	if err != nil {
		return nil, fmt.Errorf("reading the receipts: %w", err)
	}
	var purchases []Purchase
	err = tx.Joins("JOIN receipts ON receipts.id = purchases.receipt_id AND receipts.reversed_at IS NULL").Order("purchases.id").Find(&purchases).Error
	if err != nil {
		return nil, fmt.Errorf("reading what was bought: %w", err)
	}
	of := map[uint64][]Purchase{}
	for _, p := range purchases {
		of[*p.ReceiptID] = append(of[*p.ReceiptID], p)
	}
	for _, r := range receipts {
		deliveries = append(deliveries, delivery{r.Receipt, r.Supplier, of[r.ID]})
	}
	return deliveries, nil
}

// signature tells receipts apart by what is in them.
func (d delivery) signature() string {
	lines := make([]string, len(d.purchases))
	for i, p := range d.purchases {
		lines[i] = fmt.Sprintf("%d %s %s", p.MaterialID, p.Quantity.Add(p.Rejects), p.Price)
	}
	slices.Sort(lines)
	return strings.Join(append(lines, strings.ToLower(d.supplier), string(d.ReceivedOn), d.Shipping.String(), d.Tax.String()), "\n")
}

// packRead is a pack as a file says it, so that it is read again as what came.
func (p Purchase) packRead(m Material) string {
	each := p.Quantity.Add(p.Rejects).DivRound(decimal.NewFromInt(int64(p.Packs)), 6)
	if read, err := m.pack("pack", p.Pack); err == nil && read.Equal(each) {
		return p.Pack
	}
	if each.Equal(each.Round(2)) {
		return quantity(each, m.Unit)
	}
	return each.String() + " " + string(m.Unit)
}
