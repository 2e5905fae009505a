package demo

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/crew"
	"nineyard/core/marks"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
	"nineyard/internal/plan"
)

// The season: nine weeks from Monday 31 August 2026. The demo's clock stands at
// Tuesday of week 7, an hour before practice.
const (
	SeasonStart = "2026-08-31"
	Weeks       = 9
	Timezone    = "Europe/Dublin"
	Week        = 7
	Year        = 2026 // by which the season's marks are kept
)

// Seed makes the demo that the pictures and the tests show.
const Seed = 7

// draw is which of the seasons that chance can make of a seed is played: one in which the planted truths, and nothing else,
// can be claimed. Among so many players one season in fifteen is like that.
const draw = 1044

// Now is the moment the demo's clock is pinned to, in the club's time zone.
func Now() time.Time {
	loc, err := time.LoadLocation(Timezone)
	if err != nil {
		loc = time.UTC
	}
	return time.Date(2026, 10, 13, 17, 0, 0, 0, loc)
}

// Play is one play of a game.
type Play struct {
	ID       uuid.UUID
	GameID   uuid.UUID
	Number   int
	Offense  bool
	Down     *int
	Distance *int
	Spot     string
	Call     string
	Gain     *int
	Drive    int
	Quarter  int

	Hash, Personnel, Formation, Front, Coverage string
}

// User is a member of the staff.
type User struct {
	ID                       uuid.UUID
	Email, Name, Title, Role string
}

// Player is a member of the team.
type Player struct {
	ID                                    uuid.UUID
	Jersey, FirstName, LastName, Position string
	HeightIn                              float64
	WeightLb                              int
	Returning                             bool
	Limited                               bool // kept out of contact for now
}

// Practice is one practice of the calendar.
type Practice struct {
	ID                   uuid.UUID
	OnDate               time.Time
	Title, Theme, Place  string
	StartMinute, Minutes int
}

// Period is a block of a practice.
type Period struct {
	ID, PracticeID      uuid.UUID
	Start, Minutes      int
	Kind, Name, Contact string
	Groups              []string
	Place               string
	Coaches, Needs      []string
	Equipment           []contract.EquipmentUse
	RepSeconds          float64
}

// Placement is a drill put into a period.
type Placement struct {
	ID, PeriodID           uuid.UUID
	Group                  string
	DrillKey, TechniqueKey string
	Start, Minutes, Lanes  int
}

// Game is one game of the calendar.
type Game struct {
	ID       uuid.UUID
	OnDate   time.Time
	Opponent string
	Home     bool
}

// Mark is what a coach recorded.
type Mark struct {
	ID                            uuid.UUID
	PlayerID                      uuid.UUID
	PlacementID                   *uuid.UUID
	Rep                           *int
	PlayID                        *uuid.UUID
	TechniqueKey, State           string
	Assignment, Technique, Finish *int
	Faults                        []Fault
	Praise                        bool
	Side                          *string
	Result                        *int
	Tallies                       []marks.Tally
	Asked                         *uuid.UUID
	Note                          string
	CreatedBy                     *uuid.UUID
	CreatedAt                     time.Time
}

// Fault is a fault that a mark shows.
type Fault struct {
	Key      string
	CausedBy uuid.UUID // the teammate; nil for the player's own
}

// Spell is a stretch of days on which a player is not fully available.
type Spell struct {
	ID, PlayerID   uuid.UUID
	Status, Reason string
	From           time.Time
	To             *time.Time
	By             *uuid.UUID
}

// World is everything the demo holds.
type World struct {
	ClubID     uuid.UUID
	SeasonID   uuid.UUID
	Users      []User
	UserGroup  map[uuid.UUID]string
	Players    []Player
	GroupOf    map[uuid.UUID]string
	Practices  []Practice
	Periods    []Period
	Placements []Placement
	Footage    []Footage
	Games      []Game
	Plays      []Play
	Marks      []Mark
	Spells     []Spell
	Words      []Word
	Settings   plan.Kept // of practices
	Calls      []Call
	LineUps    []LineUp // from the first week on
	Sets       []plan.Set
	Templates  []plan.Template
}

