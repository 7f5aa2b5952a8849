package schedule

import (
	"slices"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/quantity"
)

// slot is when a task is on a place, or with a person.
type slot struct {
	Span
	task string
}

// line is what is on one place of a station, or with one person, in order; none overlap.
type line struct{ busy []slot }

// put adds a slot where there is nothing yet: somebody may be at two things that run already.
// One that takes no time is in nobody's way.
func (l *line) put(s slot) {
	for s.Start.Before(s.End) {
		there, ok := l.clash(s.Span)
		if !ok {
			l.insert(s)
			return
		}
		if there.Start.After(s.Start) {
			l.insert(slot{Span{s.Start, there.Start}, s.task})
		}
		s.Start = there.End
	}
}

func (l *line) insert(s slot) {
	at, _ := slices.BinarySearchFunc(l.busy, s.Start,
		func(s slot, t time.Time) int { return s.Start.Compare(t) })
	l.busy = slices.Insert(l.busy, at, s)
}

// take removes the slots of a task.
func (l *line) take(task string) {
	l.busy = slices.DeleteFunc(l.busy, func(s slot) bool { return s.task == task })
}

// clash returns the first slot that overlaps a span.
func (l *line) clash(sp Span) (slot, bool) {
	if i := l.after(sp.Start); i < len(l.busy) && l.busy[i].Start.Before(sp.End) {
		return l.busy[i], true
	}
	return slot{}, false
}

// after returns the index of the first slot that ends after t.
func (l *line) after(t time.Time) int {
	lo, hi := 0, len(l.busy)
	for lo < hi {
		if mid := (lo + hi) / 2; l.busy[mid].End.After(t) {
			hi = mid
		} else {
			lo = mid + 1
		}
	}
	return lo
}

// stand is a station as it fills up.
type stand struct {
	Station
	longest  quantity.Minutes // minutes of its longest shift
	calendar *calendar
	units    []*line
}

// hand is a person as the days fill up.
type hand struct {
	Person
	line
	taken time.Duration
}

// crew are the people at a task, and when they and its station are there together.
type crew struct {
	hands    []*hand
	calendar *calendar
}

// board is the stations and the people.
type board struct {
	now    time.Time
	closed map[string]bool
	stands map[string]*stand
	hands  []*hand
	crews  map[string][]crew // by station, skill and how many: made when first asked for
}

// newBoard sets the stations up, empty.
func newBoard(p Problem) (*board, error) {
	b := &board{now: p.Now, closed: p.Closed, stands: map[string]*stand{}, crews: map[string][]crew{}}
	for _, s := range p.Stations {
		st := &stand{
			Station: s, longest: quantity.Minutes(s.Hours.longest()),
			calendar: newCalendar(p.Now, attendance{s.Hours, p.Closed}),
		}
		if s.Capacity < 1 || st.longest == 0 {
			return nil, field.Errorf("stations", "%s needs a place and working hours", s.Name)
		}
		b.stands[s.Name] = st
	}
	for _, h := range p.People {
		if h.Hours.longest() == 0 {
			return nil, field.Errorf("people", "%s needs working hours", h.Name)
		}
		b.hands = append(b.hands, &hand{Person: h})
	}
	b.clear()
	return b, nil
}

// clear takes everything off the stations and from the people.
func (b *board) clear() {
	for _, st := range b.stands {
		st.units = nil
		for range st.Capacity {
			st.units = append(st.units, &line{})
		}
	}
	for _, h := range b.hands {
		h.busy, h.taken = nil, 0
	}
}

// crewsFor lists who could do a task, in every combination: those by name where it runs
// already. None when people are never short, or when nobody can.
func (b *board) crewsFor(st *stand, t Task) []crew {
	if len(b.hands) == 0 || t.first()+t.last() == 0 {
		return nil
	}
	n := max(1, t.Hands)
	key := st.Name + "\n" + t.Skill + "\n" + string(rune('0'+n)) + strings.Join(t.By, "\n")
	if known, ok := b.crews[key]; ok {
		return known
	}
	var able []*hand
	for _, h := range b.hands {
		if t.Running && len(t.By) > 0 && slices.Contains(t.By, h.Name) ||
			(!t.Running || len(t.By) == 0) && h.able(t.Skill) {
			able = append(able, h)
		}
	}
	if t.Running && len(t.By) > 0 {
		n = len(able)
	}
	var out []crew
	var choose func(from int, with []*hand)
	choose = func(from int, with []*hand) {
		if len(with) == n && n > 0 {
			of := []attendance{{st.Hours, b.closed}}
			for _, h := range with {
				of = append(of, attendance{h.Hours, h.Away})
			}
			out = append(out, crew{slices.Clone(with), newCalendar(b.now, of...)})
			return
		}
		for i := from; i < len(able); i++ {
			choose(i+1, append(with, able[i]))
		}
	}
	choose(0, nil)
	b.crews[key] = out
	return out
}

