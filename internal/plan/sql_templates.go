package plan

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nineyard/internal/contract"
	"nineyard/internal/platform/pg"
)

const templateRows = `
	SELECT x.id, x.name, x.whole_week, x.days, x.version, coalesce(u.name, '') AS changed_by
	FROM plan_templates x LEFT JOIN users u ON u.id = x.updated_by AND u.club_id = x.club_id WHERE x.club_id = @club `

func readTemplates(ctx context.Context, where string, args pg.Args) ([]Template, error) {
	type row struct {
		ID        uuid.UUID
		Name      string
		WholeWeek bool
		Days      json.RawMessage
		Version   int
		ChangedBy string
	}
	rows, err := pg.Select[row](ctx, templateRows+where, args)
	list := make([]Template, len(rows))
	for i, r := range rows {
		list[i] = Template{ID: r.ID, TemplateInput: contract.TemplateInput{Name: r.Name, WholeWeek: r.WholeWeek}, Version: r.Version, ChangedBy: r.ChangedBy}
		if err := json.Unmarshal(r.Days, &list[i].Days); err != nil {
			return nil, err
		}
	}
	return list, err
}

// Templates lists those of the club.
func (SQL) Templates(ctx context.Context) ([]Template, error) {
	return readTemplates(ctx, `ORDER BY x.whole_week DESC, lower(x.name), x.id`, nil)
}

// Template reads one and holds it.
func (SQL) Template(ctx context.Context, id uuid.UUID) (Template, bool, error) {
	list, err := readTemplates(ctx, `AND x.id = @id FOR UPDATE OF x`, pg.Args{"id": id})
	if err != nil || len(list) == 0 {
		return Template{ID: id}, false, err
	}
	return list[0], true, nil
}

// PutTemplate writes one.
func (SQL) PutTemplate(ctx context.Context, t Template, by uuid.UUID, at time.Time) error {
	days, err := json.Marshal(t.Days)
	if err != nil {
		return err
	}
	write := `
		INSERT INTO plan_templates (club_id, id, name, whole_week, days, updated_by, updated_at) VALUES (@club, @id, @name, @week, @days::jsonb, @by, @at)`
	if t.Version > 0 {
		write = `
		UPDATE plan_templates SET name = @name, whole_week = @week, days = @days::jsonb, version = version + 1, updated_by = @by, updated_at = @at WHERE club_id = @club AND id = @id`
	}
	_, err = pg.Exec(ctx, write, pg.Args{"id": t.ID, "name": t.Name, "week": t.WholeWeek, "days": string(days), "by": by, "at": at})
	return err
}

// DeleteTemplate forgets one.
func (SQL) DeleteTemplate(ctx context.Context, id uuid.UUID) error {
	_, err := pg.Exec(ctx, `DELETE FROM plan_templates WHERE club_id = @club AND id = @id`, pg.Args{"id": id})
	return err
}
