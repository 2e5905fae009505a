package growth

import (
	"math"

	"gonum.org/v1/gonum/mathext"
)

// PGreater returns P(θx > θy) for independent θx ~ Beta(1+x.Clean, 1+x.Faulty) and
// θy likewise: the probability that x comes from the better performance.
//
// With whole parameters it is a finite sum,
//
//	P(θx > θy) = Σ_{i<αx} B(αy+i, βx+βy) / ((βx+i)·B(1+i, βx)·B(αy, βy)),
//
// (E. Miller's form of the Beta-binomial tail; derived by integrating the
// regularized incomplete beta function by parts). By symmetry it can be written
// with as many terms as the smallest of the four parameters, which is what is done.
// The result is accurate to better than 1e-6 for counts up to 10⁷.
func PGreater(x, y Count) float64 {
	ax, bx := x.Clean+1, x.Faulty+1
	ay, by := y.Clean+1, y.Faulty+1
	var p float64
	switch min(ax, bx, ay, by) {
	case ax:
		p = tail(ax, bx, ay, by)
	case ay:
		p = 1 - tail(ay, by, ax, bx)
	case by: // 1−θy > 1−θx
		p = tail(by, ay, bx, ax)
	default:
		p = 1 - tail(bx, ax, by, ay)
	}
	return max(0, min(1, p))
}

// tail is the sum above with ax terms. Terms are carried as logarithms, for the
// first may be far below the smallest float while later ones are not.
func tail(ax, bx, ay, by int) float64 {
	fax, fbx, fay, fby := float64(ax), float64(bx), float64(ay), float64(by)
	// i = 0: B(αy, βx+βy)/(βx·B(1, βx)·B(αy, βy)), and βx·B(1, βx) = 1.
	term := mathext.Lbeta(fay, fbx+fby) - mathext.Lbeta(fay, fby)
	sum := 0.0
	for i := 0.0; i < fax; i++ {
		sum += math.Exp(term)
		// The ratio of neighbouring terms, B(αy+i+1,·)/B(αy+i,·) × (βx+i)·B(1+i,βx)/((βx+i+1)·B(2+i,βx)).
		term += math.Log((fay + i) / (fay + i + fbx + fby) * (fbx + i) / (i + 1))
	}
	return sum
}

// quantile returns the p-quantile of Beta(a, b), a and b > 0. gonum's inverse is
// polished by bisection on the regularized incomplete beta function where it
// disagrees with it, which happens for parameters near zero.
func quantile(p, a, b float64) float64 {
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
