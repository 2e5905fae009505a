package standard

import (
	"bytes"
	"fmt"
	"math"
	"strconv"
	"strings"
)

// Band is a closed range of a measure. A side that is open is infinite; written, it is null.
type Band struct{ Low, High float64 }

// Holds reports whether v lies in the band.
func (b Band) Holds(v float64) bool { return v >= b.Low && v <= b.High }

// MarshalJSON writes the band as its two ends: [1,null].
func (b Band) MarshalJSON() ([]byte, error) {
	end := func(x float64) string {
		if math.IsInf(x, 0) {
			return "null"
		}
		return strconv.FormatFloat(x, 'f', -1, 64)
	}
	return []byte("[" + end(b.Low) + "," + end(b.High) + "]"), nil
}

// UnmarshalJSON reads a band from its two ends.
func (b *Band) UnmarshalJSON(text []byte) error {
	inside, ok := bytes.CutPrefix(bytes.TrimSpace(text), []byte("["))
	inside, closed := bytes.CutSuffix(inside, []byte("]"))
	ends := strings.Split(string(inside), ",")
	if !ok || !closed || len(ends) != 2 {
		return fmt.Errorf("a range is written as its two ends, not %s", text)
	}
	for i, open := range []float64{math.Inf(-1), math.Inf(1)} {
		to := &b.Low
		if i == 1 {
			to = &b.High
		}
		if end := strings.TrimSpace(ends[i]); end == "null" {
			*to = open
		} else if x, err := strconv.ParseFloat(end, 64); err != nil {
			return fmt.Errorf("the end of a range is a number or null, not %s", end)
		} else {
			*to = x
		}
	}
	return nil
}
