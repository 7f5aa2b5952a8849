package shop

import (
	"context"
	"slices"

	"yatai/store"
)

// Mails lists the outbox, the newest first.
func (s *Shop) Mails(ctx context.Context) ([]store.Mail, error) { return s.st.Read(ctx).Mails() }

// MailServer is how mail leaves the shop: a server's host:port, the name and password it
// wants, if any, and who the mail comes from.
type MailServer struct{ Addr, User, Password, From string }

// Sender sends a message by a mail server.
type Sender func(server MailServer, to, subject, body string) error

// SendMails sends what waits in the outbox by the mail server of the settings, and notes
// what could not be sent. It does nothing without one.
func (s *Shop) SendMails(ctx context.Context, send Sender) error {
	set, err := s.Settings(ctx, "")
	if err != nil || set.Get("smtp") == "" {
		return err
	}
	server := MailServer{set.Get("smtp"), set.Get("smtp_user"), set.Get("smtp_password"), set.Get("mail_from")}
	all, err := s.Mails(ctx)
	if err != nil {
		return err
	}
	for _, m := range slices.Backward(all) {
		if m.SentAt != nil {
			continue
		}
		values := map[string]any{"sent_at": s.now(), "failed": ""}
		if err := send(server, m.Recipient, m.Subject, m.Body); err != nil {
			values = map[string]any{"failed": err.Error()}
		}
		if err := s.st.Write(ctx, func(tx store.DB) error { return tx.SetMail(m.ID, values) }); err != nil {
			return err
		}
	}
	return nil
}
