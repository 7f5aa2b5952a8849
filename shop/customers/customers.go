// Package customers is whom the shop works for: customers and their machines, their heads, what
// they owe an answer to, and two that turn out to be one.
package customers

import (
	"context"
	"errors"
	"net/mail"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Row is a customer in the list.
type Row struct {
	store.Customer
	Machines int
}

// List returns the customers whose name, place or mail holds text, or whose telephone has its digits, by
// name.
func List(ctx context.Context, s *shop.Shop, text string) ([]Row, error) {
	db := s.Store.Read(ctx)
	all, err := db.Customers()
	if err != nil {
		return nil, err
	}
	machines, err := db.AllMachines()
	if err != nil {
		return nil, err
	}
	count := map[uint]int{}
	for _, m := range machines {
		count[m.CustomerID]++
	}
	text = strings.ToLower(strings.TrimSpace(text))
	var out []Row
	for _, c := range all {
		kept := strings.Join([]string{c.Name, c.Contact, c.Address, c.Telephone, c.Email}, " ")
		if strings.Contains(strings.ToLower(kept), text) || shop.HasTelephone(c.Telephone, text) ||
			shop.HasTelephone(c.Contact, text) {
			out = append(out, Row{c, count[c.ID]})
		}
	}
	return out, nil
}

// Page is everything about a customer.
type Page struct {
	store.Customer
	Machines []Machine
	Heads    []Head
	Open     int   // heads in the shop
	Cents    int64 // approved in all, with tax
	Waiting  int   // quotes that wait for an answer
	Due      []Due // what is to be done about heads that have left
	Old      []store.OldJob
}

// HeadIDs are the ids of the heads on it.
func (p Page) HeadIDs() (ids []uint) {
	for _, h := range p.Heads {
		ids = append(ids, h.ID)
	}
	return ids
}

// Due is a reminder with the head it is about.
type Due struct {
	store.Reminder
	Tag string
}

// Machine is a machine with its heads.
type Machine struct {
	store.Machine
	Heads int
}

// Head is a head of the customer's, and what was approved for it.
type Head struct {
	store.Head
	Cents   int64
	Waiting bool
}

// lookedAt is what the history says of a person who opened a customer's page.
const lookedAt = "customer's page looked at"

// Looked notes who looks at what is kept of a customer: each person once a day, so that the history is not
// all of it. On a full disk the page is still read.
func Looked(ctx context.Context, s *shop.Shop, a shop.Actor, id uint) error {
	about, now := shop.About(shop.OfCustomer, id), s.Now().Local()
	today := time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, now.Location())
	noted, err := s.Store.Read(ctx).Noted(about, lookedAt, a.ID, today)
	if err != nil || noted {
		return err
	}
	err = s.Store.Write(ctx, func(tx store.DB) error { return s.NoteAbout(tx, a, about, lookedAt, "") })
	if errors.Is(err, store.ErrFull) {
		return nil
	}
	return err
}

// mostHeads bounds the heads on a customer's page.
const mostHeads = 200

// Open returns a customer's page.
func Open(ctx context.Context, s *shop.Shop, id uint) (Page, error) {
	db := s.Store.Read(ctx)
	c, err := db.Customer(id)
	if err != nil {
		return Page{}, err
	}
	p := Page{Customer: c}
	heads, err := db.HeadsOfCustomer(id, mostHeads)
	if err != nil {
		return p, err
	}
	machines, err := db.Machines(id)
	if err != nil {
		return p, err
	}
	for _, m := range machines {
		n := 0
		for _, h := range heads {
			if h.Job.MachineID == m.ID {
				n++
			}
		}
		p.Machines = append(p.Machines, Machine{m, n})
	}
	said, err := agreed(s, db, heads)
	if err != nil {
		return p, err
	}
	for _, h := range heads {
		if h.HandedOverAt == nil {
			p.Open++
		}
		if said[h.ID].Waiting {
			p.Waiting++
		}
		p.Cents += said[h.ID].Cents
		p.Heads = append(p.Heads, Head{h, said[h.ID].Cents, said[h.ID].Waiting})
	}
	due, err := db.RemindersOf(id)
	if err != nil {
		return p, err
	}
	for _, d := range due {
		i := slices.IndexFunc(heads, func(h store.Head) bool { return h.ID == d.HeadID })
		if i >= 0 {
			p.Due = append(p.Due, Due{d, heads[i].Tag})
		}
	}
	p.Old, err = db.OldJobsOf(id, mostHeads)
	return p, err
}

