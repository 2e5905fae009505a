package play

// Change is a label that was corrected.
type Change struct {
	Column  Column
	Was, Is string
}

// Changes lists in the order of the columns what of a play was corrected: the labels that two records of it
// (see Record) do not have alike. A record of fewer columns says nothing of the rest.
func Changes(was, is []string) []Change {
	list := []Change{}
	for i, c := range Columns() {
		if i < len(was) && i < len(is) && was[i] != is[i] {
			list = append(list, Change{c, was[i], is[i]})
		}
	}
	return list
}
