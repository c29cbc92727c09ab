package server

import (
	"time"
)

// The clock is the server's. A learner's t orders moves and gives times; whether a move is
// in time is decided by when the sitting began and when the move arrived:
//
//   - a move's time is its t, but never later than its arrival;
//   - one that was made in time by its t and arrives after the limit counts within the
//     release's allowance, and is marked as received late; after that it is too late;
//   - a sitting whose time and allowance are over is finished without its learner.
//
// What a server's clock does when it jumps: set back, no move is refused for it, since a
// time is never taken to be before that of the move before; set forward, time is over
// sooner by as much, and what arrives within the allowance still counts. Servers that
// share a database should keep the same time, as by NTP: what they differ by is lateness.

// WithClock gives a server another clock than the machine's.
func WithClock(now func() time.Time) Option { return func(s *Server) { s.clock = now } }