// MachinePage is everything about a machine: its heads, each with its hours and what it came for,
// what is due about them, and jobs of before the program.
type MachinePage struct {
	store.Machine
	Of    store.Customer
	Heads []Head
	Due   []Due
	Old   []store.OldJob
	Cents int64 // approved for it in all, with tax
}

// agreed is what was approved of each head, and which wait for an answer. It is kept as long as the quoting
// of a head goes no further.
func agreed(s *shop.Shop, db store.DB, heads []store.Head) (map[uint]shop.Agreed, error) {
	ids := make([]uint, len(heads))
	for i, h := range heads {
		ids[i] = h.ID
	}
	all, err := db.QuotingOf(ids)
	if err != nil {
		return nil, err
	}
	out := map[uint]shop.Agreed{}
	var ask []uint
	for _, q := range all {
		known, ok := s.Cache.Agreed.Get(q)
		if out[q.HeadID] = known; !ok {
			ask = append(ask, q.HeadID)
		}
	}
	if len(ask) == 0 {
		return out, nil
	}
	cents, waiting, err := headfile.ApprovedCents(db, ask)
	if err != nil {
		return nil, err
	}
	for _, q := range all {
		if slices.Contains(ask, q.HeadID) {
			out[q.HeadID] = shop.Agreed{Cents: cents[q.HeadID], Waiting: waiting[q.HeadID]}
			s.Cache.Agreed.Add(q, out[q.HeadID])
		}
	}
	return out, nil
}

// OpenMachine returns a machine's page, of a customer's.
func OpenMachine(ctx context.Context, s *shop.Shop, customer, machine uint) (MachinePage, error) {
	p, err := Open(ctx, s, customer)
	if err != nil {
		return MachinePage{}, err
	}
	i := slices.IndexFunc(p.Machines, func(m Machine) bool { return m.ID == machine })
	if i < 0 {
		return MachinePage{}, shop.ErrNotFound
	}
	m := MachinePage{Machine: p.Machines[i].Machine, Of: p.Customer}
	for _, h := range p.Heads {
		if h.Job.MachineID == machine {
			m.Heads = append(m.Heads, h)
			m.Cents += h.Cents
		}
	}
	for _, d := range p.Due {
		if slices.ContainsFunc(m.Heads, func(h Head) bool { return h.ID == d.HeadID }) {
			m.Due = append(m.Due, d)
		}
	}
	for _, o := range p.Old {
		if strings.EqualFold(o.OfMachine, m.Name) {
			m.Old = append(m.Old, o)
		}
	}
	return m, nil
}

// Form is a customer as typed. Discount is in percent, empty for the shop's; an empty weight or
// language stays what it is.
type Form struct {
	WriteID, Name, Contact, Address, Telephone, Email, Note, Discount, Weight, Language string

	Taxed   string // store.Exempt or store.Reverse; empty: they are charged tax
	NoTax   string // why they are charged none, in the words of a bill
	TaxNo   string
	Country string // two letters; empty: the shop's
	Prices  string // store.WithTax or store.BeforeTax; empty: as the shop's customers read them
}

