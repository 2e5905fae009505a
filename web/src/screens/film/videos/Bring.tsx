import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Button, FilePick } from "@/kit/Button";
import { Select } from "@/kit/Select";
import { accept, cameras, gigabytes } from "./cameras";
import { lookInto, markOf, type Looked } from "./looked";

interface BringProps {
  videos: Schemas["Videos"];
  /** The camera that one mostly has. */
  usual: string;
  onSend: (file: File, view: string, seen: Looked) => void;
  onStay: (file: File, view: string, seen: Looked, digest: string) => void;
}

/** A file is looked into, and then it is sent or stays. */
export function Bring({ videos, usual, onSend, onStay }: BringProps) {
  const [view, setView] = useState(usual);
  const [chosen, setChosen] = useState<{ file: File; seen?: Looked; wrong?: string }>();
  const look = (file: File) => {
    setChosen({ file });
    lookInto(file).then(
      (seen) => setChosen({ file, seen }),
      (e: unknown) => setChosen({ file, wrong: e instanceof Error ? e.message : String(e) }),
    );
  };
  const large = chosen && chosen.file.size > Math.min(videos.largest, videos.limit - videos.used);
  return (
    <section className="sheet max-w-3xl p-3" aria-labelledby="bring">
      <h2 id="bring" className="label">
        Another video
      </h2>
      <span className="mt-1 flex flex-wrap items-center gap-2">
        <Select label="Camera" value={view} options={cameras} onChange={setView} />
        <FilePick accept={accept} onPick={look}>
          Choose a WebM or MP4
        </FilePick>
        {chosen && <span className="say min-w-0 break-words">{chosen.file.name}</span>}
      </span>
      {chosen && !chosen.seen && !chosen.wrong && <p className="say mt-2 text-soft">Looking into it</p>}
      {chosen?.wrong && (
        <p role="alert" className="say mt-2 text-fault">
          {chosen.file.name} cannot be used: {chosen.wrong}.
        </p>
      )}
      {chosen?.seen && (
        <span className="mt-2 flex flex-wrap items-center gap-2">
          <span className="say text-small text-soft">
            {chosen.seen.width} × {chosen.seen.height},{" "}
            {Math.round((100 * chosen.seen.fps_num) / chosen.seen.fps_den) / 100} pictures a second,{" "}
            {gigabytes(chosen.file.size)}
          </span>
          <Button
            kind="main"
            off={large}
            onClick={() => {
              onSend(chosen.file, view, chosen.seen!);
              setChosen(undefined);
            }}
          >
            Send it
          </Button>
          <Button
            onClick={() =>
              void markOf(chosen.file).then(
                (digest) => {
                  onStay(chosen.file, view, chosen.seen!, digest);
                  setChosen(undefined);
                },
                (e: unknown) =>
                  setChosen({ file: chosen.file, wrong: e instanceof Error ? e.message : String(e) }),
              )
            }
          >
            Leave it on this machine
          </Button>
          {large && (
            <span className="say text-small text-fault">
              It is larger than what the club may still keep; it can stay on this machine.
            </span>
          )}
        </span>
      )}
      <p className="say mt-2 text-small text-soft">
        A video that is sent goes on where it broke off, also another day: choose the same file again. One
        that stays is never sent; only where its plays or reps are, and the marks.
      </p>
    </section>
  );
}
