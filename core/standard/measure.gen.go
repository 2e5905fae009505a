// Made from api/entries.yaml by 'make generate'. Do not edit.

package standard

// Measure is the standard of a checkpoint that can be measured: first step 7 in, OK 5–10, watched to 13, never over 16. With From it is the difference from what the call asks.
type Measure struct {
	Unit   string   `json:"unit"`
	From   string   `json:"from,omitempty"` // "table/column" that it is the difference from; empty for a number of its own.
	Low    string   `json:"low,omitempty"`
	High   string   `json:"high,omitempty"`
	Target float64  `json:"target"`        // what is taught; lies in OK.
	OK     Band     `json:"ok"`            // right.
	Watch  Band     `json:"watch"`         // around OK: let it pass and keep an eye on it; beyond it is a fault.
	Min    *float64 `json:"min,omitempty"` // hard limit below Watch; never beyond, whoever he is.
	Max    *float64 `json:"max,omitempty"` // hard limit above it.
	Read   string   `json:"read"`
	Of     string   `json:"of,omitempty"` // the landmark a mark is read off.
}

// Units lists what Unit of a Measure may be.
func Units() []string {
	return []string{"in", "yd", "s", "deg", "pct", "strides", "shoulder_widths", "reps", "count"}
}

// Readings lists what Read of a Measure may be.
func Readings() []string { return []string{"line", "cone", "stride_count", "frame", "clock", "mark"} }