// place puts a task on the place of its station, with the people, where it is done first, not
// before after. Of people who are done equally soon those who have least to do are taken.
func (b *board) place(job string, t Task, after time.Time) (Bar, error) {
	st, ok := b.stands[t.Station]
	switch {
	case !ok:
		return Bar{}, field.Errorf("tasks", "%s: there is no station %q", t.ID, t.Station)
	case t.Minutes < 0:
		return Bar{}, field.Errorf("tasks", "%s: minutes below nothing", t.ID)
	}
	from := after
	bar := Bar{Task: t, Job: job}
	if t.Ready.After(from) {
		bar.Waits = append(bar.Waits, Wait{t.ID, t.For, t.Why, nil, Span{from, t.Ready}})
		from = t.Ready
	}
	if t.Hold.After(from) {
		bar.Waits = append(bar.Waits, Wait{
			Task: t.ID, For: "hand", Why: "held back until " + t.Hold.Format("Mon 2 Jan 15:04"),
			Span: Span{from, t.Hold},
		})
		from = t.Hold
	}
	crews := b.crewsFor(st, t)
	if crews == nil {
		bar.Nobody = len(b.hands) > 0 && t.first()+t.last() > 0
		crews = []crew{{nil, st.calendar}}
	}
	var best Bar
	var where *line
	var who []*hand
	for _, c := range crews {
		for i, u := range st.units {
			try, ok := st.fit(bar, u, c, from, best.End)
			if !ok || where != nil && (try.End.After(best.End) || try.End.Equal(best.End) && !lighter(c.hands, who)) {
				continue
			}
			best, where, who = try, u, c.hands
			best.Unit = i
		}
	}
	if where == nil {
		return Bar{}, field.Errorf("tasks", "%s finds no time at %s within two years", t.ID, t.Station)
	}
	where.put(slot{Span{best.Start, best.End}, best.ID})
	for _, h := range who {
		best.People = append(best.People, h.Name)
		for _, sp := range best.With {
			h.put(slot{sp, best.ID})
			h.taken += sp.End.Sub(sp.Start)
		}
	}
	return best, nil
}

// lift takes a bar off the board again.
func (b *board) lift(bar Bar) {
	b.stands[bar.Station].units[bar.Unit].take(bar.ID)
	for _, h := range b.hands {
		if slices.Contains(bar.People, h.Name) {
			h.take(bar.ID)
			for _, sp := range bar.With {
				h.taken -= sp.End.Sub(sp.Start)
			}
		}
	}
}

// lighter tells whether one crew has less to do so far than another.
func lighter(a, b []*hand) bool {
	sum := func(hs []*hand) (d time.Duration) {
		for _, h := range hs {
			d += h.taken
		}
		return d
	}
	return sum(a) < sum(b)
}

// fit finds the first time from from on when u and the crew are free for all of the task, and
// says what was in the way. It gives up when the task would be done after latest; zero: never.
func (st *stand) fit(bar Bar, u *line, c crew, from, latest time.Time) (Bar, bool) {
	var behind []string
	var turn time.Time
	reason := "people"
	long := bar.Minutes.Duration()
	for {
		if !latest.IsZero() && from.Add(long).After(latest) {
			return Bar{}, false
		}
		l, ok := st.lay(c, from, bar.Task)
		if !ok {
			return Bar{}, false
		}
		if turn.IsZero() {
			turn = l.start
		}
		blocked, by, why := l.blocked(u, c, bar.Running)
		if why == "" {
			bar.Start, bar.End, bar.Pieces, bar.With = l.start, l.end, l.pieces, l.with
			if behind != nil {
				bar.Waits = append(slices.Clip(bar.Waits), Wait{bar.ID, reason, "", behind, Span{turn, l.start}})
			}
			return bar, true
		}
		if why == "station" {
			reason = why
		}
		if len(behind) == 0 || behind[len(behind)-1] != by {
			behind = append(behind, by)
		}
		if from = blocked; !bar.Running {
			from = c.free(u, from, long, time.Duration(bar.first())*time.Minute)
		}
	}
}

// free returns the first time from t on when the place is free for so long at least, and all of
// the crew for the first part of it: whatever the hours, the task cannot begin before.
func (c crew) free(u *line, t time.Time, long, first time.Duration) time.Time {
	for moved := true; moved; {
		moved = false
		if s, ok := u.clash(Span{t, t.Add(long)}); ok {
			t, moved = s.End, true
		}
		for _, h := range c.hands {
			if s, ok := h.clash(Span{t, t.Add(first)}); ok {
				t, moved = s.End, true
			}
		}
	}
	return t
}

