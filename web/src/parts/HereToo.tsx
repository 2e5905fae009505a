import type { Here } from "@/sync/presence";

interface Props {
  others: readonly Here[];
  /** What somebody has before himself, in words; empty when it is not there. */
  name: (what: string) => string;
}

/**
 * Who else of the staff is at the same practice, and at what. Its line is there before anybody is: nothing may move
 * under the hand because somebody came.
 */
export function HereToo({ others, name }: Props) {
  if (others.length === 0) return <p className="label min-h-[1lh]" aria-hidden />;
  const said = [
    ...new Set(
      others.map((h) => {
        const what = h.what && name(h.what);
        return what ? `${h.name} at ${what}` : h.name;
      }),
    ),
  ];
  return (
    <p className="label min-h-[1lh] w-0 min-w-full truncate" aria-label="Here too">
      <span aria-hidden className="text-flag">
        ●{" "}
      </span>
      Here too: {said.join(", ")}
    </p>
  );
}

/** "R. Kell" to "RK": who it is, in the room of a bar. */
export const initials = (name: string) =>
  name
    .split(/\s+/)
    .map((w) => w[0])
    .join("")
    .slice(0, 3);
