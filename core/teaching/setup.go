package teaching

// Thing is something that stands in the drawing of one lane.
type Thing struct {
	Is   string
	X, Y float64 // yards from the lane's near left corner: X downfield, Y across
	Says string  // a word beside it; empty: none
}

// Way is a path in the drawing, from point to point.
type Way struct {
	Is     string
	Points [][2]float64 // yards, as Thing's
}

// Setup is what a drill's drawing is made of, for one lane.
type Setup struct {
	Things []Thing
	Ways   []Way
}
