package app

import (
	"context"
	"sort"

	"github.com/google/uuid"
	"golang.org/x/sync/errgroup"

	"nineyard/core/growth"
	"nineyard/core/needs"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
)

// needDays is how far back faults are counted, and games looked at, for what hurts
// most: the present form, not the whole season.
const needDays = 28

// form is what the marks of a group say as of a day; read once a screen.
type form struct {
	lib     *teaching.Library
	asOf    season.Date
	players map[uuid.UUID]Player
	tallies []MarkTally
	faults  []FaultTally
}

func (s *Service) form(ctx context.Context, a Actor, group string, players []Player, asOf season.Date) (form, error) {
	f := form{lib: a.lib(), asOf: asOf, players: playersByID(players)}
	from, to := a.SeasonStart, asOf.Time()
	// The two wide reads do not wait for each other.
	g, gctx := errgroup.WithContext(ctx)
	g.Go(func() (err error) {
		f.tallies, err = s.Store.MarkTallies(gctx, a.ClubID, group, from, to)
		return err
	})
	g.Go(func() (err error) {
		f.faults, err = s.Store.FaultTallies(gctx, a.ClubID, group, from, to)
		return err
	})
	return f, g.Wait()
}

// needs ranks what hurts most. Players who are out or held are not expected to play.
func (s *Service) needs(f form) ([]needs.Need, map[faultKey]contract.Count, error) {
	in := needs.Input{Severity: map[string]float64{}, Safety: map[string]bool{}}
	for _, t := range f.lib.Techniques {
		for _, x := range t.Faults {
			in.Severity[x.Key] = float64(x.Severity)
			in.Safety[x.Key] = x.Safety
		}
	}
	graded, uses, games := f.recent()
	in.Exposure, in.Players = needs.Expect(uses, games)
	if len(in.Players) == 0 {
		in.Exposure = map[string]float64{}
		for k := range graded {
			in.Exposure[k.technique] = 1
		}
		for id := range f.players {
			in.Players = append(in.Players, needs.Player{Key: id.String(), SnapShare: 1})
		}
		sort.Slice(in.Players, func(i, j int) bool { return in.Players[i].Key < in.Players[j].Key })
	}
	playing := in.Players[:0]
	for _, p := range in.Players {
		if id, err := uuid.Parse(p.Key); err == nil {
			if st := f.players[id].Status; st == "available" || st == "limited" {
				playing = append(playing, p)
			}
		}
	}
	in.Players = playing

	counts := f.faultCounts(graded)
	for k, c := range counts {
		in.Counts = append(in.Counts, needs.Count{Player: k.player, Technique: k.technique, Fault: k.fault, Faulty: c.Faulty, N: c.Clean + c.Faulty})
	}
	sort.Slice(in.Counts, func(i, j int) bool {
		x, y := in.Counts[i], in.Counts[j]
		if x.Player != y.Player {
			return x.Player < y.Player
		}
		if x.Technique != y.Technique {
			return x.Technique < y.Technique
		}
		return x.Fault < y.Fault
	})
	list, err := needs.Rank(in)
	return list, counts, err
}

type techniqueKey struct{ player, technique string }

type faultKey struct{ player, technique, fault string }

// recent sums the graded reps of the last needDays by player and technique, and how
// often each technique was used in the games among them.
func (f form) recent() (graded map[techniqueKey]int, uses []needs.Use, games int) {
	graded = map[techniqueKey]int{}
	inGames := map[techniqueKey]int{}
	seen := map[uuid.UUID]bool{}
	for _, t := range f.tallies {
		if int(f.asOf-season.Of(t.OnDate)) >= needDays {
			continue
		}
		k := techniqueKey{t.PlayerID.String(), t.TechniqueKey}
		if t.State == "assumed" || t.State == "looked" {
			graded[k] += t.N
		}
		if t.GameID != nil {
			inGames[k] += t.N
			seen[*t.GameID] = true
		}
	}
	for k, n := range inGames {
		uses = append(uses, needs.Use{Player: k.player, Technique: k.technique, N: n})
	}
	return graded, uses, len(seen)
}

