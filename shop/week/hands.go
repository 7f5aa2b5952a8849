package week

import (
	"cmp"
	"slices"
	"strings"

	"yatai/core/schedule"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/store"
)

// What people do that is no operation of a route.
const (
	Measuring = "measuring"
	Judging   = "judging"
	Quoting   = "quoting"
)

// Skill is something a person can be able to do.
type Skill struct{ Code, Name string }

// Skills lists what people do in the shop: measuring, judging and quoting, and every operation.
func Skills() []Skill {
	out := []Skill{
		{Measuring, "Measure heads"}, {Judging, "Judge and decide"},
		{Quoting, "Quote, and speak with customers"},
	}
	for _, o := range trade.Operations() {
		out = append(out, Skill{o.Code, o.Name})
	}
	return out
}

// usually tells whether a role can do something until the owner says what a person can do. The
// owner runs the shop.
func usually(role string, skill Skill) bool {
	o := trade.OperationNamed(skill.Code)
	switch role {
	case shop.Lead:
		return true
	case shop.Technician:
		return skill.Code == Measuring || o != nil && o.Station != trade.Counter
	case shop.Counter:
		return skill.Code == Quoting || o != nil && (o.Station == trade.Counter || o.Station == trade.Dispatch)
	}
	return false
}

// CanDo lists the codes of what somebody can do.
func CanDo(u store.User) []string {
	if own := strings.Fields(u.Skills); len(own) > 0 {
		return own
	}
	var out []string
	for _, s := range Skills() {
		if usually(u.Role, s) {
			out = append(out, s.Code)
		}
	}
	return out
}

// nothing is what is kept for somebody who can do nothing of all that.
const nothing = "-"

// hands are the shop's people as the plan takes them: who may sign in and can do something.
func hands(users []store.User, set shop.Settings, closed map[string]bool) ([]schedule.Person, error) {
	var out []schedule.Person
	for _, u := range users {
		can := CanDo(u)
		if !u.Active || len(can) == 0 || slices.Equal(can, []string{nothing}) {
			continue
		}
		h, err := schedule.ParseHours(cmp.Or(u.Hours, set.Get("hours")))
		if err != nil {
			return nil, err
		}
		p := schedule.Person{Name: u.Name, Hours: h, Away: map[string]bool{}, Can: map[string]bool{}}
		for day := range closed {
			p.Away[day] = true
		}
		for _, day := range strings.Fields(u.DaysOff) {
			p.Away[day] = true
		}
		for _, code := range can {
			p.Can[code] = true
		}
		out = append(out, p)
	}
	return out, nil
}