// Read checks a form and puts it into a customer.
func (f Form) Read(c *store.Customer) error {
	errs := field.Errors{}
	c.Name = shop.Required(errs, "name", f.Name, "who is it?", 100)
	for _, x := range []struct {
		name, text string
		to         *string
		most       int
	}{
		{"contact", f.Contact, &c.Contact, 200}, {"address", f.Address, &c.Address, 400},
		{"telephone", f.Telephone, &c.Telephone, 60},
		{"email", f.Email, &c.Email, 200}, {"note", f.Note, &c.Note, 1000}, {"no_tax", f.NoTax, &c.NoTax, 200},
		{"tax_no", f.TaxNo, &c.TaxNo, 40},
	} {
		*x.to = shop.Optional(errs, x.name, x.text, x.most)
	}
	if c.Email != "" {
		if _, err := mail.ParseAddress(c.Email); err != nil {
			errs.Addf("email", "an address like name@example.org")
		}
	}
	if c.DiscountPPM = 0; strings.TrimSpace(f.Discount) != "" {
		cents, err := shop.ParseCents(f.Discount)
		if err == nil && cents > 100_00 {
			err = field.Errorf("", "between 0 and 100 percent")
		}
		errs.Add("discount", err)
		c.DiscountPPM = cents * 100
	}
	if w := strings.TrimSpace(f.Weight); w != "" {
		n, err := strconv.Atoi(w)
		if err != nil || n < 1 || n > mostWeight {
			errs.Addf("weight", "from 1 to %d", mostWeight)
		}
		c.Weight = n
	}
	f.readTax(errs, c)
	if f.Language != "" {
		if c.Language = words.In(f.Language).Code; c.Language != f.Language {
			errs.Addf("language", "choose one of the list")
		}
	}
	return errs.Err()
}

// readTax checks how a customer is taxed. Who owes the tax themselves is known by their tax number, and who
// is exempt is told why on each bill.
func (f Form) readTax(errs field.Errors, c *store.Customer) {
	c.Taxed, c.Prices, c.Country = f.Taxed, f.Prices, strings.ToUpper(strings.TrimSpace(f.Country))
	if !slices.Contains([]string{"", store.Exempt, store.Reverse}, c.Taxed) {
		errs.Addf("taxed", "choose one of the list")
	}
	if !slices.Contains([]string{"", store.BeforeTax, store.WithTax}, c.Prices) {
		errs.Addf("prices", "choose one of the list")
	}
	errs.Add("country", shop.Country(c.Country))
	switch {
	case c.Taxed == store.Exempt && c.NoTax == "":
		errs.Addf("no_tax", "a bill without tax has to say why")
	case c.Taxed == "" && c.NoTax != "":
		errs.Addf("taxed", "choose exempt or reverse charge, or leave the reason empty")
	case c.Taxed == store.Reverse && c.TaxNo == "":
		errs.Addf("tax_no", "who owes the tax themselves is known by their tax number")
	}
}

// mostWeight bounds how many times a day late can count.
const mostWeight = 9

// changes says what was changed of a customer.
func changes(was, is store.Customer) string {
	return shop.Changes(
		shop.Change{What: "name", Was: was.Name, Is: is.Name},
		shop.Change{What: "contact", Was: was.Contact, Is: is.Contact},
		shop.Change{What: "telephone", Was: was.Telephone, Is: is.Telephone},
		shop.Change{What: "mail", Was: was.Email, Is: is.Email},
		shop.Change{What: "address", Was: was.Address, Is: is.Address},
		shop.Change{What: "discount", Was: discount(was), Is: discount(is)},
		shop.Change{What: "tax", Was: was.Taxed, Is: is.Taxed},
		shop.Change{What: "no tax, because", Was: was.NoTax, Is: is.NoTax},
		shop.Change{What: "tax number", Was: was.TaxNo, Is: is.TaxNo},
		shop.Change{What: "country", Was: was.Country, Is: is.Country},
		shop.Change{What: "prices", Was: was.Prices, Is: is.Prices},
		shop.Change{What: "note", Was: was.Note, Is: is.Note},
		shop.Change{What: "a day late counts", Was: strconv.Itoa(was.Weight), Is: strconv.Itoa(is.Weight)},
		shop.Change{What: "language", Was: words.In(was.Language).Name, Is: words.In(is.Language).Name},
	)
}

