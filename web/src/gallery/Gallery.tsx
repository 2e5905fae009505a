import { NavLink, Navigate, useParams } from "react-router";
import { useKeyboard } from "@/keys/react";
import { Portals } from "@/kit/portal";
import { Title } from "@/kit/Title";
import { Toasts } from "@/kit/Toast";
import { fillIn } from "./fillIn";
import { lists } from "./lists";
import { over } from "./over";
import { presses } from "./presses";

/** A part of the kit, with all its states. */
export interface Page {
  /** The file of the kit it stands in. */
  part: string;
  says: string;
  states: { name: string; show: React.ReactNode }[];
}

export const pages: Page[] = [...presses, ...fillIn, ...over, ...lists];

/** Every part of the kit by itself, for whoever builds a screen. It is there in development only. */
export function Gallery() {
  useKeyboard();
  const { "*": part } = useParams();
  const page = pages.find((p) => p.part === part);
  if (!page) return <Navigate to={`/kit/${pages[0]!.part}`} replace />;
  return (
    <div className="grid min-h-screen grid-cols-[minmax(0,1fr)] sm:grid-cols-[160px_minmax(0,1fr)]">
      <nav
        aria-label="Parts"
        className="flex flex-wrap content-start gap-x-3 bg-rail p-3 text-rail-ink sm:grid"
      >
        {pages.map((p) => (
          <NavLink
            key={p.part}
            to={`/kit/${p.part}`}
            className={({ isActive }) => (isActive ? "font-bold underline" : "text-rail-soft")}
          >
            {p.part}
          </NavLink>
        ))}
      </nav>
      <main className="min-w-0 p-4">
        <Portals>
          <Toasts>
            <Show page={page} key={page.part} />
          </Toasts>
        </Portals>
      </main>
    </div>
  );
}

export function Show({ page }: { page: Page }) {
  return (
    <>
      <Title page={page.part}>{page.part}</Title>
      <p className="say max-w-prose text-soft">{page.says}</p>
      {page.states.map((s) => (
        <section key={s.name} aria-label={s.name} className="sheet mt-3 p-3">
          <h2 className="label mb-2">{s.name}</h2>
          {s.show}
        </section>
      ))}
    </>
  );
}
