//go:build !js || !wasm

package main

func main() { panic("this is for the browser: build it with GOOS=js GOARCH=wasm") }
