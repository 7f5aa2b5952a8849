package surface

import "yatai/core/length"

// Form is what a face's heights look like in words' measure. Hollow is how much the middle
// of the head's length lies above its ends, negative below; Twist is how much one diagonal's
// corners lie above the other's; Across is how much the middle of its width lies above its
// edges. All along z.
type Form struct {
	Hollow, Across, Twist length.Length
}

// FormOf compares the means of the points in the thirds of the face's length and width. It
// returns false when a third has no point.
func FormOf(points []Point) (f Form, ok bool) {
	if len(points) < 4 {
		return f, false
	}
	x1, x2, y1, y2 := points[0].X, points[0].X, points[0].Y, points[0].Y
	for _, p := range points {
		x1, x2, y1, y2 = min(x1, p.X), max(x2, p.X), min(y1, p.Y), max(y2, p.Y)
	}
	third := func(v, lo, hi length.Length) int {
		if hi == lo {
			return 1
		}
		return int(min(2, 3*(v-lo)/(hi-lo)))
	}
	var along, across [3][]length.Length
	var rising, falling []length.Length
	for _, p := range points {
		i, k := third(p.X, x1, x2), third(p.Y, y1, y2)
		along[i], across[k] = append(along[i], p.Z), append(across[k], p.Z)
		switch {
		case i != 1 && i == k:
			rising = append(rising, p.Z)
		case i != 1 && k != 1:
			falling = append(falling, p.Z)
		}
	}
	for _, ls := range [][]length.Length{
		along[0], along[1], along[2], across[0], across[1], across[2], rising, falling,
	} {
		if len(ls) == 0 {
			return f, false
		}
	}
	ends := func(t [3][]length.Length) length.Length {
		return length.Mean(t[1]) - length.Mean(append(append([]length.Length{}, t[0]...), t[2]...))
	}
	return Form{
		Hollow: ends(along), Across: ends(across), Twist: length.Mean(rising) - length.Mean(falling),
	}, true
}

// Says names a form in a unit: what of it is more than e.
func (f Form) Says(e length.Length, u length.Unit) string {
	by := func(l length.Length) string { return u.Whole(l.Abs()) }
	switch {
	case f.Twist.Abs() > e && f.Twist.Abs() > f.Hollow.Abs():
		return "twisted, one diagonal " + by(f.Twist) + " above the other"
	case f.Hollow > e:
		return "high in the middle of its length, by " + by(f.Hollow) + ": on the bench a straightedge rocks"
	case f.Hollow < -e:
		return "hollow lengthwise, by " + by(f.Hollow)
	case f.Across.Abs() > e:
		return "crowned across, by " + by(f.Across)
	}
	return "no form to speak of"
}
