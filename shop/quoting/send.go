package quoting

import (
	"cmp"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// SendForm is where a quote goes, as typed.
type SendForm struct {
	WriteID string
	Version int
	With    []string // tags of other heads of the order, whose newest quotes go with it: one sum, one answer
	To      string   // a mail address, or how the customer is reached
	Here    string   // the address the program was reached by: it stands in the link until one is set
	Follow  bool     // the customer is told that prices which are not known follow
}

// SendQuote puts a quote into the customer's hands: a mail in the outbox with a link nobody
// can guess, which ends when the quote does. A later link to the same quote ends the earlier.
// A quote with a part whose price is not known goes only where the form says that the price follows.
// Quotes of other heads of the order that are sent with it are answered with it.
func SendQuote(ctx context.Context, s *shop.Shop, a shop.Actor, tag string, form SendForm) error {
	if err := a.Must("quote"); err != nil {
		return err
	}
	errs := field.Errors{}
	to := shop.Required(errs, "to", form.To, "where does it go? a mail address, or how the customer is reached",
		200)
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, form.WriteID, tag, func(tx store.DB, f *headfile.File) error {
		order, err := headfile.OfOrder(s, tx, f.JobID)
		if err != nil {
			return err
		}
		q, err := quoteOf(order, f.ID, form.Version)
		if err != nil {
			return err
		}
		if q.Approval != nil {
			return field.Only("to", "it was answered already")
		}
		t := headfile.Together{{Head: f.Head, Q: q}}
		for _, with := range form.With {
			other, err := joined(order, f.ID, with)
			if err != nil {
				return err
			}
			t = append(t, other)
		}
		if n := t.Unpriced(); n > 0 && !form.Follow {
			return field.Only(
				"follow",
				"the price of %s is not known: give it under Parts and write the quote again, or tick that it follows",
				shop.Plural(n, "part"),
			)
		}
		v, err := tx.Settings()
		if err != nil {
			return err
		}
		set := shop.SettingsFor(v, tag)
		token := rand.Text() // 128 random bits and more
		until := s.Now().AddDate(0, 0, max(1, set.Int("quote_days")))
		for _, j := range t {
			link := store.QuoteLink{QuoteID: j.Q.ID, TokenHash: shop.HashToken(token), Recipient: to, At: s.Now()}
			said := fmt.Sprintf("%s %d to %s", j.Q.Kind, j.Q.Version, to)
			if len(t) > 1 {
				said += ", of " + t.Tags() + " together"
			}
			if err := errors.Join(
				tx.SendQuote(j.Q.ID, s.Now(), link.TokenHash, until, j.Q.Unpriced() > 0), tx.Add(&link),
				s.Note(tx, a, j.ID, "quote sent", said),
			); err != nil {
				return err
			}
		}
		mail := letter(f.Job.Customer, t, set,
			strings.TrimRight(cmp.Or(set.Get("public"), form.Here), "/")+"/q/"+token, until)
		mail.Recipient, mail.At = to, s.Now()
		return tx.Add(&mail)
	})
}

// letter is the mail that goes with quotes, in the customer's language.
func letter(
	to store.Customer, t headfile.Together, set shop.Settings, link string, until time.Time,
) store.Mail {
	q, in := t[0].Q, words.In(to.Language)
	filled := map[string]string{
		"kind": in.Say(strings.ToUpper(q.Kind[:1]) + q.Kind[1:]), "version": strconv.Itoa(q.Version),
		"tag": t.Tags(), "model": t.Models(),
		"customer": to.Name, "until": in.Long(until), "shop": set.Get("shop_name"), "link": link,
	}
	return store.Mail{
		HeadID: t[0].ID, Subject: shop.Filled(in.Say(set.Get("mail_subject")), filled),
		Body: shop.Filled(in.Say(set.Get("mail_text")), filled),
	}
}

// joined is the quote of another head of the order that waits for an answer.
func joined(order []headfile.Ordered, head uint, tag string) (headfile.Joined, error) {
	for _, h := range order {
		if q, ok := h.Unanswered(); ok && h.Tag == tag && h.ID != head {
			return headfile.Joined{Head: h.Head, Q: q}, nil
		}
	}
	return headfile.Joined{}, field.Only("with",
		"%s has no quote of this order that waits for an answer: write it first, or send this one alone", tag)
}

// Order is what is quoted of the heads that came with one. Others have not left; that of one which
// has no quote that waits for an answer has no lines. With are the quotes that went out under one
// link with the head's newest, that one first; none where it has none.
type Order struct{ Others, With headfile.Together }

// OrderOf says it of a head.
func OrderOf(ctx context.Context, s *shop.Shop, f *headfile.File) (Order, error) {
	order, err := headfile.OfOrder(s, s.Store.Read(ctx), f.JobID)
	if err != nil {
		return Order{}, err
	}
	var out Order
	for _, h := range order {
		switch {
		case h.ID != f.ID && h.ClosedAt == nil:
			q, _ := h.Unanswered()
			out.Others = append(out.Others, headfile.Joined{Head: h.Head, Q: q})
		case h.ID == f.ID && len(h.Quotes) > 0:
			out.With = headfile.QuotedWith(order, h.Head, h.Quotes[len(h.Quotes)-1])
		}
	}
	return out, nil
}
