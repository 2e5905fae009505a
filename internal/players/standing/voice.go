package standing

import (
	"cmp"
	"slices"

	"nineyard/core/growth"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
	"nineyard/internal/roster/squad"
)

// Voices words what a report claims of a group's players: who drops in games first, then who
// slips, then who improves; of each, players over all their techniques before single
// techniques. What is said of a technique that is not in the library, or of somebody who is
// not in the group, is left out.
func Voices(r growth.Report, lib *teaching.Library, players []squad.Player) []contract.Voice {
	byKey := map[string]squad.Player{}
	for _, p := range players {
		byKey[p.ID.String()] = p
	}
	voices := []contract.Voice{}
	add := func(player string, kind contract.VoiceKind, text string) *contract.Voice {
		p, here := byKey[player]
		if text == "" || !here {
			return nil
		}
		voices = append(voices, contract.Voice{PlayerID: p.ID, Jersey: p.Jersey, Name: p.LastName, Kind: kind, Text: text})
		return &voices[len(voices)-1]
	}
	for _, p := range r.Players {
		add(p.Player, kind(p.CarryClaimed && p.Carry == growth.NotCarrying, p.Trend), p.Say())
	}
	for _, e := range r.Rows {
		t, ok := lib.Technique(e.Technique)
		text := e.Say()
		if !ok || text == "" {
			continue
		}
		if v := add(e.Player, kind(e.CarryClaimed && e.Carry == growth.NotCarrying, e.Trend), t.Name+" "+text); v != nil {
			v.Technique, v.TechniqueName = &t.Key, &t.Name
		}
	}
	rank := map[contract.VoiceKind]int{contract.VoiceKindNotCarrying: 0, contract.VoiceKindSlipping: 1, contract.VoiceKindImproving: 2}
	slices.SortStableFunc(voices, func(a, b contract.Voice) int { return cmp.Compare(rank[a.Kind], rank[b.Kind]) })
	return voices
}

func kind(drops bool, t growth.Trend) contract.VoiceKind {
	switch {
	case drops:
		return contract.VoiceKindNotCarrying
	case t == growth.Slipping:
		return contract.VoiceKindSlipping
	}
	return contract.VoiceKindImproving
}
