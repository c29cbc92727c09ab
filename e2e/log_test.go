package e2e

import (
	"bytes"
	"encoding/json"
	"fmt"
	"log/slog"
	"os"
	"slices"
	"strings"
	"sync"

	"keenmagpie/demo"
)

// journal is the log of all servers of all tests, as those who run one would keep it.
type journal struct {
	mu    sync.Mutex
	lines bytes.Buffer
	typed map[string]bool // by people, into fields
}

var kept = journal{typed: map[string]bool{}}

// log writes to it; what is more than a request is told at once as well.
func (j *journal) log() *slog.Logger { return slog.New(slog.NewJSONHandler(j, nil)) }

func (j *journal) Write(line []byte) (int, error) {
	j.mu.Lock()
	defer j.mu.Unlock()
	if !bytes.Contains(line, []byte(`"level":"INFO"`)) {
		_, _ = os.Stderr.Write(line)
	}
	return j.lines.Write(line)
}

// heard notes what somebody typed.
func (j *journal) heard(text string) {
	j.mu.Lock()
	defer j.mu.Unlock()
	j.typed[text] = true
}

// faults says what a log must not hold: a field that nobody meant to be there, what people
// typed, the passwords and addresses of accounts, and the secret part of any link.
func (j *journal) faults() (out []string) {
	j.mu.Lock()
	defer j.mu.Unlock()
	private := []string{"@"}
	for _, a := range demo.Accounts() {
		private = append(private, a.Email, a.Password)
	}
	for text := range j.typed {
		if len(text) >= 5 {
			private = append(private, text)
		}
	}
	meant := []string{"time", "level", "msg", "request", "method", "route", "status", "ms", "account", "operation", "error", "panic", "stack", "job", "media", "provider", "platform", "code"}
	requests := 0
	for line := range bytes.Lines(j.lines.Bytes()) {
		var said map[string]any
		if err := json.Unmarshal(line, &said); err != nil {
			return append(out, fmt.Sprintf("a line is not JSON: %s", line))
		}
		if said["msg"] == "request" {
			requests++
		}
		// What the program itself writes there, and never takes from people.
		route, _ := said["route"].(string)
		for name, value := range said {
			if !slices.Contains(meant, name) {
				out = append(out, fmt.Sprintf("an unknown field %s: %s", name, line))
			}
			text := fmt.Sprint(value)
			if name == "time" || name == "request" || name == "account" || name == "stack" || name == "route" && strings.HasPrefix(route, "/") && !secret(text) {
				continue
			}
			for _, p := range private {
				if strings.Contains(text, p) && name != "msg" && name != "job" && name != "operation" {
					out = append(out, fmt.Sprintf("%q is in %s: %s", p, name, line))
				}
			}
			if secret(text) {
				out = append(out, fmt.Sprintf("the secret of a link is in %s: %s", name, line))
			}
		}
	}
	if requests == 0 {
		out = append(out, "no request was logged")
	}
	return out
}

// secret says whether a text holds something that looks like an id which cannot be guessed.
func secret(text string) bool {
	return slices.ContainsFunc(strings.FieldsFunc(text, func(r rune) bool { return (r < 'a' || r > 'z') && (r < '0' || r > '9') }),
		func(word string) bool { return len(word) == 26 && strings.ContainsAny(word, "234567") })
}
