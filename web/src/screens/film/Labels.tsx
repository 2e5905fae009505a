import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { Dialog } from "@/kit/Dialog";
import { Loading } from "@/kit/States";
import { AllNotSaved } from "@/parts/NotSaved";
import { useSheet } from "@/sync/sheet";
import { PlayForm } from "./PlayForm";
import { PlayHistory } from "./PlayHistory";
import { playsOf } from "./plays";

interface Props {
  game: string;
  play: string;
  open: boolean;
  onClose: () => void;
}

/** The labels of the play that is watched, corrected without leaving it: what is left is saved, and all that rests on it follows. */
export function Labels({ open, onClose, ...rest }: Props) {
  return (
    <Dialog open={open} onOpenChange={(o) => !o && onClose()} title="Labels" wide>
      {open && <Editing {...rest} onClose={onClose} />}
    </Dialog>
  );
}

function Editing({ game, play, onClose }: Omit<Props, "open">) {
  const plays = useQuery(queries.gamePlays(game)).data;
  return plays ? <Form {...{ plays, play, onClose }} /> : <Loading what="the labels" />;
}

function Form({ plays, play, onClose }: { plays: Schemas["GamePlays"]; play: string; onClose: () => void }) {
  const game = plays.game.id;
  const kind = useMemo(() => playsOf(game), [game]);
  const server = useMemo(() => new Map(plays.plays.map((p) => [p.id, p.play])), [plays.plays]);
  const versions = useMemo(() => new Map(plays.plays.map((p) => [p.id, p.version])), [plays.plays]);
  const editing = useSheet(server, versions, kind);
  const now = editing.items.get(play);
  if (!now) return <p className="say">The play was taken out.</p>;
  return (
    <div className="grid gap-3">
      <AllNotSaved editing={editing} only={play} />
      <PlayForm
        play={now}
        all={editing.items}
        units={plays.units}
        marks={plays.plays.find((p) => p.id === play)?.marks ?? 0}
        fresh
        done="Done"
        onChange={(part) => editing.change(new Map(editing.items).set(play, { ...now, ...part }))}
        onNext={onClose}
      />
      <PlayHistory game={game} play={play} />
    </div>
  );
}
