import { api, data, type Schemas } from "@/api/client";

/** Whether this browser has passkeys, and this address a name that they can be bound to. */
export const hasPasskeys = () =>
  "PublicKeyCredential" in window &&
  !/^[\d.]+$|:/.test(location.hostname) &&
  "parseCreationOptionsFromJSON" in PublicKeyCredential;

/** Has a device make a passkey; what it answers is for the server. */
export async function makePasskey(options: string): Promise<string> {
  const asked = JSON.parse(options) as { publicKey: PublicKeyCredentialCreationOptionsJSON };
  const publicKey = PublicKeyCredential.parseCreationOptionsFromJSON(asked.publicKey);
  return JSON.stringify(await navigator.credentials.create({ publicKey }));
}

/** Comes in by a passkey. */
export async function enterByPasskey(): Promise<Schemas["Session"]> {
  const { options } = await data(api.POST("/session/passkey/task"));
  const asked = JSON.parse(options) as { publicKey: PublicKeyCredentialRequestOptionsJSON };
  const publicKey = PublicKeyCredential.parseRequestOptionsFromJSON(asked.publicKey);
  const credential = JSON.stringify(await navigator.credentials.get({ publicKey }));
  return data(api.POST("/session/passkey", { body: { credential } }));
}
