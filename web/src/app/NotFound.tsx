import { Button, ButtonLink } from "@/kit/Button";
import { useEffect, type ReactNode } from "react";
import { isRouteErrorResponse, useRouteError } from "react-router";
import { Title } from "@/kit/Title";
import { Ruler } from "@/parts/Ruler";
import { NotLoaded } from "./chunks";

interface Props {
  /** What is not there, in a sentence. */
  children?: ReactNode;
  /** Ways on besides Today. */
  ways?: ReactNode;
}

/** What a screen says of an address that makes no sense, with a way on. */
export function OutOfBounds({ children, ways }: Props) {
  return (
    <div className="mx-auto max-w-xl p-2 sm:p-6">
      <div aria-hidden className="overflow-hidden">
        <Ruler from={0} to={120} major={10} />
      </div>
      <div className="mt-4">
        <Title page="Out of bounds">Out of bounds</Title>
      </div>
      <p className="say mt-2">
        {children ??
          "There is nothing at this address. It may have been mistyped, or belong to another club."}
      </p>
      <p className="mt-4 flex flex-wrap gap-2">
        {ways}
        <ButtonLink kind="main" to="/">
          Back to Today
        </ButtonLink>
      </p>
    </div>
  );
}

/** The page for an address that nothing has. */
export function NotFound() {
  return (
    <main>
      <OutOfBounds />
    </main>
  );
}

/** Shown when a screen breaks: what happened, and a way on. Inside the frame it stands in the frame's main. */
export function ErrorScreen({ inside }: { inside?: boolean }) {
  const error = useRouteError();
  const gone = error instanceof NotLoaded;
  // The server was away when the screen was to be loaded: it is loaded once there is an answer.
  useEffect(() => {
    if (!gone) return;
    const timer = setInterval(() => {
      void fetch("/healthz")
        .then((r) => r.ok && location.reload())
        .catch(() => undefined);
    }, 1000);
    return () => clearInterval(timer);
  }, [gone]);
  if (isRouteErrorResponse(error) && error.status === 404) return inside ? <OutOfBounds /> : <NotFound />;
  const text = error instanceof Error ? error.message : "Something broke on this screen.";
  const said = (
    <div className="mx-auto max-w-xl p-2 sm:p-6" role="alert">
      <Title page={gone ? "Not loaded" : "This screen broke"}>
        {gone ? "The server does not answer" : "This screen broke"}
      </Title>
      <p className="say mt-2">{text}</p>
      <p className="say mt-2">
        What was shown as saved is saved. What was waiting, and what was half typed, is kept on this device.
        {gone && " The screen opens by itself as soon as there is an answer."}
      </p>
      <div className="mt-4 flex flex-wrap gap-2">
        <Button kind="main" onClick={() => location.reload()}>
          Load it again
        </Button>
        <ButtonLink to="/">Back to Today</ButtonLink>
      </div>
    </div>
  );
  return inside ? said : <main>{said}</main>;
}
