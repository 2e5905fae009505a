package standard

import (
	"slices"

	"nineyard/core/invalid"
)

// Verdict is what a measured value is worth.
type Verdict string

// The verdicts, from right to never.
const (
	Right  Verdict = "right"  // in the OK range
	Watch  Verdict = "watch"  // in the watch band
	Beyond Verdict = "beyond" // a fault
	Never  Verdict = "never"  // a fault beyond the hard limit
)

// Faulty reports whether the verdict is a fault.
func (v Verdict) Faulty() bool { return v == Beyond || v == Never }

// Judge returns what a value is worth.
func (m Measure) Judge(v float64) Verdict {
	switch {
	case m.Min != nil && v < *m.Min, m.Max != nil && v > *m.Max:
		return Never
	case m.OK.Holds(v):
		return Right
	case m.Watch.Holds(v):
		return Watch
	}
	return Beyond
}

// OwnRange is one player's own range at a checkpoint: longer legs, a stiff ankle.
// The hard limits of the checkpoint hold for him too.
type OwnRange struct{ OK, Watch Band }

// For returns the measure as it holds for a player with a range of his own; the target
// moves to the nearest end of it. It returns an invalid.Error when the range is empty,
// the watch band does not hold it, or it passes the hard limit.
func (m Measure) For(own OwnRange) (Measure, error) {
	out := m
	out.OK, out.Watch = own.OK, own.Watch
	out.Target = min(max(m.Target, own.OK.Low), own.OK.High)
	return out, out.Check()
}

// Check returns an invalid.Error on the first thing that cannot be.
func (m Measure) Check() error {
	switch {
	case !slices.Contains(Units(), m.Unit):
		return invalid.Field("unit", "unit %q is not known", m.Unit)
	case !slices.Contains(Readings(), m.Read):
		return invalid.Field("read", "a measure is read off a line, cone, stride_count, frame, clock or mark, not %q", m.Read)
	case m.OK.Low > m.OK.High:
		return invalid.Field("ok", "the OK range %v–%v is empty", m.OK.Low, m.OK.High)
	case !m.OK.Holds(m.Target):
		return invalid.Field("target", "the target %v lies outside the OK range %v–%v", m.Target, m.OK.Low, m.OK.High)
	case m.Watch.Low > m.OK.Low || m.Watch.High < m.OK.High:
		return invalid.Field("watch", "the watch band %v–%v must hold the OK range %v–%v", m.Watch.Low, m.Watch.High, m.OK.Low, m.OK.High)
	case m.Min != nil && *m.Min > m.Watch.Low:
		return invalid.Field("min", "the hard limit %v lies inside the watch band from %v", *m.Min, m.Watch.Low)
	case m.Max != nil && *m.Max < m.Watch.High:
		return invalid.Field("max", "the hard limit %v lies inside the watch band to %v", *m.Max, m.Watch.High)
	}
	return nil
}