// source makes the world: a seeded generator and the library.
type source struct {
	stream
	seed uint64
	lib  *teaching.Library
	w    *World
	who  map[uuid.UUID]person

	chances *chances
	scripts stream // ids of what came later, which must not disturb the rest

	techniques map[string][]teaching.Technique // by group
}

// ClubID is the id of the club that a seed makes.
func ClubID(seed uint64) uuid.UUID { return newSource(seed, nil).id() }

func newSource(seed uint64, lib *teaching.Library) *source {
	return &source{stream: stream{rand.New(rand.NewPCG(seed, 9))}, lib: lib, w: &World{UserGroup: map[uuid.UUID]string{}, GroupOf: map[uuid.UUID]string{}}, who: map[uuid.UUID]person{}, techniques: map[string][]teaching.Technique{},
		scripts: stream{rand.New(rand.NewPCG(seed, 31))},
		seed:    seed ^ draw<<32, chances: &chances{seed: seed ^ draw<<32, truths: true, effects: map[effect]float64{}}}
}

// Build makes the world of a seed.
func Build(seed uint64, lib *teaching.Library) *World { return build(seed, lib).w }

func build(seed uint64, lib *teaching.Library) *source {
	s := newSource(seed, lib)
	s.w.ClubID, s.w.SeasonID = s.id(), s.id()
	s.w.Settings = settings()
	s.people()
	s.calendar()
	s.practiceMarks()
	s.gameMarks()
	s.besides(seed)
	s.availability()
	s.calls()
	s.footage()
	s.words()
	return s
}

// stream is a seeded generator, and a reader of random bytes for ids.
type stream struct{ *rand.Rand }

// Read fills p.
func (s stream) Read(p []byte) (int, error) {
	for i := range p {
		p[i] = byte(s.Uint32())
	}
	return len(p), nil
}

func (s stream) id() uuid.UUID {
	id, err := uuid.NewRandomFromReader(s)
	if err != nil {
		panic(err) // Read never fails
	}
	return id
}

func (s *source) people() {
	for _, c := range staff {
		u := User{ID: s.id(), Email: c.email, Name: c.name, Title: c.title, Role: c.role}
		s.w.Users = append(s.w.Users, u)
		s.w.UserGroup[u.ID] = c.group
	}
	for _, p := range people {
		m := Player{ID: s.id(), Jersey: p.jersey, FirstName: p.first, LastName: p.last, Position: p.position,
			HeightIn: p.height, WeightLb: p.weight, Returning: p.returning, Limited: p.status == "limited"}
		s.w.Players = append(s.w.Players, m)
		s.w.GroupOf[m.ID] = p.group
		s.who[m.ID] = p
	}
}

func (s *source) calendar() {
	start := season.Must(SeasonStart)
	for week := 1; week <= Weeks; week++ {
		monday := season.WeekStart(start, week)
		for i, day := range []struct{ title, theme string }{{"Tuesday practice", "Gap day"}, {"Wednesday practice", "Zone day"}, {"Thursday practice", "Pass day"}} {
			p := Practice{ID: s.id(), OnDate: (monday + season.Date(1+i)).Time(),
				Title: day.title, Theme: day.theme, Place: "East field", StartMinute: 18 * 60, Minutes: 120}
			s.w.Practices = append(s.w.Practices, p)
			s.script(p, week, i)
		}
		s.w.Games = append(s.w.Games, Game{ID: s.id(), OnDate: (monday + 5).Time(),
			Opponent: opponents[week-1], Home: week%2 == 1})
	}
}

