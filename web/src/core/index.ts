import { useEffect, useState } from "react";
import { v4 as random } from "uuid";
import type { Schemas } from "@/api/client";
import wasm from "./core.wasm?url";

/**
 * The core of the server, in the browser: the same rules, where an answer is needed while the hand still moves.
 * The server has the last word.
 */
export interface Core {
  /** What is wrong with a script, and who is free. */
  look: (sheet: Schemas["ScriptSheet"]) => Schemas["ScriptLook"];
  /** What would do away with a finding, in one action. */
  mends: (sheet: Schemas["ScriptSheet"], finding: Schemas["Finding"]) => Schemas["Mend"][];
  /** Takes minutes out of what is left of a script from a minute on. */
  late: (sheet: Schemas["ScriptSheet"], from: number, lost: number) => Schemas["LateScript"];
  /** Scripts to begin with. */
  templates: (sheet: Schemas["ScriptSheet"]) => Schemas["ScriptTemplate"][];
  /** A script as text. */
  write: (sheet: Schemas["ScriptSheet"]) => string;
  /** What a text says; what stays of the sheet keeps its id. */
  read: (sheet: Schemas["ScriptSheet"], text: string) => Schemas["ScriptText"];
  /** The play that follows from another: number, down, distance and spot. */
  next: (play: Schemas["PlayInput"]) => Schemas["PlayInput"];
}

type Ask = (what: string, question: string) => string | Error;

/** Makes the core of what the module answers. */
export function coreOf(ask: Ask): Core {
  const answer = <A>(what: string, question: object): A => {
    const said = ask(what, JSON.stringify(question));
    if (said instanceof Error) throw said;
    return JSON.parse(said) as A;
  };
  return {
    look: (sheet) => answer("look", { sheet }),
    mends: (sheet, finding) => answer("mends", { sheet, finding, ids: [random()] }),
    late: (sheet, from, lost) => answer("late", { sheet, from, lost }),
    templates: (sheet) => answer("templates", { sheet }),
    write: (sheet) => answer("write", { sheet }),
    read: (sheet, text) =>
      answer("read", { sheet, text, ids: Array.from({ length: text.split("\n").length }, () => random()) }),
    next: (play) => answer("next", { play }),
  };
}

/** Starts a module that was loaded. */
export async function startCore(start: (imports: WebAssembly.Imports) => Promise<WebAssembly.Instance>) {
  await import("./wasm_exec.js");
  const go = new Go();
  void go.run(await start(go.importObject));
  return coreOf((globalThis as unknown as { nineyard: Ask }).nineyard);
}

let core: Promise<Core> | undefined;

/** Loads the core once; tried again when it could not be loaded. */
export function loadCore(): Promise<Core> {
  core ??= startCore(
    async (imports) => (await WebAssembly.instantiateStreaming(fetch(wasm), imports)).instance,
  ).catch((e: unknown) => {
    core = undefined;
    throw e;
  });
  return core;
}

/** The core, once it is there. */
export function useCore(wanted: boolean): Core | undefined {
  const [loaded, setLoaded] = useState<Core>();
  useEffect(() => {
    if (!wanted) return;
    let here = true;
    // Without it the server still says what is wrong with what is saved.
    loadCore().then(
      (c) => here && setLoaded(c),
      () => undefined,
    );
    return () => {
      here = false;
    };
  }, [wanted]);
  return loaded;
}
