package server

import (
	"bufio"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"reflect"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/core/activity"
	"keenmagpie/core/message"
	"keenmagpie/core/play"
	"keenmagpie/core/stats"
	"keenmagpie/formats/table"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// A download is one of these, as CSV or as JSON lines.
var downloads = []struct {
	what, summary string
	columns       []string
	each          func(*Server, context.Context, store.Member, *played, writer) error
}{
	{"sittings", "The sittings", []string{"sitting", "learner", "started", "last move", "state", "attempts", "score", "percent", "outcome", "band", "milliseconds", "received late"}, (*Server).eachSitting},
	{"moves", "The moves of all sittings", []string{"sitting", "learner", "n", "at", "t", "do", "item", "copy", "target", "index", "x", "y", "result", "received late"}, (*Server).eachMove},
	{"placements", "Where each item was put", []string{"sitting", "learner", "item", "first places", "first right", "final places", "final right", "right after milliseconds"}, (*Server).eachPlacement},
}

// writer takes a line: a value for each column. nil is empty.
type writer func(values ...any) error

func (s *Server) downloadRoutes() {
	for _, format := range []string{"csv", "jsonl"} {
		as := ", as " + map[string]string{"csv": "CSV", "jsonl": "JSON lines"}[format]
		for _, d := range downloads {
			op := operation(http.MethodGet, "/api/releases/{id}/"+d.what+"."+format, d.what+strings.ToUpper(format), d.summary+as)
			member(s, op, func(ctx context.Context, m store.Member, in *PlayedInput) (*huma.StreamResponse, error) {
				p, err := s.played(ctx, m, *in)
				if err != nil {
					return nil, err
				}
				if err := s.enough(ctx, m, p); err != nil {
					return nil, err
				}
				return s.lines(ctx, m, p.release, d.what, format, d.columns, func(w writer) error { return d.each(s, ctx, m, p, w) })
			})
		}
		member(s, operation(http.MethodGet, "/api/releases/{id}/runs."+format, "runs"+strings.ToUpper(format), "Those who have begun a released series"+as),
			func(ctx context.Context, m store.Member, in *idInput) (*huma.StreamResponse, error) {
				h, list, err := s.course(ctx, m, in.ID)
				if err != nil {
					return nil, err
				}
				if len(list) < m.LeastGroup {
					return nil, fewer(m)
				}
				columns := []string{"run", "learner", "started", "state", "step", "steps", "score", "percent", "band"}
				return s.lines(ctx, m, h.Release, "runs", format, columns, func(w writer) error {
					for _, x := range list {
						r := runRow(h, x, m)
						state := map[bool]string{true: "finished", false: "under way"}[r.Done]
						if err := w(r.ID, r.Learner, r.StartedAt.Format(time.RFC3339), state, r.At, r.Steps, json.Number(r.Score), json.Number(r.Percent), r.Band); err != nil {
							return err
						}
					}
					return nil
				})
			})
	}
}

func releaseNumber(r store.Release) string { return fmt.Sprintf("release %d", r.Number) }

// enough refuses where there are only totals.
func (s *Server) enough(ctx context.Context, m store.Member, p *played) error {
	if m.LeastGroup == 0 {
		return nil
	}
	n, err := s.store.CountSittings(ctx, p.Played)
	if err == nil && n < m.LeastGroup {
		err = fewer(m)
	}
	return err
}

func fewer(m store.Member) *Problem {
	return said(403, "group-too-small", "These are fewer than {n} sittings, of which this workspace shows totals only.", message.P{"n": m.LeastGroup})
}

// lines streams lines as they come, the first at once, and writes into the log who had
// them.
func (s *Server) lines(ctx context.Context, m store.Member, r store.Release, what, format string, columns []string, each func(writer) error) (*huma.StreamResponse, error) {
	detail := what + " as " + format
	if !m.SeesNames() {
		detail += ", without names"
	}
	if err := s.record(ctx, m, "download", about(r), detail); err != nil {
		return nil, err
	}
	name := fmt.Sprintf("%s-release-%d-%s.%s", activity.FreshID(map[string]bool{}, r.Title), r.Number, what, format)
	contentType := map[string]string{"csv": "text/csv; charset=utf-8", "jsonl": "application/jsonl"}[format]
	return download(contentType, name, func(out io.Writer) {
		flush := func() {}
		if f, ok := out.(http.Flusher); ok {
			flush = f.Flush
		}
		b := bufio.NewWriterSize(out, 1<<16)
		write := jsonLines(b, columns)
		if format == "csv" {
			// The heads come first, also where nothing follows.
			_, _ = b.WriteString(table.BOM + strings.Join(columns, ",") + "\n")
			write = csvLines(b)
		}
		n := 0
		err := each(func(values ...any) error {
			if n++; n == 2 {
				_ = b.Flush()
				flush()
			}
			return write(values...)
		})
		if err == nil {
			err = b.Flush()
		}
		if err != nil {
			s.log.Error("a download broke off", "name", name, "error", err)
			panic(http.ErrAbortHandler) // so that the file does not look whole
		}
	}), nil
}

func csvLines(w io.Writer) writer {
	l := table.NewLines(w, ',')
	return func(values ...any) error {
		for _, v := range values {
			switch v := v.(type) {
			case nil:
				l.Bare("")
			case string:
				l.Text(v)
			case []string:
				l.Text(strings.Join(v, "; "))
			case int64:
				l.Bare(strconv.FormatInt(v, 10))
			case json.Number:
				l.Bare(string(v))
			default:
				// A word that is one of a few is text as well.
				if word := reflect.ValueOf(v); word.Kind() == reflect.String {
					l.Text(word.String())
				} else {
					l.Bare(fmt.Sprint(v))
				}
			}
		}
		return errors.Join(l.End(), l.Flush()) // into the writer's own buffer
	}
}

func jsonLines(w *bufio.Writer, columns []string) writer {
	heads := make([]string, len(columns))
	for i, c := range columns {
		words := strings.Fields(c)
		for j := 1; j < len(words); j++ {
			words[j] = strings.ToUpper(words[j][:1]) + words[j][1:]
		}
		heads[i] = strconv.Quote(strings.Join(words, "")) + ":"
	}
	var value []byte
	return func(values ...any) error {
		sep := byte('{')
		for i, v := range values {
			if v == nil {
				continue
			}
			var err error
			if value, err = appendJSON(value[:0], v); err != nil {
				return err
			}
			_ = w.WriteByte(sep)
			_, _ = w.WriteString(heads[i])
			_, _ = w.Write(value)
			sep = ','
		}
		_, err := w.WriteString("}\n") // the first error stays
		return err
	}
}

// appendJSON is json.Marshal, and quicker for what files are full of.
func appendJSON(b []byte, v any) ([]byte, error) {
	switch v := v.(type) {
	case int:
		return strconv.AppendInt(b, int64(v), 10), nil
	case int64:
		return strconv.AppendInt(b, v, 10), nil
	case string:
		if !strings.ContainsFunc(v, func(r rune) bool {
			return r < ' ' || r > '~' || r == '"' || r == '\\' || r == '<' || r == '>' || r == '&'
		}) {
			return append(append(append(b, '"'), v...), '"'), nil
		}
	}
	body, err := json.Marshal(v)
	return append(b, body...), err
}

func (s *Server) eachSitting(ctx context.Context, m store.Member, p *played, w writer) error {
	return s.store.EachBatch(ctx, p.Played, false, func(list []store.Logged) error {
		for _, x := range list {
			r := p.row(x.Sitting, m)
			if err := w(r.ID, r.Learner, r.StartedAt.Format(time.RFC3339), r.MovedAt.Format(time.RFC3339), r.Phase, r.Attempts, json.Number(r.Score), json.Number(r.Percent), r.Outcome, r.Band, r.Took, x.Late); err != nil {
				return err
			}
		}
		return nil
	})
}

func (s *Server) eachMove(ctx context.Context, m store.Member, p *played, w writer) error {
	return s.store.EachBatch(ctx, p.Played, true, func(list []store.Logged) error {
		for _, x := range list {
			moves, err := hosting.MovesOf(x)
			if err != nil {
				return err
			}
			// Played once more: only so is it known where a piece went that was let go.
			state := p.first.Open(x.Sitting)
			for i, v := range moves {
				var a play.Answer
				state, a = p.first.Game.Move(state, v)
				item, copied := p.pieceNamed(v.Piece)
				target, index := p.where(state, a, v)
				if err := w(x.ID, shown(m, x.Learner), v.N, x.At[i].Format(time.RFC3339), v.Time(), v.Do, item, copied, target, index,
					hundredths(v.X), hundredths(v.Y), x.Moves[i].Result, v.Late); err != nil {
					return err
				}
			}
		}
		return nil
	})
}

// pieceNamed is what the item of a piece is called, and which copy it is.
func (p *played) pieceNamed(piece string) (item string, copied any) {
	at, ok := p.first.Game.Parts.Piece(piece)
	if !ok {
		return "", nil
	}
	it := p.first.Game.Parts.ItemOf(at)
	if it.Copies > 1 {
		copied = at - p.first.Game.Parts.First[p.first.Game.Parts.Pieces[at].Item] + 1
	}
	return cmp.Or(it.Name, it.ID), copied
}

// where is into which target a move put a piece, or meant to, and at which place of a lane,
// from 1.
func (p *played) where(state *play.State, a play.Answer, m play.Move) (target string, index any) {
	id := cmp.Or(a.Target, m.Target)
	t := p.first.Game.Doc.Target(id)
	if t == nil {
		return "", nil
	}
	if at, ok := p.first.Game.Parts.Piece(m.Piece); ok && t.Ordered && state.Now.Where[at] >= 0 && p.first.Game.Doc.Targets[state.Now.Where[at]].ID == id {
		index = state.Now.Index(at) + 1
	}
	return targetNamed(p.first.Game.Doc, id), index
}

func targetNamed(doc *activity.Doc, id string) string {
	t := doc.Target(id)
	if t == nil {
		return ""
	}
	return cmp.Or(t.Name, t.Label.Text, t.ID)
}

// hundredths is a length as a number, or nothing.
func hundredths(u *activity.U) any {
	if u == nil {
		return nil
	}
	return json.Number(u.String())
}

// eachPlacement writes a line for each sitting and item.
func (s *Server) eachPlacement(ctx context.Context, m store.Member, p *played, w writer) error {
	table := stats.New(p.game)
	var tally stats.Tally
	return s.store.EachBatch(ctx, p.Played, false, func(list []store.Logged) error {
		ids := make([]int64, len(list))
		for i, x := range list {
			ids[i] = x.ID
		}
		kept, err := s.store.TalliesOf(ctx, p.release.ID, p.remark, ids)
		if err != nil {
			return err
		}
		// Those that are under way may have gone on, and those not kept are played.
		fresh := map[int64][]byte{}
		for _, k := range kept {
			fresh[k.SittingID] = k.Body
		}
		var stale []int64
		for _, x := range list {
			if play.Phase(x.Phase) != play.Done || table.Read(fresh[x.ID], &tally) != nil {
				stale = append(stale, x.ID)
			}
		}
		played, err := s.tallied(ctx, p, table, stale)
		if err != nil {
			return err
		}
		for _, k := range played {
			fresh[k.SittingID] = k.Body
		}
		for _, l := range list {
			if err := table.Read(fresh[l.ID], &tally); err != nil {
				return fmt.Errorf("sitting %d: %w", l.ID, err)
			}
			first, firstRight := p.placed(&tally.First)
			final, finalRight := p.placed(&tally.Final)
			for i, item := range p.doc.Items {
				var after any
				if tally.Times[i] >= 0 {
					after = tally.Times[i]
				}
				if err := w(l.ID, shown(m, l.Learner), cmp.Or(item.Name, item.ID), first[i], firstRight[i], final[i], finalRight[i], after); err != nil {
					return err
				}
			}
		}
		return nil
	})
}

// placed lists by item where its pieces stood, home left out, and whether it was right;
// nil where that state was not reached.
func (p *played) placed(s *stats.State) (places, right []any) {
	places, right = make([]any, len(p.doc.Items)), make([]any, len(p.doc.Items))
	if !s.Reached {
		return places, right
	}
	next := 0
	for i, pieces := range s.Pieces {
		at := []string{}
		for _, target := range s.Places[next : next+int(pieces)] {
			if target >= 0 {
				at = append(at, targetNamed(p.doc, p.doc.Targets[target].ID))
			}
		}
		places[i], right[i] = at, s.Right[i]
		next += int(pieces)
	}
	return places, right
}
