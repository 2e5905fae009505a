package quality

import (
	"regexp"
	"slices"

	"nineyard/core/standard"
	"nineyard/core/teaching"
)

// points goes through all checkpoints.
func (l *looker) points(look func(teaching.Technique, teaching.Checkpoint)) {
	for _, t := range l.Techniques {
		for _, c := range t.Checkpoints {
			look(t, c)
		}
	}
}

// ownNumbers is C5.
func ownNumbers(l *looker) {
	l.points(func(_ teaching.Technique, c teaching.Checkpoint) {
		if c.Measure == nil || c.Measure.From != "" {
			return
		}
		for _, n := range numbersIn(c.Name, c.Measure.Unit) {
			if v := c.Measure.Judge(n); v != standard.Right {
				l.fail("checkpoint", c.Key, "names %v, which its standard calls %s", n, v)
			}
		}
	})
}

var called = regexp.MustCompile(`(?i)\b(by|of) the (call|set|drop|front|formation|route)\b`)

// byTheCall is C6.
func byTheCall(l *looker) {
	l.points(func(_ teaching.Technique, c teaching.Checkpoint) {
		m := called.FindString(c.Name + " " + c.Cue)
		if m != "" && c.Table == "" && len(c.Words) == 0 && (c.Measure == nil || c.Measure.From == "") {
			l.fail("checkpoint", c.Key, "“%s” has one number for all", m)
		}
		if c.Measure != nil && c.Measure.From != "" {
			if x, ok := l.Column(c.Measure.From); !ok || x.Unit != c.Measure.Unit {
				l.fail("checkpoint", c.Key, "%s is no column of a table in %s", c.Measure.From, c.Measure.Unit)
			}
		}
		if c.Table != "" {
			if _, ok := l.Table(c.Table); !ok {
				l.fail("checkpoint", c.Key, "there is no table %s", c.Table)
			}
		}
	})
}

// readings is C7.
func readings(l *looker) {
	l.points(func(_ teaching.Technique, c teaching.Checkpoint) {
		m := c.Measure
		switch {
		case m == nil:
		case m.Unit == "pct" && m.Read == "mark":
			l.fail("checkpoint", c.Key, "a share cannot be read off a mark")
		case m.Read == "clock" && m.Target < 1:
			l.fail("checkpoint", c.Key, "%v s is shorter than a hand on a watch", m.Target)
		case m.Read == "mark" && m.Of == "":
			l.fail("checkpoint", c.Key, "which mark is not said")
		}
	})
}

// threeWords is C8.
func threeWords(l *looker) {
	all, three, two := 0, 0, 0
	var short []string
	l.points(func(_ teaching.Technique, c teaching.Checkpoint) {
		if c.Measure != nil {
			return
		}
		all++
		if len(c.Words) >= 3 {
			three++
		} else {
			short = append(short, c.Key)
		}
		if len(c.Right) == 2 {
			two++
		}
	})
	if 5*three < 4*all {
		for _, k := range short {
			l.fail("checkpoint", k, "two words for what can be too little and too much")
		}
	}
	if two < 12 {
		l.fail("library", "words", "%d judgements have two right answers", two)
	}
}

// covered is C21.
func covered(l *looker) {
	for _, t := range l.Techniques {
		for _, c := range t.Checkpoints {
			at := 0
			for _, f := range t.Faults {
				if f.Checkpoint == c.Key {
					at++
				}
			}
			means := map[string]bool{}
			for word, k := range c.Means {
				if _, ok := l.FaultOf(t.Key, k); !ok {
					l.fail("checkpoint", c.Key, "%s means %s, which is no fault of %s", word, k, t.Key)
				}
				means[word] = true
			}
			if at == 0 && len(means) == 0 && !slices.Contains(harmless, c.Key) {
				l.fail("checkpoint", c.Key, "no wrong answer is a fault")
			}
		}
	}
}

// harmless are checkpoints whose wrong answers cost nothing that a coach would write down.
var harmless = []string{}
