package teaching

// mostToGo is the longest distance that is looked ahead for, in yards.
const mostToGo = 40

// Longer is what a row asks from so many yards to go on.
type Longer struct {
	ToGo  int     // yards
	Value float64 // in the unit of the column
}

// Longer lists what a row asks of a column with more to go, up to 40 yards: by [Add.By] more for each full [Add.Per] yards
// beyond [Add.Beyond], the shortest distance first. It is empty where the table adds nothing to that column, or the row
// says no number.
func (t Table) Longer(r Row, column string) (list []Longer) {
	v, ok := r.Numbers[column]
	if !ok || t.Add.Column != column || t.Add.Per < 1 || t.Add.By == 0 {
		return nil
	}
	steps := 0
	for toGo := range mostToGo + 1 {
		if n := int((float64(toGo) - t.Add.Beyond) / t.Add.Per); n > steps {
			steps = n
			list = append(list, Longer{toGo, v + float64(n)*t.Add.By})
		}
	}
	return list
}
