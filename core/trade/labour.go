package trade

import (
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/money"
	"yatai/core/quantity"
)

// Labour is what an operation takes and costs in a shop: minutes once and at each position, how
// many of those once run with nobody there and are looked at again at the end, how many people
// it takes, and a fixed price in cents where the shop has one.
type Labour struct {
	Setup, Each quantity.Minutes
	Alone, Last quantity.Minutes
	Hands       int
	Fixed       bool
	Once        int64 // of a fixed price: once
	EachCents   int64 // and at each position
}

// Minutes are what it takes at n positions.
func (l Labour) Minutes(n int) quantity.Minutes { return l.Setup + quantity.Minutes(n)*l.Each }

// The settings that a shop's own figures of an operation are kept in, before its code.
const (
	MinutesOf = "minutes." // "20+12": once, and at each position
	AloneOf   = "alone."   // "25+5": with nobody there, and the look at the end
	HandsOf   = "hands."   // "2"
	PriceOf   = "price."   // "40.00+8.50": once, and at each position
)

// workKinds are the kinds of those settings.
var workKinds = map[string]string{
	MinutesOf: "minutes", AloneOf: "minutes", HandsOf: "hands", PriceOf: "price",
}

// workSetting returns the setting of that name when it is a shop's own figure of an operation.
func workSetting(name string) (Setting, bool) {
	dot := strings.IndexByte(name, '.') + 1
	kind, ok := workKinds[name[:dot]]
	if o := OperationNamed(name[dot:]); ok && o != nil {
		return Setting{Name: name, Label: o.Name, Kind: kind}, true
	}
	return Setting{}, false
}

// LabourBy is what the operation takes and costs where setting is asked for the shop's own figures,
// which are empty where it has none.
func (o *Operation) LabourBy(setting func(name string) string) Labour {
	l := Labour{Setup: o.Setup, Each: o.Each, Alone: o.Alone, Last: o.Last, Hands: 1}
	if v := setting(MinutesOf + o.Code); v != "" {
		l.Setup, l.Each, _ = TwoMinutes(v)
	}
	if v := setting(AloneOf + o.Code); v != "" {
		l.Alone, l.Last, _ = TwoMinutes(v)
	}
	if v := setting(HandsOf + o.Code); v != "" {
		l.Hands, _ = strconv.Atoi(v)
	}
	if v := setting(PriceOf + o.Code); v != "" {
		var err error
		l.Once, l.EachCents, err = twoPrices(v)
		l.Fixed = err == nil
	}
	l.Alone = min(l.Alone, l.Setup)
	l.Last = min(l.Last, l.Setup-l.Alone)
	return l
}

// mostMinutes bounds what an operation may take once, or at a position.
const mostMinutes = 2000

// TwoMinutes reads "20+12", or "20" alone.
func TwoMinutes(text string) (once, each quantity.Minutes, err error) {
	a, b, two := strings.Cut(text, "+")
	if once, err = minutes(a); err == nil && two {
		each, err = minutes(b)
	}
	if err != nil || once < 0 || each < 0 || once > mostMinutes || each > mostMinutes {
		return 0, 0, field.Errorf("", "minutes once and at each position, like 20+12, each up to %d", mostMinutes)
	}
	return once, each, nil
}

func minutes(text string) (quantity.Minutes, error) {
	n, err := strconv.Atoi(strings.TrimSpace(text))
	return quantity.Minutes(n), err
}

// twoPrices reads "40.00+8.50", or "40.00" alone.
func twoPrices(text string) (once, each int64, err error) {
	a, b, two := strings.Cut(text, "+")
	if once, err = money.Parse(strings.TrimSpace(a)); err == nil && two {
		each, err = money.Parse(strings.TrimSpace(b))
	}
	return once, each, err
}

// checkWork refuses what such a setting cannot be; empty takes it back.
func checkWork(kind, v string) (err error) {
	if v == "" {
		return nil
	}
	switch kind {
	case "minutes":
		_, _, err = TwoMinutes(v)
	case "price":
		_, _, err = twoPrices(v)
	case "hands":
		if n, e := strconv.Atoi(v); e != nil || n < 1 || n > 4 {
			err = field.Errorf("", "from 1 to 4 people")
		}
	}
	return err
}
