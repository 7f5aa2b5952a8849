package following

import (
	"context"
	"time"

	"yatai/shop"
	"yatai/store"
)

// Mails lists the outbox, the newest first.
func Mails(ctx context.Context, s *shop.Shop) ([]store.Mail, error) { return s.Store.Read(ctx).Mails() }

// MailServer is how mail leaves the shop: a server's host:port, the name and password it
// wants, if any, and who the mail comes from.
type MailServer struct{ Addr, User, Password, From string }

// Sender sends a message by a mail server.
type Sender func(ctx context.Context, server MailServer, to, subject, body string) error

// SendMails sends what waits in the outbox by the mail server of the settings, and notes
// what could not be sent. It does nothing without one.
func SendMails(ctx context.Context, s *shop.Shop, send Sender) error {
	set, err := s.Settings(ctx, "")
	if err != nil || set.Get("smtp") == "" {
		return err
	}
	server := MailServer{set.Get("smtp"), set.Get("smtp_user"), set.Get("smtp_password"), set.Get("mail_from")}
	waiting, err := s.Store.Read(ctx).UnsentMails(mostTries)
	if err != nil {
		return err
	}
	for _, m := range waiting {
		if m.Tries > 0 && s.Now().Sub(m.At) < time.Minute<<m.Tries {
			continue // each try waits twice as long as the one before
		}
		failed := send(ctx, server, m.Recipient, m.Subject, m.Body)
		err := s.Store.Write(ctx, func(tx store.DB) error {
			if failed != nil {
				return tx.MailFailed(m.ID, failed.Error())
			}
			return tx.MailSent(m.ID, s.Now())
		})
		if err != nil {
			return err
		}
	}
	return nil
}

// mostTries is how often a mail is tried: the last time about half a day after it was written.
const mostTries = 10
