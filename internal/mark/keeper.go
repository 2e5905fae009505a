package mark

import (
	"context"
	"log/slog"
	"time"

	"github.com/google/uuid"

	"nineyard/core/marks"
	"nineyard/internal/platform/changes"
	"nineyard/internal/platform/pg"
)

// Keeper looks after the marks of all clubs behind the requests: it judges them anew when a
// club changes how it judges, and counts at night whether the sums are right.
type Keeper struct {
	DB   *pg.DB
	Log  *slog.Logger
	Keep int // seasons of which single marks are kept; 0: all
}

// batch is how many marks are judged anew in one transaction: short enough that a coach who
// marks the same players meanwhile does not wait for it.
const batch = 5000

// Run looks after the marks until the context ends: every second for schemes that
// changed, here or on another server, and once a night for the sums.
func (k *Keeper) Run(ctx context.Context, now func() time.Time) {
	tick := time.NewTicker(time.Second)
	defer tick.Stop()
	counted := now().UTC().YearDay()
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
		if err := k.Judge(ctx, now); err != nil && ctx.Err() == nil {
			k.Log.Error("judging marks anew", "error", err)
		}
		if t := now().UTC(); t.Hour() == 3 && t.YearDay() != counted {
			counted = t.YearDay()
			wrong, err := k.Check(ctx)
			if err != nil && ctx.Err() == nil {
				k.Log.Error("counting the marks", "error", err)
			}
			for club, n := range wrong {
				k.Log.Error("the sums of the marks are wrong; run 'nineyard marks rebuild'", "club", club, "rows", n)
			}
			if err := k.Retire(ctx); err != nil && ctx.Err() == nil {
				k.Log.Error("retiring old seasons", "error", err)
			}
		}
	}
}

// Judge judges all marks by their clubs' schemes that are not yet.
func (k *Keeper) Judge(ctx context.Context, now func() time.Time) error {
	clubs, err := k.stale(ctx)
	for _, club := range clubs {
		for done := false; !done && err == nil; {
			err = k.DB.InClubFor(ctx, keepsAt, club, func(ctx context.Context) error {
				version, scheme, err := SQL{}.Scheme(ctx)
				if err != nil {
					return err
				}
				n, err := SQL{}.JudgeAnew(ctx, version, scheme, batch)
				if err != nil {
					return err
				}
				if done = n == 0; done { // nothing is left of the older schemes
					_, err := pg.Exec(ctx, `DELETE FROM mark_days WHERE club_id = @club AND scheme < @version AND (clean, faulty, not_graded, assumed) = (0, 0, 0, 0)`, pg.Args{"version": version})
					return err
				}
				return tell(ctx, version, now())
			})
		}
	}
	return err
}

// tell says in the log that marks were judged anew, in the name of whoever chose the scheme: so
// every screen that is open reads its numbers again.
func tell(ctx context.Context, version int, at time.Time) error {
	type row struct{ By uuid.UUID }
	r, _, err := pg.One[row](ctx, `SELECT created_by AS by FROM mark_schemes WHERE club_id = @club AND version = @version`, pg.Args{"version": version})
	if err != nil {
		return err
	}
	_, err = changes.Append(ctx, changes.Change{ID: uuid.New(), Person: r.By, Operation: "judgeMarks", Record: "/scheme", Digest: []byte{}, MadeAt: at, At: at, Status: 200})
	return err
}

// Check counts the marks of every club and returns how many rows of the sums of which are
// wrong: none, unless something was changed past the database's own rules.
func (k *Keeper) Check(ctx context.Context) (map[uuid.UUID]int64, error) {
	wrong := map[uuid.UUID]int64{}
	err := k.DB.EachClub(ctx, keepsAt, func(ctx context.Context) error {
		type row struct{ Wrong int64 }
		r, _, err := pg.One[row](ctx, `SELECT wrong_sums(@club) AS wrong`, nil)
		if r.Wrong > 0 {
			wrong[pg.Club(ctx)] = r.Wrong
		}
		return err
	})
	return wrong, err
}

// Rebuild makes the sums of every club anew.
func (k *Keeper) Rebuild(ctx context.Context) error {
	return k.DB.EachClub(ctx, keepsAt, func(ctx context.Context) error {
		_, err := pg.Exec(ctx, `SELECT rebuild_sums(@club)`, nil)
		return err
	})
}

// Retire drops the single marks of seasons older than the Keep latest years. Their sums stay,
// and with them everything that the screens of those seasons say; the reps behind a number are
// gone.
func (k *Keeper) Retire(ctx context.Context) error {
	if k.Keep < 1 {
		return nil
	}
	ctx, cancel := context.WithTimeout(ctx, keepsAt)
	defer cancel()
	return k.DB.Anywhere(ctx, func(ctx context.Context) error {
		_, err := pg.Exec(ctx, `SELECT retire_marks(@keep)`, pg.Args{"keep": k.Keep})
		return err
	})
}

// keepsAt is how long the keeper may be at one club; nobody waits for it.
const keepsAt = 30 * time.Minute

// stale lists the clubs with marks that are judged by an older scheme.
func (k *Keeper) stale(ctx context.Context) (ids []uuid.UUID, err error) {
	type row struct{ ID uuid.UUID }
	err = k.DB.Anywhere(ctx, func(ctx context.Context) error {
		rows, err := pg.Select[row](ctx, `SELECT club AS id FROM stale_clubs() club`, nil)
		for _, r := range rows {
			ids = append(ids, r.ID)
		}
		return err
	})
	return ids, err
}

