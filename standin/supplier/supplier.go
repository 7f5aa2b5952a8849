// Package supplier is a small simulated parts supplier that ships with the product: it
// knows what it can deliver, for how much and when, and answers the same every time. Ask is
// its door; a real supplier's bridge answers the same two questions.
package supplier

import "hash/fnv"

// Offer is what the supplier says of a part.
type Offer struct {
	CostCents int64
	LeadDays  int
	Note      string
}

// basis are what parts of a kind cost, in cents, and how long they take, in days.
var basis = map[string]struct {
	cents int64
	days  int
}{
	"valve": {2400, 5}, "guide": {1100, 3}, "liner": {700, 2}, "insert": {1500, 4}, "spring": {780, 6}, "spring shim": {40, 2}, "keepers": {130, 2}, "rotator": {2100, 9},
	"bucket": {2600, 7}, "rocker": {4400, 10}, "seal": {90, 2}, "gasket": {5200, 3}, "lash shim": {260, 4}, "pushrod": {1900, 8}, "thread insert": {350, 1}, "core plug": {240, 2},
	"exchange head": {98000, 8}, "used head": {42000, 5},
}

// Ask returns what a part of a kind and name costs and how long it takes. ok is false for a
// kind the supplier does not know.
func Ask(kind, name string) (o Offer, ok bool) {
	b, ok := basis[kind]
	if !ok {
		return o, false
	}
	h := fnv.New32a()
	_, _ = h.Write([]byte(name))
	n := int64(h.Sum32() % 100)
	o = Offer{CostCents: b.cents * (90 + n/5) / 100, LeadDays: b.days + int(n%3)}
	if n < 12 {
		o.LeadDays += 7
		o.Note = "back-ordered"
	}
	return o, true
}
