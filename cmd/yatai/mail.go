package main

import (
	"context"
	"errors"
	"log/slog"
	"mime"
	"net"
	"net/smtp"
	"strings"
	"time"

	"yatai/shop"
)

// post sends what waits in the outbox, by the mail server of the settings, until ctx ends.
func post(ctx context.Context, s *shop.Shop) {
	tick := time.NewTicker(20 * time.Second)
	defer tick.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
			if err := s.SendMails(ctx, sendMail); err != nil {
				slog.Error("outbox", "error", err)
			}
		}
	}
}

// sendMail hands one mail to a server, encrypted where the server can be, signed in where
// the settings have a name. A password goes only over an encrypted connection or to this
// very machine.
func sendMail(server shop.MailServer, to, subject, body string) error {
	if strings.ContainsAny(server.From+to, "\r\n") {
		return errors.New("an address with a line end")
	}
	var auth smtp.Auth
	if server.User != "" {
		host, _, err := net.SplitHostPort(server.Addr)
		if err != nil {
			return err
		}
		auth = smtp.PlainAuth("", server.User, server.Password, host)
	}
	head := "From: " + server.From + "\r\nTo: " + to + "\r\nSubject: " + mime.QEncoding.Encode("utf-8", subject) + "\r\nMIME-Version: 1.0\r\nContent-Type: text/plain; charset=utf-8\r\n\r\n"
	return smtp.SendMail(server.Addr, auth, server.From, []string{to}, []byte(head+strings.ReplaceAll(body, "\n", "\r\n")))
}
