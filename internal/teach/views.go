package teach

import (
	"context"
	"maps"
	"math"
	"slices"

	"nineyard/core/crew"
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
	out := contract.Library{Techniques: []contract.Technique{}, Drills: []contract.Drill{}, Ladders: []contract.Ladder{}, Questions: []contract.Question{}, Tables: append([]teaching.Table{}, part.Tables...), Editable: c.MayEdit(group)}
	for _, t := range part.Techniques {
		out.Techniques = append(out.Techniques, v.technique(t))
	}
	for _, d := range part.Drills {
		out.Drills = append(out.Drills, v.drill(d))
	}
	for _, l := range part.Ladders {
		w := contract.Ladder{Ladder: l, Stages: h.StageViews(l, group), SeasonMinutes: crew.SeasonMinutes(c.Season.Weeks)}
		if m := crew.LadderMinutes(part, l, group, crew.CleanShare); !math.IsInf(m, 0) {
			w.Minutes = &m
		}
		out.Ladders = append(out.Ladders, w)
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

func (x viewer) technique(t teaching.Technique) contract.Technique {
	v := contract.Technique{Technique: t, Aliases: listOf(t.Aliases), Groups: listOf(t.Groups), Checkpoints: append([]teaching.Checkpoint{}, t.Checkpoints...),
		Faults: append([]teaching.Fault{}, t.Faults...), TechniqueView: contract.TechniqueView{Questions: []string{}, Behind: map[string]string{}, TrainedBy: map[string][]contract.Named{}}}
	for _, f := range t.Faults {
		if behind := x.h.Behind(f); behind != "" {
			v.Behind[f.Key] = behind
		}
		drills := x.h.Library.DrillsFor(f.Key)
		// A habit that shows at many techniques is trained away by drills of all of them: those of this one are meant here.
		if of := slices.DeleteFunc(slices.Clone(drills), func(d teaching.Drill) bool { return !slices.Contains(d.Techniques, t.Key) }); f.Shared && len(of) > 0 {
			drills = of
		}
		for _, d := range drills {
			v.TrainedBy[f.Key] = append(v.TrainedBy[f.Key], contract.Named{Key: d.Key, Name: d.Name})
		}
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
	v := contract.Drill{Drill: d, Aliases: listOf(d.Aliases), WorksOn: listOf(d.WorksOn), DrillView: contract.DrillView{Technique: d.Technique, TechniqueName: t.Name,
		Techniques: x.h.TechniquesOf(d), Called: map[string]string{}, Rungs: []contract.Rung{}, Takes: d.Equipment.Words(max(d.Lanes, 1)), CoachStands: d.Coach.Words(), Helping: d.Helping()}}
	for _, k := range d.Trains {
		c, _, _ := lib.Checkpoint(k)
		v.Called[k] = c.Name
	}
	for _, k := range d.WorksOn {
		f, _, _ := lib.Fault(k)
		v.Called[k] = f.Name
	}
	for _, c := range d.Cards {
		for _, k := range append(slices.Collect(maps.Values(c.Each)), c.Asks) {
			if t, ok := lib.Technique(k); ok {
				v.Called[k] = t.Name
			}
		}
		if f, _, ok := lib.Fault(c.Invites); ok {
			v.Called[c.Invites] = f.Name
		}
	}
	for _, p := range lib.RungsOf(d.Key) {
		v.Rungs = append(v.Rungs, contract.Rung{Ladder: p.Ladder.Key, Name: p.Ladder.Name, Stage: p.Stage.Name, Number: p.Ladder.StageOf(d.Key) + 1, Of: len(p.Ladder.Stages)})
	}
	return v
}

// question words a question with what each school brings: the checkpoints, faults and
// drills that hold when it is chosen.
func (x viewer) question(q teaching.Question) contract.Question {
	_, changed := x.h.Layer.Find(merge.Ref{Kind: "question", Key: q.Key})
	v := contract.Question{Question: q, QuestionView: contract.QuestionView{Called: map[string]string{}, Shipped: !changed, Brings: map[string][]string{}}}
	for _, k := range q.Techniques {
		t, _ := x.h.All.Technique(k)
		v.Called[k] = t.Name
	}
	for _, s := range q.Schools {
		v.Brings[s.Key] = x.brings(q.Key + "/" + s.Key)
	}
	return v
}

// brings lists in words what follows from a school.
func (x viewer) brings(school string) []string {
	list := []string{}
	for _, t := range x.h.All.Techniques {
		for _, c := range t.Checkpoints {
			if c.School == school {
				list = append(list, "Checkpoint of "+t.Name+": "+c.Name)
			}
		}
		for _, f := range t.Faults {
			if f.School == school {
				list = append(list, "Fault of "+t.Name+": "+f.Name)
			}
		}
	}
	for _, d := range x.h.All.Drills {
		if d.School == school {
			list = append(list, "Drill: "+d.Name)
		}
	}
	return list
}
