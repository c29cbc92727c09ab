package server

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"slices"
	"strings"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/hosting"
	"keenmagpie/lti"
	"keenmagpie/platforms"
	"keenmagpie/store"
)

// Admitted is what a page of a launch is shown, and goes on with.
type Admitted struct {
	Pass     string `json:"pass" doc:"To be sent with each request, as Magpie-Pass"`
	Platform string `json:"platform"`
	Course   string `json:"course"`
	Title    string `json:"title"`
	Multiple bool   `json:"multiple" doc:"Several can be chosen"`
}

type admittedOutput struct{ Body Admitted }

type ticketBody struct {
	Ticket string `json:"ticket" maxLength:"40"`
	Kind   string `json:"kind" enum:"choose,see"`
}

// Launched is what a page of a launch shows that it may.
type Launched struct {
	Pass string `header:"Magpie-Pass" maxLength:"40"`
}

type arriveInput struct {
	Link string `path:"link" maxLength:"40"`
	Pass string `header:"Magpie-Pass" maxLength:"40"`
	Body struct {
		Ticket string `json:"ticket,omitempty" maxLength:"40" doc:"Of the launch; after it the pass is sent"`
		Again  bool   `json:"again,omitempty" doc:"What is done is begun again"`
		// Request makes it safe to ask again.
		Request string `json:"request,omitempty" maxLength:"64"`
	}
}

type arrivedOutput struct {
	Token string `header:"Magpie-Sitting" doc:"To be sent with each request"`
	Pass  string `header:"Magpie-Pass"`
	Back  string `header:"Magpie-Back" doc:"Where the platform wants its learner to come back to"`
	Body  hosting.Begun
}

// Choosable is something that a course can link to.
type Choosable struct {
	Activity string `json:"activity"`
	Title    string `json:"title"`
	Series   bool   `json:"series"`
	Release  string `json:"release" doc:"The link of its newest release"`
	Number   int    `json:"number"`
}

type choosableOutput struct {
	Body struct {
		List []Choosable `json:"list" nullable:"false"`
		Next string      `json:"next,omitempty"`
	}
}

type choosableInput struct {
	Launched
	Find  string `query:"find" maxLength:"200"`
	After string `query:"after" maxLength:"60"`
}

// Chosen is what a course is to link to.
type Chosen struct {
	Activity string `json:"activity" maxLength:"40"`
	Newest   bool   `json:"newest" doc:"Always the newest release, not this one"`
}

type choiceInput struct {
	Launched
	Body struct {
		Chosen []Chosen `json:"chosen" nullable:"false" minItems:"1" maxItems:"100"`
	}
}

type choiceOutput struct {
	Body struct {
		To    string `json:"to" doc:"Where the token is posted, as JWT"`
		Token string `json:"token"`
	}
}

// LinkResult is what a learner of a platform's link has come to.
type LinkResult struct {
	Name    string     `json:"name"`
	Begun   *time.Time `json:"begun,omitempty"`
	Done    bool       `json:"done"`
	Score   string     `json:"score"`
	Percent string     `json:"percent"`
	Judged  bool       `json:"judged"`
	Times   int        `json:"times" doc:"How often it was begun"`
}

type linkResultsOutput struct {
	Body struct {
		Title   string       `json:"title"`
		Results []LinkResult `json:"results" nullable:"false"`
		Try     string       `json:"try,omitempty" doc:"Where it can be played with nothing recorded"`
		// Members says that the platform tells who is in the course.
		Members bool `json:"members"`
		// Away says that it could not be asked now.
		Away bool `json:"away"`
	}
}

func (s *Server) admissionRoutes() {
	open(s, operation(http.MethodPost, "/api/play/{link}/arrivals", "arrive", "Begin, or go on, as somebody whom a platform sends"), s.arrive)
	open(s, operation(http.MethodPost, "/api/launched", "enterLaunch", "Take the ticket of a launch, once"),
		func(ctx context.Context, in *struct{ Body ticketBody }) (*admittedOutput, error) {
			a, pass, err := s.store.TakeTicket(ctx, in.Body.Ticket, in.Body.Kind)
			if errors.Is(err, store.ErrNotFound) {
				return nil, launchOver()
			}
			if err != nil {
				return nil, err
			}
			p, l, err := s.launchOf(ctx, a)
			return &admittedOutput{Admitted{pass, p.Name, l.Course, l.Title, l.Deep != nil && l.Deep.Multiple}}, err
		})
	open(s, operation(http.MethodGet, "/api/launched/shelf", "choosable", "What a course can link to"), s.choosable)
	open(s, operation(http.MethodPost, "/api/launched/choice", "choose", "Choose what a course links to"), s.choose)
	open(s, operation(http.MethodGet, "/api/launched/results", "linkResults", "What the learners of a platform's link have come to"), s.linkResults)
}

