package surface

import (
	"math"
	"math/big"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/quantity"
)

// Point is a height z at a place x, y of the face.
type Point struct {
	X length.Length `json:"x" bound:"signed" doc:"along the head"`
	Y length.Length `json:"y" bound:"signed" doc:"across the head"`
	Z length.Length `json:"z" bound:"signed" doc:"height, positive where the face is proud"`
}

// FlatnessInput is a face read over a grid.
type FlatnessInput struct {
	Points    []Point       `json:"points" doc:"four points or more, not all on one line"`
	Allowance length.Length `json:"allowance" bound:"nonneg" opt:"0mm" doc:"what the cutter needs beyond the range to clean up"`
}

// FlatnessOutput is how flat the face is, in three measures, and the cuts that follow.
type FlatnessOutput struct {
	Range    length.Length    `json:"range_nm"`        // largest z - smallest z
	LSQ      length.Length    `json:"lsq_nm"`          // range about the least-squares plane
	Zone     length.Length    `json:"zone_nm"`         // minimum zone
	CutLevel length.Length    `json:"cut_level_nm"`    // range + allowance: head level on its datum
	CutBest  length.Length    `json:"cut_best_nm"`     // zone + allowance: head tilted to the best plane
	TiltX    quantity.Decimal `json:"tilt_x_um_per_m"` // of the best plane, along x
	TiltY    quantity.Decimal `json:"tilt_y_um_per_m"` // of the best plane, along y
	Touching []int            `json:"touching"`        // points on the two planes
}

// maxPoints bounds the work of one question.
const maxPoints = 5000

// Flatness computes range, least-squares flatness and the minimum zone: the least
// distance along z between two parallel planes that hold all points between them.
// The zone is a small linear programme, solved in whole numbers, so it is exact.
// Four points or more are needed, not all on one line seen from above.
func Flatness(in FlatnessInput) (FlatnessOutput, error) {
	if len(in.Points) < 4 {
		return FlatnessOutput{}, field.Errorf("points", "a face needs four points or more")
	}
	if len(in.Points) > maxPoints {
		return FlatnessOutput{}, field.Errorf("points", "more than %d points", maxPoints)
	}
	z, ok := minimumZone(in.Points)
	if !ok {
		return FlatnessOutput{}, field.Errorf("points", "the points all lie on one line")
	}
	lo, hi := in.Points[0].Z, in.Points[0].Z
	for _, p := range in.Points {
		lo, hi = min(lo, p.Z), max(hi, p.Z)
	}
	out := FlatnessOutput{Range: hi - lo, LSQ: leastSquares(in.Points), Zone: z.width, Touching: z.touching}
	out.LSQ = max(out.LSQ, out.Zone) // floats may fall a nanometre short of what cannot be beaten
	out.CutLevel, out.CutBest = out.Range+in.Allowance, out.Zone+in.Allowance
	out.TiltX, out.TiltY = quantity.Decimal(z.a*1e6), quantity.Decimal(z.b*1e6)
	return out, nil
}

// leastSquares returns the range of the residuals from the least-squares plane.
// Coordinates are centred first, which keeps float64 exact to far below a nanometre.
func leastSquares(ps []Point) length.Length {
	n := float64(len(ps))
	var mx, my, mz float64
	for _, p := range ps {
		mx, my, mz = mx+float64(p.X)/n, my+float64(p.Y)/n, mz+float64(p.Z)/n
	}
	var sxx, sxy, syy, sxz, syz float64
	for _, p := range ps {
		x, y, z := float64(p.X)-mx, float64(p.Y)-my, float64(p.Z)-mz
		sxx, sxy, syy, sxz, syz = sxx+x*x, sxy+x*y, syy+y*y, sxz+x*z, syz+y*z
	}
	det := sxx*syy - sxy*sxy
	a, b := (sxz*syy-syz*sxy)/det, (syz*sxx-sxz*sxy)/det
	lo, hi := math.Inf(1), math.Inf(-1)
	for _, p := range ps {
		r := float64(p.Z) - mz - a*(float64(p.X)-mx) - b*(float64(p.Y)-my)
		lo, hi = min(lo, r), max(hi, r)
	}
	return length.FromFloat(hi - lo)
}

