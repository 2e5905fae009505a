package roster

import (
	"strings"
	"unicode/utf8"

	"nineyard/core/invalid"
)

// maxPosition is the longest position, in characters.
const maxPosition = 40

// Normalize returns a person as he is kept: names and position tidied, the number as lists
// write it. It returns an invalid.Error naming the field (jersey, last_name, first_name,
// position, height_in, weight_lb) when something cannot be; a height or weight of 0 is none.
func Normalize(p Person) (Person, error) {
	p.First, p.Last, p.Position = Tidy(p.First), Tidy(p.Last), Tidy(p.Position)
	var err error
	if p.Jersey, err = Jersey(p.Jersey); err != nil {
		return p, invalid.Field("jersey", "%s", err)
	}
	switch {
	case p.Last == "":
		return p, invalid.Field("last_name", "the name is missing")
	case utf8.RuneCountInString(p.Last) > maxName:
		return p, invalid.Field("last_name", "the name is longer than %d characters", maxName)
	case utf8.RuneCountInString(p.First) > maxName:
		return p, invalid.Field("first_name", "the name is longer than %d characters", maxName)
	case utf8.RuneCountInString(p.Position) > maxPosition:
		return p, invalid.Field("position", "the position is longer than %d characters", maxPosition)
	case p.HeightIn != 0 && !(p.HeightIn >= MinHeightIn && p.HeightIn <= MaxHeightIn):
		return p, invalid.Field("height_in", "a height is between %d and %d inches, got %v", MinHeightIn, MaxHeightIn, p.HeightIn)
	case p.WeightLb != 0 && !(p.WeightLb >= MinWeightLb && p.WeightLb <= MaxWeightLb):
		return p, invalid.Field("weight_lb", "a weight is between %d and %d pounds, got %v", MinWeightLb, MaxWeightLb, p.WeightLb)
	}
	return p, nil
}

// Alike reports whether two entries may be one player: the names are spelled alike but for
// case, spacing and the order of a name in two parts.
func Alike(a, b Person) bool {
	x, y := nameKey(a), nameKey(b)
	return x == y || x == strings.ToLower(Tidy(b.Last+" "+b.First))
}
