package quality

import (
	"regexp"
	"strings"

	"nineyard/core/teaching"
)

var oneClub = regexp.MustCompile(`(?i)\b(our|ours|we|us|two of|half of|half our)\b`)

// anywhere is C22.
func anywhere(l *looker) {
	for _, q := range l.Questions {
		if m := oneClub.FindString(q.Why); m != "" {
			l.fail("question", q.Key, "why: “%s” is a fact of one club", m)
		}
		for _, s := range q.Schools {
			if m := oneClub.FindString(s.Reason); m != "" {
				l.fail("question", q.Key, "%s: “%s” is a fact of one club", s.Key, m)
			}
		}
	}
}

// homemade are words that no staff uses, or that are clearer said otherwise.
var homemade = []string{"the paint tells", "band left", "is a tackler more", "says it all", "full rest", "sprint rest", "off two yards of sideline",
	"eyes open for the next box", "corner's menu", "edge menu", "rush menu", "block menu", "route menu", "throw-by in the air", "on the coach's finger", "bag men",
	"toes to the post", "past the turned one", "past the echo", "back your lane", "low and hands", "one foot down", "first voice", "twice is enough", "half and half",
	"pulls, rips and goes", "goes on by a flag", "door on the other side", "the flier", "or does not", "or is not", "or it is not", "or not"}

// wanted are the words of the trade that stand in their group's part of the library.
var wanted = map[string][]string{
	"dl":    {"contain", "spill", "screen", "club", "spin", "long arm", "chop", "trap", "fumble", "strip"},
	"lb":    {"blitz", "scrape", "option", "hook", "curl", "flat", "wall", "interception", "re-route"},
	"db":    {"jam", "bail", "funnel", "two-deep", "three-deep", "replace", "interception", "takeaway", "punch", "launch", "horse-collar"},
	"ol":    {"snap", "under centre", "gun", "cadence", "slide", "hinge", "log", "skip pull", "fold", "drive man", "post man", "refit"},
	"te":    {"wheel", "seam", "corner"},
	"wr":    {"bubble", "hitch", "curl", "comeback", "dig", "post", "corner", "go", "seam", "speed cut"},
	"rb":    {"stiff arm", "wheel"},
	"qb":    {"cadence", "hard count", "sneak", "boot", "sprint-out", "hot"},
	"units": {"gunner", "fair catch", "onside"},
	"sp":    {"snapper", "punter", "kicker", "field goal"},
}

// trade is C23.
func trade(l *looker) {
	for _, d := range l.Drills {
		l.plain("drill", d.Key, d.Name, d.Roles, d.Watch, d.SelfCheck.Text, d.Alone, d.Game, d.Cautions, strings.Join(d.Aliases, " "))
	}
	for _, t := range l.Techniques {
		l.plain("technique", t.Key, t.Name, t.Summary, strings.Join(t.Aliases, " "))
		for _, c := range t.Checkpoints {
			l.plain("checkpoint", c.Key, c.Name, c.Cue)
		}
		for _, f := range t.Faults {
			l.plain("fault", f.Key, f.Name, f.Effect)
		}
	}
	for _, g := range []string{"ol", "te", "wr", "rb", "qb", "dl", "lb", "db", "units", "sp"} {
		text := textOf(l.ForGroup(g))
		for _, w := range wanted[g] {
			if !strings.Contains(text, w) {
				l.fail("group", g, "“%s” does not occur", w)
			}
		}
	}
}

// homemadeWord finds each of those where it stands as words of its own.
var homemadeWord = func() (out []*regexp.Regexp) {
	for _, w := range homemade {
		out = append(out, regexp.MustCompile(`(^|[^a-z])`+regexp.QuoteMeta(w)+`($|[^a-z])`))
	}
	return out
}()

func (l *looker) plain(kind, key string, texts ...string) {
	text := strings.ToLower(strings.Join(texts, " \n "))
	for i, w := range homemade {
		if homemadeWord[i].MatchString(text) {
			l.fail(kind, key, "“%s”", w)
		}
	}
}

// textOf is all that is said in a library, in small letters.
func textOf(l *teaching.Library) string {
	var b strings.Builder
	say := func(list ...string) {
		for _, s := range list {
			b.WriteString(strings.ToLower(s) + " \n ")
		}
	}
	for _, t := range l.Techniques {
		say(append(t.Aliases, t.Name, t.Summary)...)
		for _, c := range t.Checkpoints {
			say(append(c.Words, c.Name, c.Cue)...)
		}
		for _, f := range t.Faults {
			say(append(f.Aliases, f.Name, f.Effect)...)
		}
	}
	for _, d := range l.Drills {
		say(append(d.Aliases, d.Name, d.Roles, d.Game, d.Watch, d.Start)...)
		for _, c := range d.Cards {
			say(c.Look, c.Right)
		}
		for _, h := range d.Help {
			say(h.Role)
		}
	}
	for _, t := range l.Tables {
		say(t.Name)
		for _, r := range t.Rows {
			say(r.Call, r.When)
			for _, w := range r.Words {
				say(w)
			}
		}
	}
	return b.String()
}
