package paper

import (
	"strings"
	"time"

	"yatai/core/words"
	"yatai/shop/fleet"
	"yatai/shop/intake"
)

// Fleet writes a customer's machines as PDF, in a language.
func Fleet(f fleet.Fleet, h House, in *words.Language) ([]byte, error) {
	s := newSheet(in.Say("Machines of %s", f.Customer.Name), h.Name+", "+in.Long(f.At), h, in)
	s.text(10, false, in.Long(f.At))
	if f.Billed != 0 || f.Approved != 0 {
		s.text(10, false, strings.Join([]string{
			s.t("approved %s", f.Cash(f.Approved)), s.t("billed %s", f.Cash(f.Billed)), s.t("open %s", f.Cash(f.Open())),
		}, ", "))
	}
	for _, m := range f.Machines {
		s.fleetMachine(m)
	}
	s.text(8.5, false, f.Goes().In(s.in))
	return s.bytes()
}

func (s *sheet) fleetMachine(m fleet.Machine) {
	s.heading(m.Name)
	widths := []float64{20, 46, 24, 24, 30, 34}
	if len(m.Visits) > 0 {
		s.row(widths, true, s.t("Tag"), s.t("Head"), s.t("Came"), s.t("Left"), s.t("Why"), s.t("Hours"))
	}
	for _, v := range m.Visits {
		left := s.t("in the shop")
		if v.HandedOverAt != nil {
			left = v.HandedOverAt.Local().Format(time.DateOnly)
		}
		came := v.CreatedAt.Local().Format(time.DateOnly)
		s.row(widths, false,
			v.Tag, v.Model.Name, came, left, s.t(intake.KindLabel(v.Job.Kind)), v.Job.Ran())
	}
	for _, v := range m.Visits {
		for _, c := range v.Causes {
			s.text(9.5, false, v.Tag+": "+s.t("cause, confirmed: %s", words.Of(c)))
		}
	}
	for _, d := range m.Due {
		s.text(9.5, false, s.t("Due")+" "+s.in.Long(d.Due)+": "+d.Tag+", "+d.What)
	}
	if len(m.Wears) > 0 {
		s.text(10, true, s.t("Wears, by the rate of its visits"))
	}
	for _, w := range m.Wears {
		said := w.Tag + " " + w.Position + " " + w.Named().In(s.in) + ": " + w.When().In(s.in)
		if w.By != nil {
			said += ", " + s.t("look at it by %s", s.in.Long(*w.By))
		}
		s.text(9.5, false, said)
	}
	if len(m.Visits) == 0 {
		s.text(9.5, false, s.t("No head has come in yet."))
	}
	s.Ln(2)
}