// faultCounts gives for every fault seen, and every player who does its technique,
// how often he showed it; Clean holds the reps without it.
func (f form) faultCounts(graded map[techniqueKey]int) map[faultKey]contract.Count {
	type pair struct{ technique, fault string }
	seen := map[pair]bool{}
	faulty := map[faultKey]int{}
	for _, t := range f.faults {
		if int(f.asOf-season.Of(t.OnDate)) >= needDays || t.CausedBy != "" {
			continue
		}
		seen[pair{t.TechniqueKey, t.Fault}] = true
		faulty[faultKey{t.PlayerID.String(), t.TechniqueKey, t.Fault}] += t.N
	}
	counts := map[faultKey]contract.Count{}
	for p := range seen {
		for k, n := range graded {
			if k.technique == p.technique {
				fk := faultKey{k.player, k.technique, p.fault}
				bad := min(faulty[fk], n)
				counts[fk] = contract.Count{Clean: n - bad, Faulty: bad}
			}
		}
	}
	return counts
}

// needViews words every safety fault and the first few of the others. planned says which faults the drills of the
// next practice already work on.
func (s *Service) needViews(f form, limit int, planned map[string]bool, reached func(technique string) int) ([]contract.Need, error) {
	list, counts, err := s.needs(f)
	if err != nil {
		return nil, err
	}
	views := []contract.Need{}
	for _, n := range list {
		if limit == 0 {
			break
		}
		fault, technique, ok := f.lib.Fault(n.Fault)
		if !ok || len(n.Players) == 0 {
			continue
		}
		v := contract.Need{Fault: n.Fault, Name: fault.Name, Effect: fault.Effect, Technique: technique.Key, TechniqueName: technique.Name,
			Severity: fault.Severity, Safety: fault.Safety, Need: n.Need, Rate: n.Rate, Planned: ptr(planned[n.Fault]), Players: []contract.NeedPlayer{}}
		for _, p := range n.Players {
			id, _ := uuid.Parse(p.Player)
			c := counts[faultKey{p.Player, n.Technique, n.Fault}]
			v.Faulty += c.Faulty
			v.N += c.Clean + c.Faulty
			v.Players = append(v.Players, contract.NeedPlayer{ID: id, Jersey: f.players[id].Jersey, Name: f.players[id].LastName,
				Rate: p.Rate, Part: p.Part, Faulty: c.Faulty, N: c.Clean + c.Faulty})
		}
		if !n.Safety {
			limit--
		}
		if d, ok := f.lib.DrillFor(n.Fault, reached(technique.Key)); ok {
			v.Drill, v.DrillKey = ptr(d.Name), ptr(d.Key)
		}
		views = append(views, v)
	}
	return views, nil
}

// voices words every finding that may be claimed, worst first.
func (s *Service) voices(f form) ([]contract.Voice, error) {
	report, err := growth.Of(f.asOf, growth.Default(), growthRows(f.tallies, f.asOf))
	if err != nil {
		return nil, err
	}
	rank := map[contract.VoiceKind]int{contract.VoiceKindNotCarrying: 0, contract.VoiceKindSlipping: 1, contract.VoiceKindImproving: 2}
	voices := []contract.Voice{}
	for _, e := range report.Rows {
		text := growth.Say(e)
		id, err := uuid.Parse(e.Player)
		technique, ok := f.lib.Technique(e.Technique)
		player, here := f.players[id]
		if text == "" || err != nil || !ok || !here {
			continue
		}
		kind := contract.VoiceKindImproving
		switch {
		case e.CarryClaimed && e.Carry == growth.NotCarrying:
			kind = contract.VoiceKindNotCarrying
		case e.Trend == growth.Slipping:
			kind = contract.VoiceKindSlipping
		}
		voices = append(voices, contract.Voice{PlayerID: id, Jersey: player.Jersey, Name: player.LastName,
			Technique: e.Technique, TechniqueName: technique.Name, Kind: kind, Text: technique.Name + " " + text})
	}
	sort.SliceStable(voices, func(i, j int) bool { return rank[voices[i].Kind] < rank[voices[j].Kind] })
	return voices, nil
}