func launchOver() *Problem {
	return &Problem{Status: 403, Code: "launch-over", Detail: "This page was opened from a course, and its time is over, or it was opened twice. Open it again from the course; nothing was lost."}
}

func (s *Server) launchOf(ctx context.Context, a store.Admission) (p store.Platform, l lti.Launch, err error) {
	if p, err = s.store.PlatformByID(ctx, a.PlatformID); err == nil {
		err = json.Unmarshal([]byte(a.Launch), &l)
	}
	return p, l, err
}

// admitted finds what a page may do, by its pass.
func (s *Server) admitted(ctx context.Context, pass, kind string) (store.Admission, store.Platform, lti.Launch, error) {
	a, err := s.store.Admitted(ctx, pass, kind)
	if errors.Is(err, store.ErrNotFound) {
		err = launchOver()
	}
	if err != nil {
		return a, store.Platform{}, lti.Launch{}, err
	}
	p, l, err := s.launchOf(ctx, a)
	return a, p, l, err
}

func (s *Server) arrive(ctx context.Context, in *arriveInput) (*arrivedOutput, error) {
	var a store.Admission
	var err error
	pass := in.Pass
	if in.Body.Ticket != "" {
		a, pass, err = s.store.TakeTicket(ctx, in.Body.Ticket, store.ToPlay)
	} else {
		a, err = s.store.Admitted(ctx, pass, store.ToPlay)
	}
	if errors.Is(err, store.ErrNotFound) || err == nil && (a.Link != in.Link || a.ArrivalID == nil) {
		return nil, launchOver()
	}
	if err != nil {
		return nil, err
	}
	arrival, _, err := s.store.ArrivalByID(ctx, *a.ArrivalID)
	if err != nil {
		return nil, err
	}
	if err := s.store.LeftCmi5(ctx, arrival.ID, false); err != nil {
		return nil, err
	}
	looks, err := s.hosting.OnlyLooks(ctx, arrival.ID)
	if err != nil {
		return nil, err
	}
	if looks && in.Body.Again {
		return nil, &Problem{Status: 403, Code: "only-looks", Detail: "This was opened to look at what was done. Open it normally in the course to begin again."}
	}
	begun, err := s.hosting.Arrive(ctx, in.Link, arrival, in.Body.Again, in.Body.Request)
	if err != nil {
		return nil, err
	}
	var came lti.Launch
	if err := json.Unmarshal([]byte(arrival.Launch), &came); err != nil {
		return nil, err
	}
	if !lti.Address(came.Return, s.here()) {
		came.Return = ""
	}
	return &arrivedOutput{begun.Token, pass, came.Return, *begun}, nil
}

func (s *Server) choosable(ctx context.Context, in *choosableInput) (*choosableOutput, error) {
	_, p, _, err := s.admitted(ctx, in.Pass, store.ToChoose)
	if err != nil {
		return nil, err
	}
	out := &choosableOutput{}
	out.Body.List = []Choosable{}
	list, next, err := s.store.In(p.WorkspaceID).Released(ctx, in.Find, in.After, 50)
	if errors.Is(err, store.ErrBadPlace) {
		err = &Problem{Status: 422, Code: "bad-place", Detail: "No page of this list ends there."}
	}
	for _, r := range list {
		out.Body.List = append(out.Body.List, Choosable{r.ActivityID, r.Title, r.Form == store.ASeries, r.Link, r.Number})
	}
	out.Body.Next = next
	return out, err
}

