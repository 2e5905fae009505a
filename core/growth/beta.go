package growth

import (
	"math"

	"gonum.org/v1/gonum/mathext"
)

// Where the two parameters of a Beta distribution are large, the regularized incomplete
// beta function needs hundreds of terms, and expansions for large parameters are closer to
// it than to the rounding of those terms.
const (
	large    = 20_000 // the smaller parameter from which Carter's expansion is used
	lopsided = 20_000 // the larger one from which Wise's is, if
	ratio    = 1_000  // it is so many times the smaller
)

// quantiles returns the p- and (1−p)-quantiles of Beta(a, b), a and b > 0 and 0 < p < ½,
// to 2e-9 or better.
func quantiles(p, a, b float64) (low, high float64) {
	z := math.Sqrt2 * math.Erfinv(1-2*p) // (1−p)-quantile of the normal distribution
	switch {
	case min(a, b) >= large:
		return carter(-z, a, b), carter(z, a, b)
	case a >= lopsided && a >= ratio*b:
		return wise(1-p, a, b), wise(p, a, b)
	case b >= lopsided && b >= ratio*a:
		return 1 - wise(p, b, a), 1 - wise(1-p, b, a)
	}
	return quantile(p, -z, a, b), quantile(1-p, z, a, b)
}

// carter is the expansion of A. H. Carter (Biometrika 34, 1947; Abramowitz and Stegun
// 26.5.22) at the normal quantile z.
func carter(z, a, b float64) float64 {
	l := (z*z - 3) / 6
	h := 2 / (1/(2*a-1) + 1/(2*b-1))
	w := z*math.Sqrt(h+l)/h + (1/(2*b-1)-1/(2*a-1))*(l+5./6-2/(3*h))
	return a / (a + b*math.Exp(-2*w))
}

// wise takes −ln X·(a + (b−1)/2) of X ~ Beta(a, b) for a Gamma(b) value, which it is but for
// terms of (b/a)² (M. E. Wise, Biometrika 37, 1950). up is the mass above.
func wise(up, a, b float64) float64 {
	return math.Exp(-mathext.GammaIncRegInv(b, up) / (a + (b-1)/2))
}

// quantile starts from an approximation and takes Halley's steps on the regularized
// incomplete beta function (W. H. Press et al., Numerical Recipes, 3rd ed., 6.4). z is the
// normal p-quantile. Where the steps come to no end, near parameters of 0, gonum's inverse
// is taken instead.
func quantile(p, z, a, b float64) float64 {
	x := 0.0
	if a >= 1 && b >= 1 {
		x = carter(z, a, b)
	} else {
		ta, tb := math.Exp(a*math.Log(a/(a+b)))/a, math.Exp(b*math.Log(b/(a+b)))/b
		if sum := ta + tb; p < ta/sum {
			x = math.Pow(a*sum*p, 1/a)
		} else {
			x = 1 - math.Pow(b*sum*(1-p), 1/b)
		}
	}
	lbeta := mathext.Lbeta(a, b)
	for range 12 {
		if !(x > 0 && x < 1) {
			break
		}
		density := math.Exp((a-1)*math.Log(x) + (b-1)*math.Log1p(-x) - lbeta)
		step := (mathext.RegIncBeta(a, b, x) - p) / density
		step /= 1 - math.Min(1, step*((a-1)/x-(b-1)/(1-x)))/2
		if next := x - step; next <= 0 {
			x /= 2
		} else if next >= 1 {
			x = (1 + x) / 2
		} else {
			x = next
			if math.Abs(step) < 1e-6*x*(1-x) { // the next step is of the third power of this one
				return x
			}
		}
	}
	return bisect(p, a, b)
}

// bisect halves the interval until it is as small as floats are.
func bisect(p, a, b float64) float64 {
	x := mathext.InvRegIncBeta(a, b, p)
	if x > 0 && x < 1 && math.Abs(mathext.RegIncBeta(a, b, x)-p) < 1e-12 {
		return x
	}
	lo, hi := 0.0, 1.0
	for range 1100 { // halving reaches the smallest positive float
		x = lo + (hi-lo)/2
		if x == lo || x == hi {
			break
		}
		if mathext.RegIncBeta(a, b, x) < p {
			lo = x
		} else {
			hi = x
		}
	}
	return x
}
