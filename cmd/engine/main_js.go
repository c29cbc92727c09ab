//go:build js && wasm

package main

import (
	"runtime/debug"
	"syscall/js"
)

func main() {
	// One question makes little garbage and nothing outlives it, but in a browser the
	// collector has no thread of its own: the first collection waits for 40 MB.
	debug.SetGCPercent(1000)
	e := &engine{progress: func(done int) { js.Global().Call("magpieProgress", done) }}
	js.Global().Set("magpieEngine", js.FuncOf(func(_ js.Value, args []js.Value) any {
		return e.answer(args[0].String(), args[1].String(), args[2].String())
	}))
	select {} // the worker ends it
}
