//go:build js && wasm

package main

import "syscall/js"

func main() {
	js.Global().Set("magpieEngine", js.FuncOf(func(_ js.Value, args []js.Value) any {
		return answer(args[0].String(), args[1].String(), args[2].String())
	}))
	select {} // the worker ends it
}
