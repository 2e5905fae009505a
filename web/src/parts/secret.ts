const letters = "abcdefghijklmnopqrstuvwxyz234567";

/** 260 bits that nobody can guess, in letters and digits. */
export const secret = () =>
  [...crypto.getRandomValues(new Uint8Array(52))].map((b) => letters[b % letters.length]).join("");
