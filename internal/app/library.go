package app

import (
	"context"
	"slices"

	"nineyard/core/house"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
)

// LibraryOf returns what is taught to a group.
func (s *Service) LibraryOf(ctx context.Context, a Actor, group string) (contract.Library, error) {
	if _, _, err := s.group(ctx, a, group); err != nil {
		return contract.Library{}, err
	}
	part := a.lib().ForGroup(group)
	out := contract.Library{Techniques: []contract.Technique{}, Drills: []contract.Drill{}, Ladders: []contract.Ladder{}, Questions: []contract.Question{}, Editable: a.mayEdit(group)}
	for _, t := range part.Techniques {
		out.Techniques = append(out.Techniques, a.techniqueView(t))
	}
	for _, d := range part.Drills {
		out.Drills = append(out.Drills, a.drillView(d))
	}
	for _, l := range part.Ladders {
		out.Ladders = append(out.Ladders, contract.Ladder{Key: l.Key, Name: l.Name, Technique: l.Technique, Stages: a.stageViews(l)})
	}
	for _, q := range part.Questions {
		out.Questions = append(out.Questions, a.questionView(q))
	}
	return out, nil
}

func (a Actor) stageViews(l teaching.Ladder) []contract.Stage {
	views := []contract.Stage{}
	for _, st := range l.Stages {
		v := contract.Stage{Key: st.Key, Name: st.Name, Kind: st.Kind, Drills: []contract.Named{}, Game: st.Kind == teaching.Game, Window: st.Window, Clean: st.Clean,
			Sessions: max(st.Sessions, 1), FromWeek: max(st.FromWeek, 1)}
		if st.MaxSessions > 0 {
			v.MaxSessions = ptr(st.MaxSessions)
		}
		for _, k := range st.Drills {
			d, _ := a.lib().Drill(k)
			v.Drills = append(v.Drills, contract.Named{Key: k, Name: d.Name})
		}
		views = append(views, v)
	}
	return views
}

func measureView(m teaching.Measure) contract.Measure {
	return contract.Measure{Unit: m.Unit, Target: m.Target, OkLow: m.OK.Low, OkHigh: m.OK.High, WatchLow: m.Watch.Low, WatchHigh: m.Watch.High,
		Min: m.Min, Max: m.Max, Read: m.Read}
}

func texts(list []string) []string { return append([]string{}, list...) }

func text(s string) *string {
	if s == "" {
		return nil
	}
	return &s
}

func (a Actor) techniqueView(t teaching.Technique) contract.Technique {
	v := contract.Technique{Key: t.Key, Name: t.Name, Aliases: texts(t.Aliases), Groups: texts(t.Groups), Summary: t.Summary,
		Checkpoints: []contract.Checkpoint{}, Faults: []contract.Fault{}, Questions: []string{}}
	for _, c := range t.Checkpoints {
		cv := contract.Checkpoint{Key: c.Key, Phase: c.Phase, Name: c.Name, Cue: c.Cue, Words: texts(c.Words), Right: texts(c.Right), School: text(c.School)}
		if c.Measure != nil {
			cv.Measure = ptr(measureView(*c.Measure))
		}
		v.Checkpoints = append(v.Checkpoints, cv)
	}
	for _, f := range t.Faults {
		fv := contract.Fault{Key: f.Key, Name: f.Name, Aliases: texts(f.Aliases), Checkpoint: f.Checkpoint, Effect: f.Effect, Severity: f.Severity,
			Safety: f.Safety, School: text(f.School), Drills: []contract.Named{}}
		for _, d := range a.lib().DrillsFor(f.Key) {
			fv.Drills = append(fv.Drills, contract.Named{Key: d.Key, Name: d.Name})
		}
		v.Faults = append(v.Faults, fv)
	}
	for _, q := range a.lib().Questions {
		if slices.Contains(q.Techniques, t.Key) {
			v.Questions = append(v.Questions, q.Key)
		}
	}
	return v
}

