package demo

import (
	"fmt"

	"github.com/google/uuid"

	"nineyard/core/call"
	"nineyard/core/group"
	"nineyard/core/lineup"
	"nineyard/core/season"
	"nineyard/internal/contract"
	"nineyard/internal/plan"
)

// NotReady is the call that will not be ready by its install: it asks the line for the combination at
// full speed in the group, and at the present pace nobody will be there.
const NotReady = "Harbour double"

// typed is the calls of both units as a coach types them.
const typed = `
Lead left | run | OL Close, then turn back > bag [C, RT]; OL Base block > bag [LT] | 14 | 2026-09-01 | gap lead left | gap
Lead right | run | OL Pull and kick > bag [LG]; OL Close, then turn back > bag [LT, C]; OL Base block > bag [RT] | 13 | 2026-09-02 | gap lead right | gap
Zone left | run | OL Two-man combination > bag [LG, C]; OL Base block > bag [LT, RG]; RB Inside-zone track > steps | 11 | 2026-09-08 | | zone
Zone right | run | OL Two-man combination > bag [C, RG]; OL Base block > bag [LG, RT]; RB Inside-zone track > steps | 11 | 2026-09-09 | | zone
Drop-back | pass | OL Kick and slide > steps; QB Drop > steps | 30 | 2026-09-10 | five-step | 
Quick lantern | pass | OL Close, then turn back > group [LT]; WR Slant > partner | 9 | 2026-10-22 | | quick
Harbour double | run | OL Two-man combination > group [LG, C, RG]; OL Base block > partner [RT] | 7 | 2026-10-20 | | zone, short yardage
Four across | coverage | DB Pedal and drive > steps | 34 | 2026-09-01 | quarters | zone
Three deep, low | coverage | DB Alley run fit > bag [Strong safety, Free safety] | 22 | 2026-09-02 | | zone
Two deep, wide | coverage | DB Pedal and drive > steps [Left corner, Right corner] | 18 | 2026-09-08 | | zone
Man, one free | coverage | DB Open and run > steps | 16 | 2026-09-15 | | man
Harbour fire | pressure | DL Stunt pair > steps | 10 | 2026-10-22 | | 
`

// LineUp is a group's line-up.
type LineUp struct {
	Group string
	Spots lineup.LineUp
}

// Call is a call of the demo.
type Call struct {
	ID uuid.UUID
	call.Call
}

// spots are the line-ups by jersey and share.
var spots = []struct {
	group, name string
	players     []lineup.Place
}{
	{"ol", "LT", []lineup.Place{{Player: "70", Share: 100}, {Player: "73"}}}, {"ol", "LG", []lineup.Place{{Player: "64", Share: 80}, {Player: "75", Share: 20}}}, {"ol", "C", []lineup.Place{{Player: "52", Share: 100}}},
	{"ol", "RG", []lineup.Place{{Player: "61", Share: 90}, {Player: "58", Share: 10}}}, {"ol", "RT", []lineup.Place{{Player: "77", Share: 100}, {Player: "79"}}},
	{"te", "Inline", []lineup.Place{{Player: "80", Share: 70}, {Player: "85", Share: 10}}}, {"te", "Off the ball", []lineup.Place{{Player: "87", Share: 45}, {Player: "89", Share: 5}}},
	{"rb", "Back", []lineup.Place{{Player: "22", Share: 65}, {Player: "28", Share: 35}}}, {"rb", "Fullback", []lineup.Place{{Player: "33", Share: 30}}},
	{"qb", "Quarterback", []lineup.Place{{Player: "7", Share: 100}, {Player: "12"}}},
	{"wr", "Left", []lineup.Place{{Player: "1", Share: 85}, {Player: "18", Share: 15}}}, {"wr", "Right", []lineup.Place{{Player: "5", Share: 80}, {Player: "84", Share: 20}}}, {"wr", "Slot", []lineup.Place{{Player: "11", Share: 70}, {Player: "17", Share: 15}}},
	{"dl", "Left end", []lineup.Place{{Player: "90", Share: 80}, {Player: "96", Share: 20}}}, {"dl", "Left tackle", []lineup.Place{{Player: "91", Share: 80}, {Player: "99", Share: 20}}},
	{"dl", "Right tackle", []lineup.Place{{Player: "93", Share: 75}}}, {"dl", "Right end", []lineup.Place{{Player: "94", Share: 85}}},
	{"lb", "Middle", []lineup.Place{{Player: "41", Share: 100}}}, {"lb", "Strong", []lineup.Place{{Player: "44", Share: 85}, {Player: "54", Share: 15}}}, {"lb", "Weak", []lineup.Place{{Player: "50", Share: 80}, {Player: "55", Share: 20}}},
	{"db", "Left corner", []lineup.Place{{Player: "2", Share: 100}}}, {"db", "Right corner", []lineup.Place{{Player: "4", Share: 85}, {Player: "25", Share: 15}}}, {"db", "Strong safety", []lineup.Place{{Player: "6", Share: 100}}},
	{"db", "Free safety", []lineup.Place{{Player: "20", Share: 90}}}, {"db", "Nickel", []lineup.Place{{Player: "23", Share: 60}}},
}

// calls reads what is typed above, and makes the line-ups.
func (s *source) calls() {
	rows, at := call.Typed(typed)
	for _, l := range call.Read(rows, at, call.Known{Groups: group.Usual(), Library: s.lib, SeasonStart: season.Must(SeasonStart), Weeks: Weeks}) {
		if l.Says != "" {
			panic(fmt.Sprintf("line %d of the demo's calls, %s: %s", l.Number, l.Column, l.Says))
		}
		s.w.Calls = append(s.w.Calls, Call{ID: s.scripts.id(), Call: l.Call})
	}
	s.w.Sets = []plan.Set{
		{ID: s.scripts.id(), Group: "ol", Name: "First ten", EveryDay: true, Drills: []contract.SetDrill{{Drill: "base_two_step", Minutes: 5, Lanes: 5}, {Drill: "kick_line", Minutes: 5, Lanes: 5}}},
		{ID: s.scripts.id(), Group: "db", Name: "Feet and eyes", EveryDay: true, Drills: []contract.SetDrill{{Drill: "pedal_line", Minutes: 4, Lanes: 4}, {Drill: "turn_line", Minutes: 4, Lanes: 4}}},
	}
	// Who lifts a hold came to the staff last.
	s.w.Users = append(s.w.Users, User{ID: s.scripts.id(), Email: HealthEmail, Name: "N. Sollis", Title: "Athletic health", Role: "health"})
	jersey := map[string]string{}
	for _, p := range s.w.Players {
		jersey[s.w.GroupOf[p.ID]+p.Jersey] = p.ID.String()
	}
	for _, x := range spots {
		if n := len(s.w.LineUps); n == 0 || s.w.LineUps[n-1].Group != x.group {
			s.w.LineUps = append(s.w.LineUps, LineUp{Group: x.group})
		}
		spot := lineup.Spot{Name: x.name}
		for _, p := range x.players {
			spot.Players = append(spot.Players, lineup.Place{Player: jersey[x.group+p.Player], Share: p.Share})
		}
		l := &s.w.LineUps[len(s.w.LineUps)-1]
		l.Spots = append(l.Spots, spot)
	}
	s.w.Templates = s.templates()
}
