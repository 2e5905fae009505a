import { useEffect, type ReactNode } from "react";
import { HashMark } from "@/parts/Ruler";

/** A page before anybody is in: the sign, and one thing to do. */
export function Outside({ title, children }: { title: string; children: ReactNode }) {
  useEffect(() => {
    document.title = `${title} · Nine Yard`;
  }, [title]);
  return (
    <main className="mx-auto grid min-h-screen max-w-md content-center gap-4 p-4 sm:p-6">
      <div>
        <p className="text-3xl font-extrabold tracking-wide">NINE YARD</p>
        <HashMark />
      </div>
      <h1 className="head text-xl">{title}</h1>
      {children}
    </main>
  );
}
