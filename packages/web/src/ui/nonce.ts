import { setNonce } from 'get-nonce';

/** The page's nonce, which the content security policy asks of style sheets; empty where there is none. */
export const pageNonce = (): string => document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content ?? '';

/** Style sheets that dialogs insert carry the page's nonce. */
export function allowStyles(): void {
  const nonce = pageNonce();
  if (nonce) setNonce(nonce);
}
