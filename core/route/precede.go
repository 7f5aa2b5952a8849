package route

import "slices"

// Order of the trade that no lead can change: what comes before what, by rank. A kind of
// the first ranks comes before one of the second.
var precedence = []struct {
	before, after [2]int // ranks, first and last
	because       string
}{
	{[2]int{10, 10}, [2]int{20, 99}, "wash before it is tested"},
	{[2]int{20, 20}, [2]int{21, 99}, "test before money is spent on machining"},
	{[2]int{22, 25}, [2]int{26, 79}, "welding and heat before what has to stay true"},
	{[2]int{30, 33}, [2]int{40, 60}, "guides before seats: a seat is cut on a pilot in its guide"},
	{[2]int{40, 40}, [2]int{45, 45}, "the pressure test again after an insert"},
	{[2]int{40, 40}, [2]int{50, 50}, "the insert before its seat is cut"},
	{[2]int{50, 50}, [2]int{60, 60}, "cut before lapping"},
	{[2]int{26, 76}, [2]int{80, 80}, "grinding before the final wash"},
	{[2]int{80, 80}, [2]int{89, 99}, "wash before assembly"},
	{[2]int{90, 90}, [2]int{91, 92}, "assembled before lash and seal test"},
	{[2]int{10, 98}, [2]int{99, 99}, "the final check last"},
}

// Precedes tells whether a has to come before b, and why. The face may come before or after
// the seats: that is a school.
func Precedes(a, b Kind) (string, bool) {
	i := slices.IndexFunc(precedence, func(p struct {
		before, after [2]int
		because       string
	}) bool {
		return a.Rank >= p.before[0] && a.Rank <= p.before[1] && b.Rank >= p.after[0] && b.Rank <= p.after[1]
	})
	if i < 0 || a.Code == b.Code {
		return "", false
	}
	return precedence[i].because, true
}
