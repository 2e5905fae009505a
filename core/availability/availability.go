package availability

import (
	"cmp"
	"math"
	"strings"

	"nineyard/core/invalid"
	"nineyard/core/season"
)

// Status is what a player may take part in.
type Status string

// The statuses, from the loosest to the strictest.
const (
	Available Status = "available"
	Limited   Status = "limited"   // takes part, but not in contact
	Out       Status = "out"       // takes no part
	HeadHold  Status = "head_hold" // suspected head injury: takes no part until cleared in writing
)

var strictness = map[Status]int{Available: 0, Limited: 1, Out: 2, HeadHold: 3}

// Valid reports whether s is one of the statuses.
func (s Status) Valid() bool { _, ok := strictness[s]; return ok }

// TakesPart reports whether a player of this status is in lanes, rotations and counts.
func (s Status) TakesPart() bool { return s == Available || s == Limited }

// MaxReason is the longest reason, in characters.
const MaxReason = 200

// Clearance is the written word of a licensed health professional.
type Clearance struct {
	By       string      // his name and profession, 3–120 characters
	On       season.Date // the day it was written; he is available from that day
	Document string      // where the writing is kept or what it is called, 2–120 characters
}

// Spell is a stretch of days with a status.
type Spell struct {
	Status  Status
	From    season.Date
	To      *season.Date // last day; nil while it is open
	Reason  string
	Cleared *Clearance // of a hold
}

// Holds reports whether the spell holds on a day.
func (s Spell) Holds(day season.Date) bool {
	if s.Status == HeadHold {
		return day >= s.From && (s.Cleared == nil || day < s.Cleared.On)
	}
	return day >= s.From && (s.To == nil || day <= *s.To)
}

// On returns the spell that decides on a day: the strictest of those that hold; of equals
// the one that began last, then the one that lasts longest, then the first by its reason, so
// that the order of the record does not matter. It reports false when none holds: the player
// is available.
func On(spells []Spell, day season.Date) (Spell, bool) {
	var best Spell
	found := false
	for _, s := range spells {
		if s.Holds(day) && s.Status != Available && (!found || s.before(best)) {
			best, found = s, true
		}
	}
	return best, found
}

// before reports whether a spell decides rather than another that holds too.
func (s Spell) before(t Spell) bool {
	end := func(s Spell) season.Date {
		if s.To == nil {
			return math.MaxInt32
		}
		return *s.To
	}
	return cmp.Or(cmp.Compare(strictness[t.Status], strictness[s.Status]), cmp.Compare(t.From, s.From), cmp.Compare(end(t), end(s)),
		cmp.Compare(s.Reason, t.Reason)) < 0
}

// Check returns an invalid.Error naming the field when a spell cannot be: no status or
// "available", an end before its beginning, a hold with an end, a reason that is missing or
// longer than MaxReason.
func (s Spell) Check() error {
	switch {
	case !s.Status.Valid() || s.Status == Available:
		return invalid.Field("status", "a status is limited, out or head_hold, got %q", s.Status)
	case s.To != nil && *s.To < s.From:
		return invalid.Field("to", "the last day, %s, lies before the first, %s", *s.To, s.From)
	case s.Status == HeadHold && s.To != nil:
		return invalid.Field("to", "a head-injury hold has no last day: it ends when a licensed health professional clears him in writing")
	case strings.TrimSpace(s.Reason) == "":
		return invalid.Field("reason", "say why; whoever plans or marks will read it")
	case len([]rune(s.Reason)) > MaxReason:
		return invalid.Field("reason", "the reason is longer than %d characters", MaxReason)
	}
	return nil
}

// Change returns the spell as it is to become, or an invalid.Error when it may not: a hold
// stays a hold, begins no later than it did, and once cleared is not changed.
func (s Spell) Change(to Spell) (Spell, error) {
	if s.Status != HeadHold {
		return to, to.Check()
	}
	switch {
	case s.Cleared != nil:
		return s, invalid.Field("status", "the hold was cleared and stays on the record as it is")
	case to.Status != HeadHold:
		return s, invalid.Field("status", "a coach cannot end a head-injury hold; record the written clearance of a licensed health professional")
	case to.From > s.From:
		return s, invalid.Field("from", "a head-injury hold cannot begin later than it did, on %s", s.From)
	}
	return to, to.Check()
}

// Clear returns a hold as it is once a licensed health professional cleared the player in
// writing. It returns an invalid.Error for anything but an open hold, without a name or a
// document, or with a day before the hold began or after today.
func (s Spell) Clear(c Clearance, today season.Date) (Spell, error) {
	c.By, c.Document = strings.TrimSpace(c.By), strings.TrimSpace(c.Document)
	n, doc := len([]rune(c.By)), len([]rune(c.Document))
	switch {
	case s.Status != HeadHold:
		return s, invalid.Field("id", "only a head-injury hold needs a clearance")
	case s.Cleared != nil:
		return s, invalid.Field("id", "the hold was cleared before, on %s", s.Cleared.On)
	case n < 3 || n > 120:
		return s, invalid.Field("by", "name the licensed health professional who cleared him in writing, in 3 to 120 characters")
	case doc < 2 || doc > 120:
		return s, invalid.Field("document", "name the document by which he was cleared, in 2 to 120 characters")
	case c.On < s.From:
		return s, invalid.Field("on", "the clearance of %s lies before the hold, which began on %s", c.On, s.From)
	case c.On > today:
		return s, invalid.Field("on", "the clearance of %s lies in the future", c.On)
	}
	s.Cleared = &c
	return s, nil
}
