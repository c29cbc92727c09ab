//go:build !js

package main

import (
	"fmt"
	"os"
)

// Outside a browser it answers one question, for trying it by hand.
func main() {
	if len(os.Args) != 4 {
		fmt.Fprintln(os.Stderr, "usage: engine QUESTION JSON DOCUMENT (it is meant to be built with GOOS=js GOARCH=wasm)")
		os.Exit(2)
	}
	fmt.Println((&engine{}).answer(os.Args[1], os.Args[2], os.Args[3]))
}
