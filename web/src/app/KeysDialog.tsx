import { Window } from "@/parts/Window";
import { useShownKeys } from "./keys";

/** The keys that work on the screen behind it. */
export function KeysDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const keys = useShownKeys();
  return (
    <Window open={open} onOpenChange={onOpenChange} title="Keys of this screen">
      <dl className="grid grid-cols-[auto_1fr] items-baseline gap-x-4 gap-y-1.5">
        {keys.map((k) => (
          <div key={k.keys + k.does} className="contents">
            <dt className="flex flex-wrap gap-1">
              {k.keys.split(" ").map((one) => (
                <kbd key={one} className="kbd">
                  {words[one] ?? one.replace("Arrow", "")}
                </kbd>
              ))}
            </dt>
            <dd className="say">{k.does}</dd>
          </div>
        ))}
      </dl>
    </Window>
  );
}

const words: Record<string, string> = {
  ArrowLeft: "←",
  ArrowRight: "→",
  ArrowUp: "↑",
  ArrowDown: "↓",
  "Shift+ArrowLeft": "⇧ ←",
  "Shift+ArrowRight": "⇧ →",
};
