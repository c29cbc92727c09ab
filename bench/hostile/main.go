// Command hostile sends a running server what tries to make it slow or large, one thing
// after the other, while another learner makes a move every 20 ms. It prints for each the
// processor time that the server took, its peak memory, and how long that learner waited
// at the 99th percentile.
package main

import (
	"archive/zip"
	"bytes"
	"compress/zlib"
	"context"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"hash/crc32"
	"io"
	"net"
	"net/http"
	"os"
	"slices"
	"strings"
	"sync"
	"time"

	"keenmagpie/bench/trial"
	"keenmagpie/localdb"
	"keenmagpie/server"
)

func main() {
	if err := run(context.Background()); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run(ctx context.Context) error {
	dir, err := localdb.Scratch()
	if err != nil {
		return err
	}
	house, err := trial.Open(ctx, dir, "hostile")
	if err != nil {
		return err
	}
	defer house.Close()
	db := house.DB
	s, err := trial.Serve(ctx, db.DSN("hostile"))
	if err != nil {
		return err
	}
	defer s.Kill()
	ana, err := trial.Designer(s.URL)
	if err != nil {
		return err
	}
	release, activity, err := ana.Release()
	if err != nil {
		return err
	}
	l, err := trial.Begin(s.URL, release.Link, "Lea")
	if err != nil {
		return err
	}
	var sound struct{ ID string }
	if _, err := ana.Ask("POST", "/api/media?name=long.wav", wave(10<<20-100), &sound); err != nil {
		return err
	}
	draft, err := heaviest(ana)
	if err != nil {
		return err
	}
	cases := []struct {
		name string
		do   func() string
	}{
		{"nothing, for comparison", func() string { time.Sleep(2 * time.Second); return "" }},
		{"16 strangers send 60 MB each", func() string { return strangers(s.URL, 16, 60<<20) }},
		{"40 slow readers of a 10 MB sound", func() string { return slowReaders(ana, s.URL, sound.ID, 40) }},
		{"a document of 500 × 99 pieces", func() string { return saved(ana, activity) }},
		{"64 open the heaviest draft that is taken", func() string { return opened(s.URL, draft, 64) }},
		{"a table with a row of 60,000 columns", func() string {
			return asked(ana, "/api/tables/look", map[string]string{"text": "a" + strings.Repeat("\tx", 60_000)})
		}},
		{"an XLSX with something in its last cell", func() string { return asked(ana, "/api/tables/text", sheet()) }},
		{"a PNG of 7740 × 7740, 16 bits a colour", func() string { return asked(ana, "/api/media?name=a.png", deepPNG(7740)) }},
		{"an SVG whose uses double 31 times", func() string { return asked(ana, "/api/media?name=a.svg", doubling(31)) }},
		{"200 wrong passwords", func() string { return passwords(s.URL, 200) }},
		{"600 begin, and 6,000 moves by one address", func() string { return crowd(s.URL, release.Link, 600, 10) }},
	}
	fmt.Printf("%-44s %9s %9s %9s  %s\n", "", "cpu s", "peak MB", "p99 ms", "answers")
	for _, c := range cases {
		s.Peak()
		before, stop := s.Processor(), make(chan struct{})
		waits := make(chan []time.Duration)
		go func() { waits <- steady(l, stop) }()
		answers := c.do()
		close(stop)
		took := <-waits
		slices.Sort(took)
		fmt.Printf("%-44s %9.2f %9d %9.1f  %s\n", c.name, (s.Processor() - before).Seconds(), s.Peak()>>10, float64(took[len(took)*99/100].Microseconds())/1000, answers)
	}
	return nil
}

// steady makes a move every 20 ms until it is stopped, and says how long each took.
func steady(l *trial.Learner, stop chan struct{}) (took []time.Duration) {
	tick := time.NewTicker(20 * time.Millisecond)
	defer tick.Stop()
	for {
		began := time.Now()
		m := l.Next()
		if ok, _ := l.Make(m); ok {
			l.N = m.N
		}
		took = append(took, time.Since(began))
		select {
		case <-stop:
			return took
		case <-tick.C:
		}
	}
}

// tally is how often each answer came.
type tally struct {
	sync.Mutex
	n map[string]int
}

func (t *tally) add(answer string) {
	t.Lock()
	defer t.Unlock()
	if t.n == nil {
		t.n = map[string]int{}
	}
	t.n[answer]++
}

func (t *tally) String() string {
	var parts []string
	for k, n := range t.n {
		parts = append(parts, fmt.Sprintf("%d× %s", n, k))
	}
	slices.Sort(parts)
	return strings.Join(parts, ", ")
}

func together(n int, do func(i int) string) string {
	var t tally
	var group sync.WaitGroup
	for i := range n {
		group.Go(func() { t.add(do(i)) })
	}
	group.Wait()
	return t.String()
}

func answer(status int, err error) string {
	if err != nil {
		return "closed"
	}
	return fmt.Sprint(status)
}

type zeros struct{}

func (zeros) Read(p []byte) (int, error) { return len(p), nil }

func strangers(url string, n int, bytes int64) string {
	return together(n, func(int) string {
		req, err := http.NewRequest("POST", url+"/api/bundles", io.LimitReader(zeros{}, bytes))
		if err != nil {
			return err.Error()
		}
		req.ContentLength = bytes
		req.Header.Set("Content-Type", "application/zip")
		resp, err := http.DefaultClient.Do(req)
		if err != nil {
			return "closed"
		}
		defer resp.Body.Close()
		return fmt.Sprint(resp.StatusCode)
	})
}

// slowReaders read 32 kB at a time with a small window, for some seconds.
func slowReaders(ana *trial.Client, url, id string, n int) string {
	host := strings.TrimPrefix(url, "http://")
	cookie := ""
	req, _ := http.NewRequest("GET", url, nil)
	for _, c := range ana.Jar.Cookies(req.URL) {
		cookie += c.Name + "=" + c.Value + "; "
	}
	return together(n, func(int) string {
		conn, err := net.Dial("tcp", host)
		if err != nil {
			return "closed"
		}
		defer conn.Close()
		_ = conn.(*net.TCPConn).SetReadBuffer(4096)
		fmt.Fprintf(conn, "GET /api/media/%s HTTP/1.1\r\nHost: %s\r\nCookie: %s\r\n\r\n", id, host, cookie)
		buf := make([]byte, 4096)
		for range 40 {
			if _, err := conn.Read(buf); err != nil {
				return "closed"
			}
			time.Sleep(100 * time.Millisecond)
		}
		return "read on"
	})
}

func asked(c *trial.Client, path string, body any) string {
	return answer(c.Ask("POST", path, body, nil))
}

func saved(c *trial.Client, activity string) string {
	condition := `{"item":"i0","is":"right"},`
	var items []string
	for i := range 500 {
		items = append(items, fmt.Sprintf(`{"id":"i%d","copies":99}`, i))
	}
	doc := `{"format":"keen-magpie/activity","version":1,"id":"a","items":[` + strings.Join(items, ",") + `],"targets":[{"id":"t","frame":{"x":0,"y":0,"w":9,"h":9}}],
		"key":{"solutions":[{"right":{"t":{"all":true}}}]},"replies":[{"id":"r","moment":"placed","when":{"any":[` + strings.TrimSuffix(strings.Repeat(condition, 100), ",") + `]}}]}`
	return answer(c.Ask("PUT", "/api/activities/"+activity+"?revision=1", json.RawMessage(doc), nil))
}

// heaviest makes a draft that is as heavy as one may be, and a link to it.
func heaviest(c *trial.Client) (string, error) {
	var items, targets, right []string
	for i := range 400 {
		items = append(items, fmt.Sprintf(`{"id":"i%d","copies":5}`, i))
	}
	for i := range 50 {
		targets = append(targets, fmt.Sprintf(`{"id":"t%d","frame":{"x":0,"y":0,"w":9,"h":9}}`, i))
		right = append(right, fmt.Sprintf(`"t%d":{"all":true}`, i))
	}
	solution := `{"right":{` + strings.Join(right, ",") + `}},`
	doc := `{"format":"keen-magpie/activity","version":1,"id":"a","title":"Heavy","items":[` + strings.Join(items, ",") + `],"targets":[` + strings.Join(targets, ",") + `],
		"key":{"solutions":[` + strings.TrimSuffix(strings.Repeat(solution, 25), ",") + `]}}`
	var draft server.Draft
	if status, err := c.Ask("POST", "/api/activities", json.RawMessage(doc), &draft); err != nil || status != 201 {
		return "", fmt.Errorf("the heavy draft was answered %d (%v)", status, err)
	}
	var out struct{ Links []string }
	_, err := c.Ask("POST", "/api/activities/"+draft.ID+"/draft-links", nil, &out)
	if err != nil {
		return "", err
	}
	return out.Links[0], nil
}

func opened(url, link string, n int) string {
	return together(n, func(int) string { return answer(trial.Browser(url).Ask("GET", "/api"+link, nil, nil)) })
}

func passwords(url string, n int) string {
	return together(n, func(i int) string {
		return answer(trial.Browser(url).Ask("POST", "/api/session", map[string]string{"email": "ana@cobblelane.example", "password": fmt.Sprint(i)}, nil))
	})
}

func crowd(url, link string, learners, moves int) string {
	var t tally
	var group sync.WaitGroup
	places := make(chan struct{}, 16)
	for i := range learners {
		places <- struct{}{}
		group.Go(func() {
			defer func() { <-places }()
			l, err := trial.Begin(url, link, fmt.Sprintf("Learner %d", i))
			if err != nil {
				t.add("begin refused")
				return
			}
			for range moves {
				m := l.Next()
				ok, status := l.Make(m)
				if ok {
					l.N = m.N
				}
				t.add(fmt.Sprint("move ", status))
			}
		})
	}
	group.Wait()
	return t.String()
}

// wave is a sound of silence.
func wave(n int) []byte {
	b := make([]byte, n)
	copy(b, "RIFF\x00\x00\x00\x00WAVEfmt \x10\x00\x00\x00\x01\x00\x01\x00\x44\xac\x00\x00\x88\x58\x01\x00\x02\x00\x10\x00data")
	binary.LittleEndian.PutUint32(b[4:], uint32(n-8))
	binary.LittleEndian.PutUint32(b[40:], uint32(n-44))
	return b
}

// deepPNG is a square of one colour with 16 bits a channel: some hundred kB, and many pixels.
func deepPNG(side int) []byte {
	var out bytes.Buffer
	part := func(kind string, body []byte) {
		_ = binary.Write(&out, binary.BigEndian, uint32(len(body)))
		out.WriteString(kind)
		out.Write(body)
		_ = binary.Write(&out, binary.BigEndian, crc32.ChecksumIEEE(append([]byte(kind), body...)))
	}
	out.WriteString("\x89PNG\r\n\x1a\n")
	head := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, uint32(side)), uint32(side))
	part("IHDR", append(head, 16, 6, 0, 0, 0))
	var pixels bytes.Buffer
	z := zlib.NewWriter(&pixels)
	row := make([]byte, 1+8*side)
	for range side {
		_, _ = z.Write(row)
	}
	_ = z.Close()
	part("IDAT", pixels.Bytes())
	part("IEND", nil)
	return out.Bytes()
}