// discount writes a customer's own discount in percent; "" for the shop's.
func discount(c store.Customer) string {
	if c.DiscountPPM == 0 {
		return ""
	}
	return shop.Cash(c.DiscountPPM/100) + " %"
}

// Change keeps what is known of a customer.
func Change(ctx context.Context, s *shop.Shop, a shop.Actor, id uint, f Form) error {
	if err := a.Must("take in a head"); err != nil {
		return err
	}
	_, err := s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		c, err := tx.Customer(id)
		if err != nil {
			return "", err
		}
		was := c
		if err := f.Read(&c); err != nil || c == was {
			return "", err
		}
		if err := tx.ChangeCustomer(c); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfCustomer, id), "customer changed",
			c.Name+": "+changes(was, c))
	})
	if store.IsDuplicate(err) {
		return field.Only("name", "somebody of that name is there already: merge the two below")
	}
	return err
}

// RenameMachine gives a customer's machine another name; the name of another one makes the two
// one.
func RenameMachine(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, customer, machine uint, name string,
) error {
	if err := a.Must("take in a head"); err != nil {
		return err
	}
	errs := field.Errors{}
	name = shop.Required(errs, "machine", name, "what is it called?", 100)
	if err := errs.Err(); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		all, err := tx.Machines(customer)
		if err != nil {
			return "", err
		}
		i := slices.IndexFunc(all, func(m store.Machine) bool { return m.ID == machine })
		if i < 0 {
			return "", shop.ErrNotFound
		}
		for _, m := range all {
			if m.ID != machine && strings.EqualFold(m.Name, name) {
				if err := tx.MergeMachine(machine, m.ID, customer); err != nil {
					return "", err
				}
				return "", s.NoteAbout(tx, a, shop.About(shop.OfCustomer, customer), "machines merged",
					all[i].Name+" > "+m.Name)
			}
		}
		if err := tx.RenameMachine(machine, name); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfCustomer, customer), "machine renamed",
			all[i].Name+" > "+name)
	})
	return err
}

// Merge makes two customers one: all of from, machines, heads and orders, is into's; from is no
// more.
func Merge(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, from uint, into string,
) (uint, error) {
	if err := a.Must("take in a head"); err != nil {
		return 0, err
	}
	var kept uint
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		c, err := tx.Customer(from)
		if err != nil {
			return "", err
		}
		to, err := tx.CustomerNamed(strings.TrimSpace(into))
		if err != nil || to.ID == from {
			return "", field.Only("into", "no other customer has this name")
		}
		kept = to.ID
		theirs, err := tx.Machines(to.ID)
		if err != nil {
			return "", err
		}
		ours, err := tx.Machines(from)
		if err != nil {
			return "", err
		}
		for _, m := range ours {
			i := slices.IndexFunc(theirs, func(x store.Machine) bool { return strings.EqualFold(x.Name, m.Name) })
			if i >= 0 {
				err = tx.MergeMachine(m.ID, theirs[i].ID, to.ID)
			} else {
				err = tx.GiveMachine(m.ID, to.ID)
			}
			if err != nil {
				return "", err
			}
		}
		if err := tx.GiveOldJobs(from, to.ID); err != nil {
			return "", err
		}
		if err := tx.RemoveCustomer(from); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfCustomer, to.ID), "customers merged", c.Name+" > "+to.Name)
	})
	return kept, err
}

// Since is how long a customer is one: from the first thing that is known of them.
func (p Page) Since() time.Time {
	first := p.CreatedAt
	for _, h := range p.Heads {
		if h.CreatedAt.Before(first) {
			first = h.CreatedAt
		}
	}
	return first
}

// DiscountText is the discount as it is typed, empty for the shop's.
func (p Page) DiscountText() string {
	if p.DiscountPPM == 0 {
		return ""
	}
	return shop.Cash(p.DiscountPPM / 100)
}
