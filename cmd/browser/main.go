//go:build js && wasm

// Command browser is the core as the front end loads it: one function, nineyard(what, question),
// which answers with JSON or with an Error.
package main

import (
	"syscall/js"

	"nineyard/internal/browser"
)

func main() {
	js.Global().Set("nineyard", js.FuncOf(func(_ js.Value, args []js.Value) any {
		answer, err := browser.Ask(args[0].String(), args[1].String())
		if err != nil {
			return js.Global().Get("Error").New(err.Error())
		}
		return answer
	}))
	select {}
}
