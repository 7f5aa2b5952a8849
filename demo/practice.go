package demo

import (
	"strconv"

	"yatai/core/practice"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/practising"
)

// practised has a head begun with the bore gauge, and two people take the same exam with the micrometer.
func (f *filler) practised() error {
	bore := practising.BeginForm{Lesson: "bore", Trouble: "guides"}
	if _, err := f.begun(f.at(64), f.tech, bore); err != nil {
		return err
	}
	for n, a := range []shop.Actor{f.tech, f.lead} {
		s := f.at(float64(60 + 4*n))
		h, err := f.begun(s, a, practising.BeginForm{Lesson: "micrometer", Exam: "12"})
		if err != nil {
			return err
		}
		if err := f.readStems(s, a, h, 3+2*n); err != nil {
			return err
		}
	}
	return nil
}

func (f *filler) begun(s *shop.Shop, a shop.Actor, form practising.BeginForm) (practising.Head, error) {
	form.WriteID = f.id()
	id, err := practising.Begin(f.ctx, s, a, form)
	if err != nil {
		return practising.Head{}, err
	}
	n, err := strconv.ParseUint(id, 10, 32)
	if err != nil {
		return practising.Head{}, err
	}
	return practising.Open(f.ctx, s, a, uint(n))
}

// readStems reads every stem twice with a hand that is a little off, judges them and opens the head.
func (f *filler) readStems(s *shop.Shop, a shop.Actor, h practising.Head, off int) error {
	const micrometer = 1
	zero := practising.Move{Kind: practice.StepZero, Tool: micrometer, Set: true}
	_, err := practising.Do(f.ctx, s, a, h.ID, zero)
	nth := 1
	verdicts := map[string]string{}
	for range 2 {
		for _, at := range trade.Stem.Spots(h.Told.Model.Layout) {
			if err != nil {
				return err
			}
			move := practising.Move{
				Nth: nth, Kind: practice.StepRead, Tool: micrometer, Of: trade.Stem.Code, At: at.Key(),
			}
			move.Hand = clicks(h, move) + off
			h, err = practising.Do(f.ctx, s, a, h.ID, move)
			nth++
			verdicts[trade.Stem.Code+"@"+at.Position] = practice.SaysIn
		}
	}
	if err != nil {
		return err
	}
	verdicts[trade.Stem.Code+"@1I1"] = practice.SaysOut
	said := practising.AnswerForm{Verdicts: verdicts}
	if _, err = practising.Answer(f.ctx, s, a, h.ID, said); err != nil {
		return err
	}
	return practising.Finish(f.ctx, s, a, h.ID)
}

// clicks is where the hand hears the micrometer click first.
func clicks(h practising.Head, m practising.Move) int {
	step := practice.Step{Tool: m.Tool, Of: m.Of, At: m.At}
	for step.Hand = -practice.HandMost; step.Hand < practice.HandMost; step.Hand++ {
		if s, ok := h.Shows(step.Take(), h.Done.Steps); ok && s.Clicks {
			break
		}
	}
	return step.Hand
}
