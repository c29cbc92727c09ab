package server

import (
	"io"
	"net/http"
	"time"
)

// pacedBody is a body that must keep coming.
type pacedBody struct {
	io.ReadCloser
	conn *http.ResponseController
	end  time.Time
}

func (b *pacedBody) Read(p []byte) (int, error) {
	until := time.Now().Add(readPause)
	if until.After(b.end) {
		until = b.end
	}
	_ = b.conn.SetReadDeadline(until) // a test's recorder has none
	return b.ReadCloser.Read(p)
}

// pacedWriter is an answer that must keep going.
type pacedWriter struct {
	http.ResponseWriter
	conn *http.ResponseController
}

// Unwrap is for [http.ResponseController].
func (w *pacedWriter) Unwrap() http.ResponseWriter { return w.ResponseWriter }

// Flush is that of the writer beneath.
func (w *pacedWriter) Flush() { _ = w.conn.Flush() }

func (w *pacedWriter) Write(p []byte) (int, error) {
	const piece = 64 << 10 // so that a slow reader of much makes progress
	n := 0
	for {
		some := p[n:min(len(p), n+piece)]
		_ = w.conn.SetWriteDeadline(time.Now().Add(writePause))
		k, err := w.ResponseWriter.Write(some)
		if n += k; err != nil || n >= len(p) {
			return n, err
		}
	}
}

// paced bounds how long a request may take to come and an answer to go: by progress, and
// what comes in also as a whole. An answer that is still being worked out is not bounded
// here.
func paced(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		conn := http.NewResponseController(w)
		if r.Body != nil && r.Body != http.NoBody {
			r.Body = &pacedBody{r.Body, conn, time.Now().Add(bodyTime)}
		}
		next.ServeHTTP(&pacedWriter{w, conn}, r)
	})
}

const (
	readPause  = 20 * time.Second // without a byte coming in
	writePause = 30 * time.Second // without a byte going out
	bodyTime   = 10 * time.Minute // for a body as a whole
)
