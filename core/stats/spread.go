package stats

import (
	"math"
	"slices"

	"keenmagpie/core/exact"
)

// Spread is how numbers are distributed: quartiles by linear interpolation between
// the sorted numbers (type 7 of Hyndman and Fan, 1996), population deviation.
type Spread struct {
	Mean   float64 `json:"mean"`
	SD     float64 `json:"sd"`
	Min    float64 `json:"min"`
	Q1     float64 `json:"q1"`
	Median float64 `json:"median"`
	Q3     float64 `json:"q3"`
	Max    float64 `json:"max"`
	// Histogram counts percents from −100, −90, … where there are any below 0, else
	// from 0, 10, …; 100 has a place of its own.
	Histogram []Bar `json:"histogram"`
}

// Bar is one step of a histogram.
type Bar struct {
	From int `json:"from"`
	N    int `json:"n"`
}

func median(list []int64) float64 {
	numbers := make([]float64, len(list))
	for i, n := range list {
		numbers[i] = float64(n)
	}
	slices.Sort(numbers)
	return quantile(numbers, 0.5)
}

// quantile is type 7: at h = (n − 1) p, between the numbers on both sides.
func quantile(sorted []float64, p float64) float64 {
	h := float64(len(sorted)-1) * p
	low := int(math.Floor(h))
	if low+1 >= len(sorted) {
		return sorted[len(sorted)-1]
	}
	return sorted[low] + (h-float64(low))*(sorted[low+1]-sorted[low])
}

func spread(percents []exact.Hundredths) Spread {
	s := Spread{Histogram: []Bar{}}
	if len(percents) == 0 {
		return s
	}
	numbers := make([]float64, len(percents))
	sum := 0.0
	for i, p := range percents {
		numbers[i] = float64(p) / 100
		sum += numbers[i]
	}
	slices.Sort(numbers)
	mean := sum / float64(len(numbers))
	squares := 0.0
	for _, x := range numbers {
		squares += (x - mean) * (x - mean)
	}
	s.Mean, s.SD = rounded(mean), rounded(math.Sqrt(squares/float64(len(numbers))))
	s.Min, s.Max = numbers[0], numbers[len(numbers)-1]
	s.Q1, s.Median, s.Q3 = rounded(quantile(numbers, 0.25)), rounded(quantile(numbers, 0.5)), rounded(quantile(numbers, 0.75))
	low := 0
	if s.Min < 0 {
		low = -100
	}
	for from := low; from <= 100; from += 10 {
		s.Histogram = append(s.Histogram, Bar{from, 0})
	}
	for _, x := range numbers {
		s.Histogram[int(math.Floor(x/10))-low/10].N++
	}
	return s
}

// rounded keeps four places: more would say more than so many sittings can.
func rounded(x float64) float64 { return math.Round(x*1e4) / 1e4 }
