package shop

import (
	"context"
	"slices"

	"headwright/store"
)

// Mails lists the outbox, the newest first.
func (s *Shop) Mails(ctx context.Context) ([]store.Mail, error) { return s.st.Read(ctx).Mails() }

// Sender sends a message to a mail server.
type Sender func(server, from, to, subject, body string) error

// SendMails sends what waits in the outbox by the mail server of the settings, and notes
// what could not be sent. It does nothing without one.
func (s *Shop) SendMails(ctx context.Context, send Sender) error {
	set, err := s.Settings(ctx, "")
	if err != nil || set.Get("smtp") == "" {
		return err
	}
	all, err := s.Mails(ctx)
	if err != nil {
		return err
	}
	for _, m := range slices.Backward(all) {
		if m.SentAt != nil {
			continue
		}
		values := map[string]any{"sent_at": s.now(), "failed": ""}
		if err := send(set.Get("smtp"), set.Get("mail_from"), m.Recipient, m.Subject, m.Body); err != nil {
			values = map[string]any{"failed": err.Error()}
		}
		if err := s.st.Write(ctx, func(tx store.DB) error { return tx.SetMail(m.ID, values) }); err != nil {
			return err
		}
	}
	return nil
}
