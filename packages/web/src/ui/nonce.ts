import { setNonce } from 'get-nonce';

/** Style sheets that dialogs insert carry the page's nonce, which the content security policy asks for. */
export function allowStyles(): void {
  const nonce = document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content;
  if (nonce) setNonce(nonce);
}
