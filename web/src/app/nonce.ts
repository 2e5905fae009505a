import { setNonce } from "get-nonce";

/**
 * Dialogs lock the page behind them by a style of their own making. The page's policy takes no style but the product's own
 * files and those that carry its nonce; here the part that makes them gets it.
 */
export function takeNonce() {
  const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce;
  if (nonce) setNonce(nonce);
}