func (s *Server) choose(ctx context.Context, in *choiceInput) (*choiceOutput, error) {
	_, p, l, err := s.admitted(ctx, in.Pass, store.ToChoose)
	if err != nil {
		return nil, err
	}
	if len(in.Body.Chosen) > 1 && !l.Deep.Multiple {
		return nil, &Problem{Status: 422, Code: "one-alone", Detail: "This place takes one activity alone. Nothing was sent."}
	}
	items := []lti.Item{}
	for _, c := range in.Body.Chosen {
		list, err := s.store.In(p.WorkspaceID).Releases(ctx, c.Activity)
		if err != nil {
			return nil, err
		}
		if len(list) == 0 {
			return nil, notFound("One of these activities")
		}
		r := list[0]
		item := lti.Item{Title: r.Title, URL: s.public + "/play/" + r.Link, Custom: map[string]string{"release": r.Link}, Resource: r.ID, From: r.OpensAt, Until: r.ClosesAt}
		if c.Newest {
			item.URL, item.Custom, item.Resource = s.public+newestPath+r.ActivityID, map[string]string{"newest": r.ActivityID}, r.ActivityID
		}
		if item.Points, err = worth(r); err != nil {
			return nil, err
		}
		items = append(items, item)
	}
	key, err := s.platforms.Key(ctx)
	if err != nil {
		return nil, noSecret(err)
	}
	out := &choiceOutput{}
	out.Body.To = l.Deep.Return
	out.Body.Token, err = key.Chosen(platforms.Of(p), l, items, s.clock())
	return out, err
}

// worth is how many points a release has; a series, whose points depend on what is played, has
// them in percent.
func worth(r store.Release) (string, error) {
	if r.Form == store.ASeries {
		return "100", nil
	}
	doc, faults := activity.Read([]byte(r.Document))
	if faults != nil {
		return "", faults
	}
	return doc.Marks.Points.String(), nil
}

// linkResults lists what learners of a link did; with the names of those who have not begun,
// where the platform tells who is in the course.
func (s *Server) linkResults(ctx context.Context, in *Launched) (*linkResultsOutput, error) {
	a, p, l, err := s.admitted(ctx, in.Pass, store.ToSee)
	if err != nil {
		return nil, err
	}
	r, err := s.store.ReleaseByLink(ctx, a.Link)
	if err != nil {
		return nil, err
	}
	out := &linkResultsOutput{}
	out.Body.Title, out.Body.Members, out.Body.Results = r.Title, l.Members != "", []LinkResult{}
	if r.Form != store.ASeries {
		out.Body.Try = "/try/" + store.TrialOf(in.Pass)
	}
	arrivals, err := s.store.ArrivalsAt(ctx, store.LinkOf(p.ID, l.Deployment, l.Resource))
	if err != nil {
		return nil, err
	}
	ids, whose := []int64{}, map[int64]int64{} // learner by arrival
	results := map[int64]*LinkResult{}         // by learner
	for _, x := range arrivals {
		ids = append(ids, x.ID)
		if x.LearnerID != nil {
			whose[x.ID] = *x.LearnerID
		}
	}
	attempts, err := s.store.AttemptsOf(ctx, ids...)
	if err != nil {
		return nil, err
	}
	for _, t := range attempts {
		begun := t.StartedAt
		x := results[whose[t.ArrivalID]]
		if x == nil {
			x = &LinkResult{}
			results[whose[t.ArrivalID]] = x
		}
		x.Name, x.Begun, x.Done, x.Score, x.Percent, x.Judged, x.Times = t.Learner, &begun, t.Done, t.Score, t.Percent, t.Judged, x.Times+1
	}
	if out.Body.Members {
		list, err := s.refreshed(ctx, p, l)
		out.Body.Away = err != nil
		if err != nil {
			s.log.Warn("the members of a course could not be read", "platform", p.ID, "error", err)
		}
		for _, who := range list {
			if results[who.ID] == nil {
				results[who.ID] = &LinkResult{Name: who.Name, Score: "0.00", Percent: "0.00"}
			}
		}
	}
	for _, x := range results {
		out.Body.Results = append(out.Body.Results, *x)
	}
	slices.SortFunc(out.Body.Results, func(a, b LinkResult) int { return cmp.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)) })
	return out, nil
}

// refreshed reads who learns in the course of a launch, and gives its roster those.
func (s *Server) refreshed(ctx context.Context, p store.Platform, l lti.Launch) ([]store.Learner, error) {
	members, err := s.platforms.Members(ctx, p, l)
	if err != nil {
		return nil, err
	}
	list := []store.CourseMember{}
	for _, m := range members {
		if !m.Teacher {
			list = append(list, store.CourseMember{Subject: m.Subject, Name: m.Name})
		}
	}
	_, learners, err := s.store.In(p.WorkspaceID).RefreshCourse(ctx, store.Comer{PlatformID: p.ID, Deployment: l.Deployment, Context: l.Context, Course: l.Course}, list)
	return learners, err
}
