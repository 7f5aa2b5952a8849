package store

import (
	"errors"
	"time"
)

// PracticeHead is a head that somebody practises on. It is no head of the shop's: nothing else knows of it.
type PracticeHead struct {
	ID       uint
	PersonID uint
	Person   User
	At       time.Time
	Lesson   string
	Level    int
	Trouble  string // that was asked for; empty: the lesson's, or any
	Exam     string // number by which two people get the same; empty for a head of one's own
	Sealed   []byte // its key
	Record   string // what was done and said, a practice.Record in JSON
	OpenedAt *time.Time
	Share    float64 // the score when it was opened, 0 to 1
	Skills   string  // and its skills, in JSON
}

// PracticeHead returns the practice head of an id, with its person.
func (d DB) PracticeHead(id uint) (PracticeHead, error) {
	return one[PracticeHead](d.g.Joins("Person").Where("practice_heads.id = ?", id))
}

// PracticeHeads lists the newest practice heads of a person, or of all when person is 0, the newest first.
func (d DB) PracticeHeads(person uint, most int) ([]PracticeHead, error) {
	g := d.g.Joins("Person").Order("practice_heads.id DESC").Limit(most)
	if person > 0 {
		g = g.Where("practice_heads.person_id = ?", person)
	}
	return many[PracticeHead](g)
}

// SetPractice keeps what was done and said with a practice head.
func (d DB) SetPractice(id uint, record string) error {
	return d.set(&PracticeHead{}, id, map[string]any{"record": record})
}

// OpenPractice opens a practice head with its score.
func (d DB) OpenPractice(id uint, at time.Time, share float64, skills string) error {
	return d.set(&PracticeHead{}, id, map[string]any{"opened_at": at, "share": share, "skills": skills})
}

// PracticeSecret returns the secret that practice heads are sealed with, made by fresh when there is none.
func (d DB) PracticeSecret(fresh func() []byte) ([]byte, error) {
	type practiceSecret struct {
		ID     uint
		Secret []byte
	}
	kept, err := one[practiceSecret](d.g.Where("id = 1"))
	if errors.Is(err, ErrNotFound) {
		kept = practiceSecret{1, fresh()}
		err = d.g.Create(&kept).Error
	}
	return kept.Secret, err
}
