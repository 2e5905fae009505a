import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { keepToken, type Schemas } from "@/api/client";
import { makeAllOld } from "@/api/old";
import { queries } from "@/api/queries";
import { Dialog } from "@/kit/Dialog";
import { useSync } from "@/sync/context";
import { SignInForm } from "./SignInForm";
import { forgetAll, sessionBegun, useSessionEnded } from "./session";

/** The session has ended in the middle of work: signing in over the screen, which stays as it is. */
export function SignInAgain({ user, demo }: { user: Schemas["User"]; demo: boolean }) {
  const ended = useSessionEnded();
  const { engine } = useSync();
  const client = useQueryClient();
  const [other, setOther] = useState<string>();
  const enter = (now: Schemas["Session"]) => {
    keepToken(now.csrf);
    if (now.user && now.user.id !== user.id) {
      // What waits belongs to whoever made it, and waits for him.
      setOther(now.user.name);
      forgetAll(client);
      location.assign("/");
      return;
    }
    client.setQueryData(queries.session().queryKey, now);
    sessionBegun();
    engine.wake();
    void makeAllOld(client);
  };
  return (
    <Dialog open={ended} onOpenChange={() => undefined} title="You are signed out" stays>
      <p className="say mb-4">
        {other
          ? `Opening the page of ${other}.`
          : "The session has ended. Sign in and go on where you were: nothing that you did is lost, it is kept on this device until then."}
      </p>
      <div className="grid gap-4">
        <SignInForm demo={demo} onEnter={enter} before={user.id} />
      </div>
    </Dialog>
  );
}
