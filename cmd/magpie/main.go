// Command magpie is Keen Magpie's one program: it serves the application, runs the
// demo with a private database, and runs the core on the command line.
package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"

	"github.com/alecthomas/kong"

	"keenmagpie/core/activity"
	"keenmagpie/server"
)

type cli struct {
	Serve   serveCmd         `cmd:"" help:"Serve the application on a database of yours."`
	Demo    demoCmd          `cmd:"" help:"Serve the demo, with a private database."`
	Migrate migrateCmd       `cmd:"" help:"Bring a database's schema up to date."`
	Backup  backupCmd        `cmd:"" help:"Write all that there is into a file, while the application goes on."`
	Restore restoreCmd       `cmd:"" help:"Fill an empty database from such a file."`
	Doctor  doctorCmd        `cmd:"" help:"Look at an installation, and say what should be seen to."`
	Judge   judgeCmd         `cmd:"" help:"Judge arrangements, one a line."`
	Replay  replayCmd        `cmd:"" help:"Replay moves, one a line."`
	Prove   proveCmd         `cmd:"" help:"Say what can be known before anyone plays."`
	Stats   statsCmd         `cmd:"" help:"Say what the learners of many sittings did."`
	Pack    packCmd          `cmd:"" help:"Make a package of an activity or a series: for a learning platform, a web server, or a bundle."`
	QTI     qtiCmd           `cmd:"" name:"qti" help:"Read and write items and packages of QTI."`
	Standin standinCmd       `cmd:"" help:"Start the learning platform that stands in for one, alone."`
	OpenAPI openapiCmd       `cmd:"" name:"openapi" help:"Write the API's OpenAPI document."`
	Account accountCmd       `cmd:"" help:"Let people in: add an account, reset a password, list who there is."`
	Version kong.VersionFlag `help:"Print the version."`
	Schema  schemaCmd        `cmd:"" help:"Write the JSON Schema of the activity document, or of a series."`
}

// version is set by what builds a package.
var version = "of a working tree"

func main() {
	parser, err := commands(new(cli))
	if err == nil {
		var asked *kong.Context
		if asked, err = parser.Parse(os.Args[1:]); err == nil {
			err = asked.Run()
		}
	}
	if errors.Is(err, errBadDocument) || errors.Is(err, errNothing) {
		os.Exit(1)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "magpie: "+err.Error())
		os.Exit(1)
	}
}

// commands reads command lines, with the environment and the file of settings beneath.
func commands(c *cli) (*kong.Kong, error) {
	file, err := readSettings()
	if err != nil {
		return nil, err
	}
	return kong.New(c, kong.Name("magpie"), kong.Vars{"version": "Keen Magpie " + version}, kong.DefaultEnvars("MAGPIE"), kong.Resolvers(file),
		kong.Description("Drag-and-drop activities: build, prove, release, and see what learners did."))
}

type openapiCmd struct{}

// Run writes the OpenAPI document.
func (openapiCmd) Run() error {
	body, err := server.OpenAPI()
	if err != nil {
		return err
	}
	_, err = os.Stdout.Write(body)
	return err
}

type schemaCmd struct {
	Series bool `help:"That of a series."`
}

// Run writes the JSON Schema.
func (c *schemaCmd) Run() error {
	schema := activity.Schema(false)
	if c.Series {
		schema = activity.SeriesSchema(false)
	}
	body, err := json.MarshalIndent(schema, "", " ")
	if err != nil {
		return err
	}
	_, err = fmt.Println(string(body))
	return err
}
