// Package ops is what those who run an installation look at: /livez, /readyz and /metrics.
// It stands on an address of its own, which learners and designers cannot reach, and holds
// nothing of theirs: no names, no addresses, no codes.
package ops

import (
	"context"
	"encoding/json"
	"net/http"
	"strconv"
	"sync/atomic"
	"time"

	"github.com/hashicorp/golang-lru/v2/expirable"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"

	"keenmagpie/store"
)

// Watch counts what one server does, and says whether it is ready. It is safe for use by
// many at once.
type Watch struct {
	store    *store.Store
	looked   func() time.Time
	stopping atomic.Bool
	registry *prometheus.Registry
	requests *prometheus.HistogramVec
	moves    prometheus.Counter
	playing  *expirable.LRU[string, struct{}]
	panics   *prometheus.CounterVec
	routes   *http.ServeMux
}

// playingFor is for how long a sitting counts as being played after its last move.
const playingFor = 5 * time.Minute

// New watches one server, whose loop of jobs last looked for what is due at looked.
func New(st *store.Store, looked func() time.Time) *Watch {
	w := &Watch{
		store: st, looked: looked, registry: prometheus.NewRegistry(),
		requests: prometheus.NewHistogramVec(prometheus.HistogramOpts{
			Name: "magpie_request_seconds", Help: "How long requests took, by route and status.",
			Buckets: []float64{.001, .0025, .005, .01, .025, .05, .1, .25, .5, 1, 2.5, 10},
		}, []string{"method", "route", "status"}),
		moves:   prometheus.NewCounter(prometheus.CounterOpts{Name: "magpie_moves_total", Help: "Moves of learners that were answered."}),
		playing: expirable.NewLRU[string, struct{}](100_000, nil, playingFor),
		panics:  prometheus.NewCounterVec(prometheus.CounterOpts{Name: "magpie_panics_total", Help: "Faults of the program that ended a request or a job."}, []string{"where"}),
	}
	w.registry.MustRegister(w.requests, w.moves, w.panics,
		prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: "magpie_sittings_open", Help: "Sittings with a move on this server in the last five minutes."},
			func() float64 { return float64(w.playing.Len()) }),
		&jobs{st}, collectors.NewDBStatsCollector(st.DB(), "magpie"),
		collectors.NewGoCollector(), collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}))
	w.routes = http.NewServeMux()
	w.routes.HandleFunc("GET /livez", func(out http.ResponseWriter, _ *http.Request) {
		_, _ = out.Write([]byte("alive\n"))
	})
	w.routes.HandleFunc("GET /readyz", w.ready)
	w.routes.Handle("GET /metrics", promhttp.HandlerFor(w.registry, promhttp.HandlerOpts{ErrorHandling: promhttp.ContinueOnError}))
	return w
}

// Requested counts a request by the pattern of its route.
func (w *Watch) Requested(method, route string, status int, took time.Duration) {
	w.requests.WithLabelValues(method, route, strconv.Itoa(status)).Observe(took.Seconds())
}

// Moved counts a move of a sitting, which any text of its own names.
func (w *Watch) Moved(sitting string) {
	w.moves.Inc()
	w.playing.Add(sitting, struct{}{})
}

// Panicked counts a fault of the program.
func (w *Watch) Panicked(where string) { w.panics.WithLabelValues(where).Inc() }

// Stopping has /readyz say that no more requests should come.
func (w *Watch) Stopping() { w.stopping.Store(true) }

// ServeHTTP answers /livez, /readyz and /metrics.
func (w *Watch) ServeHTTP(out http.ResponseWriter, r *http.Request) { w.routes.ServeHTTP(out, r) }

// loopLate is after how long without a look for jobs their loop is taken to hang. One job
// may take up to ten minutes.
const loopLate = 15 * time.Minute

// ready says of each thing that a server needs whether it is well: 200 where all are, else
// 503. A schema that a newer server has brought further is well: that one is being put in
// this one's place.
func (w *Watch) ready(out http.ResponseWriter, r *http.Request) {
	ctx, cancel := context.WithTimeout(r.Context(), 2*time.Second)
	defer cancel()
	says := map[string]string{"database": "ok", "schema": "ok", "jobs": "ok"}
	has, knows, err := w.store.SchemaVersion(ctx)
	switch {
	case err != nil:
		says["database"], says["schema"] = "does not answer", "unknown"
	case has < knows:
		says["schema"] = "older than this program"
	}
	if since := time.Since(w.looked()); since > loopLate {
		says["jobs"] = "not looked for since " + since.Truncate(time.Second).String()
	}
	if w.stopping.Load() {
		says["server"] = "stopping"
	}
	out.Header().Set("Content-Type", "application/json")
	for _, x := range says {
		if x != "ok" {
			out.WriteHeader(http.StatusServiceUnavailable)
			break
		}
	}
	_ = json.NewEncoder(out).Encode(says)
}

// jobs, and what waits for them, are asked of the database whenever somebody looks, so that every server says the same.
type jobs struct{ store *store.Store }

var (
	letters     = prometheus.NewDesc("magpie_outbox_letters", "Mail that waits to go out.", nil, nil)
	jobSince    = prometheus.NewDesc("magpie_job_done_seconds_ago", "How long ago a job was last done, by any server.", []string{"job"}, nil)
	jobFailures = prometheus.NewDesc("magpie_job_failures", "How often a job has failed since it was last done.", []string{"job"}, nil)
)

// Describe is for [prometheus.Collector].
func (j *jobs) Describe(to chan<- *prometheus.Desc) {
	to <- letters
	to <- jobSince
	to <- jobFailures
}

// Collect is for [prometheus.Collector].
func (j *jobs) Collect(to chan<- prometheus.Metric) {
	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Second)
	defer cancel()
	if n, _, err := j.store.Unsent(ctx); err == nil {
		to <- prometheus.MustNewConstMetric(letters, prometheus.GaugeValue, float64(n))
	}
	list, err := j.store.Jobs(ctx)
	if err != nil {
		to <- prometheus.NewInvalidMetric(jobFailures, err)
		return
	}
	for _, job := range list {
		if job.DoneAt != nil {
			to <- prometheus.MustNewConstMetric(jobSince, prometheus.GaugeValue, time.Since(*job.DoneAt).Seconds(), job.Name)
		}
		to <- prometheus.MustNewConstMetric(jobFailures, prometheus.GaugeValue, float64(job.Failures), job.Name)
	}
}
