import { Scroller } from "@/kit/Scroller";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link, useSearchParams } from "react-router";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { Empty, Loading, Trouble } from "@/parts/States";
import { count } from "@/parts/words";
import { TeachingHead } from "./Tabs";

/** Every drill of the group, with what it trains and what it needs. */
export function Drills() {
  const { group, base } = useWhere();
  const library = useQuery(queries.library(group));
  const [params, setParams] = useSearchParams();
  const words = params.get("q") ?? "";
  const found = useMemo(() => {
    const want = words.toLowerCase().split(/\s+/).filter(Boolean);
    return (library.data?.drills ?? []).filter((d) => {
      const text = [
        d.name,
        ...d.aliases,
        ...d.techniques.map((t) => t.name),
        ...d.works_on.map((f) => f.name),
        d.contact,
        d.equipment,
      ]
        .join(" ")
        .toLowerCase();
      return want.every((w) => text.includes(w));
    });
  }, [library.data, words]);
  if (library.error) return <Trouble error={library.error} again={() => void library.refetch()} />;
  if (!library.data) return <Loading what="the drills" />;
  return (
    <>
      <TeachingHead title={count(library.data.drills.length, "drill")}>
        <input
          className="field w-64 max-w-full"
          placeholder="Name, technique, fault, contact, equipment"
          aria-label="Narrow the drills"
          value={words}
          onChange={(e) => setParams(e.target.value ? { q: e.target.value } : {}, { replace: true })}
        />
        {library.data.editable && (
          <Link className="btn" to={`${base}/teaching/edit/drill/new`}>
            Add a drill
          </Link>
        )}
      </TeachingHead>
      {found.length === 0 ? (
        <Empty>No drill has these words.</Empty>
      ) : (
        <Scroller label="Drills" className="sheet">
          <table className="w-full text-small">
            <thead>
              <tr className="label border-b border-ink text-left">
                <th className="p-2">Drill</th>
                <th className="p-2">Works on</th>
                <th className="p-2">Stands on</th>
                <th className="p-2">Contact</th>
                <th className="p-2 text-right">Players a lane</th>
                <th className="p-2 text-right">Lanes</th>
                <th className="p-2 text-right">Rep + reset</th>
                <th className="p-2 text-right">Minutes</th>
              </tr>
            </thead>
            <tbody>
              {found.map((d) => (
                <tr key={d.key} className="border-b border-hair align-baseline">
                  <td className="p-2">
                    <Link className="name text-head hover:underline" to={`${base}/teaching/drills/${d.key}`}>
                      {d.name}
                    </Link>
                    <span className="label block normal-case tracking-normal">
                      {d.techniques.length > 2
                        ? `${d.techniques.length} techniques`
                        : d.techniques.map((t) => t.name).join(", ")}
                    </span>
                  </td>
                  <td className="say max-w-72 p-2">{d.works_on.map((f) => f.name).join(", ")}</td>
                  <td className="p-2">
                    {d.rungs.length > 2
                      ? count(d.rungs.length, "ladder")
                      : d.rungs.map((p) => `${p.name}, stage ${p.number} of ${p.of}`).join("; ")}
                  </td>
                  <td className="p-2">{d.contact}</td>
                  <td className="p-2 text-right">
                    {d.working}
                    {d.helping > 0 && ` + ${d.helping}`}
                  </td>
                  <td className="p-2 text-right">{d.lanes}</td>
                  <td className="whitespace-nowrap p-2 text-right">
                    {d.rep_seconds} + {d.reset_seconds} s
                  </td>
                  <td className="p-2 text-right">{d.minutes}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Scroller>
      )}
    </>
  );
}
