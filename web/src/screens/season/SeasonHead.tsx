import type { ReactNode } from "react";
import { NavLink } from "react-router";
import clsx from "clsx";
import { useWhere } from "@/app/where";
import { Title } from "@/kit/Title";

const rooms = [
  { path: "", name: "Weeks", end: true },
  { path: "/calls", name: "Calls" },
  { path: "/line-up", name: "Line-up" },
];

/** The head of every screen of the season: its title and its rooms. */
export function SeasonHead({
  title,
  over,
  children,
}: {
  title: string;
  over?: string;
  children?: ReactNode;
}) {
  const { base } = useWhere();
  return (
    <header className="mb-3 screen-only">
      <nav aria-label="Season" className="mb-2 flex flex-wrap gap-x-4 border-b border-rule">
        {rooms.map((r) => (
          <NavLink
            key={r.path}
            to={`${base}/season${r.path}`}
            end={r.end}
            className={({ isActive }) =>
              clsx(
                "-mb-px border-b-2 pb-1 text-small font-semibold pointer-coarse:min-h-11 pointer-coarse:pt-3",
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
          {over && <p className="label">{over}</p>}
          <Title page={title}>{title}</Title>
        </div>
        {children}
      </div>
    </header>
  );
}
