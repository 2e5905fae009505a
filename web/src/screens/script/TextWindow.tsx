import { useMemo, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import type { Core } from "@/core";
import { Button } from "@/kit/Button";
import { Dialog } from "@/kit/Dialog";
import { Field } from "@/kit/Field";
import { count } from "@/parts/words";

interface Props {
  core: Core;
  sheet: Schemas["ScriptSheet"];
  open: boolean;
  onClose: () => void;
  onTake: (periods: Schemas["ScriptPeriod"][]) => void;
}

/** The whole script as text: typed, pasted, changed; every error by its line and column. */
export function TextWindow({ core, sheet, open, onClose, onTake }: Props) {
  return (
    <Dialog open={open} onOpenChange={(o) => !o && onClose()} title="The script as text" wide>
      {open && <Typing {...{ core, sheet, onClose, onTake }} />}
    </Dialog>
  );
}

function Typing({ core, sheet, onClose, onTake }: Omit<Props, "open">) {
  const [text, setText] = useState(() => core.write(sheet));
  const read = useMemo(() => core.read(sheet, text), [core, sheet, text]);
  const templates = useMemo(() => core.templates(sheet), [core, sheet]);
  const area = useRef<HTMLTextAreaElement>(null);
  const goTo = (p: Schemas["TextProblem"]) => {
    const lines = text.split("\n");
    const at = lines.slice(0, p.line - 1).reduce((n, l) => n + l.length + 1, 0) + p.column - 1;
    area.current?.focus();
    area.current?.setSelectionRange(at, Math.min(at + 1, text.length));
  };
  const take = () => {
    if (read.problems.length > 0) return goTo(read.problems[0]!);
    onTake(read.periods);
    onClose();
  };
  return (
    <div className="grid gap-2">
      <p className="flex flex-wrap items-center gap-1.5">
        <span className="label">Begin with</span>
        {templates.map((t) => (
          <Button key={t.name} kind="quiet" className="text-small" onClick={() => setText(t.text)}>
            {t.name}, {t.minutes} min
          </Button>
        ))}
      </p>
      <Field
        label="One line a period"
        hint={
          <>
            Time or minutes, kind or a name in quotes, groups, contact, @place. <code>&amp;</code> begins with
            the line before. Also: <code>with</code> coaches, <code>needs</code> groups, <code>uses</code>{" "}
            chutes:5, <code>rep</code> 6.
          </>
        }
      >
        {(control) => (
          <textarea
            {...control}
            ref={area}
            rows={18}
            spellCheck={false}
            className="field w-full font-mono text-small leading-5 whitespace-pre"
            value={text}
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) {
                e.preventDefault();
                take();
              }
            }}
          />
        )}
      </Field>
      <div role="status" className="grid max-h-28 gap-1 overflow-auto">
        {read.problems.length === 0 ? (
          <p className="say text-small text-soft">
            {count(read.periods.length, "period")}, all of it can be read.
          </p>
        ) : (
          read.problems.map((p) => (
            <Button
              key={`${p.line}:${p.column}${p.message}`}
              kind="text"
              className="text-left text-small text-fault"
              onClick={() => goTo(p)}
            >
              Line {p.line}, column {p.column}: {p.message}
            </Button>
          ))
        )}
      </div>
      <div className="flex gap-2">
        <Button kind="main" off={read.problems.length > 0} onClick={take}>
          Make this the script <span className="kbd">Ctrl+Enter</span>
        </Button>
        <Button kind="quiet" onClick={onClose}>
          Leave it as it was
        </Button>
      </div>
    </div>
  );
}
