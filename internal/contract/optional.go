package contract

// Value is what a part that may be left out says; the zero value where it is left out.
func Value[T any](p *T) (v T) {
	if p != nil {
		v = *p
	}
	return v
}
