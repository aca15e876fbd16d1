package demo

import (
	"context"

	"tidykiln/internal/customers"
)

// known are customers of whom more is known than their name.
var known = []customers.CustomerForm{
	{Name: "Ferry kiosk", Phone: "0155 2040", Email: "kiosk@ferry.example", Likes: "medium base, satin", Note: "Opens at eight; leave it with whoever sells the tickets.",
		Addresses: []customers.CustomerAddress{{Called: "kiosk", Lines: "Ferry kiosk\n1 Landing Stage\nLower Quay"}}},
	{Name: "Withy Rowing Club", Phone: "0155 3117", Email: "quartermaster@withy-rowing.example", Likes: "light base, matt",
		Addresses: []customers.CustomerAddress{
			{Called: "boathouse", Lines: "Withy Rowing Club\n4 Weir Lane\nLower Quay"},
			{Called: "invoices", Lines: "Withy Rowing Club, the treasurer\n22 Osier Row\nUpper Quay"}}},
	{Name: "Regatta office", Email: "office@regatta.example", Note: "Asks for everything twice; send the proof first."},
	{Name: "Lock-keepers’ choir", OtherWay: "after practice, Thursdays at the lock-house"},
	{Name: "Oar & Anchor tea-room", Phone: "0155 2988", Likes: "white slate pencils, nothing glossy"},
	{Name: "Scullers’ guild", Email: "guild@scullers.example", Phone: "0155 3117"},
}

// tellCustomersMore says how customers are reached and what they like.
func (s *studio) tellCustomersMore(ctx context.Context) error {
	list, err := s.rooms.Customers.List(ctx, "", 1)
	if err != nil {
		return err
	}
	ids := map[string]uint64{}
	for _, row := range list.Rows {
		ids[row.Name] = row.ID
	}
	for _, form := range known {
		if _, err := s.rooms.Customers.Change(ctx, ids[form.Name], customers.CustomerChange{CustomerForm: form, Version: 1}); err != nil {
			return err
		}
	}
	return nil
}
