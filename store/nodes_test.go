package store

import (
	"strings"
	"testing"
)

// Of a data source name only the servers are taken apart, whatever else stands in it.
func TestServersOfADataSourceName(t *testing.T) {
	for _, x := range []struct{ dsn, want string }{
		{"magpie:secret@tcp(a:3306,b:3306)/magpie?tls=true", "magpie:secret@tcp(|a:3306,b:3306|)/magpie?tls=true"},
		{"magpie:se@cr/et(tcp(@tcp(a:3306)/magpie", "magpie:se@cr/et(tcp(@tcp(|a:3306|)/magpie"},
		{"magpie@unix(/run/a,b.sock)/magpie", "magpie@unix(/run/a,b.sock)/magpie||"},
		{"nonsense", "nonsense||"},
	} {
		before, addresses, after := cutAddresses(x.dsn)
		if got := strings.Join([]string{before, addresses, after}, "|"); got != x.want {
			t.Errorf("%s\nis cut into %s", x.dsn, got)
		}
		if c, err := connector(x.dsn, false); (err == nil) != (x.dsn != "nonsense") {
			t.Errorf("%s: %v, %v", x.dsn, c, err)
		}
	}
}
