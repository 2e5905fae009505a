import { Button, ButtonLink, FileLink } from "@/kit/Button";
import { Select } from "@/kit/Select";
import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { Link, useSearchParams } from "react-router";
import { queries } from "@/api/queries";
import { useKeys } from "@/keys/react";
import { OutOfBounds } from "@/app/NotFound";
import { useWhere } from "@/app/where";
import { Empty, Loading, Trouble } from "@/kit/States";
import { Card } from "./Card";
import { TeachingHead } from "./Tabs";
import { TechniqueView } from "./TechniqueView";

/** What good looks like, what goes wrong and what fixes it: the techniques of the group. */
export function Teaching() {
  const { group, base } = useWhere();
  const library = useQuery(queries.library(group));
  const [params, setParams] = useSearchParams();
  const list = library.data?.techniques ?? [];
  const at = Math.max(
    0,
    list.findIndex((t) => t.key === params.get("technique")),
  );
  const step = (by: number) => {
    const next = list[(at + by + list.length) % list.length];
    if (next) setParams({ technique: next.key }, { replace: true });
  };
  useKeys(
    list.length > 0
      ? [
          { keys: "]", does: "Next technique", run: () => step(1) },
          { keys: "[", does: "Technique before", run: () => step(-1) },
          { keys: "p", does: "Print the teaching card", run: () => window.print() },
        ]
      : [],
  );
  if (library.error) return <Trouble error={library.error} again={() => void library.refetch()} />;
  if (!library.data) return <Loading what="the library" />;
  const lib = library.data;
  const asked = params.get("technique");
  if (asked && list.length > 0 && !list.some((t) => t.key === asked))
    return (
      <OutOfBounds ways={<ButtonLink to={`${base}/teaching`}>All techniques</ButtonLink>}>
        This group is taught no technique of that name.
      </OutOfBounds>
    );
  const technique = list[at];
  if (!technique)
    return (
      <>
        <TeachingHead title="Techniques" />
        <Empty>
          No technique is taught to this group. Give a technique this group under its Edit, or take in a
          library file under House standards.
        </Empty>
      </>
    );
  return (
    <>
      <TeachingHead title={technique.name}>
        <Button onClick={() => window.print()}>
          Print card <span className="kbd">p</span>
        </Button>
        <FileLink href={`/api/v1/library/export?kind=technique&key=${technique.key}`}>As a file</FileLink>
        {lib.editable && (
          <ButtonLink to={`${base}/teaching/edit/technique/${technique.key}`}>Edit</ButtonLink>
        )}
      </TeachingHead>
      <div className="grid items-start gap-4 screen-only max-md:grid-cols-[minmax(0,1fr)] md:grid-cols-[172px_minmax(0,1fr)]">
        <div className="md:hidden">
          <Select
            label="Technique"
            className="min-h-11 w-full"
            value={technique.key}
            options={list.map((t) => ({ value: t.key, name: t.name }))}
            onChange={(key) => setParams({ technique: key }, { replace: true })}
          />
        </div>
        <nav aria-label="Techniques" className="sheet max-h-[75vh] overflow-auto max-md:hidden">
          {list.map((t) => (
            <Link
              key={t.key}
              to={`${base}/teaching?technique=${t.key}`}
              replace
              aria-current={t === technique ? "page" : undefined}
              className={clsx(
                "name block border-b border-hair px-2.5 py-1.5",
                t === technique ? "bg-ink text-invert" : "hover:bg-stripe",
              )}
            >
              {t.name}
            </Link>
          ))}
        </nav>
        <TechniqueView technique={technique} library={lib} />
      </div>
      <Card technique={technique} library={lib} />
    </>
  );
}
