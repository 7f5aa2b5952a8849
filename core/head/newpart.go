package head

import (
	"yatai/core/layout"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// Fresh is a size of a new part with its expanded doubt and where it is known from.
type Fresh struct {
	At, U quantity.Amount
	From  string
}

// NewStem is the stem of the new valve for a position: the part's own where it was measured,
// else the sheet's, else the middle of the maker's range with half of it as doubt, else the
// thickest stem of its role that was read; ok is false when none of them is known.
func (h *Head) NewStem(position string) (Fresh, bool) {
	role := h.Role(position)
	if p, ok := h.NewPart(trade.ValvePart.Code, position); ok {
		if at, ok := p.Is[trade.Stem.Code]; ok {
			return Fresh{at, h.UsualU(trade.Stem), "the new valve, measured"}, true
		}
	}
	if at, _, ok := h.Figure(trade.NewStem, role); ok {
		return Fresh{at, h.UsualU(trade.Stem), "the sheet"}, true
	}
	if l := h.Sheet.LimitOf(New, trade.Stem.Code, string(role)); l != nil && l.Low != nil && l.High != nil {
		return Fresh{(*l.Low + *l.High) / 2, (*l.High - *l.Low) / 2, "the middle of the maker's range"}, true
	}
	var most quantity.Amount
	for _, v := range h.Model.Layout.Valves {
		if v.Role != role {
			continue
		}
		for _, r := range h.Reads(trade.Stem.Code, v.ID) {
			most = max(most, r.Value.At)
		}
	}
	return Fresh{most, 2 * h.UsualU(trade.Stem), "the thickest stem of its role that was read"}, most > 0
}

// NewMargin is the margin of the new valve for a position, and whether it is known.
func (h *Head) NewMargin(position string) (Fresh, bool) {
	if p, ok := h.NewPart(trade.ValvePart.Code, position); ok {
		if at, ok := p.Is[trade.ValveMargin.Code]; ok {
			return Fresh{at, h.UsualU(trade.ValveMargin), "the new valve, measured"}, true
		}
	}
	if at, _, ok := h.Figure(trade.NewMargin, h.Role(position)); ok {
		return Fresh{at, h.UsualU(trade.ValveMargin), "the sheet"}, true
	}
	return Fresh{}, false
}

// NewLength is how much longer the new valve for a position is than the one fitted, and how
// much further from its head's flat its keeper groove lies. Where both were measured that
// counts, else the sheet's figures, else the new one is supposed to be as the old.
func (h *Head) NewLength(position string) (longer, groove quantity.Amount) {
	role := h.Role(position)
	longer, _ = h.Sheet.Figure(trade.NewLength.Code, string(role))
	groove, _ = h.Sheet.Figure(trade.NewGroove.Code, string(role))
	p, ok := h.NewPart(trade.ValvePart.Code, position)
	if !ok {
		return longer, groove
	}
	old := func(c *trade.Characteristic) (quantity.Amount, bool) {
		rows := h.Reads(c.Code, position)
		if len(rows) == 0 {
			return 0, false
		}
		return rows[0].Value.At, true
	}
	newLen, haveNew := p.Is[trade.ValveLength.Code]
	oldLen, haveOld := old(trade.ValveLength)
	if !haveNew || !haveOld {
		return longer, groove
	}
	longer = newLen - oldLen
	newTip, haveNew := p.Is[trade.ValveTip.Code]
	oldTip, haveOld := old(trade.ValveTip)
	if haveNew && haveOld {
		groove = (newLen - newTip) - (oldLen - oldTip)
	}
	return longer, groove
}

// UsualU is the doubt of the shop's usual tool for a characteristic, or of its kind.
func (h *Head) UsualU(c *trade.Characteristic) quantity.Amount {
	for _, kind := range c.Tools {
		for _, t := range h.Tools {
			if t.Kind == kind && t.U > 0 {
				return t.U
			}
		}
	}
	k, _ := trade.ToolKindNamed(c.ToolKind())
	return k.U
}

// ToolU is the doubt of the shop's tool of a kind, or as usual for its kind.
func (h *Head) ToolU(kind string) quantity.Amount {
	for _, t := range h.Tools {
		if t.Kind == kind && t.U > 0 {
			return t.U
		}
	}
	k, _ := trade.ToolKindNamed(kind)
	return k.U
}

// RoleLimit is a limit by role, for a record.
func (h *Head) RoleLimit(c *trade.Characteristic, role layout.Role) (low, high *quantity.Amount) {
	if l := h.Limit(c.Code, string(role)); l != nil {
		return l.Low, l.High
	}
	return nil, nil
}