func doubling(times int) []byte {
	svg := `<svg xmlns="http://www.w3.org/2000/svg"><g id="a0"><path d="M0 0"/></g>`
	for i := range times {
		svg += fmt.Sprintf(`<g id="a%d"><use href="#a%d"/><use href="#a%d"/></g>`, i+1, i, i)
	}
	return []byte(svg + "</svg>")
}

// sheet is a workbook with one cell, the last that there can be.
func sheet() []byte {
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for _, f := range [][2]string{
		{"[Content_Types].xml", `<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>`},
		{"_rels/.rels", `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>`},
		{"xl/workbook.xml", `<?xml version="1.0"?><workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="S" sheetId="1" r:id="r1"/></sheets></workbook>`},
		{"xl/_rels/workbook.xml.rels", `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`},
		{"xl/worksheets/sheet1.xml", `<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>` + rows(1000) + `<row r="1048576"><c r="XFD1048576" t="inlineStr"><is><t>x</t></is></c></row></sheetData></worksheet>`},
	} {
		w, _ := z.Create(f[0])
		_, _ = io.WriteString(w, f[1])
	}
	_ = z.Close()
	return out.Bytes()
}

func rows(n int) string {
	var b strings.Builder
	for i := range n {
		fmt.Fprintf(&b, `<row r="%d"><c r="XFD%d" t="inlineStr"><is><t>x</t></is></c></row>`, i+1, i+1)
	}
	return b.String()
}
