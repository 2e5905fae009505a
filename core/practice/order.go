package practice

import (
	"fmt"
	"slices"
)

// Run is a drill of a group as it is run in a practice.
type Run struct {
	Name, Technique string
	Start           int // minutes from the start of the practice
	Contact         Contact
	Early           bool // belongs into the first half of a practice, and is never conditioning
	Conditioning    bool // lies in a period of conditioning
}

// Misplaced says in sentences which drills of a group stand where they should not, in the order in which they are run.
//
// What belongs early begins before half of the practice is over, and is no conditioning: who is tired tackles with his
// head. Of one technique contact rises: a drill in which players meet each other does not come before one with less contact.
func Misplaced(minutes int, runs []Run) (says []string) {
	runs = slices.Clone(runs)
	slices.SortStableFunc(runs, func(a, b Run) int { return a.Start - b.Start })
	for i, r := range runs {
		switch {
		case r.Early && r.Conditioning:
			says = append(says, fmt.Sprintf("%s is no conditioning: tired players lose their form", r.Name))
		case r.Early && 2*r.Start >= minutes:
			says = append(says, fmt.Sprintf("%s belongs into the first half of the practice: tired players lose their form", r.Name))
		}
		if !r.Contact.Collides() {
			continue
		}
		for _, later := range runs[i+1:] {
			if later.Technique == r.Technique && later.Contact < r.Contact {
				says = append(says, fmt.Sprintf("%s (%s) comes before %s (%s): contact rises from drill to drill", r.Name, r.Contact, later.Name, later.Contact))
				break
			}
		}
	}
	return says
}
