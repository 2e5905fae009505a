import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useWhere } from "@/app/where";
import { ButtonLink } from "@/kit/Button";
import { Scroller } from "@/kit/Scroller";
import { Empty, Loading, Trouble } from "@/kit/States";
import { unit } from "@/parts/Standard";
import { TeachingHead } from "./Tabs";

type Entry = Schemas["TableEntry"];

/** What a call decides: numbers that standards are measured against, and answers to what is seen. */
export function Tables() {
  const { group, base } = useWhere();
  const library = useQuery(queries.library(group));
  if (library.error) return <Trouble error={library.error} again={() => void library.refetch()} />;
  if (!library.data) return <Loading what="the tables" />;
  const { tables, editable } = library.data;
  return (
    <>
      <TeachingHead title="What the call decides">
        {editable && <ButtonLink to={`${base}/teaching/edit/table/new`}>Add a table</ButtonLink>}
      </TeachingHead>
      <p className="say mb-3 max-w-prose text-soft">
        A depth, a width or an answer that changes with the call is looked up here. The numbers are the
        house&apos;s own to change.
      </p>
      {tables.length === 0 && <Empty>No table is read by this group.</Empty>}
      <div className="gap-3 xl:columns-2">
        {tables.map((t) => (
          <Rows key={t.key} table={t} edit={editable ? `${base}/teaching/edit/table/${t.key}` : undefined} />
        ))}
      </div>
    </>
  );
}

function Rows({ table: t, edit }: { table: Entry; edit?: string }) {
  const landmarks = t.rows.some((r) => r.of);
  return (
    <section
      id={t.key}
      className="sheet mb-3 min-w-0 break-inside-avoid p-3"
      aria-labelledby={`table-${t.key}`}
    >
      <div className="flex items-baseline gap-3">
        <h2 id={`table-${t.key}`} className="head">
          {t.name}
        </h2>
        {edit && (
          <Link className="textual ml-auto" to={edit}>
            change<span className="sr-only"> {t.name}</span>
          </Link>
        )}
      </div>
      <Scroller label={t.name}>
        <table className={`mt-1 w-full text-small ${t.columns.length > 2 ? "min-w-[34rem]" : ""}`}>
          <thead>
            <tr className="text-left">
              <th scope="col" className="label py-1 pr-3">
                Call
              </th>
              {t.columns.map((c) => (
                <th key={c.key} scope="col" className={`label py-1 pr-3 ${c.unit ? "text-right" : ""}`}>
                  {c.name ?? c.key.replaceAll("_", " ")}
                  {c.unit && c.unit !== c.key && (
                    <span className="normal-case">, {unit({ unit: c.unit })}</span>
                  )}
                </th>
              ))}
              {landmarks && (
                <th scope="col" className="label py-1">
                  From
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {t.rows.map((r, i) => (
              <tr key={i} className="border-t border-hair align-baseline">
                <th scope="row" className="name py-1 pr-3 text-left">
                  {r.call}
                  {r.when && <span className="say block font-normal text-soft">{r.when}</span>}
                </th>
                {t.columns.map((c) => (
                  <td key={c.key} className={`py-1 pr-3 ${c.unit ? "text-right font-bold" : "say"}`}>
                    {c.unit ? (r.numbers?.[c.key] ?? "–") : (r.words?.[c.key] ?? "–")}
                  </td>
                ))}
                {landmarks && <td className="say py-1 text-soft">{r.of}</td>}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroller>
      {t.add && (
        <p className="say mt-1 text-small text-soft">
          {t.add.column.replaceAll("_", " ")}: {t.add.by} more for each {t.add.per} yards beyond{" "}
          {t.add.beyond} to go.
        </p>
      )}
    </section>
  );
}
