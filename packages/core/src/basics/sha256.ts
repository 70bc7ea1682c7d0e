import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** SHA-256 (FIPS 180-4) in hex; of text as UTF-8. */
export const sha256Hex = (data: Uint8Array | string): string =>
  bytesToHex(sha256(typeof data === 'string' ? new TextEncoder().encode(data) : data));
