import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import type { Core } from "@/core";
import { useKeys, type Key } from "@/keys/react";
import { undoKeys } from "@/parts/undoKeys";
import * as P from "./periods";
import type { Editing } from "./useScript";

/** What may be done to a period at once, by key and by button alike. */
export function actsOf(
  { items: script, change }: Editing,
  id: string,
  groups: Schemas["GroupRef"][],
  choose: (id: string | undefined) => void,
) {
  const p = script.get(id);
  return {
    split: () => p && change(P.split(script, id, p.start + Math.ceil(p.minutes / 2), uuid())),
    copy: () => {
      const next = uuid();
      change(P.copied(script, id, next));
      choose(next);
    },
    join: (other: string) =>
      change(
        P.joined(
          script,
          id,
          other,
          groups.map((g) => g.key),
        ),
      ),
    out: () => {
      change(P.without(script, id));
      choose(undefined);
    },
  };
}

interface KeyProps {
  editing: Editing;
  practice: Schemas["Practice"];
  groups: Schemas["GroupRef"][];
  chosen?: string;
  choose: (id: string | undefined) => void;
  mine: (id: string) => boolean;
  core?: Core;
  openText: () => void;
  openLate: () => void;
  lay?: (start: number, minutes: number, groups: string[]) => void;
}

/** The keys of the script: only those that do something now. */
export function useScriptKeys({
  editing,
  practice,
  groups,
  chosen,
  choose,
  mine,
  core,
  openText,
  openLate,
  lay,
}: KeyProps) {
  const { items: script, change } = editing;
  const length = practice.practice.minutes;
  const order = P.inOrder(
    script,
    groups.map((g) => g.key),
  );
  const step = (by: number) => {
    const i = order.findIndex(([id]) => id === chosen);
    choose(order.at(i < 0 ? (by > 0 ? 0 : -1) : (i + by + order.length) % order.length)?.[0]);
  };
  const keys: Key[] = [{ keys: "p", does: "Print for the wall, on one page", run: () => window.print() }];
  if (order.length > 0)
    keys.push(
      { keys: "]", does: "Next period", run: () => step(1) },
      { keys: "[", does: "Period before", run: () => step(-1) },
    );
  const p = chosen ? script.get(chosen) : undefined;
  if (chosen && p && mine(chosen)) {
    const acts = actsOf(editing, chosen, groups, choose);
    const move = (by: number) => () => change(P.moved(script, chosen, p.start + by, length));
    const stretch = (by: number) => () => change(P.changed(script, chosen, { minutes: p.minutes + by }));
    keys.push(
      { keys: "ArrowLeft", does: "A minute earlier", run: move(-1) },
      { keys: "ArrowRight", does: "A minute later", run: move(1) },
      { keys: "Shift+ArrowLeft", does: "Five minutes earlier", run: move(-5) },
      { keys: "Shift+ArrowRight", does: "Five minutes later", run: move(5) },
      { keys: "-", does: "A minute less", run: stretch(-1) },
      { keys: "+ =", does: "A minute more", run: stretch(1) },
      { keys: "s", does: "Split it in two", run: acts.split },
      { keys: "c", does: "Copy it behind itself", run: acts.copy },
      { keys: "Delete Backspace", does: "Take it out", run: acts.out },
    );
  }
  if (lay) {
    const everybody = groups.map((g) => g.key);
    keys.push({
      keys: "n",
      does: "New period",
      run: () => lay(p ? Math.min(p.start + p.minutes, length - 5) : 0, 10, everybody),
    });
  }
  if (core && practice.settings.editable)
    keys.push(
      { keys: "t", does: "The script as text", run: openText },
      { keys: "l", does: "It runs late", run: openLate },
    );
  keys.push(...undoKeys(editing));
  useKeys(keys);
}
