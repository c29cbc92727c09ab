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

// median is the middle of the list, or between the two middle ones; the list's order
// changes. Cost: O(n) as a rule, without sorting.
func median(list []int64) float64 {
	n := len(list)
	if n == 0 {
		return 0
	}
	high := nth(list, n/2)
	if n%2 == 1 {
		return float64(high)
	}
	return float64(slices.Max(list[:n/2])+high) / 2
}

// nth brings the k-th smallest to place k, none greater before it and none smaller
// behind it (C. A. R. Hoare, Algorithm 65: Find, 1961).
func nth(list []int64, k int) int64 {
	for low, high := 0, len(list)-1; low < high; {
		x, i, j := list[k], low, high
		for i <= j {
			for list[i] < x {
				i++
			}
			for x < list[j] {
				j--
			}
			if i <= j {
				list[i], list[j] = list[j], list[i]
				i, j = i+1, j-1
			}
		}
		if j < k {
			low = i
		}
		if k < i {
			high = j
		}
	}
	return list[k]
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
