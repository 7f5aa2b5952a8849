package schedule

import (
	"cmp"
	"slices"
	"time"
)

// exactly is up to how many jobs every order is looked at.
const exactly = 12

// Order is an order of jobs, with what it comes to.
type Order struct {
	Jobs   []string
	Late   time.Duration // of all jobs together, each as often as it weighs
	Proved bool          // no order of the jobs is less late in all
	Plan   Result
}

// Best looks for the order of the jobs that is least late in all, each job's lateness counted as
// often as it weighs, and among those the one whose jobs are done soonest. It begins with the order
// given, so that it is never worse; up to a dozen jobs every order is looked at or ruled out, as
// far as budget reaches; beyond that jobs are moved as long as it helps. budget bounds the work, in
// placings of a task: a hundred thousand take some tenths of a second. Errors are those of Plan.
func Best(p Problem, budget int) (Order, error) {
	s, err := newSearch(p, budget)
	if err != nil {
		return Order{}, err
	}
	n := len(p.Jobs)
	given := make([]int, n)
	for i := range given {
		given[i] = i
	}
	if s.best, err = s.total(given, total{late: endless}); err != nil {
		return Order{}, err
	}
	s.order = given
	byDue := slices.Clone(given)
	slices.SortStableFunc(byDue, func(a, b int) int { return due(p.Jobs[a]).Compare(due(p.Jobs[b])) })
	s.consider(byDue)
	s.moves()
	proved := s.best.late == s.floor
	if n <= exactly && !proved {
		proved = s.branch()
	}
	ordered := p
	ordered.Jobs = nil
	out := Order{Late: s.best.late, Proved: proved}
	for _, i := range s.order {
		ordered.Jobs = append(ordered.Jobs, p.Jobs[i])
		out.Jobs = append(out.Jobs, p.Jobs[i].Name)
	}
	out.Plan, err = Plan(ordered)
	return out, err
}

// due is when a job is promised; far away for one without a promise.
func due(j Job) time.Time {
	if j.Due.IsZero() {
		return time.Date(9999, 1, 1, 0, 0, 0, 0, time.UTC)
	}
	return j.Due
}

// total is what an order comes to: how late all are, and how long all take.
type total struct{ late, long time.Duration }

const endless = time.Duration(1<<63 - 1)

// less tells whether a is better than b.
func (a total) less(b total) bool {
	return cmp.Or(cmp.Compare(a.late, b.late), cmp.Compare(a.long, b.long)) < 0
}

// search is a board that is kept as far as two orders begin alike.
type search struct {
	p       Problem
	b       *board
	running map[string]Bar
	budget  int

	on    []int   // the jobs on the board, in order
	bars  [][]Bar // theirs
	sums  []total // up to and with each
	alone []total // of each job by itself: none of it can be less
	floor time.Duration

	order []int
	best  total
}

func newSearch(p Problem, budget int) (*search, error) {
	s := &search{p: p, budget: budget}
	var err error
	if s.b, err = newBoard(p); err != nil {
		return nil, err
	}
	if s.running, err = s.b.begin(p); err != nil {
		return nil, err
	}
	for _, j := range p.Jobs {
		o, bars, err := s.b.job(p.Now, j, s.running)
		if err != nil {
			return nil, err
		}
		s.lift(bars)
		s.alone = append(s.alone, total{o.Cost, o.Done.Sub(p.Now)})
		s.floor += o.Cost
	}
	return s, nil
}

// lift takes a job off the board, but for what runs.
func (s *search) lift(bars []Bar) {
	for _, bar := range bars {
		if !bar.Running {
			s.b.lift(bar)
		}
	}
}

// push puts a job behind those on the board.
func (s *search) push(i int) error {
	j := s.p.Jobs[i]
	s.budget -= len(j.Tasks)
	o, bars, err := s.b.job(s.p.Now, j, s.running)
	if err != nil {
		return err
	}
	sum := total{o.Cost, o.Done.Sub(s.p.Now)}
	if n := len(s.sums); n > 0 {
		sum.late, sum.long = sum.late+s.sums[n-1].late, sum.long+s.sums[n-1].long
	}
	s.on, s.bars, s.sums = append(s.on, i), append(s.bars, bars), append(s.sums, sum)
	return nil
}

// cut takes the jobs behind the first n off the board.
func (s *search) cut(n int) {
	for k := len(s.on) - 1; k >= n; k-- {
		s.lift(s.bars[k])
	}
	s.on, s.bars, s.sums = s.on[:n], s.bars[:n], s.sums[:n]
}

// total works an order out. It stops where the order cannot be better than most, and says that it is endless.
func (s *search) total(order []int, most total) (total, error) {
	same := 0
	for same < len(s.on) && same < len(order) && s.on[same] == order[same] {
		same++
	}
	s.cut(same)
	rest := time.Duration(0)
	for _, i := range order[same:] {
		rest += s.alone[i].late
	}
	for _, i := range order[same:] {
		if err := s.push(i); err != nil {
			return total{}, err
		}
		rest -= s.alone[i].late
		if s.sums[len(s.sums)-1].late+rest > most.late {
			return total{late: endless}, nil
		}
	}
	if len(s.sums) == 0 {
		return total{}, nil
	}
	return s.sums[len(s.sums)-1], nil
}

// consider keeps an order when it is the best so far.
func (s *search) consider(order []int) bool {
	t, err := s.total(order, s.best)
	if err != nil || !t.less(s.best) {
		return false
	}
	s.best, s.order = t, slices.Clone(order)
	return true
}

// moves moves single jobs to other places in the order as long as that helps.
func (s *search) moves() {
	for better := true; better && s.budget > 0; {
		better = false
		for from := len(s.order) - 1; from >= 0 && s.budget > 0; from-- {
			for to := len(s.order) - 1; to >= 0 && s.budget > 0; to-- {
				if to == from {
					continue
				}
				moved := slices.Delete(slices.Clone(s.order), from, from+1)
				if s.consider(slices.Insert(moved, to, s.order[from])) {
					better = true
					break
				}
			}
		}
	}
}

// branch looks at every order, leaving out those that begin so late that they cannot be less
// late than the best; false when the budget ended first.
func (s *search) branch() bool {
	s.cut(0)
	n := len(s.p.Jobs)
	used := make([]bool, n)
	var order []int
	var walk func() bool
	walk = func() bool {
		if s.budget <= 0 {
			return false
		}
		sum := total{}
		if k := len(s.sums); k > 0 {
			sum = s.sums[k-1]
		}
		if len(order) == n {
			if sum.less(s.best) {
				s.best, s.order = sum, slices.Clone(order)
			}
			return true
		}
		// what each of the others comes to at least, behind these: by itself
		next := make([]int, 0, n)
		least := map[int]time.Duration{}
		for i := range n {
			if used[i] {
				continue
			}
			if err := s.push(i); err != nil {
				return false
			}
			least[i] = s.sums[len(s.sums)-1].late - sum.late
			s.cut(len(order))
			next = append(next, i)
		}
		rest := time.Duration(0)
		for _, l := range least {
			rest += l
		}
		// it could only be as late, and no sooner done by more than the moves found
		if sum.late+rest >= s.best.late {
			return true
		}
		slices.SortStableFunc(next, func(a, b int) int { return due(s.p.Jobs[a]).Compare(due(s.p.Jobs[b])) })
		for _, i := range next {
			used[i] = true
			order = append(order, i)
			if err := s.push(i); err != nil {
				return false
			}
			ok := walk()
			order = order[:len(order)-1]
			s.cut(len(order))
			used[i] = false
			if !ok {
				return false
			}
		}
		return true
	}
	return walk()
}
