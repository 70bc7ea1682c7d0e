import { setTimeout as pause } from 'node:timers/promises';
import { type NotTaken, plainText } from '@tolvik/core';

/** How long one request may take, in ms. */
const REQUEST_MS = 30_000;
/** How long is waited before each further try, in ms, when the intake is busy or away. */
const PAUSES_MS = [500, 1000, 2000, 4000, 8000];
/** The longest that an intake may have one wait, in ms. */
const LONGEST_PAUSE_MS = 30_000;
/** How long the request of a zip may take, in ms. */
const ZIP_MS = 300_000;
/** Of an answer as much is read, in bytes: for a file, and for a zip of many. */
const MOST_READ = 64 * 1024;
const MOST_READ_OF_ZIP = 4 * 1_048_576;

/** Of the statuses that concern the caller and not the file (RFC 9110 §15.5). */
const NOT_LET_IN: Record<number, string> = {
  401: 'asks for a key that its headers do not have',
  403: 'does not let this server in',
  404: 'has nothing at this address',
  405: 'takes no files at this address',
  407: 'is behind a proxy that asks for a key',
};

export type Sent = { path: string; mediaType: string; bytes: Uint8Array };
/** How patient to be; the pauses before further tries and the time of one request, in ms. */
export type Patience = { pausesMs: readonly number[]; requestMs: number };

/** The intake as a whole does not do what it should; what was answered so far stays. */
export class IntakeTrouble extends Error {}

/** An intake over HTTP: each file is put at its path below the address, and answered for. */
export class Intake {
  constructor(
    private readonly address: URL,
    private readonly headers: Readonly<Record<string, string>>,
    private readonly patience: Patience = { pausesMs: PAUSES_MS, requestMs: REQUEST_MS },
  ) {}

  /**
   * Puts a file there. Answers null when it is taken, else in words why it is not. Tries again, after growing pauses,
   * when the intake is away or busy (429, 5xx); throws `IntakeTrouble` when it stays so, sends one elsewhere, lets
   * nobody in, or answers what is no answer. An aborted signal ends it, also in the middle of a request.
   */
  async put({ path, mediaType, bytes }: Sent, signal?: AbortSignal): Promise<string | null> {
    const at = `${this.address.href.replace(/\/$/, '')}/${path.split('/').map(encodeURIComponent).join('/')}`;
    const answer = await this.patiently({ method: 'PUT', at, mediaType, bytes, ms: this.patience.requestMs, signal });
    return answer.kind === 'taken' ? null : answer.words;
  }

  /**
   * Posts many files as one zip to the address itself. Answers those that are not taken, as the intake lists them; throws
   * `IntakeTrouble` as `put` does, and when it does not take the zip.
   */
  async postZip(bytes: Uint8Array, signal?: AbortSignal): Promise<NotTaken[]> {
    const ms = Math.max(ZIP_MS, this.patience.requestMs);
    const most = MOST_READ_OF_ZIP;
    const at = this.address.href;
    const answer = await this.patiently({ method: 'POST', at, mediaType: 'application/zip', bytes, ms, most, signal });
    if (answer.kind === 'refused') throw new IntakeTrouble(`the intake does not take the zip: ${answer.words}`);
    return refusedIn(answer.text);
  }

  /** Asks until there is an answer that stays. */
  private async patiently(asked: Asked): Promise<Exclude<Answer, { kind: 'away' }>> {
    const { pausesMs } = this.patience;
    for (let tries = 0; ; tries++) {
      const answer = await this.ask(asked);
      if (answer.kind !== 'away') return answer;
      if (tries >= pausesMs.length) throw new IntakeTrouble(`the intake ${answer.words}`);
      await pause(Math.min(LONGEST_PAUSE_MS, Math.max(pausesMs[tries], answer.waitMs)), undefined, {
        signal: asked.signal,
      });
    }
  }

