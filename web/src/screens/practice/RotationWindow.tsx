import { useQuery } from "@tanstack/react-query";
import { queries } from "@/api/queries";
import { Loading, Trouble } from "@/parts/States";
import { Window } from "@/parts/Window";

interface Props {
  practice: string;
  drill?: string;
  version: number;
  onClose: () => void;
}

const shape: Record<string, string> = { w: "■", h: "▨", ".": "·" };
const word: Record<string, string> = { w: "works", h: "helps", ".": "waits" };

/** Who works, helps and waits in each cycle of a drill. */
export function RotationWindow({ practice, drill, version, onClose }: Props) {
  const rotation = useQuery({ ...queries.rotation(practice, drill ?? "", version), enabled: !!drill });
  const r = rotation.data;
  return (
    <Window
      open={!!drill}
      onOpenChange={(open) => !open && onClose()}
      title={r ? `Who when: ${r.drill}` : "Who when"}
      wide
    >
      {rotation.error && <Trouble error={rotation.error} />}
      {!r && !rotation.error && <Loading what="the rotation" />}
      {r && (
        <>
          <table className="text-small">
            <thead>
              <tr className="label text-left">
                <th className="pr-3">Man</th>
                <th className="pr-3">Cycles 1 to {r.cycles}</th>
                <th className="pr-3 text-right">Works</th>
                <th className="pr-3 text-right">Helps</th>
                <th className="text-right">Waits</th>
              </tr>
            </thead>
            <tbody>
              {r.rows.map((row) => (
                <tr key={row.jersey + row.name} className="border-t border-hair">
                  <td className="name pr-3">
                    {row.jersey} {row.name}
                  </td>
                  <td className="pr-3 font-mono tracking-wider">
                    {[...row.roles].map((role, i) => (
                      <span key={i} title={`Cycle ${i + 1}: ${word[role]}`}>
                        {shape[role]}
                      </span>
                    ))}
                  </td>
                  <td className="pr-3 text-right">{row.working}</td>
                  <td className="pr-3 text-right">{row.helping}</td>
                  <td className="text-right">{row.waiting}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="label mt-3 normal-case tracking-normal">
            ■ works · ▨ helps · dot waits. Nobody works or helps more than one turn more than another.
          </p>
        </>
      )}
    </Window>
  );
}
