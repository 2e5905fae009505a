package demo

import (
	"time"

	"github.com/google/uuid"

	"nineyard/core/season"
)

// Word is a coach's word that a player holds a stage of a ladder.
type Word struct {
	ID, PlayerID  uuid.UUID
	Ladder, Stage string
	On            time.Time
	By            *uuid.UUID
}

// wordReason is why a coach let a stage pass.
const wordReason = "Shown in camp, and on last season's film"

// inCamp are the stages that a group was seen to hold in camp, which its practices therefore do not drill again; of each
// ladder from its first stage on, since a word stands only where what comes before it is passed.
var inCamp = map[string][]struct {
	ladder string
	stages []string
}{
	"ol": {
		{"base_ladder", []string{"fit"}},
		{"close_turn_ladder", []string{"fit", "shut"}},
		{"pull_ladder", []string{"cones", "fit"}},
		{"two_man_ladder", []string{"fit"}},
		{"kick_ladder", []string{"line", "speed", "fit", "bag"}},
		{"post_ladder", []string{"hand", "fit", "bag"}},
	},
	"db": {
		{"alley_ladder", []string{"angle", "fit"}},
	},
}

// words are what coaches said of everybody who was in camp.
func (s *source) words() {
	on := season.Must(SeasonStart)
	for _, m := range s.w.Players {
		group := s.w.GroupOf[m.ID]
		if s.who[m.ID].jersey == TooFew && group == "ol" {
			continue // he came in week 6
		}
		for _, l := range inCamp[group] {
			for _, stage := range l.stages {
				s.w.Words = append(s.w.Words, Word{ID: s.scripts.id(), PlayerID: m.ID, Ladder: l.ladder, Stage: stage, On: on.Time(), By: s.coachOf(group)})
			}
		}
	}
}
