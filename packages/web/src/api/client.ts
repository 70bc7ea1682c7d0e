import type { Problem } from '@tolvik/core';

/** A request that was answered with problem details, or not at all. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem & Record<string, unknown>,
  ) {
    super(
      problem.accepted && !problem.message.includes(problem.accepted)
        ? `${problem.message}. Accepted: ${problem.accepted}.`
        : problem.message,
    );
  }
  /** The server or its database is away; the same request may go through later. */
  get isAway(): boolean {
    return [0, 401, 408, 429, 502, 503, 504, 507].includes(this.status);
  }
}

/** A request that outlives its page may carry 64 KiB (Fetch standard, `keepalive`): so many letters fit, whatever they are. */
const OUTLIVES_PAGE_LETTERS = 20_000;

function withJson(init: RequestInit, json: unknown): RequestInit {
  const body = JSON.stringify(json);
  const keepalive = init.keepalive && body.length <= OUTLIVES_PAGE_LETTERS;
  return { ...init, keepalive, body, headers: { 'content-type': 'application/json' } };
}

/** With `keepalive`, what is small enough arrives even where the page is left before its answer. */
export async function request<T>(path: string, init: RequestInit & { json?: unknown } = {}): Promise<T> {
  const { json, ...rest } = init;
  let response: Response;
  try {
    response = await fetch(`/api${path}`, json === undefined ? rest : withJson(rest, json));
  } catch {
    throw new ApiError(0, { code: 'away', message: 'the server does not answer' });
  }
  // The key was changed, or the browser forgot it: the page asks for it, and what is pending here is kept.
  if (response.status === 401) location.reload();
  if (!response.ok) {
    const body = await response.json().catch(() => ({}));
    throw new ApiError(response.status, {
      ...body,
      code: body.code ?? 'unknown',
      message: body.detail ?? `the server answered ${response.status}`,
    });
  }
  return response.status === 204 ? (undefined as T) : response.json();
}

/** Sends files and reads the answer line by line (newline-delimited JSON); `onLine` sees each, the last is the answer. */
export async function uploadLines<T extends object>(
  path: string,
  files: readonly File[],
  signal: AbortSignal,
  onLine: (line: T) => void,
): Promise<T> {
  const form = new FormData();
  for (const file of files) form.append('files', file, file.name);
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method: 'POST',
      body: form,
      signal,
      headers: { accept: 'application/x-ndjson, application/problem+json' },
    });
  } catch (error) {
    if (signal.aborted) throw error;
    throw new ApiError(0, { code: 'away', message: 'the server does not answer' });
  }
  if (!response.ok || !response.body) {
    const body = await response.json().catch(() => ({}));
    throw new ApiError(response.status, {
      ...body,
      code: body.code ?? 'unknown',
      message: body.detail ?? `the server answered ${response.status}`,
    });
  }
  let last: T | undefined;
  let rest = '';
  const take = (text: string) => {
    if (!text) return;
    last = JSON.parse(text) as T;
    onLine(last);
  };
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  for (;;) {
    const { value, done } = await reader.read();
    const lines = (rest + (value ?? '')).split('\n');
    rest = done ? '' : (lines.pop() ?? '');
    lines.forEach(take);
    if (done) break;
  }
  if (!last) throw new ApiError(0, { code: 'away', message: 'the answer broke off' });
  if ('problem' in last)
    throw new ApiError(400, (last as { problem: Problem }).problem as Problem & Record<string, unknown>);
  return last;
}

export const upload = <T>(path: string, files: readonly File[]): Promise<T> => {
  const form = new FormData();
  for (const file of files) form.append('files', file, file.name);
  return request<T>(path, { method: 'POST', body: form });
};
