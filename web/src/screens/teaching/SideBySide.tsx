import { shown } from "./fields";

/** Two versions of something, field by field. */
export function SideBySide({
  left,
  right,
  rows,
}: {
  left: string;
  right: string;
  rows: [string, unknown, unknown][];
}) {
  return (
    <table className="mt-1 w-full table-fixed text-small">
      <thead>
        <tr className="label text-left">
          <th className="w-24">Field</th>
          <th>{left}</th>
          <th>{right}</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, a, b]) => (
          <tr key={name} className="border-t border-hair align-top">
            <td className="pr-2 font-semibold">{name.replaceAll("_", " ")}</td>
            <td className="say break-words whitespace-pre-wrap pr-3">{shown(a)}</td>
            <td className="say break-words whitespace-pre-wrap">{shown(b)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
