// The script of Go's toolchain that starts a module; it comes with the toolchain that built the core, and
// puts Go beside the window's own names.
declare global {
  class Go {
    importObject: WebAssembly.Imports;
    run(instance: WebAssembly.Instance): Promise<void>;
  }
}
export {};
