package find

import (
	"context"
	"slices"
	"strings"
	"testing"
	"unicode"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/access"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/platform/pg"
	"nineyard/internal/testkit"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

// memory is the Store in memory.
type memory struct {
	version  int
	own      []Term
	editions map[string][]Term
	uses     []Use
	asked    Keys // for uses, last
}

func newMemory() *memory { return &memory{editions: map[string][]Term{}} }

func (m *memory) Kept(context.Context) (int, error) { return m.version, nil }

func (m *memory) Replace(_ context.Context, version int, own []Term) error {
	m.version, m.own = version, own
	return nil
}

func (m *memory) KeepEdition(_ context.Context, digest string, terms func() []Term) error {
	if m.editions[digest] == nil {
		m.editions[digest] = terms()
	}
	return nil
}

func wordsOf(s string) []string {
	return strings.FieldsFunc(strings.ToLower(s), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
}

// alike reports whether two words begin alike, or share half of their pairs of letters.
func alike(word, asked string) bool {
	if strings.HasPrefix(word, asked) || slices.Contains(swapped(asked), word) {
		return true
	}
	n := 0
	for i := 0; i+2 <= len(asked); i++ {
		if strings.Contains(word, asked[i:i+2]) {
			n++
		}
	}
	return len(asked) > 3 && 2*n > len(asked)
}

func (m *memory) Search(_ context.Context, digest, words, group string, limit int) ([]Hit, error) {
	var hits []Hit
	for i, t := range slices.Concat(m.own, m.editions[digest]) {
		changed := i >= len(m.own) && slices.ContainsFunc(m.own, func(o Term) bool { return o.Kind == t.Kind && o.Key == t.Key })
		has := wordsOf(t.Terms + " " + t.Body)
		if t.Hidden || changed || slices.ContainsFunc(wordsOf(words), func(w string) bool { return !slices.ContainsFunc(has, func(x string) bool { return alike(x, w) }) }) {
			continue
		}
		h := Hit{Kind: t.Kind, Key: t.Key, Technique: t.Technique, Name: t.Name, Terms: t.Terms, Body: t.Body, Mine: slices.Contains(t.Groups, group)}
		if strings.Contains(t.Terms, words) {
			h.Score = 1
		}
		hits = append(hits, h)
	}
	slices.SortStableFunc(hits, func(a, b Hit) int {
		rank := func(h Hit) int {
			n := int(2 * h.Score)
			if h.Mine {
				n++
			}
			return n
		}
		return rank(b) - rank(a)
	})
	return hits[:min(limit, len(hits))], nil
}

func (m *memory) Uses(_ context.Context, _ access.Season, keys Keys) ([]Use, error) {
	m.asked = keys
	var list []Use
	for _, u := range m.uses {
		if slices.Contains(map[string][]string{"drill": keys.Drills, "technique": keys.Techniques, "fault": keys.Faults}[u.Kind], u.Key) {
			list = append(list, u)
		}
	}
	return list, nil
}

// shelf is a Store; placed makes the drill pull_bag stand in a practice with a mark that
// has a fault, and returns the practice.
type shelf struct {
	Store
	season access.Season
	in     func(func(ctx context.Context) error) error
	placed func() uuid.UUID
}

func inMemory(*testing.T) shelf {
	m := newMemory()
	return shelf{Store: m, in: func(do func(context.Context) error) error { return do(context.Background()) }, placed: func() uuid.UUID {
		practice := uuid.New()
		for _, k := range [][2]string{{"drill", "pull_bag"}, {"fault", "pull_wide"}, {"technique", "pull"}} {
			m.uses = append(m.uses, Use{Kind: k[0], Key: k[1], Practices: 1, Marks: 1, Recent: []UseDay{{Practice: practice, On: testkit.Day.Time()}}})
		}
		return practice
	}}
}

func inPostgres(t *testing.T) shelf {
	f := testkit.OpenField(t)
	require.NoError(t, f.In(func(ctx context.Context) error {
		_, err := pg.Exec(ctx, `INSERT INTO library_editions (digest, entries) VALUES ('aa', '[]')`, pg.Args{})
		return err
	}))
	return shelf{Store: SQL{}, season: f.Season, in: func(do func(context.Context) error) error { return pg.Meaning(f.In(do)) }, placed: func() uuid.UUID {
		args := pg.Args{"placement": uuid.New(), "id": uuid.New(), "period": f.Period, "player": f.Player}
		require.NoError(t, f.In(func(ctx context.Context) error {
			for _, step := range []string{
				`INSERT INTO placements (id, club_id, period_id, group_key, drill_key, start, minutes, lanes) VALUES (@placement, @club, @period, 'ol', 'pull_bag', 0, 5, 2)`,
				`INSERT INTO mark_faults (club_id, mark_id, fault, year, nth) VALUES (@club, @id, 'pull_wide', 2026, 1)`,
				`INSERT INTO mark_events (id, club_id, year, player_id, placement_id, rep, technique_key, grader, state, assignment, technique, verdict, scheme)
				 VALUES (@id, @club, 2026, @player, @placement, 1, 'pull', @player, 'looked', 1, 0, 'faulty', 0)`,
			} {
				if _, err := pg.Exec(ctx, step, args); err != nil {
					return err
				}
			}
			return nil
		}))
		return f.Practice
	}}
}

var shipped = []Term{
	{Kind: "drill", Key: "pull_bag", Technique: "pull", Groups: []string{"ol"}, Name: "Pull and kick the bag", Terms: "pull and kick the bag · trap pull", Body: "One bag holder"},
	{Kind: "drill", Key: "gate", Technique: "tackle", Groups: []string{"db"}, Name: "Gate", Terms: "gate", Body: "Two bags make a gate"},
	{Kind: "technique", Key: "mirror", Technique: "mirror", Groups: []string{"ol"}, Name: "Mirror", Terms: "mirror", Body: "Stay in front"},
}

// TestStore holds every Store to the same contract.
func TestStore(t *testing.T) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			practice := s.placed()
			require.NoError(t, s.in(func(ctx context.Context) error {
				kept, err := s.Kept(ctx)
				require.NoError(t, err)
				assert.Zero(t, kept)
				require.NoError(t, s.KeepEdition(ctx, "aa", func() []Term { return shipped }))
				require.NoError(t, s.KeepEdition(ctx, "aa", func() []Term { t.Error("an edition is read once"); return nil }))
				search := func(words, group string) (keys []string) {
					hits, err := s.Search(ctx, "aa", words, group, 5)
					require.NoError(t, err)
					for _, h := range hits {
						keys = append(keys, h.Key)
					}
					return keys
				}
				assert.Equal(t, []string{"pull_bag", "gate"}, search("bag", "ol"), "the words of a name before those of a description")
				assert.Equal(t, []string{"pull_bag"}, search("trap pu", "ol"), "an alias, and a beginning")
				assert.Equal(t, []string{"mirror"}, search("miror", "ol"), "mistyped")
				assert.Contains(t, search("bga", "ol"), "pull_bag", "two letters swapped")
				assert.Empty(t, search("zzzz", "ol"))

				own := []Term{
					{Kind: "drill", Key: "pull_bag", Technique: "pull", Groups: []string{"ol"}, Name: "Log the bag", Terms: "log the bag · pull and kick the bag", Body: "One bag holder"},
					{Kind: "technique", Key: "mirror", Technique: "mirror", Groups: []string{}, Name: "Mirror", Hidden: true},
				}
				require.NoError(t, s.Replace(ctx, 2, own))
				kept, err = s.Kept(ctx)
				require.NoError(t, err)
				assert.Equal(t, 2, kept)
				hits, err := s.Search(ctx, "aa", "log the bag", "ol", 5)
				require.NoError(t, err)
				require.NotEmpty(t, hits)
				assert.Equal(t, []any{"drill", "pull_bag", "pull", "Log the bag", true}, []any{hits[0].Kind, hits[0].Key, hits[0].Technique, hits[0].Name, hits[0].Mine})
				assert.Equal(t, []string{"pull_bag"}, search("kick", "ol"), "the name it ships with still finds it, once")
				assert.Empty(t, search("mirror", "ol"), "not taught here")
				assert.Empty(t, search("trap", "ol"), "the club dropped that alias")
				require.NoError(t, s.Replace(ctx, 3, nil))
				assert.Equal(t, []string{"mirror"}, search("mirror", "ol"))

				uses, err := s.Uses(ctx, s.season, Keys{Drills: []string{"pull_bag", "gate"}, Techniques: []string{"pull", "mirror"}, Faults: []string{"pull_wide"}})
				require.NoError(t, err)
				day := []UseDay{{Practice: practice, On: testkit.Day.Time()}}
				assert.Equal(t, []Use{{Kind: "drill", Key: "pull_bag", Practices: 1, Marks: 1, Recent: day}, {Kind: "fault", Key: "pull_wide", Practices: 1, Marks: 1, Recent: day},
					{Kind: "technique", Key: "pull", Practices: 1, Marks: 1, Recent: day}}, uses)
				uses, err = s.Uses(ctx, s.season, Keys{})
				assert.Empty(t, uses)
				return err
			}))
		})
	}
}

// TestEveryTermIsFound: whatever a technique or a table of the shipped library is called, typing it shows it among the first.
func TestEveryTermIsFound(t *testing.T) {
	s := inPostgres(t)
	h := testkit.Shipped(t).House
	terms := termsOf(h.Library, h.Edition)
	require.NoError(t, s.in(func(ctx context.Context) error {
		_, err := pg.Exec(ctx, `INSERT INTO library_editions (digest, entries) VALUES ('all', '[]')`, pg.Args{})
		require.NoError(t, err)
		return s.KeepEdition(ctx, "all", func() []Term { return terms })
	}))
	for _, term := range terms {
		if term.Kind != "technique" && term.Kind != "table" {
			continue
		}
		group := "ol"
		if len(term.Groups) > 0 {
			group = term.Groups[0]
		}
		require.NoError(t, s.in(func(ctx context.Context) error {
			for _, words := range strings.Split(term.Terms, " · ") {
				hits, err := s.Search(ctx, "all", words, group, 8)
				require.NoError(t, err)
				assert.True(t, slices.ContainsFunc(hits, func(x Hit) bool { return x.Kind == term.Kind && x.Key == term.Key }), "%q finds %s %s", words, term.Kind, term.Key)
			}
			return nil
		}))
	}
}
