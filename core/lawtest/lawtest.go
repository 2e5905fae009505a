package lawtest

import (
	"slices"
	"testing"

	"github.com/google/go-cmp/cmp"
	"github.com/google/go-cmp/cmp/cmpopts"
	"pgregory.net/rapid"
)

// Names calls something by another name.
type Names func(string) string

// Rule is a rule of the job as the laws see it: rows in, an answer out.
type Rule[Row, Answer any] struct {
	Name string
	Row  *rapid.Generator[Row]
	Max  int // rows at most; zero means 40
	// Answer asks the rule. What is fixed beside the rows goes by its name, so that a renamed
	// question is whole.
	Answer func(rows []Row, name Names) Answer
	// Rename names a row otherwise; nil when nothing in a row is a name.
	Rename func(r Row, name Names) Row
	// Renamed is the answer as it must be when everything is called otherwise.
	Renamed func(a Answer, name Names) Answer
	// Split says a row in two; nil when a row cannot be split.
	Split func(t *rapid.T, r Row) []Row
	// Together names the rows whose order among each other is told, not incidental (reps of
	// one day); nil when the order says nothing.
	Together func(r Row) string
	// Distinct names what at most one row may be about; nil for anything.
	Distinct func(r Row) string
}

func same(name string) string { return name }

// otherwise keeps the order of names, by which rules break ties.
func otherwise(name string) string {
	if name == "" {
		return ""
	}
	return "~" + name
}

// alike compares answers: numbers to rounding, since sums run in another order, and a list
// without entries as none.
var alike = cmp.Options{cmpopts.EquateApprox(1e-9, 1e-9), cmpopts.EquateNaNs(), cmpopts.EquateEmpty()}

// Check runs the laws for a rule.
func Check[Row, Answer any](t *testing.T, r Rule[Row, Answer]) {
	t.Helper()
	law := func(name string, holds func(t *rapid.T, rows []Row, answer Answer)) {
		t.Run(r.Name+"/"+name, func(t *testing.T) {
			rapid.Check(t, func(t *rapid.T) {
				rows := r.draw(t)
				holds(t, rows, r.Answer(slices.Clone(rows), same))
			})
		})
	}
	expect := func(t *rapid.T, want, got Answer) {
		if diff := cmp.Diff(want, got, alike); diff != "" {
			t.Fatalf("the answer differs (-before +after):\n%s", diff)
		}
	}
	law("same answer again", func(t *rapid.T, rows []Row, answer Answer) {
		for range 3 {
			if diff := cmp.Diff(answer, r.Answer(slices.Clone(rows), same), cmpopts.EquateNaNs()); diff != "" {
				t.Fatalf("asked again:\n%s", diff) // to the last digit
			}
		}
	})
	law("order of rows", func(t *rapid.T, rows []Row, answer Answer) {
		expect(t, answer, r.Answer(r.shuffle(t, rows), same))
	})
	if r.Rename != nil {
		law("renaming", func(t *rapid.T, rows []Row, answer Answer) {
			named := make([]Row, len(rows))
			for i, row := range rows {
				named[i] = r.Rename(row, otherwise)
			}
			expect(t, r.Renamed(answer, otherwise), r.Answer(named, otherwise))
		})
	}
	if r.Split != nil {
		law("splitting a row", func(t *rapid.T, rows []Row, answer Answer) {
			var split []Row
			for _, row := range rows {
				if rapid.Bool().Draw(t, "split") {
					split = append(split, r.Split(t, row)...)
				} else {
					split = append(split, row)
				}
			}
			expect(t, answer, r.Answer(split, same))
		})
	}
}

func (r Rule[Row, Answer]) draw(t *rapid.T) []Row {
	most := r.Max
	if most == 0 {
		most = 40
	}
	if r.Distinct != nil {
		return rapid.SliceOfNDistinct(r.Row, 0, most, r.Distinct).Draw(t, "rows")
	}
	return rapid.SliceOfN(r.Row, 0, most).Draw(t, "rows")
}

// shuffle permutes rows; those that stand together keep their order among each other.
func (r Rule[Row, Answer]) shuffle(t *rapid.T, rows []Row) []Row {
	order := make([]int, len(rows))
	for i := range order {
		order[i] = i
	}
	order = rapid.Permutation(order).Draw(t, "order")
	if r.Together != nil {
		places := map[string][]int{} // where the rows that stand together come to lie
		for at, i := range order {
			k := r.Together(rows[i])
			places[k] = append(places[k], at)
		}
		next := map[string]int{}
		for i, row := range rows {
			k := r.Together(row)
			order[places[k][next[k]]] = i
			next[k]++
		}
	}
	out := make([]Row, len(rows))
	for at, i := range order {
		out[at] = rows[i]
	}
	return out
}
