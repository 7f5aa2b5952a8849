package practising

import (
	"context"
	"crypto/aes"
	"crypto/cipher"
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"strings"

	"golang.org/x/crypto/argon2"

	"yatai/core/field"
	"yatai/core/head"
	"yatai/core/practice"
	"yatai/shop"
	"yatai/store"
)

// keyOf is the key of a head that is begun: of an exam's number the same for everybody in the shop, else
// nobody's before.
func keyOf(tx store.DB, h store.PracticeHead) (key practice.Key, err error) {
	if h.Exam == "" {
		_, err = rand.Read(key[:])
		return key, err
	}
	secret, err := tx.PracticeSecret(fresh)
	if err != nil {
		return key, err
	}
	mac := hmac.New(sha256.New, secret)
	fmt.Fprintf(mac, "exam\x00%s\x00%d\x00%s\x00%s", h.Lesson, h.Level, h.Trouble, strings.ToLower(h.Exam))
	return practice.Key(mac.Sum(nil)), nil
}

// fresh makes a secret.
func fresh() []byte {
	b := make([]byte, 32)
	_, _ = rand.Read(b) // never fails
	return b
}

// seal seals a key with the shop's secret.
func seal(tx store.DB, key practice.Key) ([]byte, error) {
	secret, err := tx.PracticeSecret(fresh)
	if err != nil {
		return nil, err
	}
	return sealWith(secret, key[:])
}

// unseal takes a key out again.
func unseal(db store.DB, sealed []byte) (key practice.Key, err error) {
	secret, err := db.PracticeSecret(fresh)
	if err != nil {
		return key, err
	}
	raw, err := unsealWith(secret, sealed)
	if err != nil || len(raw) != len(key) {
		return key, fmt.Errorf("the practice head cannot be unsealed: %w", err)
	}
	return practice.Key(raw), nil
}

// sealWith seals under a secret of 32 bytes: a nonce, then what is sealed and proves that nobody changed it.
func sealWith(secret, what []byte) ([]byte, error) {
	c, err := boxOf(secret)
	if err != nil {
		return nil, err
	}
	nonce := make([]byte, c.NonceSize())
	if _, err := rand.Read(nonce); err != nil {
		return nil, err
	}
	return c.Seal(nonce, nonce, what, nil), nil
}

func unsealWith(secret, sealed []byte) ([]byte, error) {
	c, err := boxOf(secret)
	if err != nil {
		return nil, err
	}
	if len(sealed) < c.NonceSize() {
		return nil, field.Errorf("", "too short")
	}
	return c.Open(nil, sealed[:c.NonceSize()], sealed[c.NonceSize():], nil)
}

func boxOf(secret []byte) (cipher.AEAD, error) {
	block, err := aes.NewCipher(secret)
	if err != nil {
		return nil, err
	}
	return cipher.NewGCM(block)
}

// Format names the file of a practice head.
const Format = "yatai-practice/1"

// File is a practice head as a file: the head as it is told, with nothing read, and its truth sealed with a
// word. Who is told the word can open it.
type File struct {
	Format string    `json:"format"`
	Lesson string    `json:"lesson"`
	Level  int       `json:"level"`
	Head   head.File `json:"head"`
	Salt   []byte    `json:"salt"`
	Sealed []byte    `json:"sealed"`
}

// sealedTruth is what is sealed in a file.
type sealedTruth struct {
	Key     []byte `json:"key"`
	Trouble string `json:"trouble"`
}

// leastWord is how many letters the word has at least that a file is sealed with.
const leastWord = 8

// MostFile bounds the file of a practice head, in bytes.
const MostFile = 1 << 20

// stretched is the secret a word makes, slow on purpose.
func stretched(word string, salt []byte) []byte {
	return argon2.IDKey([]byte(word), salt, 2, 32<<10, 1, 32)
}

// Share writes a practice head as a file, its truth sealed with a word: see MayShare. The readings of who
// shares it stay.
func Share(ctx context.Context, s *shop.Shop, a shop.Actor, id uint, word string) ([]byte, error) {
	if len(word) < leastWord {
		return nil, field.Only("word", "a word of %d letters at least: without it nobody opens the file", leastWord)
	}
	db := s.Store.Read(ctx)
	h, err := open(db, a, id)
	if err != nil {
		return nil, err
	}
	if !h.MayShare(a) {
		return nil, field.Only("word", "open it first: who chooses the word could look at what it seals")
	}
	key, err := unseal(db, h.Sealed)
	if err != nil {
		return nil, err
	}
	truth, err := json.Marshal(sealedTruth{key[:], h.PracticeHead.Trouble})
	if err != nil {
		return nil, err
	}
	f := File{
		Format: Format, Lesson: h.PracticeHead.Lesson, Level: h.PracticeHead.Level, Head: head.Encode(h.Told),
		Salt: fresh(),
	}
	if f.Sealed, err = sealWith(stretched(word, f.Salt), truth); err != nil {
		return nil, err
	}
	return json.MarshalIndent(f, "", "  ")
}

// TakeIn begins a practice head from a file, opened with its word, and returns its id.
func TakeIn(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, file []byte, word string,
) (string, error) {
	if err := a.Must("practise"); err != nil {
		return "", err
	}
	var f File
	if len(file) > MostFile {
		return "", field.Only("file", "larger than any practice head")
	}
	if err := json.Unmarshal(file, &f); err != nil || f.Format != Format {
		return "", field.Only("file", "this is no practice head: its format is %s", Format)
	}
	if _, ok := practice.LessonNamed(f.Lesson); !ok {
		return "", field.Only("file", "its lesson is not known here")
	}
	raw, err := unsealWith(stretched(word, f.Salt), f.Sealed)
	if err != nil {
		return "", field.Only("word", "the word does not open it")
	}
	var truth sealedTruth
	if err := json.Unmarshal(raw, &truth); err != nil || len(truth.Key) != len(practice.Key{}) {
		return "", field.Only("file", "what is sealed in it is no practice head")
	}
	kept := store.PracticeHead{
		PersonID: a.ID, At: s.Now(), Lesson: f.Lesson, Level: f.Level, Trouble: truth.Trouble,
		Record: "{}", Skills: "[]",
	}
	return s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		return begin(tx, kept, practice.Key(truth.Key))
	})
}
