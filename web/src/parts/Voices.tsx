import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { useWhere } from "@/app/where";
import { ClaimNote, claims } from "./Trend";

/** What may be claimed of players, with the way to what is behind it. */
export function Voices({ voices }: { voices: Schemas["Voice"][] }) {
  const { base } = useWhere();
  if (voices.length === 0)
    return (
      <p className="say mt-1 text-soft">
        Nothing that may be claimed. That does not mean that nothing changed: small counts stay quiet here on
        purpose.
      </p>
    );
  return (
    <>
      <ul className="divide-y divide-hair">
        {voices.map((v) => (
          <li key={v.player_id + (v.technique ?? "")} className="py-2">
            <p className="say">
              <span className={claims[v.kind].tone} aria-hidden>
                {claims[v.kind].shape}{" "}
              </span>
              <Link
                className="name underline"
                to={`${base}/players/${v.player_id}${v.technique ? `?technique=${v.technique}` : ""}`}
              >
                {v.jersey} {v.name}
              </Link>
              . {v.text}
            </p>
          </li>
        ))}
      </ul>
      <ClaimNote />
    </>
  );
}
