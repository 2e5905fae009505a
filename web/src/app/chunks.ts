const waits = [250, 500]; // ms between tries: a word within two seconds

/** The script that the page was made of, as its own page names it. */
const entryOf = (html: string) => /src="(\/assets\/index-[^"]+\.js)"/.exec(html)?.[1];

/** Whether the server serves another version than the one this page was made of. */
async function updated(): Promise<boolean> {
  const now = document.querySelector<HTMLScriptElement>("script[type=module][src*='/assets/']");
  if (!now) return false; // in development there are no versions
  const page = await fetch("/", { cache: "no-store" });
  const entry = page.ok ? entryOf(await page.text()) : undefined;
  return entry !== undefined && entry !== new URL(now.src).pathname;
}

let going: () => string | undefined = () => undefined;

/** Tells where the coach is going while a screen is loaded. */
export function goingTo(where: () => string | undefined) {
  going = where;
}

/** The script of a screen did not come. */
export class NotLoaded extends Error {
  constructor(cause: unknown) {
    super("This screen could not be loaded.", { cause });
  }
}

/**
 * Loads a screen. When it does not come it is asked for again; when the server has been updated meanwhile, the
 * page is loaded anew where the coach was going: what waits and what is half typed is kept on the device.
 */
export async function load<T>(screen: () => Promise<T>): Promise<T> {
  for (const wait of [...waits, undefined]) {
    try {
      return await screen();
    } catch (e) {
      if (await updated().catch(() => false)) {
        const to = going();
        if (to) location.assign(to);
        else location.reload();
        return new Promise(() => undefined);
      }
      if (wait === undefined) throw new NotLoaded(e);
      await new Promise((done) => setTimeout(done, wait));
    }
  }
  throw new Error("not reached");
}
