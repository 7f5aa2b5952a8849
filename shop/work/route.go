package work

import (
	"context"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/judge"
	"yatai/core/quote"
	"yatai/core/route"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/parts"
	"yatai/store"
)

// wordGiven tells whether the lead has let an operation go on that had stopped: nobody else does.
func wordGiven(o store.Operation) bool { return o.State == "running" && o.Held != "" }

// Resume lets a held operation go on, with the lead's word.
func Resume(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, seq int, reason string,
) error {
	errs := field.Errors{}
	reason = shop.Required(errs, headfile.OperationKey(seq), reason, "say how it goes on", 300)
	if err := errs.Err(); err != nil {
		return err
	}
	return change(ctx, s, a, "skip an operation", writeID, tag, seq,
		func(tx store.DB, _ *headfile.File, o store.Operation) (string, bool, error) {
			moved, err := tx.ResumeOperation(o.ID, o.Held+" / "+a.Name+": "+reason)
			return "running", moved, err
		})
}

// AddOperation adds an operation to an ordered route, with the lead's reason.
func AddOperation(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, code, positions, reason string,
) error {
	if err := a.Must("skip an operation"); err != nil {
		return err
	}
	errs := field.Errors{}
	reason = shop.Required(errs, "add", reason, "say why it is added", 200)
	k := trade.OperationNamed(code)
	if k == nil {
		errs.Addf("add", "choose an operation")
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		at := strings.Fields(strings.ToUpper(strings.ReplaceAll(positions, ",", " ")))
		for _, id := range at {
			if _, ok := f.Layout.Valve(id); !ok {
				errs.Addf("add", "%s is no position of this head", id)
			}
		}
		if k != nil && !k.Exists(headfile.KindOf(f.Model)) {
			errs.Addf("add", "this head has nothing of the kind")
		}
		if why := forbidden(f, k, at); why != "" {
			errs.Addf("add", "%s", why)
		}
		if f.WorkOrderAt == nil || f.ClosedAt != nil {
			errs.Addf("add", "the work is not on order")
		}
		if err := errs.Err(); err != nil {
			return err
		}
		added, err := insert(s, tx, a, f, reason,
			route.Operation{Operation: k, Positions: at, Minutes: f.Subject.Labour(k).Minutes(len(at))})
		if err == nil && added == 0 {
			err = field.Only("add", "it is on the route there already, and is not done yet")
		}
		return err
	})
}

// forbidden says why an operation may not be done here, by what the parts are and how they look; "" when it
// may.
func forbidden(f *headfile.File, k *trade.Operation, at []string) string {
	if k == nil {
		return ""
	}
	r := trade.RepairNamed(k.Code)
	if r == nil {
		return ""
	}
	for _, id := range at {
		if said := f.Now.Permits(judge.Feature{Position: id}, r); !said.OK {
			return id + ": " + said.Why
		}
	}
	return ""
}

// insert puts operations on an ordered route, each as early as the order of the trade allows, after what
// is begun, and returns how many. What waits there already at the same positions is not put there twice.
func insert(
	s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, reason string, ops ...route.Operation,
) (int, error) {
	all, school := slices.Clone(f.Operations), f.Subject.School()
	var waiting []route.Operation
	for _, o := range all {
		if k := trade.OperationNamed(o.Code); k != nil && (o.State == "waiting" || o.State == "running") {
			waiting = append(waiting, route.Operation{Operation: k, Positions: o.At()})
		}
	}
	ops = quote.Less(f.Subject, ops, waiting)
	for _, op := range ops {
		o := store.Operation{
			HeadID:     f.ID,
			Code:       op.Code,
			Positions:  strings.Join(op.Positions, " "),
			Minutes:    op.Minutes,
			State:      "waiting",
			BegunAfter: -1,
			Added:      a.Name + ": " + reason,
		}
		place := len(all)
		for i, x := range all {
			xk := trade.OperationNamed(x.Code)
			if xk == nil || x.State != "waiting" {
				continue
			}
			if _, first := trade.Precedes(op.Operation, xk); first || xk.Place(school) > op.Place(school) {
				place = i
				break
			}
		}
		if err := parts.Reserve(s, tx, a, f, []store.Operation{o}); err != nil {
			return 0, err
		}
		all = slices.Insert(all, place, o)
		if err := s.Note(tx, a, f.ID, "operation added", op.Name+": "+reason); err != nil {
			return 0, err
		}
	}
	return len(ops), renumber(s, tx, all)
}

// renumber writes a route's order, adding what is new.
func renumber(s *shop.Shop, tx store.DB, ops []store.Operation) error {
	for i := range ops { // out of the way first: a number is unique on its head
		if ops[i].ID != 0 {
			if err := tx.NumberOperation(ops[i].ID, -(i + 1)); err != nil {
				return err
			}
		}
	}
	for i := range ops {
		ops[i].Seq = i + 1
		if ops[i].ID == 0 {
			if err := tx.Add(&ops[i]); err != nil {
				return err
			}
		} else if err := tx.NumberOperation(ops[i].ID, i+1); err != nil {
			return err
		}
	}
	return nil
}

// MoveUp lets a waiting operation change places with the one before it, where the order of
// the trade allows.
func MoveUp(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, seq int) error {
	if err := a.Must("skip an operation"); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		i := slices.IndexFunc(f.Operations, func(o store.Operation) bool { return o.Seq == seq })
		if i < 1 {
			return shop.ErrNotFound
		}
		o, before := f.Operations[i], f.Operations[i-1]
		if o.State != "waiting" || before.State != "waiting" {
			return field.Only(headfile.OperationKey(seq), "only what waits can change places")
		}
		k, bk := trade.OperationNamed(o.Code), trade.OperationNamed(before.Code)
		if k != nil && bk != nil {
			if why, must := trade.Precedes(bk, k); must {
				return field.Errors{headfile.OperationKey(seq): words.Of(why)}
			}
		}
		ops := slices.Clone(f.Operations)
		ops[i-1], ops[i] = o, before
		if err := renumber(s, tx, ops); err != nil {
			return err
		}
		return s.Note(tx, a, f.ID, "route changed",
			headfile.OperationName(o.Code)+" before "+headfile.OperationName(before.Code))
	})
}
