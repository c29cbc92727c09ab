//go:build js && wasm

package main

import (
	"runtime/debug"
	"syscall/js"
)

func main() {
	debug.SetGCPercent(1000) // there is no thread for the collector
	e := &engine{}
	js.Global().Set("magpieVisit", js.FuncOf(func(_ js.Value, args []js.Value) any {
		return e.answer(args[0].String(), args[1].String())
	}))
	select {}
}