// plan places the drills of a group's own period, as its coach did week by week.
func (s *source) plan(e Period, group string, week, day int) {
	at := 0
	for _, planned := range s.drillsOf(group, week, day) {
		key, technique, _ := strings.Cut(planned, "@")
		d, ok := s.lib.Drill(key)
		if !ok {
			panic(fmt.Sprintf("demo: no drill %q", key))
		}
		if at+d.Minutes > e.Minutes {
			return
		}
		s.w.Placements = append(s.w.Placements, Placement{ID: s.id(), PeriodID: e.ID, Group: group, DrillKey: key, TechniqueKey: technique, Start: at, Minutes: d.Minutes, Lanes: d.Lanes})
		at += d.Minutes
	}
}

// drillsOf is what a group's coach planned: drills by key, with the technique they are
// marked as behind an @ when it is not their first.
func (s *source) drillsOf(group string, week, day int) []string {
	if week > Week || week == Week && day > 0 {
		return nil
	}
	if group == "ol" || group == "db" {
		return drillsOf(group, week, day)
	}
	return s.climb(group, week, day)
}

// climb plans three ladders a day, each a stage further every other week.
func (s *source) climb(group string, week, day int) []string {
	there := crew.Attendance{}
	for _, g := range s.w.GroupOf {
		if g == group {
			there.Players++
		}
	}
	ladders := s.lib.ForGroup(group).Ladders
	var plan []string
	for i := range 4 {
		ld := ladders[(day*3+i)%len(ladders)]
		for at := min((week-1)/2, len(ld.Stages)-2); at >= 0; at-- {
			key := ""
			for _, k := range ld.Stages[at].DrillsOf(group) {
				again := slices.ContainsFunc(plan, func(p string) bool { return strings.HasPrefix(p, k+"@") })
				if d, ok := s.lib.Drill(k); ok && !again && d.Working+d.Helping() <= there.Players {
					key = k
				}
			}
			if key != "" {
				plan = append(plan, key+"@"+ld.Technique)
				break
			}
		}
	}
	if week == Week { // tonight's plan is half made
		return plan[:2]
	}
	return plan
}

func drillsOf(group string, week, day int) []string {
	if week == Week { // tonight's plan is half made
		return map[string][]string{"ol": {"base_two_step", "kick_line"}, "db": {"pedal_line", "near_foot_fit"}}[group]
	}
	pick := func(early, mid, late string) string {
		switch {
		case week < FirstDoseWeek:
			return early
		case week < 5:
			return mid
		}
		return late
	}
	switch group {
	case "ol":
		return [][]string{
			{pick("base_fit", "base_two_step", "base_drive_bag"), pick("close_walk", "close_bag", "close_partner"), "pull_bag", pick("base_two_step", "kick_line", "kick_line")},
			{pick("base_two_step", "base_drive_bag", "base_drive_bag"), pick("two_man_read", UselessDrill, UselessDrill), "close_bag", pick("pull_cones", WorkingDrill, WorkingDrill)},
			{pick("kick_depth", WorkingDrill, WorkingDrill), "kick_depth", pick("kick_post_inside", "kick_post_inside", "ol_pass_look@kick_slide"), pick("two_man_read", UselessDrill, UselessDrill)},
		}[day]
	case "db":
		return [][]string{
			{"pedal_line", pick("plant_drive_cone", "plant_drive_cone", "drive_ball"), "near_foot_fit", "turn_line"},
			{"weave_mirror", "alley_angle", "exchange_call"},
			{"turn_line", "phase_race", "drive_ball"},
		}[day]
	}
	return nil
}

// availability records who is held out, as the staff did. It comes last, so that what was
// drawn before does not change.
func (s *source) availability() {
	for _, m := range s.w.Players {
		p := s.who[m.ID]
		if p.status == "" {
			continue
		}
		x := Spell{ID: s.id(), PlayerID: m.ID, Status: p.status, Reason: p.note, From: season.Must(p.from).Time(), By: s.coachOf(p.group)}
		if p.to != "" {
			x.To = ptr(season.Must(p.to).Time())
		}
		s.w.Spells = append(s.w.Spells, x)
	}
}
