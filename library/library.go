// Package library is the teaching library that ships with the program: one YAML
// file a position group, readable and editable with a text editor, embedded in the
// binary and read into the types of core/teaching.
package library

import (
	"bytes"
	"embed"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"sort"

	"gopkg.in/yaml.v3"

	"nineyard/core/teaching"
)

//go:embed *.yaml
var shipped embed.FS

// Shipped returns the library that ships with the program. It is checked by the
// tests, so an error here means a broken build.
func Shipped() (*teaching.Library, error) { return Load(shipped) }

// Load reads every *.yaml file of fsys, in the order of their names, and checks the
// library as a whole. A file that is not understood is named with its line.
func Load(fsys fs.FS) (*teaching.Library, error) {
	names, err := fs.Glob(fsys, "*.yaml")
	if err != nil {
		return nil, err
	}
	sort.Strings(names)
	out := &teaching.Library{}
	for _, name := range names {
		data, err := fs.ReadFile(fsys, name)
		if err != nil {
			return nil, err
		}
		f, err := parse(data)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		f.appendTo(out)
	}
	var problems []error
	for _, issue := range out.Check() {
		problems = append(problems, issue)
	}
	return out, errors.Join(problems...)
}

// parse reads one file. Unknown fields are errors: a misspelt one would be lost.
func parse(data []byte) (file, error) {
	var f file
	dec := yaml.NewDecoder(bytes.NewReader(data))
	dec.KnownFields(true)
	if err := dec.Decode(&f); err != nil && !errors.Is(err, io.EOF) {
		return file{}, err
	}
	return f, nil
}

// file is the form of one YAML file.
type file struct {
	Group      string      `yaml:"group"`
	Techniques []technique `yaml:"techniques"`
	Drills     []drill     `yaml:"drills"`
	Ladders    []ladder    `yaml:"ladders"`
}

type technique struct {
	Key         string   `yaml:"key"`
	Name        string   `yaml:"name"`
	Aliases     []string `yaml:"aliases"`
	Summary     string   `yaml:"summary"`
	Checkpoints []struct {
		Key   string `yaml:"key"`
		Phase string `yaml:"phase"`
		Name  string `yaml:"name"`
		Cue   string `yaml:"cue"`
	} `yaml:"checkpoints"`
	Faults []struct {
		Key      string `yaml:"key"`
		Name     string `yaml:"name"`
		At       string `yaml:"at"`
		Effect   string `yaml:"effect"`
		Severity int    `yaml:"severity"`
		Safety   bool   `yaml:"safety"`
	} `yaml:"faults"`
}

type drill struct {
	Key          string     `yaml:"key"`
	Name         string     `yaml:"name"`
	Technique    string     `yaml:"technique"`
	Trains       []string   `yaml:"trains"`
	WorksOn      []string   `yaml:"works_on"`
	Working      int        `yaml:"working"`
	Helping      int        `yaml:"helping"`
	Roles        string     `yaml:"roles"`
	Lanes        int        `yaml:"lanes"`
	RepSeconds   float64    `yaml:"rep_seconds"`
	ResetSeconds float64    `yaml:"reset_seconds"`
	SetupSeconds float64    `yaml:"setup_seconds"`
	Sides        int        `yaml:"sides"`
	Minutes      int        `yaml:"minutes"`
	MinMinutes   int        `yaml:"min_minutes"`
	Contact      string     `yaml:"contact"`
	Equipment    string     `yaml:"equipment"`
	SpaceYd      [2]float64 `yaml:"space_yd"`
	CoachAt      string     `yaml:"coach_at"`
	Watch        string     `yaml:"watch"`
	SelfCheck    string     `yaml:"self_check"`
	Alone        string     `yaml:"alone"`
	Game         string     `yaml:"game"`
	Cautions     string     `yaml:"cautions"`
	Conditioning bool       `yaml:"conditioning"`
}

type ladder struct {
	Key       string `yaml:"key"`
	Name      string `yaml:"name"`
	Technique string `yaml:"technique"`
	Stages    []struct {
		Key         string   `yaml:"key"`
		Name        string   `yaml:"name"`
		Drills      []string `yaml:"drills"`
		Game        bool     `yaml:"game"`
		Window      int      `yaml:"window"`
		Clean       int      `yaml:"clean"`
		Sessions    int      `yaml:"sessions"`
		MaxSessions int      `yaml:"max_sessions"`
		FromWeek    int      `yaml:"from_week"`
	} `yaml:"stages"`
}

func (f file) appendTo(out *teaching.Library) {
	for _, t := range f.Techniques {
		to := teaching.Technique{Key: t.Key, Name: t.Name, Aliases: t.Aliases, Group: f.Group, Summary: t.Summary}
		for _, c := range t.Checkpoints {
			to.Checkpoints = append(to.Checkpoints, teaching.Checkpoint(c))
		}
		for _, x := range t.Faults {
			to.Faults = append(to.Faults, teaching.Fault{Key: x.Key, Name: x.Name, Checkpoint: x.At, Effect: x.Effect, Severity: x.Severity, Safety: x.Safety})
		}
		out.Techniques = append(out.Techniques, to)
	}
	for _, d := range f.Drills {
		out.Drills = append(out.Drills, teaching.Drill{
			Key: d.Key, Name: d.Name, Group: f.Group, Technique: d.Technique, Trains: d.Trains, WorksOn: d.WorksOn,
			Working: d.Working, Helping: d.Helping, Roles: d.Roles, Lanes: d.Lanes,
			RepSeconds: d.RepSeconds, ResetSeconds: d.ResetSeconds, SetupSeconds: d.SetupSeconds,
			Sides: max(d.Sides, 1), Minutes: d.Minutes, MinMinutes: d.MinMinutes,
			Contact: d.Contact, Equipment: d.Equipment, Space: teaching.Space{LengthYd: d.SpaceYd[0], WidthYd: d.SpaceYd[1]},
			CoachAt: d.CoachAt, Watch: d.Watch, SelfCheck: d.SelfCheck, Alone: d.Alone, Game: d.Game,
			Cautions: d.Cautions, Conditioning: d.Conditioning,
		})
	}
	for _, l := range f.Ladders {
		to := teaching.Ladder{Key: l.Key, Name: l.Name, Technique: l.Technique}
		for _, s := range l.Stages {
			to.Stages = append(to.Stages, teaching.Stage(s))
		}
		out.Ladders = append(out.Ladders, to)
	}
}
