/** What a good password is. */
export function PasswordHint() {
  return (
    <p className="say text-small text-soft">
      At least 15 characters, whichever. Three or four words that have nothing to do with each other, or with
      you, are easy to keep.
    </p>
  );
}