func (a Actor) drillView(d teaching.Drill) contract.Drill {
	lib := a.lib()
	t, _ := lib.Technique(d.Technique)
	v := contract.Drill{Key: d.Key, Name: d.Name, Aliases: texts(d.Aliases), Technique: d.Technique, TechniqueName: t.Name, Techniques: a.techniquesOf(d), Trains: []contract.Named{}, WorksOn: []contract.Named{},
		Working: d.Working, Helping: d.Helping, Roles: d.Roles, Lanes: d.Lanes, RepSeconds: d.RepSeconds, ResetSeconds: d.ResetSeconds, SetupSeconds: d.SetupSeconds,
		Sides: d.Sides, Minutes: d.Minutes, MinMinutes: d.MinMinutes, Contact: d.Contact, HelpContact: text(d.HelpContact), Equipment: d.Equipment,
		SpaceLengthYd: d.Space.LengthYd, SpaceWidthYd: d.Space.WidthYd, Setup: setupView(d.Setup), CoachAt: d.CoachAt, Watch: d.Watch,
		SelfCheck: d.SelfCheck, Alone: d.Alone, Game: d.Game, Cautions: d.Cautions, Conditioning: d.Conditioning, Places: []contract.LadderPlace{}}
	for _, k := range d.Trains {
		c, _, _ := lib.Checkpoint(k)
		v.Trains = append(v.Trains, contract.Named{Key: k, Name: c.Name})
	}
	for _, k := range d.WorksOn {
		f, _, _ := lib.Fault(k)
		v.WorksOn = append(v.WorksOn, contract.Named{Key: k, Name: f.Name})
	}
	for _, p := range lib.PlacesOf(d.Key) {
		v.Places = append(v.Places, contract.LadderPlace{Ladder: p.Ladder.Key, Name: p.Ladder.Name, Stage: p.Stage.Name, Number: p.Ladder.StageOf(d.Key) + 1, Of: len(p.Ladder.Stages)})
	}
	return v
}

func setupView(s teaching.Setup) contract.Setup {
	v := contract.Setup{Things: []contract.SetupThing{}, Ways: []contract.SetupWay{}}
	for _, t := range s.Things {
		v.Things = append(v.Things, contract.SetupThing{Is: t.Is, X: t.X, Y: t.Y, Says: text(t.Says)})
	}
	for _, w := range s.Ways {
		way := contract.SetupWay{Is: w.Is}
		for _, p := range w.Points {
			way.Points = append(way.Points, []float64{p[0], p[1]})
		}
		v.Ways = append(v.Ways, way)
	}
	return v
}

// techniquesOf names the techniques a drill trains, the one it is marked as first.
func (a Actor) techniquesOf(d teaching.Drill) []contract.Named {
	names := []contract.Named{}
	for _, k := range d.Techniques {
		t, _ := a.lib().Technique(k)
		names = append(names, contract.Named{Key: k, Name: t.Name})
	}
	return names
}

// questionView words a question with what each school brings: the checkpoints, faults and
// drills that hold when it is chosen.
func (a Actor) questionView(q teaching.Question) contract.Question {
	_, changed := a.House.Layer.Find(house.Ref{Kind: "question", Key: q.Key})
	v := contract.Question{Key: q.Key, Name: q.Name, Asks: q.Asks, Techniques: []contract.Named{}, House: q.House, Why: q.Why, Shipped: !changed}
	for _, k := range q.Techniques {
		t, _ := a.House.All.Technique(k)
		v.Techniques = append(v.Techniques, contract.Named{Key: k, Name: t.Name})
	}
	for _, s := range q.Schools {
		brings := []string{}
		id := q.Key + "/" + s.Key
		for _, t := range a.House.All.Techniques {
			for _, c := range t.Checkpoints {
				if c.School == id {
					brings = append(brings, "Checkpoint of "+t.Name+": "+c.Name)
				}
			}
			for _, f := range t.Faults {
				if f.School == id {
					brings = append(brings, "Fault of "+t.Name+": "+f.Name)
				}
			}
		}
		for _, d := range a.House.All.Drills {
			if d.School == id {
				brings = append(brings, "Drill: "+d.Name)
			}
		}
		v.Schools = append(v.Schools, contract.School{Key: s.Key, Name: s.Name, Reason: s.Reason, Brings: brings})
	}
	return v
}
