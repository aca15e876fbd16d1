package customers

import (
	"errors"
	"fmt"
	"strings"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// Load reads a customer with their addresses, also one who was merged or erased.
func Load(tx *gorm.DB, id uint64) (c Customer, err error) {
	byPosition := func(tx *gorm.DB) *gorm.DB { return tx.Order("position") }
	err = tx.Preload("Addresses", byPosition).First(&c, id).Error
	return c, problem.OrNotFound(err, "customer")
}

// EmailOf is a customer's e-mail address; empty where none is known.
func EmailOf(tx *gorm.DB, id uint64) (email string, err error) {
	if err := tx.Model(&Customer{}).Where("id = ?", id).Pluck("email", &email).Error; err != nil {
		return "", fmt.Errorf("reading how a customer is reached: %w", err)
	}
	return email, nil
}

// whole is a customer with who may be the same.
func whole(tx *gorm.DB, id uint64) (c Customer, err error) {
	if c, err = Load(tx, id); err != nil {
		return c, err
	}
	c.Alike = []Named{}
	err = there(tx).Where("id <> ? AND (email <> '' AND email = ? OR phone <> '' AND phone = ?)", id, c.Email, c.Phone).Order("name").Limit(5).Find(&c.Alike).Error
	if err != nil {
		return c, fmt.Errorf("looking for who may be the same: %w", err)
	}
	return c, nil
}

// there are the customers who are neither merged nor erased.
func there(tx *gorm.DB) *gorm.DB { return tx.Where("told_by IS NOT NULL") }

// Called is the customer of a name, or the one into whom one of that name was merged;
// they are added where nobody bears it yet.
func Called(tx *gorm.DB, name string) (n Named, err error) {
	if err := tx.Where("told_by = ?", name).Limit(1).Find(&n).Error; err != nil {
		return n, fmt.Errorf("looking for the customer: %w", err)
	}
	if n.ID == 0 {
		n, err = mergedAs(tx, name)
	}
	if err != nil || n.ID != 0 {
		return n, err
	}
	c := Customer{CustomerForm: CustomerForm{Name: name}, Version: 1}
	err = create(tx, &c)
	return Named{c.ID, name}, err
}

// mergedAs is whom the last customer of a name was merged into; nobody where none was.
func mergedAs(tx *gorm.DB, name string) (n Named, err error) {
	var c Customer
	if err := tx.Where("name = ? AND merged_into IS NOT NULL AND erased_at IS NULL", name).Order("id DESC").Limit(1).Find(&c).Error; err != nil {
		return n, fmt.Errorf("looking for who was merged: %w", err)
	}
	for c.MergedInto != nil {
		next := Customer{}
		if err := tx.First(&next, *c.MergedInto).Error; err != nil {
			return n, fmt.Errorf("reading into whom somebody was merged: %w", err)
		}
		c, n = next, Named{next.ID, next.Name}
	}
	return n, nil
}

func create(tx *gorm.DB, c *Customer) error {
	if err := tx.Create(c).Error; err != nil {
		return taken(err)
	}
	return nil
}

// save writes a customer as they are to be, and moves their version on.
func save(tx *gorm.DB, c *Customer) error {
	c.Version++
	if err := tx.Omit("Addresses").Select("*").Updates(c).Error; err != nil {
		return taken(err)
	}
	return saveAddresses(tx, *c)
}

// saveAddresses makes a customer's addresses those given. They are made anew: nothing
// else names them.
func saveAddresses(tx *gorm.DB, c Customer) error {
	if err := tx.Where("customer_id = ?", c.ID).Delete(&CustomerAddress{}).Error; err != nil {
		return fmt.Errorf("replacing the addresses: %w", err)
	}
	if len(c.Addresses) == 0 {
		return nil
	}
	fresh := make([]CustomerAddress, len(c.Addresses))
	for i, a := range c.Addresses {
		fresh[i] = CustomerAddress{CustomerID: c.ID, Position: i, Called: a.Called, Lines: a.Lines}
	}
	if err := tx.Create(&fresh).Error; err != nil {
		return fmt.Errorf("saving the addresses: %w", err)
	}
	return nil
}

// taken says beside the name that somebody bears it already.
func taken(err error) error {
	if errors.Is(err, gorm.ErrDuplicatedKey) {
		return problem.Invalid("name", "there is a customer of this name; add something that tells them apart")
	}
	return fmt.Errorf("saving the customer: %w", err)
}

// find is a page of the customers in whom every word is found, and how many there are in all.
func find(tx *gorm.DB, words []string, page int) (found []Customer, all int, err error) {
	q := there(tx.Model(&Customer{}))
	for _, word := range words {
		like := database.Containing(word)
		q = q.Where("(name LIKE @w OR email LIKE @w OR phone LIKE @w OR other_way LIKE @w OR likes LIKE @w OR note LIKE @w OR EXISTS (SELECT 1 FROM customer_addresses a WHERE a.customer_id = customers.id AND (a.`lines` LIKE @w OR a.called LIKE @w)))",
			map[string]any{"w": like})
	}
	q = q.Session(&gorm.Session{})
	var n int64
	if err := q.Count(&n).Error; err != nil {
		return nil, 0, fmt.Errorf("counting customers: %w", err)
	}
	if err := q.Order("name, id").Offset((page - 1) * onPage).Limit(onPage).Find(&found).Error; err != nil {
		return nil, 0, fmt.Errorf("reading customers: %w", err)
	}
	return found, int(n), nil
}

// Find looks for customers in whom every word of a text is found.
func Find(tx *gorm.DB, text string, most int) (found []wire.Found, err error) {
	list, _, err := find(tx, strings.Fields(text), 1)
	for _, c := range list[:min(most, len(list))] {
		found = append(found, wire.Found{Kind: "customer", ID: c.ID, Title: c.Name, Detail: c.reach()})
	}
	return found, err
}

// namesLike are names that contain a text, at most twelve.
func namesLike(tx *gorm.DB, text string) ([]string, error) {
	names := []string{}
	err := tx.Model(&Customer{}).Where("told_by LIKE ?", database.Containing(text)).Order("name").Limit(12).Pluck("name", &names).Error
	if err != nil {
		return nil, fmt.Errorf("looking for customers: %w", err)
	}
	return names, nil
}

// NameOf is the name of the customer whom an SQL expression numbers, as one.
func NameOf(id string) string { return "(SELECT name FROM customers WHERE id = " + id + ")" }
