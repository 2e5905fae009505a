import { Button } from "@/kit/Button";
import { useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { useAct } from "@/sync/react";
import { count } from "@/parts/words";

type Proposal = Schemas["RosterProposal"];

/** What other coaches' lists say of one's players, to be taken or left; and what of one's own list waits with them. */
export function Proposals({ list, groupName }: { list: Proposal[]; groupName: (key: string) => string }) {
  if (list.length === 0) return null;
  const mine = list.filter((p) => p.decidable);
  const waits = list.length - mine.length;
  return (
    <section aria-labelledby="proposed" className="sheet mb-2 p-3">
      <h2 id="proposed" className="head">
        Proposed
      </h2>
      {mine.length > 0 && (
        <ul className="mt-1 divide-y divide-rule">
          {mine.map((p) => (
            <Row key={p.id} proposal={p} groupName={groupName} />
          ))}
        </ul>
      )}
      {waits > 0 && (
        <p className="say text-small text-soft">
          {count(waits, "change")} of other coaches&apos; players {waits === 1 ? "waits" : "wait"} for their
          word.
        </p>
      )}
    </section>
  );
}

function Row({ proposal: p, groupName }: { proposal: Proposal; groupName: (key: string) => string }) {
  const { pathname } = useLocation();
  const decide = useAct<undefined>();
  const run = (take: boolean) =>
    void decide.run(
      { act: "proposal", proposal: p.id, take },
      { says: `${p.name}: ${take ? "take" : "leave"} what ${p.by} proposes`, href: pathname },
    );
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
      <span className="min-w-0 flex-1 basis-60">
        <b className="name">{p.name}</b>{" "}
        <span className="say">
          {p.player_id ? p.changes.join(", ") || "as he is" : `new in ${groupName(p.group)}`}
        </span>{" "}
        <span className="label">by {p.by}</span>
        {decide.error && (
          <span role="alert" className="say block text-fault">
            {decide.error}
          </span>
        )}
      </span>
      <span className="flex gap-2">
        <Button off={decide.busy} onClick={() => run(true)} aria-label={`Take it: ${p.name}`}>
          Take it
        </Button>
        <Button kind="quiet" off={decide.busy} onClick={() => run(false)} aria-label={`Leave it: ${p.name}`}>
          Leave it
        </Button>
      </span>
    </li>
  );
}
