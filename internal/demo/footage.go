package demo

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/play"
	"nineyard/core/teaching"
	"nineyard/internal/demo/camera"
)

// FilmedPlays is how many plays of Saturday's game are on film: the last ten that were graded, and the
// first of those that were not.
const (
	FilmedPlays  = 24
	filmedGraded = 10
	graded       = 60 // the play up to which Saturday's film is graded
)

// unseen is the second tight end: in Saturday's game there is one on the field.
const unseen = "87"

// Footage is a video of the demo, and what is to be seen where in it.
type Footage struct {
	ID     uuid.UUID
	File   string
	View   camera.View
	Frames int
	Clips  []Shown
}

// Shown is a play, or a player's rep of a drill, in a video.
type Shown struct {
	ID                    uuid.UUID
	PlayID                *uuid.UUID
	PlacementID, PlayerID *uuid.UUID
	Rep                   *int
	First, Last, Snap     int
}

// label says what the staff wrote of a play beside its call; it follows from its number.
func label(p *Play) {
	n := p.Number
	p.Hash = play.Hashes()[(n*7+p.Drive)%3]
	p.Formation = []string{"Doubles", "Trips right", "Trips left", "Doubles"}[(n*5+p.Drive)%4]
	p.Front = []string{"Over", "Odd", "Over"}[(n*3+p.Drive)%3]
	p.Personnel = "11"
	if p.Offense {
		p.Coverage = []string{"one high", "two high"}[(n+p.Drive)%2]
	}
}

// filmed are the plays that are on film.
func (w *World) filmed() []Play {
	var before, after []Play
	for _, p := range w.Plays {
		if p.GameID != w.Games[Week-2].ID || !p.Offense {
			continue
		}
		if p.Number <= graded {
			before = append(before, p)
		} else {
			after = append(after, p)
		}
	}
	return slices.Concat(before[len(before)-filmedGraded:], after[:FilmedPlays-filmedGraded])
}

// filmScripts are the plays that are on film as the camera sees them: what was marked is to be seen, and in
// those that nobody marked yet there is something to find.
func (s *source) filmScripts() []camera.Script {
	marked := map[uuid.UUID][]Mark{}
	for _, m := range s.w.Marks {
		if m.PlayID != nil {
			marked[*m.PlayID] = append(marked[*m.PlayID], m)
		}
	}
	var out []camera.Script
	for _, p := range s.w.filmed() {
		c := camera.Script{Name: clipName(p), Play: p.Number, Call: p.Call, Pass: p.Call == "Drop-back", Gain: *p.Gain,
			Left: strings.HasSuffix(p.Call, "left") || p.Call == "Drop-back" && p.Number%2 == 0,
			X:    camera.EndZone + float64(play.FromOwnGoal(p.Spot)), Y: ballAt[p.Hash], Formation: p.Formation, Odd: p.Front == "Odd", TwoHigh: p.Coverage == "two high",
			Players: s.onField(p), Seed: uint64(p.Number)} //nolint:gosec // it is positive
		for _, m := range marked[p.ID] {
			for spot, x := range c.Players {
				if x.Jersey == s.who[m.PlayerID].jersey {
					c.Players[spot] = s.shows(x.Jersey, m)
				}
			}
		}
		if p.Number > graded {
			s.hide(&c)
		}
		out = append(out, c)
	}
	return out
}

// clipName is how the files of a play are called.
func clipName(p Play) string { return fmt.Sprintf("play-%03d", p.Number) }

var ballAt = map[string]float64{"left": camera.LeftHash, "middle": camera.Width / 2, "right": camera.RightHash}

// skill are the spots that are not the line's, by jersey.
var skill = map[camera.Spot]string{"TE": "80", "QB": "7", "RB": "22", "X": "1", "H": "5", "Z": "11"}

// onField is who plays where, and does what.
func (s *source) onField(p Play) map[camera.Spot]camera.Marked {
	out := map[camera.Spot]camera.Marked{}
	for spot, jersey := range skill {
		out[spot] = camera.Marked{Jersey: jersey}
	}
	for _, m := range s.w.Players {
		if s.w.GroupOf[m.ID] == "ol" && s.who[m.ID].starts {
			out[camera.Spot(m.Position)] = camera.Marked{Jersey: m.Jersey, Technique: lineWork[p.Call][m.Position]}
		}
	}
	return out
}

