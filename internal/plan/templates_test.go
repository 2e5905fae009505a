package plan

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/testkit"
)

func (m *memory) Templates(context.Context) ([]Template, error) {
	list := slices.Clone(m.templates)
	slices.SortFunc(list, func(a, b Template) int {
		if a.WholeWeek != b.WholeWeek {
			return map[bool]int{true: -1, false: 1}[a.WholeWeek]
		}
		return cmp.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name))
	})
	return list, nil
}

func (m *memory) Template(_ context.Context, id uuid.UUID) (Template, bool, error) {
	for _, t := range m.templates {
		if t.ID == id {
			return t, true, nil
		}
	}
	return Template{ID: id}, false, nil
}

func (m *memory) PutTemplate(ctx context.Context, t Template, _ uuid.UUID, _ time.Time) error {
	t.Version++
	t.ChangedBy = "H. Coach"
	_ = m.DeleteTemplate(ctx, t.ID)
	m.templates = append(m.templates, t)
	return nil
}

func (m *memory) DeleteTemplate(_ context.Context, id uuid.UUID) error {
	m.templates = slices.DeleteFunc(m.templates, func(t Template) bool { return t.ID == id })
	return nil
}

// evening is a practice as it is kept: water for all, and the line's own period.
func evening(day int) contract.TemplateDay {
	empty := func(in contract.PeriodInput) contract.PeriodInput {
		in.Coaches, in.Equipment, in.NeedsGroups = append([]string{}, in.Coaches...), append([]contract.EquipmentUse{}, in.Equipment...), []string{}
		return in
	}
	return contract.TemplateDay{Day: day, Title: "Evening", StartMinute: 1080, Minutes: 60, Periods: []contract.PeriodInput{
		empty(contract.PeriodInput{Start: 0, Minutes: 4, Kind: "water", Name: "Water", Contact: "air", Groups: []string{"ol", "db"}}),
		empty(contract.PeriodInput{Start: 4, Minutes: 20, Kind: "individual", Name: "Individual", Contact: "bag", Groups: []string{"ol"}, Place: "gone", Coaches: []string{"left"}, Equipment: []contract.EquipmentUse{{Key: "sold", Count: 1}}}),
	}}
}

// TestTemplateStore holds every store of templates to the same contract.
func TestTemplateStore(t *testing.T) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			store := s.Store.(Templates)
			in := func(do func(ctx context.Context) error) { t.Helper(); require.NoError(t, s.in(do)) }
			one := Template{ID: uuid.New(), TemplateInput: contract.TemplateInput{Name: "Full", Days: []contract.TemplateDay{evening(0)}}}
			week := Template{ID: uuid.New(), TemplateInput: contract.TemplateInput{Name: "game week", WholeWeek: true, Days: []contract.TemplateDay{evening(1), evening(2)}}}
			for _, x := range []Template{one, week} {
				in(func(ctx context.Context) error { return store.PutTemplate(ctx, x, s.by, testkit.Now()) })
			}
			one.Version, week.Version, one.ChangedBy, week.ChangedBy = 1, 1, "H. Coach", "H. Coach"
			in(func(ctx context.Context) error {
				list, err := store.Templates(ctx)
				assert.Equal(t, []Template{week, one}, list)
				return err
			})
			one.Name = "Full practice"
			in(func(ctx context.Context) error { return store.PutTemplate(ctx, one, s.by, testkit.Now()) })
			one.Version = 2
			in(func(ctx context.Context) error {
				got, found, err := store.Template(ctx, one.ID)
				assert.True(t, found)
				assert.Equal(t, one, got)
				return err
			})
			in(func(ctx context.Context) error { return store.DeleteTemplate(ctx, one.ID) })
			in(func(ctx context.Context) error {
				_, found, err := store.Template(ctx, one.ID)
				assert.False(t, found)
				return err
			})
		})
	}
}

// TestATemplateIsLaid: a practice made from it has its script, without what the club has no longer.
func TestATemplateIsLaid(t *testing.T) {
	b := open(t)
	ctx, head := context.Background(), testkit.Head()
	id := uuid.New()
	in := contract.TemplateInput{Name: " Game week ", WholeWeek: true, Days: []contract.TemplateDay{evening(1), evening(3)}}
	v, err := b.PutTemplate(ctx, head, id, 0, in)
	require.NoError(t, err)
	assert.Equal(t, []any{"Game week", 1}, []any{v.Template.Name, v.Version})
	v, err = b.PutTemplate(ctx, head, id, 0, in)
	require.NoError(t, err, "sent again after a lost answer")
	assert.Equal(t, 1, v.Version)
	in.Name = "Another"
	_, err = b.PutTemplate(ctx, head, id, 0, in)
	var stale *problem.Stale
	require.ErrorAs(t, err, &stale)

	practice := uuid.New()
	put := contract.PracticeInput{Date: testkit.Day.String(), Title: "Evening", StartMinute: 1080, Minutes: 60, Template: &contract.FromTemplate{ID: id, Practice: 1}}
	p, err := b.PutPractice(ctx, head, practice, 0, put)
	require.NoError(t, err)
	assert.Equal(t, 2, p.Periods)
	_, err = b.PutPractice(ctx, head, practice, 0, put)
	require.NoError(t, err, "laid once, however often it is sent")
	script1, err := b.memory.Script(ctx, practice)
	require.NoError(t, err)
	require.Len(t, script1, 2)
	own := script1[slices.IndexFunc(script1, func(e script.Period) bool { return e.Kind == "individual" })]
	assert.Equal(t, []any{"", 0, 0, []string{"ol"}}, []any{own.Place, len(own.Coaches), len(own.Equipment), own.Groups})

	put.Template.Practice = 2
	_, err = b.PutPractice(ctx, head, uuid.New(), 0, put)
	assert.Equal(t, "template", field(t, err))
	for name, c := range map[string]struct {
		change func(*contract.TemplateInput)
		field  string
	}{
		"no name":            {func(in *contract.TemplateInput) { in.Name = "  " }, "name"},
		"taken":              {func(in *contract.TemplateInput) { in.Name = "game WEEK" }, "name"},
		"two for a single":   {func(in *contract.TemplateInput) { in.WholeWeek = false }, "days"},
		"no such group":      {func(in *contract.TemplateInput) { in.Days[0].Periods[1].Groups = []string{"xx"} }, "days[0].periods[1].groups[0]"},
		"drills are no part": {func(in *contract.TemplateInput) { in.Days[1].Periods[0].Placements = &[]contract.PlacementInput{} }, "days[1].periods[0].placements"},
	} {
		bad := contract.TemplateInput{Name: "Bad", WholeWeek: true, Days: []contract.TemplateDay{evening(1), evening(3)}}
		c.change(&bad)
		_, err := b.PutTemplate(ctx, head, uuid.New(), 0, bad)
		assert.Equal(t, c.field, field(t, err), name)
	}
	_, err = b.PutTemplate(ctx, b.coach, uuid.New(), 0, in)
	require.ErrorIs(t, err, problem.ErrForbidden)
	_, err = b.DeleteTemplate(ctx, b.coach, id, 1)
	require.ErrorIs(t, err, problem.ErrForbidden)
	_, err = b.DeleteTemplate(ctx, head, id, 3)
	require.ErrorAs(t, err, &stale)
	for range 2 {
		_, err = b.DeleteTemplate(ctx, head, id, 1)
		require.NoError(t, err)
	}
	list, err := b.ListTemplates(ctx)
	require.NoError(t, err)
	assert.Empty(t, list)
}
