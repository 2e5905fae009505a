/** The picture with what is marked beside and under it. */
export const besidePicture = "grid gap-3 lg:grid-cols-[min(60%,72vh)_minmax(0,1fr)]";

/** The keys that go through plays or reps: with a picture the arrows are its frames'. */
export const passing = (filmed: boolean) =>
  filmed
    ? { on: "Space", back: "Shift+Space", backName: "⇧Space" }
    : { on: "Space ArrowRight", back: "Shift+Space ArrowLeft", backName: undefined };
