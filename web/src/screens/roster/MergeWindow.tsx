import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, data } from "@/api/client";
import { Window } from "@/parts/Window";
import { count } from "@/parts/words";
import { alike } from "./sort";
import { rosterChanged, type Player } from "./useRoster";

interface Props {
  player: Player;
  all: Player[];
  onClose: () => void;
  onMerged: (text: string) => void;
}

const named = (p: Player) => `${p.jersey} ${p.first_name} ${p.last_name}`.trim();

/** Two entries of one player become one. It cannot be undone, so it says what will happen before it does. */
export function MergeWindow({ player: p, all, onClose, onMerged }: Props) {
  const client = useQueryClient();
  const others = alike(all, p);
  const [into, setInto] = useState(others[0]?.id ?? "");
  const kept = others.find((x) => x.id === into);
  const merge = useMutation({
    mutationFn: () =>
      data(api.POST("/roster/players/{id}/merge", { params: { path: { id: p.id } }, body: { into } })),
    onSuccess: (m) => {
      rosterChanged(client);
      onMerged(`${named(p)} and ${named(m.player)} are one player now: ${count(m.marks, "mark")} moved.`);
      onClose();
    },
  });
  return (
    <Window open onOpenChange={(open) => !open && onClose()} title={`${named(p)} is the same player as …`}>
      {others.length === 0 ? (
        <p className="say">There is no other entry that you may change.</p>
      ) : (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            merge.mutate();
          }}
        >
          <label className="grid gap-0.5">
            <span className="label">The entry that stays</span>
            <select className="field" value={into} onChange={(e) => setInto(e.target.value)}>
              {others.map((x) => (
                <option key={x.id} value={x.id}>
                  {named(x)}
                  {x.archived ? " (archived)" : ""}, {count(x.marks, "mark")}
                </option>
              ))}
            </select>
          </label>
          {kept && (
            <p className="say mt-3">
              {count(p.marks, "mark")} of this season, those of seasons before, availability, groups and what
              coaches decided go from <b>{named(p)}</b> to <b>{named(kept)}</b>. Where both have a mark of one
              rep the newer one stands. The entry {named(p)} leaves the list. <b>This cannot be undone.</b>
            </p>
          )}
          {merge.error && (
            <p role="alert" className="say mt-2 text-small text-fault">
              {merge.error.message}
            </p>
          )}
          <button type="submit" className="btn btn-main mt-3" disabled={merge.isPending || !kept}>
            Make them one
          </button>
        </form>
      )}
    </Window>
  );
}
