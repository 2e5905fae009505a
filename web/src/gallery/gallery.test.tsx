// @vitest-environment jsdom
import { cleanup, render } from "@testing-library/react";
import axe from "axe-core";
import { MemoryRouter } from "react-router";
import { afterEach, beforeAll, expect, it, vi } from "vitest";
import { quietDom } from "@/kit/dom.test-util";
import { Portals } from "@/kit/portal";
import { Toasts } from "@/kit/Toast";
import { Show, pages } from "./Gallery";

beforeAll(() => quietDom(vi));
afterEach(cleanup);

/** What of the kit is not a part to be seen: it is used by those that are. */
const unseen = ["portal", "Title", "form/shape", "form/check"];

it("has a page for every part of the kit", () => {
  const files = Object.keys(import.meta.glob("../kit/**/*.tsx"))
    .map((f) => f.replace("../kit/", "").replace(".tsx", ""))
    .filter((f) => !f.includes(".test") && !unseen.includes(f));
  expect(pages.map((p) => p.part).sort()).toEqual(files.sort());
});

it.each(pages.map((p) => [p.part, p] as const))(
  "shows nothing that axe finds fault with: %s",
  async (_, page) => {
    const { container } = render(
      <MemoryRouter>
        <main>
          <Portals>
            <Toasts>
              <Show page={page} />
            </Toasts>
          </Portals>
        </main>
      </MemoryRouter>,
    );
    // Colours need a real browser, where the screens are looked at.
    const found = await axe.run(container, {
      rules: { "color-contrast": { enabled: false }, region: { enabled: false } },
    });
    expect(found.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join(" ")}`)).toEqual([]);
  },
);
