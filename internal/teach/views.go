package teach

import (
	"context"
	"slices"

	"nineyard/core/merge"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/teach/house"
)

// LibraryOf returns what is taught to a group.
func (s *Service) LibraryOf(ctx context.Context, c access.Coach, group string) (contract.Library, error) {
	if _, err := c.Group(group); err != nil {
		return contract.Library{}, err
	}
	h, err := s.Of(ctx, c)
	if err != nil {
		return contract.Library{}, err
	}
	v := viewer{h}
	part := h.Library.ForGroup(group)
	out := contract.Library{Techniques: []contract.Technique{}, Drills: []contract.Drill{}, Ladders: []contract.Ladder{}, Questions: []contract.Question{}, Editable: c.MayEdit(group)}
	for _, t := range part.Techniques {
		out.Techniques = append(out.Techniques, v.technique(t))
	}
	for _, d := range part.Drills {
		out.Drills = append(out.Drills, v.drill(d))
	}
	for _, l := range part.Ladders {
		out.Ladders = append(out.Ladders, contract.Ladder{Key: l.Key, Name: l.Name, Technique: l.Technique, Stages: h.StageViews(l)})
	}
	for _, q := range part.Questions {
		out.Questions = append(out.Questions, v.question(q))
	}
	return out, nil
}

// viewer words the entries of a house.
type viewer struct{ h *house.House }

// listOf is never null.
func listOf(list []string) []string { return append([]string{}, list...) }

// optional is nil for an empty text.
func optional(s string) *string {
	if s == "" {
		return nil
	}
	return &s
}

func (x viewer) technique(t teaching.Technique) contract.Technique {
	v := contract.Technique{Key: t.Key, Name: t.Name, Aliases: listOf(t.Aliases), Groups: listOf(t.Groups), Summary: t.Summary,
		Checkpoints: []contract.Checkpoint{}, Faults: []contract.Fault{}, Questions: []string{}}
	for _, c := range t.Checkpoints {
		cv := contract.Checkpoint{Key: c.Key, Phase: c.Phase, Name: c.Name, Cue: c.Cue, Words: listOf(c.Words), Right: listOf(c.Right), School: optional(c.School)}
		if c.Measure != nil {
			cv.Measure = new(house.MeasureView(*c.Measure))
		}
		v.Checkpoints = append(v.Checkpoints, cv)
	}
	for _, f := range t.Faults {
		fv := contract.Fault{Key: f.Key, Name: f.Name, Aliases: listOf(f.Aliases), Checkpoint: f.Checkpoint, Effect: f.Effect, Severity: f.Severity,
			Safety: f.Safety, School: optional(f.School), Drills: []contract.Named{}}
		for _, d := range x.h.Library.DrillsFor(f.Key) {
			fv.Drills = append(fv.Drills, contract.Named{Key: d.Key, Name: d.Name})
		}
		v.Faults = append(v.Faults, fv)
	}
	for _, q := range x.h.Library.Questions {
		if slices.Contains(q.Techniques, t.Key) {
			v.Questions = append(v.Questions, q.Key)
		}
	}
	return v
}

func (x viewer) drill(d teaching.Drill) contract.Drill {
	lib := x.h.Library
	t, _ := lib.Technique(d.Technique)
	v := contract.Drill{Key: d.Key, Name: d.Name, Aliases: listOf(d.Aliases), Technique: d.Technique, TechniqueName: t.Name, Techniques: x.h.TechniquesOf(d), Trains: []contract.Named{}, WorksOn: []contract.Named{},
		Working: d.Working, Helping: d.Helping, Roles: d.Roles, Lanes: d.Lanes, RepSeconds: d.RepSeconds, ResetSeconds: d.ResetSeconds, SetupSeconds: d.SetupSeconds,
		Sides: d.Sides, Minutes: d.Minutes, MinMinutes: d.MinMinutes, Contact: d.Contact, HelpContact: optional(d.HelpContact), Equipment: d.Equipment,
		SpaceLengthYd: d.Space.LengthYd, SpaceWidthYd: d.Space.WidthYd, Setup: setupView(d.Setup), CoachAt: d.CoachAt, Watch: d.Watch,
		SelfCheck: d.SelfCheck, Alone: d.Alone, Game: d.Game, Cautions: d.Cautions, Conditioning: d.Conditioning, Rungs: []contract.Rung{}}
	for _, k := range d.Trains {
		c, _, _ := lib.Checkpoint(k)
		v.Trains = append(v.Trains, contract.Named{Key: k, Name: c.Name})
	}
	for _, k := range d.WorksOn {
		f, _, _ := lib.Fault(k)
		v.WorksOn = append(v.WorksOn, contract.Named{Key: k, Name: f.Name})
	}
	for _, p := range lib.RungsOf(d.Key) {
		v.Rungs = append(v.Rungs, contract.Rung{Ladder: p.Ladder.Key, Name: p.Ladder.Name, Stage: p.Stage.Name, Number: p.Ladder.StageOf(d.Key) + 1, Of: len(p.Ladder.Stages)})
	}
	return v
}

func setupView(s teaching.Setup) contract.Setup {
	v := contract.Setup{Things: []contract.SetupThing{}, Ways: []contract.SetupWay{}}
	for _, t := range s.Things {
		v.Things = append(v.Things, contract.SetupThing{Is: t.Is, X: t.X, Y: t.Y, Says: optional(t.Says)})
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

// question words a question with what each school brings: the checkpoints, faults and
// drills that hold when it is chosen.
func (x viewer) question(q teaching.Question) contract.Question {
	_, changed := x.h.Layer.Find(merge.Ref{Kind: "question", Key: q.Key})
	v := contract.Question{Key: q.Key, Name: q.Name, Asks: q.Asks, Techniques: []contract.Named{}, House: q.House, Why: q.Why, Shipped: !changed}
	for _, k := range q.Techniques {
		t, _ := x.h.All.Technique(k)
		v.Techniques = append(v.Techniques, contract.Named{Key: k, Name: t.Name})
	}
	for _, s := range q.Schools {
		brings := []string{}
		id := q.Key + "/" + s.Key
		for _, t := range x.h.All.Techniques {
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
		for _, d := range x.h.All.Drills {
			if d.School == id {
				brings = append(brings, "Drill: "+d.Name)
			}
		}
		v.Schools = append(v.Schools, contract.School{Key: s.Key, Name: s.Name, Reason: s.Reason, Brings: brings})
	}
	return v
}
