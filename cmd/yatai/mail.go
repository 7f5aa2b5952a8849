package main

import (
	"context"
	"crypto/tls"
	"errors"
	"log/slog"
	"mime"
	"net"
	"net/smtp"
	"strings"
	"time"

	"yatai/shop"
	"yatai/shop/following"
)

// post sends what waits in the outbox, by the mail server of the settings, until ctx ends.
func post(ctx context.Context, s *shop.Shop) {
	every(ctx, 20*time.Second, func() {
		if err := following.SendMails(ctx, s, sendMail); err != nil {
			slog.Error("outbox", "error", err)
		}
	})
}

// mailTimeout is how long a mail may take from the first word to the last.
const mailTimeout = 60 * time.Second

// sendMail hands one mail to a server, encrypted where the server can be, signed in where
// the settings have a name. A password goes only over an encrypted connection or to this
// very machine.
func sendMail(ctx context.Context, server following.MailServer, to, subject, body string) error {
	if strings.ContainsAny(server.From+to, "\r\n") {
		return errors.New("an address with a line end")
	}
	host, _, err := net.SplitHostPort(server.Addr)
	if err != nil {
		return err
	}
	conn, err := (&net.Dialer{Timeout: mailTimeout}).DialContext(ctx, "tcp", server.Addr)
	if err != nil {
		return err
	}
	defer func() { _ = conn.Close() }()
	if err := conn.SetDeadline(time.Now().Add(mailTimeout)); err != nil {
		return err
	}
	c, err := smtp.NewClient(conn, host)
	if err != nil {
		return err
	}
	if ok, _ := c.Extension("STARTTLS"); ok {
		if err := c.StartTLS(&tls.Config{ServerName: host, MinVersion: tls.VersionTLS12}); err != nil {
			return err
		}
	}
	if server.User != "" {
		if err := c.Auth(smtp.PlainAuth("", server.User, server.Password, host)); err != nil {
			return err
		}
	}
	if err := c.Mail(server.From); err != nil {
		return err
	}
	if err := c.Rcpt(to); err != nil {
		return err
	}
	w, err := c.Data()
	if err != nil {
		return err
	}
	head := "From: " + server.From + "\r\nTo: " + to + "\r\nSubject: " + mime.QEncoding.Encode(
		"utf-8", subject,
	) + "\r\nMIME-Version: 1.0\r\nContent-Type: text/plain; charset=utf-8\r\n\r\n"
	if _, err := w.Write([]byte(head + strings.ReplaceAll(body, "\n", "\r\n"))); err != nil {
		return err
	}
	if err := w.Close(); err != nil {
		return err
	}
	return c.Quit()
}
