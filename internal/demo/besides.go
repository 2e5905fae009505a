package demo

import (
	"math/rand/v2"

	"github.com/google/uuid"

	"nineyard/core/marks"
)

// askedNote is what a coach writes beside a question that is open.
const askedNote = "Whose end is it when the tackle blocks down?"

// besides adds to the marks of games what coaches say beside the grade: who won his duel, effort away
// from the ball, and of Saturday's open questions who can answer them. It draws from a stream of its own,
// so that the marks themselves are what they were.
func (s *source) besides(seed uint64) {
	r := rand.New(rand.NewPCG(seed, 33))
	groupOf := s.w.GroupOf
	saturday := map[uuid.UUID]bool{}
	for _, p := range s.w.Plays {
		if p.GameID == s.w.Games[Week-2].ID {
			saturday[p.ID] = true
		}
	}
	asked := 0
	for i := range s.w.Marks {
		m := &s.w.Marks[i]
		if m.PlayID == nil {
			continue
		}
		group := groupOf[m.PlayerID]
		if saturday[*m.PlayID] && group == "te" && m.State == "assumed" && asked == 0 {
			m.State, m.Assignment, m.Technique, m.Faults, m.Note = "unsettled", nil, nil, nil, askedNote
		}
		switch {
		case m.State == "unsettled" && saturday[*m.PlayID]:
			whom := "" // the head coach
			if group == "te" || group == "rb" {
				whom = "ol"
			}
			m.Asked = s.coachOf(whom)
			asked++
		case m.State == "looked":
			lost := .12
			if len(m.Faults) > 0 {
				lost = .72
			}
			if r.Float64() < .45 {
				m.Result = ptr(1)
				if r.Float64() < lost {
					m.Result = ptr(0)
				}
			}
			if r.Float64() < .06 {
				m.Tallies = []marks.Tally{marks.Effort}
			}
		}
	}
}
