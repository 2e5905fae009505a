import { createContext, useContext, useState, type ReactNode } from "react";

const PortalContext = createContext<HTMLElement | null>(null);

/** Where lists, menus and notes over the page are put: inside of the landmark or window they belong to. */
export const usePortal = () => useContext(PortalContext);

/** Gives what is in it a place of its own for what lies over it. */
export function Portals({ children }: { children: ReactNode }) {
  const [place, setPlace] = useState<HTMLElement | null>(null);
  return (
    <PortalContext value={place}>
      {children}
      <div ref={setPlace} className="contents" />
    </PortalContext>
  );
}
