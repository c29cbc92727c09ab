package reply

// english says what was found where a condition does not hold, by its codes. The form is that
// of [message.Line].
var english = map[string]string{
	"found":            "{n}",
	"no-limit":         "no limit",
	"not-so":           "{not} ({found})",
	"nothing-put-down": "no piece has just been put down",
	"state/empty":      "empty",
	"state/part":       "partly correct",
	"state/right":      "correct",
	"state/wrong":      "nothing correct in it",
	"where/home":       "at its start",
	"where/loose":      "outside all targets",
	"where/right":      "correct in {target}",
	"where/wrong":      "wrong in {target}",
}
