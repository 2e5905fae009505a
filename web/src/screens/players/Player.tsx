import { ButtonLink } from "@/kit/Button";
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useKeys } from "@/keys/react";
import { useWhere } from "@/app/where";
import { Title } from "@/kit/Title";
import { Empty, Loading, Trouble } from "@/kit/States";
import { ClaimNote } from "@/parts/Trend";
import { availability, count, feet } from "@/parts/words";
import { EvidenceList } from "./EvidenceList";
import { LadderView } from "./LadderView";
import { OwnStandards } from "./OwnStandards";
import { TechniqueLines } from "./TechniqueLines";

/** One player's development: techniques over the weeks, faults, ladder, and the reps behind every number. */
export function Player() {
  const { id = "" } = useParams();
  const { group, week, base } = useWhere();
  const player = useQuery(queries.player(id, group, week));
  const matrix = useQuery(queries.players(group, week));
  const [params, setParams] = useSearchParams();
  const technique = params.get("technique") ?? undefined;
  const fault = params.get("fault") ?? undefined;
  const order = matrix.data?.players.map((p) => p.player.id) ?? [];
  const at = order.indexOf(id);
  const neighbour = (by: number) =>
    order.length > 0 ? `${base}/players/${order[(at + by + order.length) % order.length]}` : "";
  const navigate = useNavigate();
  useKeys(
    order.length > 1
      ? [
          { keys: "]", does: "Next player", run: () => void navigate(neighbour(1)) },
          { keys: "[", does: "Player before", run: () => void navigate(neighbour(-1)) },
        ]
      : [],
  );
  if (player.error) return <Trouble error={player.error} again={() => void player.refetch()} />;
  if (!player.data) return <Loading what="the player" />;
  const sheet = player.data;
  const show = (next: { technique?: string; fault?: string }) => {
    setParams(Object.fromEntries(Object.entries(next).filter(([, v]) => v)) as Record<string, string>, {
      replace: true,
    });
  };
  const chosen =
    sheet.techniques.find((t) => t.technique === technique) ?? sheet.techniques.find((t) => t.ladder);
  return (
    <>
      <header className="mb-3 flex flex-wrap items-end gap-x-4 gap-y-2">
        <span className="text-[52px] font-extrabold leading-[0.85] [font-stretch:85%]">
          {sheet.player.jersey || "–"}
        </span>
        <div>
          <p className="label">{describe(sheet.player)}</p>
          <Title page={`${sheet.player.first_name} ${sheet.player.last_name}`}>
            {sheet.player.first_name} {sheet.player.last_name}
          </Title>
        </div>
        <p className="head ml-auto text-right">
          <span className="label block">This season</span>
          {count(sheet.game_reps, "game rep")} · {count(sheet.practice_reps, "practice rep")}
        </p>
        <nav aria-label="Players" className="flex gap-2">
          <ButtonLink kind="quiet" to={neighbour(-1)}>
            <span aria-hidden>←</span>
            <span className="sr-only">Player before</span> <span className="kbd max-md:hidden">[</span>
          </ButtonLink>
          <ButtonLink kind="quiet" to={neighbour(1)}>
            <span className="sr-only">Next player</span>
            <span aria-hidden>→</span> <span className="kbd max-md:hidden">]</span>
          </ButtonLink>
        </nav>
      </header>
      {sheet.player.status === "head_hold" && (
        <p role="alert" className="say mb-3 border-2 border-fault bg-fault-wash p-2">
          <b>Medical hold.</b> {sheet.player.note} A coach cannot clear him; a licensed health professional
          does, in writing. He is in no plan, lane or rep count until then.
        </p>
      )}
      {sheet.techniques.length === 0 ? (
        <Empty>No marks yet this season. They appear here as soon as his first rep is marked.</Empty>
      ) : (
        <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 xl:grid-cols-[minmax(0,1fr)_300px]">
          <TechniqueLines sheet={sheet} week={week} chosen={technique} fault={fault} onShow={show} />
          <div className="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-4 md:grid-cols-2 xl:grid-cols-1">
            <Plainly lines={sheet.plain} />
            {chosen?.ladder && <LadderView ladder={chosen.ladder} />}
            {chosen && <Sides line={chosen} />}
            <OwnStandards sheet={sheet} technique={chosen?.technique} />
          </div>
          {(technique ?? fault) && (
            <div className="min-w-0 xl:col-span-2">
              <EvidenceList
                player={id}
                technique={technique}
                fault={fault}
                title={titleOf(sheet, technique, fault)}
                onClose={() => show({})}
              />
            </div>
          )}
        </div>
      )}
    </>
  );
}

function titleOf(sheet: Schemas["PlayerSheet"], technique?: string, fault?: string): string {
  if (fault) return sheet.faults.find((f) => f.fault === fault)?.name ?? fault;
  return sheet.techniques.find((t) => t.technique === technique)?.name ?? technique ?? "";
}

function describe(p: Schemas["Player"]): string {
  return [
    p.position,
    p.returning ? "returner" : "first season here",
    availability[p.status],
    p.height_in && feet(p.height_in),
    p.weight_lb && `${p.weight_lb} lb`,
  ]
    .filter(Boolean)
    .join(" · ");
}

/** Left and right are one technique mirrored; their totals are kept apart. */
function Sides({ line }: { line: Schemas["TechniqueLine"] }) {
  const sides = [
    { word: "left", c: line.left },
    { word: "right", c: line.right },
  ];
  if (sides.every(({ c }) => c.clean + c.faulty === 0)) return null;
  return (
    <section className="sheet p-3" aria-label="Left and right">
      <h2 className="head">Left and right: {line.name.toLowerCase()}</h2>
      {sides.map(({ word, c }) => {
        const n = c.clean + c.faulty;
        return (
          <p key={word} className="mt-1 flex items-center gap-2 text-small">
            <span className="label w-10">{word}</span>
            <span className="h-2.5 flex-1 border border-rule">
              <span className="block h-full bg-ink" style={{ width: `${n ? (100 * c.clean) / n : 0}%` }} />
            </span>
            <span className="w-20 text-right">
              {c.clean} of {n}
            </span>
          </p>
        );
      })}
      {line.imbalance && <p className="say mt-1 text-small text-watch">{line.imbalance}</p>}
    </section>
  );
}

function Plainly({ lines }: { lines: string[] }) {
  return (
    <section className="sheet p-3" aria-labelledby="plainly">
      <h2 id="plainly" className="head mb-1">
        Said plainly
      </h2>
      {lines.map((line) => {
        const [lead, rest] = line.includes(": ")
          ? [line.slice(0, line.indexOf(": ") + 1), line.slice(line.indexOf(": ") + 1)]
          : ["", line];
        return (
          <p key={line} className="say mt-1">
            {lead && <b>{lead}</b>}
            {rest}
          </p>
        );
      })}
      <ClaimNote />
    </section>
  );
}
