package practising

import (
	"context"
	"encoding/json"
	"slices"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/practice"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/store"
)

// AnswerForm is what a learner says of a head, as typed. Verdicts and Hold are by feature and by position and
// metal.
type AnswerForm struct {
	Verdicts map[string]string
	Hold     map[string]map[string]string
	FaceCut  string // a bare number is in Unit
	Unit     string
	GiveUp   bool
	Cause    string
}

// Answer keeps what a learner says of a head; it can be said anew until the head is opened.
func Answer(ctx context.Context, s *shop.Shop, a shop.Actor, id uint, f AnswerForm) (Head, error) {
	return change(ctx, s, a, id, func(h *Head) error {
		answers, err := h.answers(f)
		if err == nil {
			h.Done.Answers = answers
		}
		return err
	})
}

// answers reads a form, and passes over what the head does not ask.
func (h Head) answers(f AnswerForm) (practice.Answers, error) {
	errs := field.Errors{}
	out := practice.Answers{
		Verdicts: map[string]string{}, Hold: map[string]map[string]string{}, GiveUp: f.GiveUp, Cause: f.Cause,
	}
	for key, says := range f.Verdicts {
		if slices.Contains([]string{practice.SaysIn, practice.SaysOut, practice.SaysDoubt}, says) && len(key) < 80 {
			out.Verdicts[key] = says
		}
	}
	for _, hold := range h.Holds() {
		for _, v := range h.Told.Model.Layout.Valves {
			choice := f.Hold[v.ID][string(hold.Of)]
			if !slices.Contains(hold.Choices, choice) {
				continue
			}
			if out.Hold[v.ID] == nil {
				out.Hold[v.ID] = map[string]string{}
			}
			out.Hold[v.ID][string(hold.Of)] = choice
		}
	}
	if f.FaceCut != "" {
		cut, err := length.Parse(f.FaceCut, shop.UnitOf(f.Unit))
		if err == nil && (cut < 0 || cut > 2*length.Millimetre) {
			err = field.Errorf("", "a face is cut by nothing to 2 mm")
		}
		errs.Add("face_cut", err)
		out.FaceCut = cut
	}
	if f.Cause != "" && f.Cause != practice.None && trade.CauseNamed(f.Cause) == nil {
		errs.Addf("cause", "choose why it failed")
	}
	return out, errs.Err()
}

// Truth is the score of a head that is open.
func Truth(ctx context.Context, s *shop.Shop, h Head) (practice.Score, error) {
	if !h.Opened() {
		return practice.Score{}, shop.ErrNotFound
	}
	score, kept := s.Cache.Scores.Get(h.PracticeHead.ID)
	if kept {
		return score, nil
	}
	score, err := h.Score(ctx, h.Done)
	if err == nil {
		s.Cache.Scores.Add(h.PracticeHead.ID, score)
	}
	return score, err
}

// Finish opens a head: its truth is told from now on, and its score kept.
func Finish(ctx context.Context, s *shop.Shop, a shop.Actor, id uint) error {
	h, err := Open(ctx, s, a, id)
	if err != nil {
		return err
	}
	if !h.Mine(a) {
		return shop.ErrNotFound
	}
	if h.Opened() {
		return nil
	}
	score, err := h.Score(ctx, h.Done)
	if err != nil {
		return err
	}
	skills, err := json.Marshal(score.Skills)
	if err != nil {
		return err
	}
	opened := false
	err = s.Store.Write(ctx, func(tx store.DB) error {
		again, err := tx.PracticeHead(id)
		if err != nil {
			return err
		}
		if again.OpenedAt != nil {
			return nil
		}
		if again.Record != h.Record {
			return shop.ErrStale
		}
		opened = true
		return tx.OpenPractice(id, s.Now(), score.Total(), string(skills))
	})
	if opened && err == nil { // the page of the truth asks for it next
		s.Cache.Scores.Add(id, score)
	}
	return err
}
