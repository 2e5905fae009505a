package demo

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"github.com/google/uuid"

	"nineyard/core/crew"
	"nineyard/core/play"
	"nineyard/core/season"
	"nineyard/core/teaching"
)

// weight is how likely a fault is the one that spoils a rep. Practice dates decide
// the two drills: one fault falls once its drill is dosed, one does not.
func weight(f teaching.Fault, week int) float64 {
	w := 1.0
	switch f.Key {
	case GroupFault:
		w = 4
	case UselessFor:
		w = 6
	case WorkingFor:
		w = 12
		if week > FirstDoseWeek {
			w = 2
		}
	}
	if f.Safety {
		w = .06
	}
	return w
}

// takesPart says whether a player had reps in a week.
func takesPart(p person, week int) bool {
	switch {
	case p.group == "ol" && p.jersey == TooFew:
		return week >= 6
	case p.group == "ol" && p.jersey == OnHold:
		return week < 5
	}
	return true
}

func (s *source) practiceMarks() {
	periods := map[uuid.UUID]Period{}
	for _, e := range s.w.Periods {
		periods[e.ID] = e
	}
	practices := map[uuid.UUID]Practice{}
	for _, p := range s.w.Practices {
		practices[p.ID] = p
	}
	for i, pl := range s.w.Placements {
		e := periods[pl.PeriodID]
		p := practices[e.PracticeID]
		week := season.Week(season.Must(SeasonStart), season.Of(p.OnDate))
		last := i+1 == len(s.w.Placements) || s.w.Placements[i+1].PeriodID != pl.PeriodID
		// The last drill of last Thursday is still to be marked.
		if week >= Week || week == Week-1 && season.Of(p.OnDate).Weekday() == time.Thursday && last {
			continue
		}
		s.markDrill(pl, pl.Group, p, week)
	}
}

func (s *source) markDrill(pl Placement, group string, p Practice, week int) {
	d, _ := s.lib.Drill(pl.DrillKey)
	technique, _ := s.lib.Technique(cmp.Or(pl.TechniqueKey, d.Technique))
	var there []Player
	for _, m := range s.w.Players {
		limited := m.Limited
		if s.w.GroupOf[m.ID] == group && (!limited || crew.PartOf(d, limited) == crew.FullPart) && takesPart(s.who[m.ID], week) {
			there = append(there, m)
		}
	}
	_, y, _ := crew.Planned(d, crew.Attendance{Players: len(there)}, pl.Minutes, pl.Lanes)
	for _, m := range there {
		reps := y.PerPlayer.Max
		if s.who[m.ID].jersey == TooFew && group == "ol" {
			reps = 1
		}
		for rep := 1; rep <= reps; rep++ {
			chance := drawnBy(s.seed, "rep", group, season.Of(p.OnDate), pl.DrillKey, s.who[m.ID].jersey, rep)
			e := s.mark(chance, m, technique, season.Of(p.OnDate), false, there)
			e.PlacementID, e.Rep = &pl.ID, ptr(rep)
			if d.Sides == 2 {
				e.Side = ptr([]string{"left", "right"}[rep%2])
			}
			e.CreatedBy, e.CreatedAt = s.coachOf(group), p.OnDate.Add(19*time.Hour+time.Duration(pl.Start+rep)*time.Minute)
			s.w.Marks = append(s.w.Marks, e)
		}
	}
}

