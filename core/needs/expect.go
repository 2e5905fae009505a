package needs

import "sort"

// Use is how often a player did a technique in one of the last games.
type Use struct {
	Player, Technique string
	N                 int
}

// Expect works out from the last games how often a player who plays every snap will need
// each technique in the next one, and each player's share of the snaps: his uses over
// those of the player who had most. With nothing played yet every listed player has share
// 1 and exposure is empty, which Rank reads as not needed; the caller then supplies 1s.
//
//	exposure = Σ uses of the technique / (games · Σ shares)
func Expect(uses []Use, games int) (exposure map[string]float64, players []Player) {
	total := map[string]int{}
	byTechnique := map[string]int{}
	most := 0
	for _, u := range uses {
		total[u.Player] += u.N
		byTechnique[u.Technique] += u.N
		most = max(most, total[u.Player])
	}
	exposure = map[string]float64{}
	if most == 0 || games < 1 {
		return exposure, nil
	}
	for p, n := range total {
		players = append(players, Player{p, float64(n) / float64(most)})
	}
	sort.Slice(players, func(i, j int) bool { return players[i].Key < players[j].Key })
	shares := 0.0
	for _, p := range players { // in order, so that the same input gives the same last digit
		shares += p.SnapShare
	}
	for t, n := range byTechnique {
		exposure[t] = float64(n) / (float64(games) * shares)
	}
	return exposure, players
}
