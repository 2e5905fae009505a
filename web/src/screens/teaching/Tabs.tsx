import clsx from "clsx";
import type { ReactNode } from "react";
import { NavLink } from "react-router";
import { Title } from "@/kit/Title";
import { useWhere } from "@/app/where";

const rooms = [
  { path: "", name: "Techniques", end: true },
  { path: "/drills", name: "Drills" },
  { path: "/ladders", name: "Ladders" },
  { path: "/tables", name: "Tables" },
  { path: "/schools", name: "Schools" },
  { path: "/house", name: "House standards" },
];

/** The head of every teaching screen: its title and the rooms of the library. */
export function TeachingHead({ title, children }: { title: string; children?: ReactNode }) {
  const { base } = useWhere();
  return (
    <header className="mb-3 screen-only">
      <nav aria-label="Teaching" className="mb-2 flex flex-wrap gap-x-4 border-b border-rule">
        {rooms.map((r) => (
          <NavLink
            key={r.path}
            to={`${base}/teaching${r.path}`}
            end={r.end}
            className={({ isActive }) =>
              clsx(
                "-mb-px inline-flex min-h-6 items-end border-b-2 pb-1 text-small pointer-coarse:min-h-11 font-semibold",
                isActive ? "border-flag text-ink" : "border-transparent text-soft hover:text-ink",
              )
            }
          >
            {r.name}
          </NavLink>
        ))}
      </nav>
      <div className="flex flex-wrap items-end gap-2">
        <div className="mr-auto min-w-0">
          <Title page={title}>{title}</Title>
        </div>
        {children}
      </div>
    </header>
  );
}
