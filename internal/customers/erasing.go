package customers

import (
	"fmt"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Person is somebody with all the customers they were taken for.
type Person struct {
	IDs   []uint64
	Names []string
}

// PersonOf is the person a customer is: they and whoever was merged into them.
func PersonOf(tx *gorm.DB, id uint64) (p Person, err error) {
	for next := []uint64{id}; len(next) > 0; {
		var found []Named
		if err := tx.Where("id IN ?", next).Find(&found).Error; err != nil {
			return p, fmt.Errorf("reading whom a customer was taken for: %w", err)
		}
		for _, c := range found {
			p.IDs, p.Names = append(p.IDs, c.ID), append(p.Names, c.Name)
		}
		if err := tx.Model(&Customer{}).Where("merged_into IN ?", next).Pluck("id", &next).Error; err != nil {
			return p, fmt.Errorf("reading who was merged: %w", err)
		}
	}
	return p, nil
}

// Under is what a customer is called whose data was erased.
func Under(id uint64) string { return fmt.Sprintf("Customer %d", id) }

// ToErase reads a customer whose data is to be erased.
func ToErase(tx *gorm.DB, id uint64, version int) (Customer, error) { return toChange(tx, id, version) }

// Erasure is that somebody's data was erased.
type Erasure struct {
	CustomerID uint64    `json:"customer" gorm:"primaryKey;autoIncrement:false"`
	At         time.Time `json:"at"`
}

// Erasures are whose data was erased.
func Erasures(tx *gorm.DB) (list []Erasure, err error) {
	if err := tx.Order("customer_id").Find(&list).Error; err != nil {
		return nil, fmt.Errorf("reading whose data was erased: %w", err)
	}
	return list, nil
}

// Erase takes everything out of a customer's row but its number. The row stays, since
// orders and invoices stand under it.
func Erase(tx *gorm.DB, id uint64, at time.Time) error {
	c, err := Load(tx, id)
	if problem.IsNotFound(err) {
		return nil
	}
	if err != nil {
		return err
	}
	c.CustomerForm = CustomerForm{Name: Under(id)}
	c.ErasedAt = &at
	if err := save(tx, &c); err != nil {
		return err
	}
	if err := tx.Model(&merge{}).Where("from_id = ? OR into_id = ?", id, id).Update("was", "{}").Error; err != nil {
		return fmt.Errorf("erasing how a customer was: %w", err)
	}
	columns := []string{"name", "email", "phone", "other_way", "likes", "note", "told_by", "called", "lines"}
	if err := database.Redact(tx, "customers", []uint64{id}, Under(id), columns...); err != nil {
		return err
	}
	if err := tx.Save(&Erasure{id, at}).Error; err != nil {
		return fmt.Errorf("noting an erasure: %w", err)
	}
	return nil
}
