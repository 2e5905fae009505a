// Package squad is what the roster offers to other features: the players of a group with
// what they may take part in on a day.
package squad

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/availability"
	"nineyard/core/crew"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
)

// Player is a member of the team as of a day.
type Player struct {
	ID                  uuid.UUID
	Jersey              string
	FirstName, LastName string
	Position            string
	HeightIn            *float64
	WeightLb            *int
	Returning           bool // he played here last season
	Groups              []string
	Status              availability.Status
	Note                string // why he is not available
}

// Source reads players. Who was archived or merged away is in no group.
type Source interface {
	// Group lists the players of a group by jersey, as of a day.
	Group(ctx context.Context, group string, day season.Date) ([]Player, error)
	// All lists everybody, archived players too, by id: marks of old name them.
	All(ctx context.Context, day season.Date) ([]Player, error)
}

// ByID indexes players.
func ByID(players []Player) map[uuid.UUID]Player {
	m := make(map[uuid.UUID]Player, len(players))
	for _, p := range players {
		m[p.ID] = p
	}
	return m
}

// Find is the player with an id among a few.
func Find(players []Player, id uuid.UUID) (Player, bool) {
	i := slices.IndexFunc(players, func(p Player) bool { return p.ID == id })
	if i < 0 {
		return Player{}, false
	}
	return players[i], true
}

// View is a player as screens are told of him.
func View(p Player) contract.Player {
	v := contract.Player{ID: p.ID, Jersey: p.Jersey, FirstName: p.FirstName, LastName: p.LastName, Position: p.Position,
		Status: contract.Availability(p.Status), Note: p.Note, Returning: p.Returning, HeightIn: p.HeightIn}
	if p.WeightLb != nil {
		w := float64(*p.WeightLb)
		v.WeightLb = &w
	}
	return v
}

// Attendance says who takes part and who is held out of something.
func Attendance(players []Player) (crew.Attendance, []contract.Hold) {
	var a crew.Attendance
	holds := []contract.Hold{}
	for _, p := range players {
		if p.Status != availability.Available {
			holds = append(holds, contract.Hold{PlayerID: p.ID, Jersey: p.Jersey, Name: p.LastName, Status: contract.Availability(p.Status), Note: p.Note})
		}
		if p.Status.TakesPart() {
			a.Players++
		}
		if p.Status == availability.Limited {
			a.Limited++
		}
	}
	return a, holds
}

// Crew splits the players who take part in a drill into those who may do everything and
// those who may only help.
func Crew(players []Player, d teaching.Drill) (full, help []Player) {
	for _, p := range players {
		if !p.Status.TakesPart() {
			continue
		}
		switch crew.PartOf(d, p.Status == availability.Limited) {
		case crew.FullPart:
			full = append(full, p)
		case crew.HelpPart:
			help = append(help, p)
		}
	}
	return full, help
}
