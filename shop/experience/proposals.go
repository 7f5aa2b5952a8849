package experience

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"
	"strconv"
	"time"

	"yatai/core/head"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/following"
	"yatai/shop/library"
	"yatai/shop/week"
	"yatai/store"
)

// fewest is how many heads, times or places speak before anything is proposed: trade practice.
const fewest = 20

// Kinds of proposals.
const (
	Minutes = "minutes" // of an operation
	Least   = "least"   // of an item of the stock
	Near    = "near"    // zone of a limit
)

// Proposal is something the owner may change by what the shop has learnt.
type Proposal struct {
	Key     string // what it is about, the same each time: "minutes.seat_cut"
	Kind    string
	What    words.Text
	Now     string
	New     string
	Because words.Text

	by    float64 // how far it differs, as a share
	item  store.StockItem
	model uint
	row   library.LimitRow
	near  quantity.Amount
	least int
}

// Proposals are what the shop's own heads say should be otherwise, what differs most first: by a tenth at
// least, and not left by the owner as it stands.
func Proposals(ctx context.Context, s *shop.Shop, a shop.Actor) ([]Proposal, error) {
	if err := a.Must("see what the shop knows"); err != nil {
		return nil, err
	}
	hands, err := week.Hands(ctx, s)
	if err != nil {
		return nil, err
	}
	return proposals(ctx, s, a, hands)
}

// proposals are Proposals by what work took in whose hands.
func proposals(ctx context.Context, s *shop.Shop, a shop.Actor, hands []week.Hand) ([]Proposal, error) {
	var all []Proposal
	for _, of := range []func() ([]Proposal, error){
		func() ([]Proposal, error) { return minutes(ctx, s, hands) },
		func() ([]Proposal, error) { return leasts(ctx, s) },
		func() ([]Proposal, error) { return nears(ctx, s, a.Unit) },
	} {
		found, err := of()
		if err != nil {
			return nil, err
		}
		all = append(all, found...)
	}
	slices.SortStableFunc(all, func(a, b Proposal) int { return cmp.Compare(b.by, a.by) })
	left, err := s.Store.Read(ctx).LeftProposals()
	return slices.DeleteFunc(all, func(p Proposal) bool { return left[p.Key] == p.Proposes() }), err
}

// Proposes is what it proposes, whatever unit it is read in: its form sends it back, so that nobody takes
// what they have not read.
func (p Proposal) Proposes() string {
	if p.Kind == Near {
		return strconv.FormatInt(int64(p.near), 10)
	}
	return p.New
}

// differs is how far a figure is off another, as a share of that; ok where it is a tenth at least.
func differs(now, new int64) (by float64, ok bool) {
	by = float64(max(now-new, new-now)) / float64(max(now, 1))
	return by, by >= 0.1
}

// minutes proposes what operations take by what they took: those that were planned by the figures of today.
func minutes(ctx context.Context, s *shop.Shop, hands []week.Hand) ([]Proposal, error) {
	set, err := s.Settings(ctx, "")
	if err != nil {
		return nil, err
	}
	times, planned, took := map[string]int{}, map[string]int64{}, map[string]int64{}
	for _, h := range hands {
		times[h.Code] += h.Today.Times
		planned[h.Code] += int64(h.Today.Planned)
		took[h.Code] += int64(h.Today.Actual)
	}
	var out []Proposal
	for _, o := range trade.Operations() {
		off, ok := differs(planned[o.Code], took[o.Code])
		if times[o.Code] < fewest || !ok {
			continue
		}
		was := o.LabourBy(set.Get)
		by := func(m quantity.Minutes) quantity.Minutes {
			return quantity.Minutes(math.Round(float64(m) * float64(took[o.Code]) / float64(planned[o.Code])))
		}
		write := func(once, each quantity.Minutes) string { return fmt.Sprintf("%d+%d", once, each) }
		p := Proposal{
			Key: trade.MinutesOf + o.Code, Kind: Minutes, What: words.Of("%s, minutes", words.Of(o.Name)), by: off,
			Now: write(was.Setup, was.Each), New: write(by(was.Setup), by(was.Each)),
			Because: words.Of("done %d times: it took %.0f %% of what was planned", times[o.Code],
				100*float64(took[o.Code])/float64(planned[o.Code])),
		}
		if p.New != p.Now {
			out = append(out, p)
		}
	}
	return out, nil
}

