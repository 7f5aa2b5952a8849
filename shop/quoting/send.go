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
	to := shop.Required(errs, "to", form.To, "where does it go? a mail address, or how the customer is reached", 200)
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, form.WriteID, tag, func(tx store.DB, f *headfile.File) error {
		q, err := quoteOf(s, tx, f, form.Version)
		if err != nil {
			return err
		}
		if q.Approval != nil {
			return field.Only("to", "it was answered already")
		}
		t := headfile.Together{{File: f, Q: q}}
		for _, with := range form.With {
			other, err := joined(s, tx, f, with)
			if err != nil {
				return err
			}
			t = append(t, other)
		}
		if n := t.Unpriced(); n > 0 && !form.Follow {
			return field.Only("follow", "the price of %s is not known: give it under Parts and write the quote again, or tick that it follows", shop.Plural(n, "part"))
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
				tx.SendQuote(j.Q.ID, s.Now(), link.TokenHash, until, j.Q.Unpriced() > 0), tx.Add(&link), s.Note(tx, a, j.ID, "quote sent", said),
			); err != nil {
				return err
			}
		}
		mail := letter(t, set, strings.TrimRight(cmp.Or(set.Get("public"), form.Here), "/")+"/q/"+token, until)
		mail.Recipient, mail.At = to, s.Now()
		return tx.Add(&mail)
	})
}

// letter is the mail that goes with quotes, in the customer's language.
func letter(t headfile.Together, set shop.Settings, link string, until time.Time) store.Mail {
	f, q := t[0].File, t[0].Q
	in := words.In(f.Job.Customer.Language)
	filled := map[string]string{
		"kind": in.Say(strings.ToUpper(q.Kind[:1]) + q.Kind[1:]), "version": strconv.Itoa(q.Version), "tag": t.Tags(), "model": t.Models(),
		"customer": f.Job.Customer.Name, "until": in.Long(until), "shop": set.Get("shop_name"), "link": link,
	}
	return store.Mail{
		HeadID: f.ID, Subject: shop.Filled(in.Say(set.Get("mail_subject")), filled), Body: shop.Filled(in.Say(set.Get("mail_text")), filled),
	}
}

// joined is the newest quote of another head of f's order, when it waits for an answer.
func joined(s *shop.Shop, tx store.DB, f *headfile.File, tag string) (headfile.Joined, error) {
	other, err := headfile.OpenIn(s, tx, tag)
	if err != nil {
		return headfile.Joined{}, err
	}
	if q, ok := Unanswered(other); ok && other.JobID == f.JobID && other.ID != f.ID {
		return headfile.Joined{File: other, Q: q}, nil
	}
	return headfile.Joined{}, field.Only("with", "%s has no quote of this order that waits for an answer: write it first, or send this one alone", tag)
}

// Unanswered is a head's newest quote when it waits for an answer.
func Unanswered(f *headfile.File) (headfile.QuotePage, bool) {
	n := len(f.Approved.Quotes)
	if n == 0 || f.Approved.Quotes[n-1].Approval != nil || f.ClosedAt != nil {
		return headfile.QuotePage{}, false
	}
	return f.Approved.Quotes[n-1], true
}

// Others are the other heads of a head's order that have not left, with the quote each has that waits for an
// answer; that of one which has none has no lines.
func Others(ctx context.Context, s *shop.Shop, f *headfile.File) (headfile.Together, error) {
	heads, err := s.Store.Read(ctx).HeadsOfJob(f.JobID)
	if err != nil {
		return nil, err
	}
	var out headfile.Together
	for _, h := range heads {
		if h.ID == f.ID || h.ClosedAt != nil {
			continue
		}
		other, err := headfile.Open(ctx, s, h.Tag)
		if err != nil {
			return nil, err
		}
		q, _ := Unanswered(other)
		out = append(out, headfile.Joined{File: other, Q: q})
	}
	return out, nil
}

// With are the quotes that went out under one link with a head's newest, that one first.
func With(ctx context.Context, s *shop.Shop, f *headfile.File) (headfile.Together, error) {
	if len(f.Approved.Quotes) == 0 {
		return nil, nil
	}
	return headfile.QuotedWith(s, s.Store.Read(ctx), f, f.Approved.Quotes[len(f.Approved.Quotes)-1])
}