type zone struct {
	width    length.Length
	a, b     float64 // slopes of the best plane, nm per nm
	touching []int
}

// A row of the linear programme is a point with a side: side +1 says that the point is
// not above the upper plane, -1 that it is not below the lower one. With half width t
// and middle plane ax + by + c the row reads
//
//	side (ax + by + c) + t >= side z
//
// and t is to be least. A basis is four rows that hold as equalities.
type row struct {
	point int
	side  int64
}

// minimumZone solves that programme by the dual simplex method in whole numbers: the
// 4 x 4 systems are solved by cofactors, so nothing is rounded before the end. The row
// broken most enters the basis; after a step that gained nothing the first broken row
// does instead, which rules out cycles. It returns false if all points lie on one line.
func minimumZone(ps []Point) (zone, bool) {
	basis, ok := firstBasis(ps)
	if !ok {
		return zone{}, false
	}
	ox, oy, oz := ps[basis[0].point].X, ps[basis[0].point].Y, ps[basis[0].point].Z
	coef := func(r row) [4]*big.Int {
		p := ps[r.point]
		return [4]*big.Int{
			big.NewInt(r.side * int64(p.X-ox)), big.NewInt(r.side * int64(p.Y-oy)),
			big.NewInt(r.side), big.NewInt(1),
		}
	}
	rhs := func(r row) *big.Int { return big.NewInt(r.side * int64(ps[r.point].Z-oz)) }
	careful := false
	for {
		var m [4][4]*big.Int
		for i, r := range basis {
			m[i] = coef(r)
		}
		det, adj := positive(adjugate(m))
		var y [4]*big.Int // a, b, c, t times det
		for i := range y {
			y[i] = new(big.Int)
			for j, r := range basis {
				y[i].Add(y[i], new(big.Int).Mul(adj[i][j], rhs(r)))
			}
		}
		enter, broken := entering(ps, y, det, Point{X: ox, Y: oy, Z: oz}, careful)
		if !broken {
			return finish(ps, y, det, ox, oy, oz), true
		}
		leave, ratio := leaving(basis, adj, coef(enter))
		if leave < 0 {
			return zone{}, false // cannot happen: the programme is bounded
		}
		careful = ratio.Sign() == 0
		basis[leave] = enter
	}
}

// positive returns a determinant and an adjugate with the sign that makes the determinant so.
func positive(det *big.Int, adj [4][4]*big.Int) (*big.Int, [4][4]*big.Int) {
	if det.Sign() < 0 {
		det.Neg(det)
		for i := range adj {
			for j := range adj[i] {
				adj[i][j].Neg(adj[i][j])
			}
		}
	}
	return det, adj
}

// entering is the point that lies farthest outside the zone y, det times as large, and on which
// side; when careful the first of those outside. False when all lie inside. Points count from o.
func entering(ps []Point, y [4]*big.Int, det *big.Int, o Point, careful bool) (enter row, broken bool) {
	worst, gap, tmp, mid := new(big.Int), new(big.Int), new(big.Int), new(big.Int)
	for i, p := range ps {
		// det times (z - plane at the point)
		mid.Mul(y[0], tmp.SetInt64(int64(p.X-o.X)))
		gap.Mul(y[1], tmp.SetInt64(int64(p.Y-o.Y)))
		mid.Add(mid, gap).Add(mid, y[2])
		gap.Mul(det, tmp.SetInt64(int64(p.Z-o.Z))).Sub(gap, mid)
		side := int64(gap.Sign())
		gap.Abs(gap).Sub(gap, y[3])
		if gap.Sign() > 0 && (!broken || !careful && gap.Cmp(worst) > 0) {
			broken, enter = true, row{i, side}
			worst.Set(gap)
		}
	}
	return enter, broken
}