// shows is a mark as it looks.
func (s *source) shows(jersey string, m Mark) camera.Marked {
	out := camera.Marked{Jersey: jersey, Technique: m.TechniqueKey}
	if len(m.Faults) == 0 {
		return out
	}
	out.Fault = m.Faults[0].Key
	if f, _, ok := s.lib.Fault(out.Fault); ok {
		at, _, _ := s.lib.Checkpoint(f.Checkpoint)
		out.Manner = camera.Shows(f.Key, at.Phase, f.Safety)
	}
	return out
}

// hide plants faults where nobody has marked yet, about one in five of the line's blocks.
func (s *source) hide(c *camera.Script) {
	chance := rand.New(rand.NewPCG(c.Seed, 1)) //nolint:gosec // it plays
	for _, spot := range []camera.Spot{"LT", "LG", "C", "RG", "RT"} {
		x := c.Players[spot]
		t, ok := s.lib.Technique(x.Technique)
		if draw := chance.Uint64(); ok && draw%5 == 0 {
			c.Players[spot] = s.shows(x.Jersey, Mark{TechniqueKey: x.Technique, Faults: []Fault{{Key: drawnFault(draw, t, Week).Key}}})
		}
	}
}

// take is a rep of a placed drill, everybody's.
type take struct {
	placement uuid.UUID
	rep       int
}

// drilled is the last rep at which the line kicked along the line with heels that swung in, more than one if it can be,
// and everybody's rep then.
func (s *source) drilled() (last take, reps []camera.Rep) {
	of := map[uuid.UUID]bool{}
	for _, pl := range s.w.Placements {
		of[pl.ID] = pl.Group == "ol" && pl.DrillKey == WorkingDrill
	}
	positions := map[uuid.UUID]string{}
	for _, m := range s.w.Players {
		positions[m.ID] = m.Position
	}
	all, swings, most := map[take][]camera.Rep{}, map[take]int{}, 0
	for _, m := range s.w.Marks { // they are in the order of the practices
		if m.PlacementID == nil || !of[*m.PlacementID] {
			continue
		}
		at := take{*m.PlacementID, *m.Rep}
		rep := camera.Rep{Spot: camera.Spot(positions[m.PlayerID]), Marked: s.shows(s.who[m.PlayerID].jersey, m)}
		all[at] = append(all[at], rep)
		if rep.Fault != WorkingFor {
			continue
		}
		swings[at]++
		if n := min(swings[at], 2); n >= most {
			last, most = at, n
		}
	}
	return last, all[last]
}

// Shots are the clips of the demo as the camera takes them.
func Shots(seed uint64, lib *teaching.Library) []*camera.Clip {
	s := build(seed, lib)
	var out []*camera.Clip
	for _, c := range s.filmScripts() {
		out = append(out, camera.Play(c))
	}
	if _, reps := s.drilled(); len(reps) > 0 {
		out = append(out, camera.Drill(WorkingDrill, WorkingDrill, reps, seed))
	}
	return out
}

// footage lists the videos.
func (s *source) footage() {
	for _, p := range s.w.filmed() {
		for _, v := range []camera.View{camera.Wide, camera.End} {
			s.w.Footage = append(s.w.Footage, Footage{ID: s.scripts.id(), File: fmt.Sprintf("%s-%s.webm", clipName(p), v), View: v, Frames: camera.PlayFrames,
				Clips: []Shown{{ID: s.scripts.id(), PlayID: &p.ID, Last: camera.PlayFrames - 1, Snap: camera.SnapFrame}}})
		}
	}
	at, reps := s.drilled()
	if len(reps) == 0 {
		return
	}
	drill := Footage{ID: s.scripts.id(), File: WorkingDrill + "-side.webm", View: camera.Side, Frames: camera.RepFrames * len(reps)}
	byJersey := map[string]uuid.UUID{}
	for _, m := range s.w.Players {
		byJersey[m.Jersey] = m.ID
	}
	for i, r := range reps {
		drill.Clips = append(drill.Clips, Shown{ID: s.scripts.id(), PlacementID: &at.placement, PlayerID: ptr(byJersey[r.Jersey]), Rep: &at.rep,
			First: camera.RepFrames * i, Last: camera.RepFrames*(i+1) - 1, Snap: camera.RepFrames*i + camera.RepSnap})
	}
	s.w.Footage = append(s.w.Footage, drill)
}