// mark simulates one rep, which the chance belongs to.
func (s *source) mark(chance *rand.Rand, m Player, t teaching.Technique, on season.Date, game bool, mates []Player) Mark {
	week := season.Week(season.Must(SeasonStart), on)
	e := Mark{ID: s.id(), PlayerID: m.ID, TechniqueKey: t.Key, State: "assumed",
		Assignment: ptr(1), Technique: ptr(1)}
	if game && chance.Float64() < .025 {
		e.State, e.Assignment, e.Technique = []string{"unseen", "unsettled"}[chance.IntN(2)], nil, nil
		return e
	}
	if chance.Float64() < s.chances.clean(s.who[m.ID], t.Key, on, game) {
		if chance.Float64() < .3 {
			e.State = "looked"
			e.Praise = chance.Float64() < .12
		}
		return e
	}
	fault := Fault{Key: drawnFault(chance.Uint64(), t, week).Key}
	e.State, e.Technique = "looked", ptr(0)
	if game && len(mates) > 1 && chance.Float64() < .06 {
		if mate := mates[chance.IntN(len(mates))]; mate.ID != m.ID {
			fault.CausedBy, e.Technique = mate.ID, ptr(1)
		}
	}
	e.Faults = []Fault{fault}
	if game {
		e.Finish = ptr(chance.IntN(2))
	}
	return e
}

// drawnFault is the fault that spoils a rep: of all that a technique knows each waits a while, the likelier the shorter, and
// the first is it. A fault more takes only the reps in which it is the first.
func drawnFault(rep uint64, t teaching.Technique, week int) teaching.Fault {
	var first teaching.Fault
	least := math.Inf(1)
	for _, f := range t.Faults {
		if wait := drawnBy(rep, f.Key).ExpFloat64() / weight(f, week); wait < least {
			first, least = f, wait
		}
	}
	return first
}

func (s *source) coachOf(group string) *uuid.UUID {
	for _, u := range s.w.Users {
		if s.w.UserGroup[u.ID] == group {
			return &u.ID
		}
	}
	return nil
}

// techniques a position needs on a call.
var lineWork = map[string]map[string]string{
	"Gap lead left":  {"LT": "base_block", "LG": "two_man", "C": "close_turn", "RG": "pull_kick", "RT": "close_turn"},
	"Gap lead right": {"LT": "close_turn", "LG": "pull_kick", "C": "close_turn", "RG": "two_man", "RT": "base_block"},
	"Zone left":      {"LT": "base_block", "LG": "two_man", "C": "two_man", "RG": "base_block", "RT": "close_turn"},
	"Zone right":     {"LT": "close_turn", "LG": "close_turn", "C": "two_man", "RG": "two_man", "RT": "base_block"},
	"Drop-back":      {"LT": "kick_slide", "LG": "kick_slide", "C": "kick_slide", "RG": "kick_slide", "RT": "kick_slide"},
}

var runCalls = []string{"Gap lead left", "Gap lead right", "Zone left", "Zone right", "Drop-back", "Drop-back"}

var coverWork = []map[string]string{
	{"CB": "pedal_drive", "S": "leverage", "NI": "leverage"},
	{"CB": "open_run", "S": "alley_fit", "NI": "exchange"},
	{"CB": "leverage", "S": "alley_fit", "NI": "pedal_drive"},
	{"CB": "exchange", "S": "open_run", "NI": "alley_fit"},
}

var coverCalls = []string{"Four across", "Three deep, low", "Two deep, wide", "Man, one free"}

func (s *source) gameMarks() {
	for i, g := range s.w.Games {
		week := i + 1
		if week >= Week {
			continue
		}
		number, drive := 0, 0
		chance := drawnBy(s.seed, "game", week)
		for range 11 { // drives for each side
			for _, offense := range []bool{true, false} {
				drive++
				var ball play.Play
				for left := 3 + chance.IntN(3); left >= 0; left-- {
					number++
					var play Play
					play, ball = s.play(chance, g, number, offense, ball, left == 0)
					play.Drive, play.Quarter = drive, 1+4*(drive-1)/22
					label(&play)
					s.w.Plays = append(s.w.Plays, play)
					// Saturday's film is half graded.
					if week < Week-1 || number <= graded {
						s.markPlay(play, g, week)
					}
				}
			}
		}
	}
}

