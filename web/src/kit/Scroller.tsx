import clsx from "clsx";
import { useEffect, useRef, useState, type ReactNode } from "react";

interface Props {
  /** What is in it, for whoever comes to it with the keyboard. */
  label: string;
  className?: string;
  children: ReactNode;
}

/** Something wider or longer than its place: it is scrolled by touch, by pointer, and by the keyboard when it has to be. */
export function Scroller({ label, className, children }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [over, setOver] = useState(false);
  useEffect(() => {
    const e = box.current;
    if (!e) return;
    const look = () => setOver(e.scrollWidth > e.clientWidth + 1 || e.scrollHeight > e.clientHeight + 1);
    const watch = new ResizeObserver(look);
    watch.observe(e);
    for (const child of e.children) watch.observe(child);
    look();
    return () => watch.disconnect();
  }, []);
  return (
    <div
      ref={box}
      // What only a reader hears stands out of the flow: it must not stand out of the box.
      className={clsx("relative min-w-0 overflow-auto", className)}
      {...(over ? { role: "region", "aria-label": label, tabIndex: 0 } : {})}
    >
      {children}
    </div>
  );
}
