import { useQuery } from "@tanstack/react-query";
import { queries } from "@/api/queries";
import { RotationTable } from "@/parts/RotationTable";
import { Loading, Trouble } from "@/kit/States";
import { Dialog } from "@/kit/Dialog";

interface Props {
  practice: string;
  drill?: string;
  version: number;
  onClose: () => void;
}

/** Who works, helps and waits in each cycle of a drill. */
export function RotationWindow({ practice, drill, version, onClose }: Props) {
  const rotation = useQuery({ ...queries.rotation(practice, drill ?? "", version), enabled: !!drill });
  const r = rotation.data;
  return (
    <Dialog
      open={!!drill}
      onOpenChange={(open) => !open && onClose()}
      title={r ? `Who when: ${r.drill}` : "Who when"}
      wide
    >
      {rotation.error && <Trouble error={rotation.error} />}
      {!r && !rotation.error && <Loading what="the rotation" />}
      {r && <RotationTable rotation={r} />}
    </Dialog>
  );
}