// leaving is the row of the basis that an entering one with coefficients g drives out, and its
// multiplier times the determinant; -1 when none is. Multipliers of the basis are the last row of
// adj over the determinant; with the entering row they change by dir = g adj. The smallest ratio
// leaves.
func leaving(basis [4]row, adj [4][4]*big.Int, g [4]*big.Int) (leave int, num *big.Int) {
	leave = -1
	var den *big.Int
	for k := range basis {
		dir := new(big.Int)
		for j := range g {
			dir.Add(dir, new(big.Int).Mul(g[j], adj[j][k]))
		}
		if dir.Sign() <= 0 {
			continue
		}
		if leave >= 0 {
			c := new(big.Int).Mul(adj[3][k], den).Cmp(new(big.Int).Mul(num, dir))
			if c > 0 || c == 0 && !basis[k].before(basis[leave]) {
				continue
			}
		}
		leave, num, den = k, adj[3][k], dir
	}
	return leave, num
}

func (r row) before(o row) bool {
	return r.point < o.point || r.point == o.point && r.side > o.side
}

// firstBasis takes the two sides of one point and one side of two others that are not
// on a line with it: its multipliers (1/2, 1/2, 0, 0) are not negative.
func firstBasis(ps []Point) ([4]row, bool) {
	p := ps[0]
	second := -1
	for i, q := range ps {
		if second < 0 {
			if q.X != p.X || q.Y != p.Y {
				second = i
			}
			continue
		}
		s := ps[second]
		left := new(big.Int).Mul(big.NewInt(int64(s.X-p.X)), big.NewInt(int64(q.Y-p.Y)))
		right := new(big.Int).Mul(big.NewInt(int64(s.Y-p.Y)), big.NewInt(int64(q.X-p.X)))
		if left.Cmp(right) != 0 {
			return [4]row{{0, 1}, {0, -1}, {second, 1}, {i, 1}}, true
		}
	}
	return [4]row{}, false
}

// finish turns the solution y/det into lengths and collects the points on the planes.
func finish(ps []Point, y [4]*big.Int, det *big.Int, ox, oy, oz length.Length) zone {
	ratio := func(n *big.Int) float64 { return quantity.Float(new(big.Rat).SetFrac(n, det)) }
	width := new(big.Rat).SetFrac(new(big.Int).Lsh(y[3], 1), det)
	z := zone{width: length.Round(width), a: ratio(y[0]), b: ratio(y[1])}
	for i, p := range ps {
		gap := new(big.Int).Mul(det, big.NewInt(int64(p.Z-oz)))
		gap.Sub(gap, new(big.Int).Mul(y[0], big.NewInt(int64(p.X-ox))))
		gap.Sub(gap, new(big.Int).Mul(y[1], big.NewInt(int64(p.Y-oy))))
		gap.Sub(gap, y[2])
		if gap.CmpAbs(y[3]) == 0 {
			z.touching = append(z.touching, i)
		}
	}
	return z
}

// adjugate returns the determinant of m and its adjugate: m adj = det I.
func adjugate(m [4][4]*big.Int) (*big.Int, [4][4]*big.Int) {
	var adj [4][4]*big.Int
	for i := range 4 {
		for j := range 4 {
			c := minor(m, i, j)
			if (i+j)%2 == 1 {
				c.Neg(c)
			}
			adj[j][i] = c
		}
	}
	det := new(big.Int)
	for j := range 4 {
		det.Add(det, new(big.Int).Mul(m[0][j], adj[j][0]))
	}
	return det, adj
}

// minor returns the determinant of m without row i and column j.
func minor(m [4][4]*big.Int, i, j int) *big.Int {
	var s [3][3]*big.Int
	for r, k := 0, 0; r < 4; r++ {
		if r == i {
			continue
		}
		for c, l := 0, 0; c < 4; c++ {
			if c != j {
				s[k][l] = m[r][c]
				l++
			}
		}
		k++
	}
	det := new(big.Int)
	for c := range 3 {
		two := new(big.Int).Mul(s[1][(c+1)%3], s[2][(c+2)%3])
		two.Sub(two, new(big.Int).Mul(s[1][(c+2)%3], s[2][(c+1)%3]))
		det.Add(det, two.Mul(two, s[0][c]))
	}
	return det
}
