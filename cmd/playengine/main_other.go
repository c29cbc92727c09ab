//go:build !js

package main

import (
	"fmt"
	"os"
)

// Outside a browser it answers questions one after the other, for trying it by hand.
func main() {
	e := &engine{}
	for i := 1; i+1 < len(os.Args); i += 2 {
		fmt.Println(e.answer(os.Args[i], os.Args[i+1]))
	}
}
