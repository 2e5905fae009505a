import { Button, FilePick } from "@/kit/Button";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { v7 as uuid } from "uuid";
import { upload, type Schemas } from "@/api/client";
import { useMadeOld } from "@/api/sending";
import { count } from "@/parts/words";
import { SideBySide } from "./SideBySide";
import { Refusal } from "@/kit/States";

type Preview = Schemas["LibraryPreview"];

const ref = (e: Preview["entries"][number]) => `${e.kind} ${e.key}`;

function send(path: string, file: File, id?: string, take?: string[]): Promise<Preview> {
  const form = new FormData();
  form.set("file", file);
  if (id) form.set("id", id);
  if (take) form.set("take", JSON.stringify(take));
  return upload<Preview>(`/library/${path}`, form, id);
}

/** Taking a library file in: every entry seen first, then the chosen ones in one go, or none. */
export function TakeIn() {
  const madeOld = useMadeOld();
  const [file, setFile] = useState<File>();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [id, setId] = useState(() => uuid());
  const preview = useMutation({ mutationFn: (f: File) => send("import/preview", f) });
  const take = useMutation({
    mutationFn: (list: string[]) => send("import", file!, id, list),
    onSuccess: () => {
      setId(uuid());
      void madeOld("importLibrary");
    },
  });
  const news = preview.data?.entries.filter((e) => e.action !== "same") ?? [];
  const chosen = news.map(ref).filter((r) => !left.has(r));
  const error = preview.error ?? take.error;
  return (
    <section className="sheet p-3" aria-labelledby="take-in">
      <h2 id="take-in" className="head">
        Take a file in
      </h2>
      <p className="say text-small text-soft">
        A whole library, or one ladder or drill from another club, as YAML or JSON. Entries are matched by
        key; nothing is taken away, and nothing changes before you have seen it.
      </p>
      <FilePick
        className="mt-2"
        accept=".yaml,.yml,.json,application/json,text/yaml"
        onPick={(f) => {
          setFile(f);
          setLeft(new Set());
          take.reset();
          preview.mutate(f);
        }}
      >
        Choose the file
      </FilePick>
      {file && <span className="say ml-2 text-small">{file.name}</span>}
      {error && <Refusal className="mt-2">{error.message} Nothing was taken in.</Refusal>}
      {take.data && (
        <p role="status" className="say mt-2 text-good">
          Taken in as one version.
        </p>
      )}
      {preview.data && !take.data && (
        <>
          <p className="say mt-2" role="status">
            {preview.data.create} new, {preview.data.change} changed, {preview.data.same} the same
          </p>
          <ul className="mt-1 max-h-80 divide-y divide-hair overflow-auto">
            {news.map((e) => (
              <li key={ref(e)} className="py-1">
                <label className="flex items-baseline gap-2">
                  <input
                    type="checkbox"
                    checked={!left.has(ref(e))}
                    onChange={(x) => {
                      const next = new Set(left);
                      if (x.target.checked) next.delete(ref(e));
                      else next.add(ref(e));
                      setLeft(next);
                    }}
                  />
                  <span className="label">{e.action === "create" ? "new" : "changed"}</span>
                  <span className="name">
                    {e.kind} {e.name}
                  </span>
                </label>
                {e.fields.length > 0 && (
                  <SideBySide
                    left="Here"
                    right="File"
                    rows={e.fields.map((f) => [f.field, f.ours, f.theirs])}
                  />
                )}
              </li>
            ))}
          </ul>
          {news.length > 0 && (
            <Button
              kind="main"
              className="mt-2"
              off={take.isPending || chosen.length === 0}
              onClick={() => take.mutate(chosen)}
            >
              Take in {count(chosen.length, "entry", "entries")}
            </Button>
          )}
        </>
      )}
    </section>
  );
}