  private async ask({ method, at, mediaType, bytes, ms, most = MOST_READ, signal }: Asked): Promise<Answer> {
    let response: Response;
    try {
      response = await fetch(at, {
        method,
        headers: { ...this.headers, 'content-type': mediaType },
        body: bytes as Uint8Array<ArrayBuffer>,
        // Where it sends one is no address that anybody allowed.
        redirect: 'manual',
        signal: signal ? AbortSignal.any([signal, AbortSignal.timeout(ms)]) : AbortSignal.timeout(ms),
      });
    } catch (error) {
      signal?.throwIfAborted();
      return { kind: 'away', words: awayWords(error), waitMs: 0 };
    }
    const text = await read(response, most);
    const { status } = response;
    if (status >= 200 && status < 300) return { kind: 'taken', text };
    if (status === 429 || status >= 500)
      return { kind: 'away', words: `answers ${status}${wordsIn(text, ', ')}`, waitMs: retryAfterMs(response) };
    if (status >= 300 && status < 400)
      throw new IntakeTrouble('the intake sends to another address, and only its own may be sent to');
    const notLetIn = NOT_LET_IN[status];
    if (notLetIn) throw new IntakeTrouble(`the intake ${notLetIn} (it answers ${status}${wordsIn(text, ': ')})`);
    if (status < 400) throw new IntakeTrouble(`the intake answers ${status}, which is no answer for a file`);
    return { kind: 'refused', words: wordsIn(text) || `answers ${status} and gives no reason` };
  }
}

type Asked = {
  method: 'PUT' | 'POST';
  at: string;
  mediaType: string;
  bytes: Uint8Array;
  ms: number;
  most?: number;
  signal?: AbortSignal;
};
type Answer =
  | { kind: 'taken'; text: string }
  | { kind: 'refused'; words: string }
  | { kind: 'away'; words: string; waitMs: number };

/** The beginning of what it says; what breaks off or is no text is as if it said nothing. */
async function read(response: Response, most: number): Promise<string> {
  if (!response.body) return '';
  const reader = response.body.getReader();
  const chunks: Uint8Array[] = [];
  let length = 0;
  try {
    while (length < most) {
      const { done, value } = await reader.read();
      if (done) break;
      chunks.push(value);
      length += value.length;
    }
  } catch {
    return '';
  } finally {
    await reader.cancel().catch(() => {});
  }
  return Buffer.concat(chunks).subarray(0, most).toString('utf8');
}

/** What an answer to a zip says is not taken: `{ "refused": [{ "path", "why" }] }`; nothing where it says no such thing. */
function refusedIn(text: string): NotTaken[] {
  let said: unknown;
  try {
    said = JSON.parse(text);
  } catch {
    // Not JSON: all of it is taken.
  }
  const refused = (said as { refused?: unknown } | null | undefined)?.refused;
  if (!Array.isArray(refused)) return [];
  return refused.flatMap((each: { path?: unknown; why?: unknown } | null) =>
    typeof each?.path === 'string'
      ? [{ path: each.path, why: plainText(typeof each.why === 'string' ? each.why : '', 300) || 'it gives no reason' }]
      : [],
  );
}

/** What a problem document says (RFC 9457 `detail`, else `title`), or short plain text; nothing of anything else. */
function wordsIn(text: string, before = ''): string {
  let words: unknown = /^[^<{[]{1,300}$/.test(text.trim()) ? text.trim() : '';
  try {
    const said = JSON.parse(text) as { detail?: unknown; title?: unknown } | null;
    words = said?.detail ?? said?.title ?? words;
  } catch {
    // Not JSON.
  }
  if (typeof words !== 'string' || words.trim() === '') return '';
  return before + plainText(words, 300).replace(/\.$/, '');
}

/** Seconds or a date (RFC 9110 §10.2.3), in ms from now; 0 where it says none. */
function retryAfterMs({ headers }: Response): number {
  const said = headers.get('retry-after') ?? '';
  const ms = /^\d+$/.test(said) ? Number(said) * 1000 : Date.parse(said) - Date.now();
  return Number.isFinite(ms) ? Math.max(0, ms) : 0;
}

function awayWords(error: unknown): string {
  const { name, cause } = error as Error & { cause?: { code?: string } };
  if (name === 'TimeoutError') return 'does not answer in time';
  if (cause?.code === 'ECONNREFUSED') return 'is not there: nothing listens at its address';
  if (cause?.code === 'ENOTFOUND') return 'is not there: nobody knows its name';
  return 'closes the connection before it answers';
}
