import { Scroller } from "@/kit/Scroller";
import clsx from "clsx";
import type { Schemas } from "@/api/client";

const shape: Record<string, string> = { w: "■", l: "L", r: "R", h: "▨", ".": "·" };
const word: Record<string, string> = {
  w: "works",
  l: "works to the left",
  r: "works to the right",
  h: "helps",
  ".": "waits",
};

/** Who works, helps and waits in each cycle of a drill, as a small table that prints. */
export function RotationTable({ rotation: r }: { rotation: Schemas["Rotation"] }) {
  const sides = r.rows.some((row) => row.left + row.right > 0);
  return (
    <Scroller label="Rotation">
      <table className="text-small" aria-label="Rotation">
        <thead>
          <tr className="label text-left">
            <th className="pr-3">Player</th>
            <th className="pr-3 text-right">Works</th>
            {sides && <th className="whitespace-nowrap pr-3 text-right">L / R</th>}
            <th className="pr-3 text-right">Helps</th>
            <th className="pr-4 text-right">Waits</th>
            <th className="whitespace-nowrap">Cycles 1 to {r.cycles}</th>
          </tr>
        </thead>
        <tbody>
          {r.rows.map((row) => (
            <tr key={row.jersey + row.name} className="border-t border-hair">
              <td className="name whitespace-nowrap pr-3">
                {row.jersey} {row.name}
                {row.help_only && <span className="label ml-1 text-watch">helps only</span>}
              </td>
              <td className="pr-3 text-right font-bold">{row.working}</td>
              {sides && (
                <td className="whitespace-nowrap pr-3 text-right">
                  {row.left} / {row.right}
                </td>
              )}
              <td className="pr-3 text-right">{row.helping}</td>
              <td className="pr-4 text-right">{row.waiting}</td>
              <td className="whitespace-nowrap">
                <span className="sr-only">{[...row.roles].map((role) => word[role]).join(", ")}</span>
                {[...row.roles].map((role, i) => (
                  <span
                    key={i}
                    className={clsx(
                      "inline-block w-[1.15em] text-center",
                      role === "." && "text-soft",
                      "lrw".includes(role) && "font-bold",
                    )}
                  >
                    <span aria-hidden>{shape[role]}</span>
                  </span>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="label mt-2 normal-case tracking-normal">
        {sides ? "L R works to that side" : "■ works"} · ▨ helps · dot waits. Nobody works or helps more than
        one turn more than another; limited players stay out of contact.
      </p>
    </Scroller>
  );
}
