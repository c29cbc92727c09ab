package server

import (
	"context"
	"net/http"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/store"
)

// SittingRow is one sitting in the list.
type SittingRow struct {
	ID        int64     `json:"id"`
	Learner   string    `json:"learner" doc:"Empty where the name is not kept, or not shown to whoever asks"`
	StartedAt time.Time `json:"startedAt"`
	MovedAt   time.Time `json:"movedAt"`
	Phase     string    `json:"phase"`
	Attempts  int       `json:"attempts"`
	Score     string    `json:"score"`
	Percent   string    `json:"percent"`
	Outcome   string    `json:"outcome"`
	Band      string    `json:"band,omitempty"`
	Took      int64     `json:"took" doc:"Milliseconds from the start to the last check"`
	Late      int       `json:"late" doc:"Moves that were made in time and received afterwards"`
}

type sittingsInput struct {
	PlayedInput
	Body SittingSearch
}

// SittingSearch says which sittings are looked for. It comes in a body: addresses, which
// are written into logs, hold no names.
type SittingSearch struct {
	Text  string `json:"text,omitempty" maxLength:"200" doc:"Part of the learner's name, or the sitting's number"`
	Phase string `json:"phase,omitempty" enum:"placing,paused,done"`
	Band  string `json:"band,omitempty" maxLength:"200"`
	Sort  string `json:"sort,omitempty" enum:"learner,started,state,attempts,score,took"`
	Down  bool   `json:"down,omitempty"`
	Page  int    `json:"page,omitempty" minimum:"0" maximum:"100000"`
}

// onPage is how many sittings are listed at once.
const onPage = 100

type sittingsOutput struct {
	Body struct {
		Points   string       `json:"points" doc:"What the whole is worth"`
		Bands    []string     `json:"bands" nullable:"false"`
		Names    bool         `json:"names" doc:"Anyone who asks may see the names"`
		Least    int          `json:"least,omitempty" doc:"The smallest group, where these are fewer: none is listed"`
		All      int          `json:"all"`
		Found    int          `json:"found"`
		OnPage   int          `json:"onPage"`
		Sittings []SittingRow `json:"sittings" nullable:"false"`
	}
}

func (s *Server) sittingRoutes() {
	member(s, operation(http.MethodGet, "/api/releases/{id}/sittings", "sittings", "The sittings of a release"),
		func(ctx context.Context, m store.Member, in *struct {
			PlayedInput
			Phase string `query:"phase" enum:"placing,paused,done"`
			Band  string `query:"band" maxLength:"200"`
			Sort  string `query:"sort" enum:"learner,started,state,attempts,score,took"`
			Down  bool   `query:"down"`
			Page  int    `query:"page" minimum:"0" maximum:"100000"`
		}) (*sittingsOutput, error) {
			return s.sittings(ctx, m, &sittingsInput{in.PlayedInput, SittingSearch{"", in.Phase, in.Band, in.Sort, in.Down, in.Page}})
		})
	member(s, operation(http.MethodPost, "/api/releases/{id}/sittings/search", "findSittings", "Sittings of a release that are looked for"), s.sittings)
}

func (s *Server) sittings(ctx context.Context, m store.Member, asked *sittingsInput) (*sittingsOutput, error) {
	in := asked.Body
	p, err := s.played(ctx, m, asked.PlayedInput)
	if err != nil {
		return nil, err
	}
	out := &sittingsOutput{}
	b := &out.Body
	b.Points, b.Names, b.OnPage, b.Bands, b.Sittings = p.doc.Marks.Points.String(), m.SeesNames(), onPage, bandNames(p.doc), []SittingRow{}
	whole := in.Text == "" && in.Phase == "" && in.Band == ""
	if !whole || m.LeastGroup > 0 {
		if b.All, err = s.store.CountSittings(ctx, p.Played); err != nil {
			return nil, err
		}
	}
	if b.All < m.LeastGroup {
		b.Least = m.LeastGroup
		return out, nil
	}
	q := store.Search{Text: in.Text, Names: m.SeesNames(), Phase: in.Phase, Sort: in.Sort, Down: in.Down, Limit: onPage, Offset: in.Page * onPage}
	if q.Sort == "learner" && !q.Names {
		q.Sort = "started" // an order by names would tell them
	}
	if in.Band != "" {
		q.From, q.To = between(p.doc, in.Band)
	}
	list, found, err := s.store.FindSittings(ctx, p.Played, q)
	if err != nil {
		return nil, err
	}
	if b.Found = found; whole {
		b.All = found
	}
	for _, x := range list {
		b.Sittings = append(b.Sittings, p.row(x, m))
	}
	return out, nil
}

// row is a sitting as a member may see it.
func (p *played) row(x store.Sitting, m store.Member) SittingRow {
	r := SittingRow{x.ID, shown(m, x.Learner), x.StartedAt, x.MovedAt, x.Phase, x.Attempts, x.Score, x.Percent, x.Outcome, "", x.TookMS, x.Late}
	if percent, err := exact.Parse(x.Percent); err == nil && x.Outcome != "" {
		r.Band = p.game.Judge.Band(percent)
	}
	return r
}

// shown is a learner's name, for those who may see it.
func shown(m store.Member, name string) string {
	if !m.SeesNames() {
		return ""
	}
	return name
}

func bandNames(doc *activity.Doc) []string {
	out := []string{}
	for _, b := range doc.Marks.Bands {
		out = append(out, b.Name)
	}
	return out
}

// between gives the percents that fall into a band: from, and less than; "" is no bound.
func between(doc *activity.Doc, name string) (from, to string) {
	for i, b := range doc.Marks.Bands {
		if b.Name != name {
			continue
		}
		if i+1 < len(doc.Marks.Bands) {
			to = doc.Marks.Bands[i+1].From.String()
		}
		return b.From.String(), to
	}
	return "1000", "" // none
}

// about says in the log what somebody did something with.
func about(r store.Release) string { return r.Title + ", " + releaseNumber(r) }
