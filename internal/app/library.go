package app

import (
	"context"

	"nineyard/core/teaching"
	"nineyard/internal/contract"
)

// LibraryOf returns what is taught to a group.
func (s *Service) LibraryOf(ctx context.Context, a Actor, group string) (contract.Library, error) {
	if _, _, err := s.group(ctx, a, group); err != nil {
		return contract.Library{}, err
	}
	part := s.Library.ForGroup(group)
	out := contract.Library{Techniques: []contract.Technique{}, Drills: []contract.Drill{}, Ladders: []contract.Ladder{}}
	for _, t := range part.Techniques {
		out.Techniques = append(out.Techniques, techniqueView(t, part.Drills))
	}
	for _, d := range part.Drills {
		out.Drills = append(out.Drills, s.drillView(d))
	}
	for _, l := range part.Ladders {
		v := contract.Ladder{Key: l.Key, Name: l.Name, Technique: l.Technique}
		for _, st := range l.Stages {
			sv := contract.Stage{Key: st.Key, Name: st.Name, Drills: []string{}, Game: st.Game, Window: st.Window, Clean: st.Clean,
				Sessions: max(st.Sessions, 1), FromWeek: max(st.FromWeek, 1)}
			if st.MaxSessions > 0 {
				sv.MaxSessions = ptr(st.MaxSessions)
			}
			for _, k := range st.Drills {
				d, _ := s.Library.Drill(k)
				sv.Drills = append(sv.Drills, d.Name)
			}
			v.Stages = append(v.Stages, sv)
		}
		out.Ladders = append(out.Ladders, v)
	}
	return out, nil
}

func techniqueView(t teaching.Technique, drills []teaching.Drill) contract.Technique {
	v := contract.Technique{Key: t.Key, Name: t.Name, Aliases: append([]string{}, t.Aliases...), Summary: t.Summary}
	for _, c := range t.Checkpoints {
		v.Checkpoints = append(v.Checkpoints, contract.Checkpoint{Key: c.Key, Phase: c.Phase, Name: c.Name, Cue: c.Cue})
	}
	for _, f := range t.Faults {
		fv := contract.Fault{Key: f.Key, Name: f.Name, Checkpoint: f.Checkpoint, Effect: f.Effect, Severity: f.Severity, Safety: f.Safety, Drills: []string{}}
		for _, d := range drills {
			for _, k := range d.WorksOn {
				if k == f.Key {
					fv.Drills = append(fv.Drills, d.Name)
				}
			}
		}
		v.Faults = append(v.Faults, fv)
	}
	return v
}

func (s *Service) drillView(d teaching.Drill) contract.Drill {
	t, _ := s.Library.Technique(d.Technique)
	v := contract.Drill{Key: d.Key, Name: d.Name, Technique: d.Technique, TechniqueName: t.Name, WorksOn: []string{}, Working: d.Working, Helping: d.Helping,
		Roles: d.Roles, Lanes: d.Lanes, RepSeconds: d.RepSeconds, ResetSeconds: d.ResetSeconds, SetupSeconds: d.SetupSeconds,
		Sides: d.Sides, Minutes: d.Minutes, MinMinutes: d.MinMinutes, Contact: d.Contact, Equipment: d.Equipment,
		SpaceLengthYd: d.Space.LengthYd, SpaceWidthYd: d.Space.WidthYd, CoachAt: d.CoachAt, Watch: d.Watch,
		SelfCheck: d.SelfCheck, Alone: d.Alone, Game: d.Game, Cautions: d.Cautions}
	for _, k := range d.WorksOn {
		f, _, _ := s.Library.Fault(k)
		v.WorksOn = append(v.WorksOn, f.Name)
	}
	if ladder, stage, ok := s.Library.StageOf(d); ok {
		for _, l := range s.Library.Ladders {
			for _, st := range l.Stages {
				if l.Key == ladder && st.Key == stage {
					v.Stage = ptr(st.Name)
				}
			}
		}
	}
	return v
}
