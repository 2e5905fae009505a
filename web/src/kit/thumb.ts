import { useSyncExternalStore } from "react";

const thumb = () => matchMedia("(pointer: coarse)");
const listen = (told: () => void) => {
  const query = thumb();
  query.addEventListener("change", told);
  return () => query.removeEventListener("change", told);
};

/** Whether a thumb points rather than a mouse, as it is now: a tablet may get a mouse, a laptop be folded. */
export const useThumb = () => useSyncExternalStore(listen, () => thumb().matches);
