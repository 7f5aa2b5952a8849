package engine

import (
	"math"
	"math/big"
	"regexp"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/quantity"
)

// ThreadInput is a thread by its name: M10x1.25, M8 for the coarse one, 3/8-16, #10-24.
type ThreadInput struct {
	Thread string `json:"thread" doc:"its name: M10x1.25, M8 for the coarse one, 3/8-16, #10-24"`
}

// ThreadOutput is what follows from a thread's name. Engagement is of the tap drill, in percent of a
// full thread.
type ThreadOutput struct {
	Major       length.Length    `json:"major_nm"`
	Pitch       length.Length    `json:"pitch_nm"`
	TapDrill    length.Length    `json:"tap_drill_nm"`
	InsertDrill length.Length    `json:"insert_drill_nm"` // for a wire insert
	Engagement  quantity.Decimal `json:"engagement_percent"`
}

// coarse are the pitches of coarse metric threads by diameter, both in millimetres: the standard series.
var coarse = map[string]string{
	"5": "0.8", "6": "1", "7": "1", "8": "1.25", "10": "1.5", "12": "1.75", "14": "2", "16": "2",
	"18": "2.5",
}

var (
	metric = regexp.MustCompile(`^[Mm]([0-9]+(?:[.,][0-9]+)?)(?:\s*[xX*×]\s*([0-9]+(?:[.,][0-9]+)?))?$`)
	inch   = regexp.MustCompile(`^(#?)([0-9]+)?(?:\s*([0-9]+)/([0-9]+))?\s*-\s*([0-9]+)$`)
)

// fullThread is the height of a full thread on both sides, in pitches: that of a sixty degree thread,
// five eighths of its triangle.
const fullThread = 1.082532

// Thread reads a thread's name. Drills are those to be had: to a tenth of a millimetre, halves up.
func Thread(in ThreadInput) (ThreadOutput, error) {
	major, pitch, err := thread(strings.TrimSpace(in.Thread))
	if err != nil {
		return ThreadOutput{}, err
	}
	tap, insert := drill(new(big.Rat).Sub(major, pitch)), drill(
		new(big.Rat).Add(major, new(big.Rat).Quo(pitch, big.NewRat(4, 1))),
	)
	deep := quantity.Float(new(big.Rat).Sub(major, new(big.Rat).SetInt64(int64(tap))))
	return ThreadOutput{
		Major: length.Round(major), Pitch: length.Round(pitch), TapDrill: tap, InsertDrill: insert,
		Engagement: quantity.Decimal(math.Round(1000*deep/(fullThread*quantity.Float(pitch))) / 10),
	}, nil
}

// thread is a thread's major diameter and pitch in nanometres.
func thread(name string) (major, pitch *big.Rat, err error) {
	if m := metric.FindStringSubmatch(name); m != nil {
		if m[2] == "" {
			if m[2] = coarse[m[1]]; m[2] == "" {
				return nil, nil, field.Errorf("thread",
					"write its pitch too: M%sx1, there is no coarse thread that everybody means", m[1])
			}
		}
		return sensible(millimetres(m[1]), millimetres(m[2]))
	}
	m := inch.FindStringSubmatch(name)
	if m == nil || m[2] == "" && m[3] == "" || m[1] != "" && m[3] != "" {
		return nil, nil, field.Errorf("thread", "a thread is written M10x1.25, M8, 3/8-16 or #10-24")
	}
	whole, _ := strconv.ParseInt("0"+m[2], 10, 32)
	turns, _ := strconv.ParseInt(m[5], 10, 32)
	size := big.NewRat(whole, 1)
	switch {
	case m[1] != "": // numbered: 0.060 in and 0.013 for each
		size = big.NewRat(60+13*whole, 1000)
	case m[3] != "":
		num, _ := strconv.ParseInt(m[3], 10, 32)
		den, _ := strconv.ParseInt(m[4], 10, 32)
		if den == 0 {
			return nil, nil, field.Errorf("thread", "a fraction of an inch over nothing")
		}
		size.Add(size, big.NewRat(num, den))
	}
	if turns == 0 {
		return nil, nil, field.Errorf("thread", "how many turns an inch?")
	}
	perInch := big.NewRat(int64(length.Inch), 1)
	return sensible(new(big.Rat).Mul(size, perInch), new(big.Rat).Quo(perInch, big.NewRat(turns, 1)))
}

func millimetres(text string) *big.Rat {
	n, _ := new(big.Rat).SetString(strings.Replace(text, ",", ".", 1))
	return n.Mul(n, big.NewRat(int64(length.Millimetre), 1))
}

// sensible refuses what is no thread: one deeper than its bolt, or a bolt of a metre.
func sensible(major, pitch *big.Rat) (*big.Rat, *big.Rat, error) {
	most := big.NewRat(int64(200*length.Millimetre), 1)
	if pitch.Sign() <= 0 || new(big.Rat).Add(pitch, pitch).Cmp(major) >= 0 || major.Cmp(most) > 0 {
		return nil, nil, field.Errorf("thread", "no bolt has such a thread")
	}
	return major, pitch, nil
}

// drill is the nearest drill to be had, to a tenth of a millimetre, halves up.
func drill(nm *big.Rat) length.Length {
	const tenth = length.Millimetre / 10
	n := new(big.Rat).Quo(nm, big.NewRat(int64(tenth), 1))
	n.Add(n, big.NewRat(1, 2))
	return length.Length(new(big.Int).Div(n.Num(), n.Denom()).Int64()) * tenth
}