// play plays from where the ball lies, and says where it lies then. A drive begins with a first down in its
// own half and goes on to its last play.
func (s *source) play(chance *rand.Rand, g Game, number int, offense bool, ball play.Play, last bool) (Play, play.Play) {
	p := Play{ID: s.id(), GameID: g.ID, Number: number, Offense: offense}
	_, gain, _, own := chance.IntN(10), chance.IntN(13)-3, chance.IntN(2), 10+chance.IntN(38)
	if ball.Down == 0 {
		ball = play.Play{Down: 1, Distance: new(10), Spot: fmt.Sprintf("own %d", own)}
	}
	if !last && ball.Down == 4 {
		gain = max(gain, *ball.Distance)
	}
	ball.Gain = &gain
	next := play.Next(ball)
	if !last && next.Down == 0 { // a score or a safety: the runner is stopped where he was
		gain = 0
		next = play.Next(ball)
	}
	p.Down, p.Distance, p.Spot, p.Gain = &ball.Down, ball.Distance, ball.Spot, &gain
	if offense {
		p.Call = runCalls[chance.IntN(len(runCalls))]
	} else {
		p.Call = coverCalls[chance.IntN(len(coverCalls))]
	}
	return p, next
}

func (s *source) markPlay(p Play, g Game, week int) {
	group, work := "ol", lineWork[p.Call]
	if !p.Offense {
		group, work = "db", coverWork[p.Number%len(coverWork)]
	}
	s.markOthers(p, g)
	relief := p.Number > 95 // the second group finishes the game
	var on []Player
	for _, m := range s.w.Players {
		who := s.who[m.ID]
		if s.w.GroupOf[m.ID] == group && takesPart(who, week) && (who.starts != relief || who.jersey == "52") && who.jersey != TooFew {
			on = append(on, m)
		}
	}
	for _, m := range on {
		technique, ok := s.lib.Technique(work[m.Position])
		if !ok {
			continue
		}
		e := s.mark(drawnBy(s.seed, "play", season.Of(g.OnDate), p.Number, group, m.Jersey), m, technique, season.Of(g.OnDate), true, on)
		e.PlayID = &p.ID
		e.CreatedBy, e.CreatedAt = s.coachOf(group), g.OnDate.Add(36*time.Hour+time.Duration(p.Number)*time.Minute)
		s.w.Marks = append(s.w.Marks, e)
	}
}

// taught lists the techniques of a group, looked up once.
func (s *source) taught(group string) []teaching.Technique {
	if s.techniques[group] == nil {
		s.techniques[group] = s.lib.ForGroup(group).Techniques
	}
	return s.techniques[group]
}

// markOthers marks the groups whose work does not follow from the call here: each starter
// on the field shows one of the first techniques of his group, every other play.
func (s *source) markOthers(p Play, g Game) {
	on := []string{"te", "rb", "qb", "wr"}
	if !p.Offense {
		on = []string{"dl", "lb"}
	}
	for _, group := range on {
		techniques := s.taught(group)
		var there []Player
		for _, m := range s.w.Players {
			if s.w.GroupOf[m.ID] == group && s.who[m.ID].starts {
				there = append(there, m)
			}
		}
		for i, m := range there {
			if (p.Number+i)%2 == 1 {
				continue
			}
			chance := drawnBy(s.seed, "play", season.Of(g.OnDate), p.Number, group, m.Jersey)
			e := s.mark(chance, m, techniques[chance.IntN(min(6, len(techniques)))], season.Of(g.OnDate), true, there)
			e.PlayID = &p.ID
			e.CreatedBy, e.CreatedAt = s.coachOf(group), g.OnDate.Add(36*time.Hour+time.Duration(p.Number)*time.Minute)
			if g.ID == s.w.Games[Week-2].ID && m.Jersey == unseen {
				continue // of whom there is nothing on film nothing is marked
			}
			s.w.Marks = append(s.w.Marks, e)
		}
	}
}

func ptr[T any](v T) *T { return &v }
