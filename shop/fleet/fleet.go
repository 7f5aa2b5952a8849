// Package fleet is what a customer's machines have come to: their visits, what is due and wears, what came
// back, and money. Of is its door; a customer sees it by a link.
package fleet

import (
	"cmp"
	"context"
	"crypto/rand"
	"slices"
	"time"

	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/customers"
	"yatai/shop/following"
	"yatai/store"
)

// Bounds of what is looked at.
const (
	mostFollowed = 12 // heads whose wear is worked out, the newest first
	mostWears    = 3  // figures of one machine
	linkDays     = 365
)

// Fleet is a customer's machines. Sums are cents with tax.
type Fleet struct {
	Customer store.Customer
	At       time.Time
	Machines []Machine // that with the newest visit first
	Visits   int
	Here     int // heads in the shop
	Back     int // visits because earlier work did not hold
	Approved int64
	Billed   int64
	Paid     int64
	Currency string
	Unlooked int // heads that were here before and are not looked at, to be quick
}

// Open is what is still to be paid; less than nothing where more was paid than is billed.
func (f Fleet) Open() int64 { return f.Billed - f.Paid }

// Cash writes a sum with its currency.
func (f Fleet) Cash(cents int64) string { return shop.Cash(cents) + " " + f.Currency }

// Goes says to a customer how what wears is reckoned.
func (Fleet) Goes() words.Text {
	return words.Of("What wears goes on from what the head left with, at the rate of its visits. Hard work ends it sooner.")
}

// Machine is one of them.
type Machine struct {
	store.Machine
	Visits   []Visit // the newest first
	Back     int
	Approved int64
	Due      []customers.Due
	Wears    []Wear // what is past its limit soonest first, of heads that have left
}

// Ran is how long it had run when a head of it came last, in words; empty where nobody said.
func (m Machine) Ran() string {
	for _, v := range m.Visits {
		if ran := v.Job.Ran(); ran != "" {
			return ran
		}
	}
	return ""
}

// Visit is a head that came, with the causes that were confirmed.
type Visit struct {
	customers.Head
	Causes []string
}

// Back tells whether it came because earlier work did not hold.
func (v Visit) Back() bool { return v.Job.Comeback() }

// Wear is a figure of a head that has left, with how long it lasts.
type Wear struct {
	Tag string
	shop.Last
}

// When says when it is past its limit.
func (w Wear) When() words.Text { return following.Until(w.Last) }

// Of returns a customer's machines.
func Of(ctx context.Context, s *shop.Shop, id uint) (Fleet, error) {
	p, err := customers.Open(ctx, s, id)
	if err != nil {
		return Fleet{}, err
	}
	f := Fleet{
		Customer: p.Customer, At: s.Now(), Visits: len(p.Heads), Here: p.Open, Approved: p.Cents,
	}
	db := s.Store.Read(ctx)
	causes, err := confirmed(db, p.HeadIDs())
	if err != nil {
		return f, err
	}
	for _, m := range p.Machines {
		f.Machines = append(f.Machines, machine(m.Machine, p, causes))
	}
	for _, m := range f.Machines {
		f.Back += m.Back
	}
	slices.SortStableFunc(f.Machines, func(a, b Machine) int { return b.newest().Compare(a.newest()) })
	if err := f.follow(ctx, s); err != nil {
		return f, err
	}
	return f, f.money(db, p.HeadIDs())
}

// confirmed are the names of the causes that were confirmed last, by head.
func confirmed(db store.DB, heads []uint) (map[uint][]string, error) {
	calls, err := db.CauseCalls(heads...)
	out := map[uint][]string{}
	for _, c := range calls {
		name := c.Cause
		if known := trade.CauseNamed(c.Cause); known != nil {
			name = known.Name
		}
		out[c.HeadID] = slices.DeleteFunc(out[c.HeadID], func(n string) bool { return n == name })
		if c.State == "confirmed" {
			out[c.HeadID] = append(out[c.HeadID], name)
		}
	}
	return out, err
}

