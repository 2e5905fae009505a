import { useState, type ReactNode } from "react";

/** Holds a value for a part that is shown by itself. */
export function Holds<T>({
  start,
  children,
}: {
  start: T;
  children: (value: T, set: (next: T) => void) => ReactNode;
}) {
  const [value, set] = useState(start);
  return <>{children(value, set)}</>;
}
