package plan

import (
	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// Aim is the clearance a guide is made for by the shop's school, nil when there is no limit
// with two ends: the shop's target where it has one; the middle; or tight for the intake and
// loose for the exhaust, looser still when air-cooled.
func Aim(h *head.Head, v layout.Valve) *length.Length {
	if t := h.Sheet.LimitOf(head.Target, trade.GuideClearance.Code, string(v.Role)); t != nil && t.Low != nil && t.High != nil {
		at := ((*t.Low + *t.High) / 2).Length()
		return &at
	}
	low, high := clearanceLimit(h, v)
	if low == nil || high == nil {
		return nil
	}
	third := (*high - *low) / 3
	at := (*low + *high) / 2
	if h.Setting("school.clearance") != "maker's middle" {
		at = *low + third/2
		if v.Role == layout.Exhaust {
			at = *high - third
		}
		if h.Model.Kind.AirCooled() {
			at += third / 2
		}
	}
	at = min(at, *high-third/2)
	return &at
}

// clearanceLimit is the limit of a valve's clearance: the sheet's, or the general table's.
func clearanceLimit(h *head.Head, v layout.Valve) (low, high *length.Length) {
	if l := h.Limit(trade.GuideClearance.Code, string(v.Role)); l != nil {
		return l.Lengths()
	}
	var stem quantity.Amount
	for _, r := range h.Reads(trade.Stem.Code, v.ID) {
		stem = max(stem, r.Value.At)
	}
	if g := trade.GeneralClearance(v.Role, stem); g != nil {
		return quantity.AsLength(g.Low), quantity.AsLength(g.High)
	}
	return nil, nil
}