// How a least is reckoned: usual days until more come where nobody says, and how many standard deviations
// beyond the mean use are kept, so that it runs out in one order of twenty. Use is taken as chance: as far
// spread as its root.
const (
	usualDays = 5
	safety    = 1.65
)

// leasts proposes how many of an item are to be there at least, by what was used in a year.
func leasts(ctx context.Context, s *shop.Shop) ([]Proposal, error) {
	db := s.Store.Read(ctx)
	items, err := db.StockItems()
	if err != nil {
		return nil, err
	}
	used, since, err := db.UsedSince(s.Now().AddDate(-1, 0, 0))
	if err != nil {
		return nil, err
	}
	over := math.Max(1, s.Now().Sub(since).Hours()/24) // days
	by := map[uint]store.UsedUp{}
	for _, u := range used {
		by[u.ItemID] = u
	}
	var out []Proposal
	for _, it := range items {
		u := by[it.ID]
		if u.Heads < fewest {
			continue
		}
		days := cmp.Or(it.LeadDays, usualDays)
		mean := float64(u.Count) * float64(days) / over
		least := int(math.Ceil(mean + safety*math.Sqrt(mean)))
		off, ok := differs(int64(it.Least), int64(least))
		if !ok {
			continue
		}
		out = append(out, Proposal{
			Key: "least." + strconv.Itoa(int(it.ID)), Kind: Least, What: words.Of("%s, least in stock", it.Name),
			by: off, item: it, least: least, Now: strconv.Itoa(it.Least), New: strconv.Itoa(least),
			Because: words.Of(
				"%d used on %d heads in %.0f days, and more take %d days", u.Count, u.Heads, over, days,
			),
		})
	}
	return out, nil
}

// nears proposes the near zone of a limit as what nine of ten places move between two visits: what is nearer
// than that may be out by the next.
func nears(ctx context.Context, s *shop.Shop, u length.Unit) ([]Proposal, error) {
	models, err := s.Store.Read(ctx).ModelsReturned()
	if err != nil {
		return nil, err
	}
	var out []Proposal
	for _, id := range models {
		moved, err := following.Moved(ctx, s, id)
		if err != nil {
			return nil, err
		}
		if len(moved) == 0 {
			continue
		}
		m, err := library.ModelOf(ctx, s, id)
		if err != nil {
			return nil, err
		}
		for _, row := range library.RowsOf(head.Service, m) {
			if p, ok := near(m, row, moved[row.Code+"/"+row.Role], u); ok {
				out = append(out, p)
			}
		}
	}
	return out, nil
}

// near is the proposal for one line of a model's service limits.
func near(
	m library.Model, row library.LimitRow, moved []following.Move, u length.Unit,
) (p Proposal, ok bool) {
	i := slices.IndexFunc(m.Sheet.Limits, func(l store.Limit) bool {
		return l.Kind == head.Service && l.Characteristic == row.Code && l.Role == row.Role
	})
	if i < 0 || len(moved) < fewest {
		return p, false
	}
	l := m.Sheet.Limits[i]
	towards, heads := []quantity.Amount{}, map[string]bool{}
	up := sum(moved, func(x following.Move) quantity.Amount { return x.High })
	down := sum(moved, func(x following.Move) quantity.Amount { return -x.Low })
	for _, x := range moved {
		heads[x.Head] = true
		switch {
		case l.High != nil && up > 0 && (l.Low == nil || up >= down):
			towards = append(towards, max(0, x.High))
		case l.Low != nil && down > 0:
			towards = append(towards, max(0, -x.Low))
		}
	}
	if len(towards) < fewest {
		return p, false
	}
	slices.Sort(towards)
	new := max(steps(towards[(9*len(towards)+9)/10-1], row), doubt(row))
	off, ok := differs(int64(l.Near), int64(new))
	if !ok || new == 0 {
		return p, false
	}
	in := row.Unit.Or(u)
	return Proposal{
		Key: fmt.Sprintf("near.%d.%s", m.ID, row.Key()), Kind: Near,
		What: words.Of("%s: %s %s, near zone", m.Name, words.Of(row.Label), words.Of(row.Role)),
		by:   off, model: m.ID, row: row, near: new, Now: in.Usual(l.Near), New: in.Usual(new),
		Because: words.Of(
			"nine of ten places move no more between two visits: %d places of %d heads", len(towards), len(heads),
		),
	}, true
}

