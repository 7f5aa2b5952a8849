package main

import (
	"bufio"
	"context"
	"fmt"
	"net"
	"strings"
	"testing"
	"yatai/shop/following"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// mailServer is a small mail server for one mail: it answers as a real one does and
// returns what it was told, line by line.
func mailServer(t *testing.T, refuse string) (addr string, told func() []string) {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	lines := make(chan []string, 1)
	go func() {
		var heard []string
		defer func() { lines <- heard }()
		c, err := l.Accept()
		if err != nil {
			return
		}
		defer func() { _ = c.Close() }()
		_, _ = fmt.Fprint(c, "220 mail.invalid\r\n")
		in := bufio.NewScanner(c)
		for data := false; in.Scan(); {
			line := in.Text()
			heard = append(heard, line)
			verb, _, _ := strings.Cut(line, " ")
			answer := map[string]string{
				"EHLO": "250-mail.invalid\r\n250 AUTH PLAIN", "AUTH": "235 welcome", "DATA": "354 go on", "QUIT": "221 bye",
				".": "250 taken",
			}[verb]
			switch {
			case data && line != ".":
				continue
			case refuse != "" && strings.HasPrefix(line, refuse):
				answer = "550 not here"
			case answer == "":
				answer = "250 fine"
			}
			data = verb == "DATA"
			_, _ = fmt.Fprint(c, answer+"\r\n")
			if verb == "QUIT" {
				return
			}
		}
	}()
	t.Cleanup(func() { _ = l.Close() })
	return l.Addr().String(), func() []string { return <-lines }
}

func TestMailIsHandedToAServer(t *testing.T) {
	addr, told := mailServer(t, "")
	server := following.MailServer{Addr: addr, User: "counter", Password: "a secret", From: "shop@tarn.invalid"}
	require.NoError(
		t,
		sendMail(t.Context(), server, "bran@pistes.invalid", "Quote for T0414: 3 × valve",
			"Good morning\n.\nRead it here: http://127.0.0.1/q/abc\n"),
	)
	heard := told()
	all := strings.Join(heard, "\n")
	assert.Contains(t, heard, "MAIL FROM:<shop@tarn.invalid>")
	assert.Contains(t, heard, "RCPT TO:<bran@pistes.invalid>")
	assert.Contains(t, all, "AUTH PLAIN ")
	assert.Contains(t, all, "Subject: =?utf-8?q?", "written so that any reader can show it")
	assert.Contains(t, heard, "..", "a line of one dot does not end the mail")
	assert.Contains(t, heard, "Read it here: http://127.0.0.1/q/abc")
}

func TestMailThatCannotGoSaysWhy(t *testing.T) {
	addr, _ := mailServer(t, "RCPT")
	err := sendMail(t.Context(), following.MailServer{Addr: addr, From: "shop@tarn.invalid"}, "nobody@tarn.invalid", "s",
		"b")
	assert.ErrorContains(t, err, "not here")
	assert.ErrorContains(
		t, sendMail(t.Context(), following.MailServer{Addr: addr, From: "shop@tarn.invalid"},
			"x@y.invalid\r\nBcc: all@y.invalid", "s", "b"),
		"line end",
	)
	assert.Error(t, sendMail(t.Context(), following.MailServer{Addr: "nowhere", User: "u", From: "shop@tarn.invalid"},
		"x@y.invalid", "s", "b"))
}

// TestASilentMailServerIsNotWaitedForForEver gives up on a caller that leaves.
func TestASilentMailServerIsNotWaitedForForEver(t *testing.T) {
	ctx, leave := context.WithCancel(t.Context())
	leave()
	assert.Error(t, sendMail(ctx, following.MailServer{Addr: "127.0.0.1:1", From: "a@b.invalid"}, "c@d.invalid", "s", "b"))
}