// Judging is how the club judges and how far its marks are judged by it; the sums say.
func (SQL) Judging(ctx context.Context) (j Judging, err error) {
	if j.Version, j.Scheme, err = (SQL{}).Scheme(ctx); err != nil {
		return j, err
	}
	type row struct {
		By            string
		At            *time.Time
		Marks, Judged int
	}
	r, _, err := pg.One[row](ctx, `
		SELECT coalesce((SELECT u.name FROM mark_schemes s JOIN users u ON u.id = s.created_by AND u.club_id = s.club_id WHERE s.club_id = @club AND s.version = @version), '') AS by,
		       (SELECT created_at FROM mark_schemes WHERE club_id = @club AND version = @version) AS at,
		       coalesce(sum(clean + faulty + not_graded), 0)::int AS marks, coalesce(sum(clean + faulty + not_graded) FILTER (WHERE scheme = @version), 0)::int AS judged
		FROM mark_days WHERE club_id = @club`, pg.Args{"version": j.Version})
	j.By, j.At, j.Marks, j.JudgedAnew = r.By, r.At, r.Marks, r.Judged
	return j, err
}

// PutScheme records a version; false when there is one already. It waits for those who judge
// by the one before.
func (SQL) PutScheme(ctx context.Context, version int, scheme marks.House, by uuid.UUID, at time.Time) (bool, error) {
	if err := pg.Lock(ctx, "scheme"); err != nil {
		return false, err
	}
	n, err := pg.Exec(ctx, `
		INSERT INTO mark_schemes (club_id, version, scheme, created_by, created_at)
		SELECT @club, @version, @scheme, @by, @at WHERE @version = 1 + coalesce((SELECT max(version) FROM mark_schemes WHERE club_id = @club), 0)`,
		pg.Args{"version": version, "scheme": scheme, "by": by, "at": at})
	return n == 1, err
}

// groupOf is the group by whose way of judging a mark of old, which does not say it, is judged: that of its drill, of a
// play the first of the player's that is on the field then.
const groupOf = `coalesce(m.group_key, (SELECT pl.group_key FROM placements pl WHERE pl.club_id = @club AND pl.id = m.placement_id),
	(SELECT g.key FROM plays y JOIN player_groups pg ON pg.club_id = @club AND pg.player_id = m.player_id JOIN position_groups g ON g.club_id = @club AND g.key = pg.group_key AND g.side = y.unit
	 WHERE y.club_id = @club AND y.id = m.play_id ORDER BY g.sort, g.key LIMIT 1))`

// JudgeAnew judges up to so many marks by a version of the club's way of judging that are judged by an older one, and
// returns how many they were. Every mark there can be is judged once, here; the database looks up which each is.
func (SQL) JudgeAnew(ctx context.Context, version int, house marks.House, most int) (int, error) {
	schemes, groups := house.Distinct()
	var state, verdict []string
	var by, a, t, f, r, g []int
	for i, s := range schemes {
		for _, c := range s.Cases() {
			by, state, verdict = append(by, i), append(state, string(c.State)), append(verdict, c.Verdict.Word())
			a, t, f, r = append(a, code(c.Seen.Assignment)), append(t, code(c.Seen.Technique)), append(f, code(c.Seen.Finish)), append(r, code(c.Seen.Result))
			reached := -1
			if c.Seen.Grade != nil {
				reached = c.Seen.Grade.Value
			}
			g = append(g, reached)
		}
	}
	keys, of := []string{}, []int{}
	for key, i := range groups {
		keys, of = append(keys, key), append(of, i)
	}
	group := `NULL::text`
	if len(keys) > 0 {
		group = groupOf
	}
	n, err := pg.Exec(ctx, `
		WITH cases AS MATERIALIZED (SELECT * FROM unnest(@by::int[], @state::text[], @a::int[], @t::int[], @f::int[], @r::int[], @g::int[], @verdict::text[]) AS c (by, state, a, t, f, r, g, verdict)),
		judged AS MATERIALIZED (SELECT * FROM unnest(@keys::text[], @of::int[]) AS x (key, by)),
		old AS MATERIALIZED (SELECT club_id, place_id, player_id, nth, technique_key, grader, year, state, coalesce(assignment, -1) AS a, coalesce(technique, -1) AS t, coalesce(finish, -1) AS f,
				coalesce(result, -1) AS r, CASE WHEN grade IS NULL THEN -1 WHEN grade >= grade_clean THEN 1 ELSE 0 END AS g, `+group+` AS key
			FROM mark_slots m WHERE club_id = @club AND scheme < @version ORDER BY player_id LIMIT @most)
		UPDATE mark_slots m SET verdict = c.verdict, scheme = @version
		FROM old o LEFT JOIN judged x ON x.key = o.key JOIN cases c ON c.by = coalesce(x.by, 0) AND c.state = o.state AND c.a = o.a AND c.t = o.t AND c.f = o.f AND c.r = o.r AND c.g = o.g
		WHERE m.club_id = @club AND m.place_id = o.place_id AND m.player_id = o.player_id AND m.nth = o.nth AND m.technique_key = o.technique_key AND m.grader = o.grader AND m.year = o.year`,
		pg.Args{"by": by, "state": state, "verdict": verdict, "a": a, "t": t, "f": f, "r": r, "g": g, "keys": keys, "of": of, "version": version, "most": most})
	return int(n), err
}

func code(v *int) int {
	if v == nil {
		return -1
	}
	return *v
}
