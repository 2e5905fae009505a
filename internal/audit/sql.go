package audit

import (
	"context"

	"nineyard/internal/contract"
	"nineyard/internal/platform/pg"
)

// SQL is the Store over PostgreSQL.
type SQL struct{}

var _ Store = SQL{}

// Lines reads the log, newest first.
func (SQL) Lines(ctx context.Context, f Filter) ([]Line, error) {
	return pg.Select[Line](ctx, `
		WITH wanted AS MATERIALIZED (
			SELECT number, at, person, operation, record, (regexp_match(record, '[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}'))[1]::uuid AS subject
			FROM changes
			WHERE club_id = @club AND (@person::uuid IS NULL OR person = @person) AND (@operations::text[] IS NULL OR operation = ANY (@operations))
			  AND (@since::timestamptz IS NULL OR at >= @since) AND (@until::timestamptz IS NULL OR at < @until) AND (@before::bigint = 0 OR number < @before)
			ORDER BY number DESC LIMIT @limit)
		SELECT w.number, w.at, coalesce(u.name, '') AS by, w.operation, w.record,
		       coalesce(CASE WHEN w.record LIKE '/roster/players/%' OR w.record LIKE '/players/%' OR w.record LIKE '/persons/%'
		                     THEN (SELECT trim(p.jersey || ' ' || trim(p.first_name || ' ' || p.last_name)) FROM players p WHERE p.club_id = @club AND p.id = w.subject)
		                     WHEN w.record LIKE '/staff/invites/%' THEN (SELECT i.name FROM invites i WHERE i.club_id = @club AND i.id = w.subject)
		                     WHEN w.record LIKE '/staff/%' THEN (SELECT s.name FROM users s WHERE s.club_id = @club AND s.id = w.subject)
		                     WHEN w.record LIKE '/games/%' THEN (SELECT g.opponent FROM games g WHERE g.club_id = @club AND g.id = w.subject)
		                     WHEN w.record LIKE '/practices/%' THEN (SELECT p.title || ', ' || p.on_date FROM practices p WHERE p.club_id = @club AND p.id = w.subject)
		                     WHEN w.record ~ '^/(groups|library|club)/' THEN w.record END, '') AS of
		FROM wanted w LEFT JOIN users u ON u.club_id = @club AND u.id = w.person ORDER BY w.number DESC`,
		pg.Args{"person": f.Person, "operations": f.Operations, "since": f.Since, "until": f.Until, "before": f.Before, "limit": f.Limit})
}

// People lists whoever was ever on the staff.
func (SQL) People(ctx context.Context) ([]contract.CoachRef, error) {
	list, err := pg.Select[contract.CoachRef](ctx, `SELECT id, name, title FROM users WHERE club_id = @club ORDER BY removed_at IS NOT NULL, name, id LIMIT 1000`, nil)
	return append([]contract.CoachRef{}, list...), err
}