func sum(all []following.Move, of func(following.Move) quantity.Amount) (total quantity.Amount) {
	for _, x := range all {
		total += of(x)
	}
	return total
}

// doubt is what the usual tool for a line doubts, in whole steps: a nearer zone would never be seen, since
// what lies in it is in doubt.
func doubt(row library.LimitRow) quantity.Amount {
	c, _ := trade.ByCode(row.Code)
	kind := c.ToolKind()
	if kind == "" && len(c.From) > 0 {
		kind = c.From[0].ToolKind()
	}
	k, _ := trade.ToolKindNamed(kind)
	return steps(k.U, row)
}

// steps rounds a zone up to what a sheet writes: micrometres, or tenths of a unit that is no length.
func steps(a quantity.Amount, row library.LimitRow) quantity.Amount {
	step := quantity.OfLength(length.Micrometre)
	if row.Unit.Size != 0 {
		step = row.Unit.Size / 10
	}
	return (a + step - 1) / step * step
}

// Take makes a proposal so, by its key, while it is still what is proposed.
func Take(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, key, proposed string) error {
	p, err := standing(ctx, s, a, writeID, key, proposed)
	if err != nil || p.Key == "" {
		return err
	}
	note := "by the shop's own heads: " + p.Because.String()
	switch p.Kind {
	case Minutes:
		return library.SetLabour(ctx, s, a, writeID, map[string]string{p.Key: p.New})
	case Near:
		return library.SetNear(ctx, s, a, writeID, p.model, p.row, p.near, note)
	}
	_, err = s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		if err := tx.SetLeast(p.item.ID, p.least); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfPart, p.item.ID), "part changed",
			p.item.Name+": least "+p.Now+" → "+p.New+", "+note)
	})
	return err
}

// Leave keeps that the owner does not want a proposal; it comes again when something else is proposed.
func Leave(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, key, proposed string) error {
	p, err := standing(ctx, s, a, writeID, key, proposed)
	if err != nil || p.Key == "" {
		return err
	}
	_, err = s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		if err := tx.LeaveProposal(store.LeftProposal{
			Key: key, Proposed: p.Proposes(), PersonID: a.ID, At: s.Now().Truncate(time.Second),
		}); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.OfSettings, "proposal left", p.What.String()+": "+p.New)
	})
	return err
}

// standing is the proposal of a key, as it was shown: ErrStale when it proposes something else by now, none
// when the form was sent before.
func standing(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, key, proposed string,
) (Proposal, error) {
	if err := a.Must("change settings"); err != nil {
		return Proposal{}, err
	}
	if _, done, err := s.Store.Read(ctx).Answered(writeID); done || err != nil {
		return Proposal{}, err
	}
	all, err := Proposals(ctx, s, a)
	if err != nil {
		return Proposal{}, err
	}
	i := slices.IndexFunc(all, func(p Proposal) bool { return p.Key == key })
	if i < 0 || all[i].Proposes() != proposed {
		return Proposal{}, shop.ErrStale
	}
	return all[i], nil
}
