import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { v7 as uuid } from "uuid";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useSheet, type Of } from "@/sync/sheet";

export type Shape = Schemas["Shape"];
type Drawn = Pick<Schemas["Drawing"], "clip_id" | "frame" | "shapes"> & { by?: string; by_name?: string };

export interface Drawings {
  /** Whether one may draw. */
  may: boolean;
  /** What is drawn on a frame, one's own and others'. */
  on: (clip: string, frame: number) => Drawn[];
  /** The frames of a clip on which something is drawn. */
  frames: (clip: string) => number[];
  add: (clip: string, frame: number, shape: Shape) => void;
  /** Rubs out the last that one drew on a frame; not given where there is nothing of one's own. */
  rubOut: (clip: string, frame: number) => (() => void) | undefined;
}

/** Where nothing is drawn, and nobody may. */
export const nothingDrawn: Drawings = {
  may: false,
  on: () => [],
  frames: () => [],
  add: () => undefined,
  rubOut: () => undefined,
};

/** What is drawn on the frames of the clips: everybody draws on his own sheet over the picture. */
export function useDrawings(footage: Schemas["Footage"] | undefined): Drawings {
  const user = useQuery(queries.session()).data?.user;
  const me = user?.id;
  const may = user !== undefined && user.role !== "health";
  const kind = useMemo((): Of<Drawn> => {
    const clips = new Set(footage?.clips.map((c) => c.id));
    return {
      idOf: (key) => {
        const [what, clip, id] = key.split("/");
        return what === "drawing" && clips.has(clip!) ? id : undefined;
      },
      keyOf: (id, d) => `drawing/${d.clip_id}/${id}`,
      read: (key, content) => {
        const { frame, shapes } = content as Schemas["DrawingInput"];
        return { clip_id: key.split("/")[1]!, frame, shapes, by: me };
      },
      write: (_id, d) => (d ? { frame: d.frame, shapes: d.shapes } : null),
      alike: (a, b) => a?.frame === b?.frame && JSON.stringify(a?.shapes) === JSON.stringify(b?.shapes),
      says: (d) => `Drawing on frame ${d.frame}`,
    };
  }, [footage?.clips, me]);
  const server = useMemo(
    () => new Map<string, Drawn>(footage?.drawings.map((d) => [d.id, d])),
    [footage?.drawings],
  );
  const versions = useMemo(
    () => new Map(footage?.drawings.map((d) => [d.id, d.version])),
    [footage?.drawings],
  );
  const { items, change } = useSheet(server, versions, kind);
  return useMemo(() => {
    const mine = (clip: string, frame: number) =>
      [...items].find(([, d]) => d.clip_id === clip && d.frame === frame && d.by === me);
    return {
      may,
      on: (clip, frame) => [...items.values()].filter((d) => d.clip_id === clip && d.frame === frame),
      frames: (clip) =>
        [...new Set([...items.values()].filter((d) => d.clip_id === clip).map((d) => d.frame))].sort(
          (a, b) => a - b,
        ),
      add: (clip, frame, shape) => {
        const [id, was] = mine(clip, frame) ?? [uuid(), undefined];
        if ((was?.shapes.length ?? 0) >= most) return;
        const shapes = [...(was?.shapes ?? []), shape];
        change(new Map(items).set(id, { clip_id: clip, frame, shapes, by: me }));
      },
      rubOut: (clip, frame) => {
        const found = mine(clip, frame);
        if (!found) return undefined;
        const [id, was] = found;
        return () => {
          const next = new Map(items);
          if (was.shapes.length > 1) next.set(id, { ...was, shapes: was.shapes.slice(0, -1) });
          else next.delete(id);
          change(next);
        };
      },
    };
  }, [items, change, me, may]);
}

/** Shapes on a frame; the contract's bound. */
const most = 40;
