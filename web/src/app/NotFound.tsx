import { Link, isRouteErrorResponse, useRouteError } from "react-router";
import { Ruler } from "@/parts/Ruler";

/** The page for an address that nothing has. */
export function NotFound() {
  return (
    <main className="mx-auto max-w-xl p-6">
      <Ruler from={0} to={120} major={10} width={480} />
      <h1 className="title mt-4">Out of bounds</h1>
      <p className="say mt-2">
        There is nothing at this address. It may have been mistyped, or belong to another club.
      </p>
      <Link className="btn btn-main mt-4" to="/">
        Back to Today
      </Link>
    </main>
  );
}

/** Shown when a screen breaks: what happened, and a way on. */
export function ErrorScreen() {
  const error = useRouteError();
  if (isRouteErrorResponse(error) && error.status === 404) return <NotFound />;
  const text = error instanceof Error ? error.message : "Something broke on this screen.";
  return (
    <main className="mx-auto max-w-xl p-6" role="alert">
      <h1 className="title">This screen broke</h1>
      <p className="say mt-2">{text}</p>
      <p className="say mt-2">
        What was shown as saved is saved. Marks that were waiting are kept on this device.
      </p>
      <div className="mt-4 flex gap-2">
        <button type="button" className="btn btn-main" onClick={() => location.reload()}>
          Load it again
        </button>
        <Link className="btn" to="/">
          Back to Today
        </Link>
      </div>
    </main>
  );
}