// machine is one of a customer's machines, with what the customer's page knows of it.
func machine(of store.Machine, p customers.Page, causes map[uint][]string) Machine {
	m := Machine{Machine: of}
	for _, h := range p.Heads {
		if h.Job.MachineID != of.ID {
			continue
		}
		v := Visit{h, causes[h.ID]}
		m.Visits = append(m.Visits, v)
		m.Approved += h.Cents
		if v.Back() {
			m.Back++
		}
	}
	slices.SortStableFunc(m.Visits, func(a, b Visit) int { return b.CreatedAt.Compare(a.CreatedAt) })
	for _, d := range p.Due {
		if slices.ContainsFunc(m.Visits, func(v Visit) bool { return v.ID == d.HeadID }) {
			m.Due = append(m.Due, d)
		}
	}
	return m
}

func (m Machine) newest() time.Time {
	if len(m.Visits) == 0 {
		return time.Time{}
	}
	return m.Visits[0].CreatedAt
}

// follow works out what wears of heads that came more than once and have left: the newest visit of each.
func (f *Fleet) follow(ctx context.Context, s *shop.Shop) error {
	var heads []store.Head
	for _, m := range f.Machines {
		for _, v := range m.Visits {
			later := slices.ContainsFunc(m.Visits, func(o Visit) bool { return o.Earlier == v.Tag })
			if v.Earlier != "" && v.HandedOverAt != nil && !later {
				heads = append(heads, v.Head.Head)
			}
		}
	}
	f.Unlooked = max(0, len(heads)-mostFollowed)
	lasts, err := following.Lasts(ctx, s, heads[:len(heads)-f.Unlooked])
	if err != nil {
		return err
	}
	for i := range f.Machines {
		m := &f.Machines[i]
		for _, v := range m.Visits {
			for _, x := range lasts[v.Tag] {
				m.Wears = append(m.Wears, Wear{v.Tag, x})
			}
		}
		slices.SortStableFunc(m.Wears, func(a, b Wear) int { return cmp.Compare(a.Early, b.Early) })
		m.Wears = m.Wears[:min(mostWears, len(m.Wears))]
	}
	return nil
}

// money adds up what was billed and paid.
func (f *Fleet) money(db store.DB, heads []uint) error {
	v, err := db.Settings()
	if err != nil {
		return err
	}
	f.Currency = shop.SettingsFor(v, "").Get("currency")
	bills, err := db.Bills(heads...)
	if err != nil {
		return err
	}
	for _, b := range bills {
		f.Billed += b.Gross()
	}
	payments, err := db.Payments(heads...)
	for _, p := range payments {
		f.Paid += p.Cents
	}
	return err
}

// Link makes the link by which a customer sees their machines, in place of any before, and returns its token.
func Link(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, id uint,
) (token string, err error) {
	if err := a.Must("quote"); err != nil {
		return "", err
	}
	return s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		if _, err := tx.Customer(id); err != nil {
			return "", err
		}
		token, until := rand.Text(), s.Now().AddDate(0, 0, linkDays)
		if err := tx.SetFleetLink(id, shop.HashToken(token), &until); err != nil {
			return "", err
		}
		return token, s.NoteAbout(tx, a, shop.About(shop.OfCustomer, id), "link to their machines made",
			"until "+until.Format(time.DateOnly))
	})
}

// EndLink ends it.
func EndLink(ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, id uint) error {
	if err := a.Must("quote"); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		if err := tx.SetFleetLink(id, "", nil); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfCustomer, id), "link to their machines ended", "")
	})
	return err
}

// ByLink returns the machines that a link leads to: ErrNotFound where it is not known or has ended.
func ByLink(ctx context.Context, s *shop.Shop, token string) (Fleet, error) {
	c, err := s.Store.Read(ctx).CustomerByFleet(shop.HashToken(token))
	if err != nil {
		return Fleet{}, err
	}
	if c.FleetUntil == nil || s.Now().After(*c.FleetUntil) {
		return Fleet{}, shop.ErrNotFound
	}
	return Of(ctx, s, c.ID)
}
