import { Button } from "@/kit/Button";
import { useState } from "react";
import { Dialog } from "@/kit/Dialog";
import { isCharacter } from "./match";
import { useShownKeys, type Key } from "./react";
import { keysOf } from "./registry";
import { setKeySettings, useKeySettings } from "./settings";

/** The keys of the screen behind it, made from what is bound now; those of one character can be changed or turned off. */
export function KeysWindow({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Keys of this screen">
      <Keys />
    </Dialog>
  );
}

function Keys() {
  const keys = useShownKeys();
  const settings = useKeySettings();
  const [changing, setChanging] = useState<string>();
  return (
    <>
      <label className="flex min-h-7 items-center gap-2">
        <input
          type="checkbox"
          checked={!settings.off}
          onChange={(e) => setKeySettings({ ...settings, off: !e.target.checked })}
        />
        Keys of one character work on this device
      </label>
      <p className="say mt-1 text-small text-soft">
        Turn them off if you dictate, or if a key is pressed by chance. Everything they do has a button too.
      </p>
      <dl className="mt-3 grid grid-cols-[auto_1fr_auto] items-center gap-x-4 gap-y-1">
        {keys.map((k) => (
          <KeyLine
            key={k.keys + k.does}
            k={k}
            changing={changing === k.does}
            onChange={() => setChanging(k.does)}
            onDone={() => setChanging(undefined)}
          />
        ))}
      </dl>
    </>
  );
}

interface LineProps {
  k: Key;
  changing: boolean;
  onChange: () => void;
  onDone: () => void;
}

function KeyLine({ k, changing, onChange, onDone }: LineProps) {
  const settings = useKeySettings();
  const all = useShownKeys();
  const now = keysOf(k).split(" ").filter(Boolean);
  const may = !k.given && isCharacter(k.keys) && !settings.off;
  const own = settings.instead[k.does] !== undefined;
  const put = (instead?: string) => {
    const rest = { ...settings.instead };
    delete rest[k.does];
    setKeySettings({ ...settings, instead: instead ? { ...rest, [k.does]: instead } : rest });
    onDone();
  };
  return (
    <div className="contents">
      <dt className="flex flex-wrap gap-1">
        {now.length === 0 && <span className="label">off</span>}
        {now.map((one) => (
          <kbd key={one} className="kbd">
            {nameOf(one)}
          </kbd>
        ))}
      </dt>
      <dd className="say">
        {k.does}
        {changing && (
          <Ask
            taken={(c) => all.some((o) => o.does !== k.does && keysOf(o).split(" ").includes(c))}
            onKey={put}
            onLeave={onDone}
          />
        )}
      </dd>
      <dd className="text-right">
        {may && !changing && (
          <span className="inline-flex gap-2">
            {own && (
              <Button kind="text" onClick={() => put()}>
                as it was<span className="sr-only">: {k.does}</span>
              </Button>
            )}
            <Button kind="text" onClick={onChange}>
              change<span className="sr-only">: {k.does}</span>
            </Button>
          </span>
        )}
      </dd>
    </div>
  );
}

/** Asks for the key that shall be pressed instead. */
function Ask({
  taken,
  onKey,
  onLeave,
}: {
  taken: (character: string) => boolean;
  onKey: (character: string) => void;
  onLeave: () => void;
}) {
  const [wrong, setWrong] = useState("");
  return (
    <span className="mt-1 block">
      <input
        className="field w-28"
        aria-label="The key to press instead"
        aria-describedby="key-wrong"
        placeholder="press it"
        value=""
        maxLength={1}
        // The coach asked to change it: the next key is the answer.
        ref={(el) => el?.focus()}
        onKeyDown={(e) => {
          if (e.key === "Escape") {
            e.stopPropagation();
            onLeave();
          }
        }}
        onChange={(e) => {
          const c = e.target.value.trim().toLowerCase();
          if (c === "") return;
          if (taken(c)) setWrong(`“${c}” does something else here.`);
          else onKey(c);
        }}
      />
      <span id="key-wrong" role="alert" className="block text-small text-fault">
        {wrong}
      </span>
    </span>
  );
}

const words: Record<string, string> = {
  ArrowLeft: "←",
  ArrowRight: "→",
  ArrowUp: "↑",
  ArrowDown: "↓",
  "Shift+ArrowLeft": "⇧ ←",
  "Shift+ArrowRight": "⇧ →",
};

/** A key as it stands on the keyboard. */
export const nameOf = (one: string) => words[one] ?? one.replace("Arrow", "");