// laid is a task laid into working time.
type laid struct {
	start, end time.Time
	pieces     []Span // on the station
	with       []Span // with people: at the start, and at the end of one that runs alone between
}

// blocked says from when on to look again, behind which task, and what was in the way: nothing
// when the place and the people are free.
func (l laid) blocked(u *line, c crew, running bool) (from time.Time, by, why string) {
	if s, ok := u.clash(Span{l.start, l.end}); ok {
		return s.End, s.task, "station"
	}
	if running { // who is at it is at it
		return time.Time{}, "", ""
	}
	for _, h := range c.hands {
		for _, sp := range l.with {
			if s, ok := h.clash(sp); ok {
				return l.start.Add(s.End.Sub(sp.Start)), s.task, "people"
			}
		}
	}
	return time.Time{}, "", ""
}

// lay lays a task into the hours of its station and crew from from on. One that must not be
// left over night waits for a shift it fits into, if there is one.
func (st *stand) lay(c crew, from time.Time, t Task) (laid, bool) {
	if t.Whole && t.Minutes <= st.longest {
		if l, ok := st.whole(c, from, t); ok {
			return l, true
		}
	}
	first, ok := work(c.calendar, from, t.first())
	if !ok {
		return laid{}, false
	}
	l := laid{start: first[0].Start, end: first[len(first)-1].End, pieces: first}
	if c.hands != nil && t.first() > 0 {
		l.with = append(l.with, Span{l.start, l.end})
	}
	if t.Alone <= 0 {
		return l, true
	}
	for _, part := range []struct {
		calendar *calendar
		minutes  quantity.Minutes
		people   bool
	}{{st.calendar, min(t.Alone, t.Minutes), false}, {c.calendar, t.last(), true}} {
		if part.minutes == 0 {
			continue
		}
		more, ok := work(part.calendar, l.end, part.minutes)
		if !ok {
			return laid{}, false
		}
		if t.first() == 0 && !part.people {
			l.pieces, l.start = nil, more[0].Start
		}
		l.pieces, l.end = join(l.pieces, more), more[len(more)-1].End
		if part.people && c.hands != nil {
			l.with = append(l.with, Span{more[0].Start, l.end})
		}
	}
	return l, true
}

// join puts stretches behind others, as one where they touch.
func join(a, b []Span) []Span {
	if n := len(a); n > 0 && a[n-1].End.Equal(b[0].Start) {
		a = slices.Clone(a)
		a[n-1].End = b[0].End
		b = b[1:]
	}
	return append(a, b...)
}

// whole lays a task into one shift of its station, its people being there when it needs them.
func (st *stand) whole(c crew, from time.Time, t Task) (laid, bool) {
	tries := 0
	for sp := range st.calendar.from(from) {
		if tries++; tries > horizon { // its people are never there for so long
			return laid{}, false
		}
		if sp.End.Sub(sp.Start) < t.Minutes.Duration() {
			continue
		}
		if c.hands == nil {
			end := sp.Start.Add(t.Minutes.Duration())
			return laid{sp.Start, end, []Span{{sp.Start, end}}, nil}, true
		}
		for start := sp.Start; ; {
			at, ok := c.covers(start, t.first().Duration())
			if !ok {
				return laid{}, false
			}
			end := at.Add(t.Minutes.Duration())
			if end.After(sp.End) {
				break
			}
			with := []Span{{at, at.Add(t.first().Duration())}}
			if n := t.last().Duration(); n > 0 {
				back, ok := c.covers(end.Add(-n), n)
				if !ok {
					return laid{}, false
				}
				if late := back.Sub(end.Add(-n)); late > 0 {
					start = at.Add(late)
					continue
				}
				with = append(with, Span{end.Add(-n), end})
			}
			if t.first() == 0 {
				with = with[1:]
			}
			return laid{at, end, []Span{{at, end}}, with}, true
		}
	}
	return laid{}, false
}

// covers returns the first time from from on when the crew is there for so long at a stretch.
func (c crew) covers(from time.Time, long time.Duration) (time.Time, bool) {
	tries := 0
	for sp := range c.calendar.from(from) {
		if sp.End.Sub(sp.Start) >= long {
			return sp.Start, true
		}
		if tries++; tries > horizon {
			break
		}
	}
	return time.Time{}, false
}

// work lays minutes of work into a calendar from from on.
func work(c *calendar, from time.Time, minutes quantity.Minutes) ([]Span, bool) {
	left := minutes.Duration()
	var pieces []Span
	for sp := range c.from(from) {
		if sp.End.Sub(sp.Start) >= left {
			return append(pieces, Span{sp.Start, sp.Start.Add(left)}), true
		}
		left -= sp.End.Sub(sp.Start)
		pieces = append(pieces, sp)
	}
	return nil, false
}
