import { useEffect, useRef, type ReactNode } from "react";
import { useLocation } from "react-router";

let last: string | undefined;

/**
 * The heading of a screen. The page is named after it; when the address has changed the keyboard begins here, so
 * that a reader of the screen hears where he is.
 */
export function Title({ children, page }: { children: ReactNode; page: string }) {
  const { pathname } = useLocation();
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    document.title = `${page} · Nine Yard`;
  }, [page]);
  useEffect(() => {
    if (last !== undefined && last !== pathname) heading.current?.focus();
    last = pathname;
  }, [pathname]);
  return (
    <h1 ref={heading} tabIndex={-1} className="title outline-none">
      {children}
    </h1>
  );
}
