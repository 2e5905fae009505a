package teach

import (
	"context"
	"errors"
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/merge"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
	"nineyard/internal/testkit"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

const coachName = "H. Coach"

// memory is the Store in memory.
type memory struct {
	versions []Version
	editions map[string][]merge.Entry
	locks    int
}

func newMemory() *memory { return &memory{editions: map[string][]merge.Entry{}} }

func (m *memory) find(is func(Version) bool) (Version, bool, error) {
	for _, v := range slices.Backward(m.versions) {
		if is(v) {
			return v, true, nil
		}
	}
	return Version{}, false, nil
}

func (m *memory) Version(_ context.Context, version int) (Version, bool, error) {
	return m.find(func(v Version) bool { return version == 0 || v.Version == version })
}

func (m *memory) VersionByID(_ context.Context, id uuid.UUID) (Version, bool, error) {
	return m.find(func(v Version) bool { return v.ID == id })
}

func (m *memory) Versions(_ context.Context, entry string, before, limit int) ([]Version, error) {
	list := []Version{}
	for _, v := range slices.Backward(m.versions) {
		if (entry == "" || slices.Contains(v.Touched, entry)) && (before == 0 || v.Version < before) && len(list) < limit {
			v.Layer = merge.Layer{}
			list = append(list, v)
		}
	}
	return list, nil
}

func (m *memory) Add(_ context.Context, v Version) error {
	if _, known := m.editions[v.Digest]; !known {
		return errors.New("the edition is not remembered")
	}
	for _, was := range m.versions {
		if was.Version == v.Version || was.ID == v.ID {
			return problem.ErrTaken
		}
	}
	if v.CreatedBy != nil {
		v.ByName = coachName
	}
	if v.Layer == nil {
		v.Layer = merge.Layer{}
	}
	m.versions = append(m.versions, v)
	return nil
}

func (m *memory) Lock(context.Context) error { m.locks++; return nil }

func (m *memory) Met(_ context.Context, digest string) (bool, error) {
	_, met, err := m.find(func(v Version) bool { return v.Digest == digest })
	return met, err
}

func (m *memory) Edition(_ context.Context, digest string) ([]merge.Entry, bool, error) {
	e, found := m.editions[digest]
	return e, found, nil
}

func (m *memory) Remember(_ context.Context, digest string, entries []merge.Entry) error {
	if _, known := m.editions[digest]; !known {
		m.editions[digest] = entries
	}
	return nil
}

// shelf is a Store with no version to begin with.
type shelf struct {
	Store
	by uuid.UUID
	in func(func(ctx context.Context) error) error
}

func inMemory(*testing.T) shelf {
	return shelf{newMemory(), uuid.New(), func(do func(context.Context) error) error { return do(context.Background()) }}
}

func inPostgres(t *testing.T) shelf {
	f := testkit.OpenField(t)
	return shelf{SQL{}, f.HeadCoach, func(do func(context.Context) error) error { return pg.Meaning(f.In(do)) }}
}

// TestStore holds every Store to the same contract.
func TestStore(t *testing.T) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			ref := merge.Ref{Kind: "drill", Key: "pull_bag"}
			layer := merge.Layer{}.Put(ref, merge.Fields{"name": `"Pull"`}, merge.Fields{"name": `"Trap"`})
			first := Version{Version: 1, ID: uuid.New(), Digest: "aa", Touched: []string{}, Summary: "The shipped library", CreatedAt: testkit.Now()}
			second := Version{Version: 2, ID: uuid.New(), Digest: "aa", Layer: layer, Touched: []string{ref.String()}, Summary: "Changed drill: Trap", CreatedBy: &s.by, CreatedAt: testkit.Now()}
			require.NoError(t, s.in(func(ctx context.Context) error {
				_, found, err := s.Version(ctx, 0)
				require.NoError(t, err)
				require.False(t, found)
				_, found, err = s.Edition(ctx, "aa")
				require.NoError(t, err)
				assert.False(t, found)
				entries := []merge.Entry{{Ref: ref, Fields: merge.Fields{"name": `"Pull"`}}}
				require.NoError(t, s.Remember(ctx, "aa", entries))
				require.NoError(t, s.Remember(ctx, "aa", nil), "once")
				kept, found, err := s.Edition(ctx, "aa")
				require.NoError(t, err)
				assert.True(t, found)
				assert.Equal(t, entries, kept)
				require.NoError(t, s.Lock(ctx))
				require.NoError(t, s.Add(ctx, first))
				require.NoError(t, s.Add(ctx, second))
				for ask, want := range map[int]Version{0: second, 1: first, 2: second} {
					got, found, err := s.Version(ctx, ask)
					require.NoError(t, err)
					require.True(t, found)
					assert.Equal(t, []any{want.Version, want.ID, want.Digest, want.Touched, want.Summary}, []any{got.Version, got.ID, got.Digest, got.Touched, got.Summary})
					assert.True(t, want.CreatedAt.Equal(got.CreatedAt))
				}
				got, _, err := s.Version(ctx, 0)
				require.NoError(t, err)
				assert.Equal(t, layer, got.Layer)
				assert.Equal(t, coachName, got.ByName)
				got, _, err = s.Version(ctx, 1)
				require.NoError(t, err)
				assert.Equal(t, merge.Layer{}, got.Layer)
				assert.Empty(t, got.ByName, "nobody did")
				_, found, err = s.Version(ctx, 9)
				require.NoError(t, err)
				assert.False(t, found)
				got, found, err = s.VersionByID(ctx, second.ID)
				require.NoError(t, err)
				assert.True(t, found)
				assert.Equal(t, 2, got.Version)
				_, found, err = s.VersionByID(ctx, uuid.New())
				require.NoError(t, err)
				assert.False(t, found)

				for entry, want := range map[string][]int{"": {2, 1}, ref.String(): {2}, "drill none": {}} {
					list, err := s.Versions(ctx, entry, 0, 5)
					require.NoError(t, err)
					numbers := []int{}
					for _, v := range list {
						numbers = append(numbers, v.Version)
						assert.Empty(t, v.Layer, "left out of lists")
					}
					assert.Equal(t, want, numbers, entry)
				}
				for before, want := range map[int]int{0: 2, 2: 1} {
					list, err := s.Versions(ctx, "", before, 1)
					require.NoError(t, err)
					require.Len(t, list, 1)
					assert.Equal(t, want, list[0].Version)
				}
				list, err := s.Versions(ctx, "", 1, 1)
				require.NoError(t, err)
				assert.Empty(t, list, "none is older than the first")

				for digest, want := range map[string]bool{"aa": true, "bb": false} {
					met, err := s.Met(ctx, digest)
					require.NoError(t, err)
					assert.Equal(t, want, met, digest)
				}
				return nil
			}))
			assert.Error(t, s.in(func(ctx context.Context) error { return s.Add(ctx, second) }), "a version is added once")
			third := Version{Version: 3, ID: uuid.New(), Digest: "bb", CreatedAt: testkit.Now()}
			assert.Error(t, s.in(func(ctx context.Context) error { return s.Add(ctx, third) }), "on an edition nobody remembers")
		})
	}
}
