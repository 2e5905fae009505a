import { Button } from "@/kit/Button";
import { Select } from "@/kit/Select";
import { useState } from "react";
import { useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { useAct } from "@/sync/react";
import { Dialog } from "@/kit/Dialog";
import { count } from "@/parts/words";
import { alike } from "./sort";
import { named, type Player } from "./useRoster";

interface Props {
  player: Player;
  all: Player[];
  onClose: () => void;
  onMerged: (text: string) => void;
}

/** Two entries of one player become one. It cannot be undone, so it says what will happen before it does. */
export function MergeWindow({ player: p, all, onClose, onMerged }: Props) {
  const others = alike(all, p);
  const [into, setInto] = useState(others[0]?.id ?? "");
  const kept = others.find((x) => x.id === into);
  const { pathname } = useLocation();
  const merge = useAct<Schemas["Merged"]>();
  const submit = async () => {
    const m = await merge.run(
      { act: "merge", gone: p.id, into },
      { says: `${named(p)} is the same player as another`, href: pathname },
    );
    if (!m) return;
    onMerged(`${named(p)} and ${named(m.player)} are one player now: ${count(m.marks, "mark")} moved.`);
    onClose();
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`${named(p)} is the same player as …`}>
      {others.length === 0 ? (
        <p className="say">There is no other entry that you may change.</p>
      ) : (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            void submit();
          }}
        >
          <span className="grid gap-0.5">
            <span className="label" aria-hidden>
              The entry that stays
            </span>
            <Select
              label="The entry that stays"
              value={into}
              options={others.map((x) => ({
                value: x.id,
                name: `${named(x)}${x.archived ? " (archived)" : ""}, ${count(x.marks, "mark")}`,
              }))}
              onChange={setInto}
            />
          </span>
          {kept && (
            <p className="say mt-3">
              {count(p.marks, "mark")} of this season, those of seasons before, availability, groups and what
              coaches decided go from <b>{named(p)}</b> to <b>{named(kept)}</b>. Where both have a mark of one
              rep the newer one stands. The entry {named(p)} leaves the list. <b>This cannot be undone.</b>
            </p>
          )}
          {merge.error && (
            <p role="alert" className="say mt-2 text-small text-fault">
              {merge.error}
            </p>
          )}
          <Button type="submit" kind="main" className="mt-3" off={merge.busy || !kept}>
            Make them one
          </Button>
        </form>
      )}
    </Dialog>
  );
}
