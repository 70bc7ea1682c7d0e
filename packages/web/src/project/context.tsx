import { queryOptions, useQuery } from '@tanstack/react-query';
import { cellKey, type Plan, planFiles } from '@tolvik/core';
import { createContext, useContext, useEffect, useMemo, useSyncExternalStore } from 'react';
import { request } from '../api/client';
import type { MadeRow, ServerFile, ServerMade } from '../api/types';
import type { Session } from './session';

export const SessionContext = createContext<Session | null>(null);

/** The open project; the component draws again whenever anything in it changes. */
export function useSession(): Session {
  const session = useContext(SessionContext);
  if (!session) throw new Error('no project is open here');
  useSyncExternalStore(session.subscribe, () => session.tick);
  return session;
}

/** The id of the open project, for what need not be drawn again when something in it changes. */
export function useSessionId(): string {
  const session = useContext(SessionContext);
  if (!session) throw new Error('no project is open here');
  return session.id;
}

const plans = new WeakMap<Session, { revision: number; name: string; plan: Plan }>();

/** The plan of what the document holds now; computed once a revision. */
export function planOf(session: Session): Plan {
  const known = plans.get(session);
  if (known?.revision === session.doc.revision && known.name === session.name) return known.plan;
  const plan = planFiles(session.doc, session.name);
  plans.set(session, { revision: session.doc.revision, name: session.name, plan });
  return plan;
}

const asFile = ([pieceId, outputId, key, bytes, seen, pages]: MadeRow): ServerFile => ({ pieceId, outputId, key, bytes, seen: seen ?? undefined, pages: pages || undefined });

/** What the server made of a project's files. */
export const serverMade = (projectId: string) =>
  queryOptions({
    queryKey: ['made', projectId],
    queryFn: async () => {
      const { version, files, pages } = await request<ServerMade>(`/projects/${projectId}/made`);
      return { version, files: files.map(asFile), pages: pages.map(asFile) };
    },
  });

/** When weights are asked for again, in ms: soon when few are missing, seldom while thousands are being made. */
function askAgainAfter(files: readonly ServerFile[]): number | false {
  let missing = 0;
  for (const { key, bytes } of files) if (bytes === null && key) missing++;
  return missing === 0 ? false : missing > 500 ? 3000 : 1200;
}

/** Render keys and weights as the server knows them; asked for again when the project moves on, and until all weights are known. */
/** `files` by cell, pages among them; `whole` holds files of several pages by their output. */
export function useMade(): { files: ReadonlyMap<string, ServerFile>; whole: ReadonlyMap<string, ServerFile>; version: number } {
  const session = useSession();
  const { id, version } = session;
  const { data, refetch } = useQuery({ ...serverMade(id), refetchInterval: ({ state }) => askAgainAfter(state.data?.files ?? []) });
  const behind = !!data && data.version < version;
  useEffect(() => {
    if (behind) void refetch();
  }, [behind, refetch]);
  return useMemo(() => {
    const entries = [...(data?.files ?? []), ...(data?.pages ?? [])];
    return {
      files: new Map(entries.map((file) => [cellKey(file.pieceId, file.outputId), file])),
      whole: new Map((data?.files ?? []).filter((file) => file.pages).map((file) => [file.outputId, file])),
      version: data?.version ?? 0,
    };
  }, [data]);
}

export const fileUrl = (projectId: string, { pieceId, outputId, key }: ServerFile): string => `/api/projects/${projectId}/files/${pieceId}/${outputId}?key=${key}`;
export const pictureUrl = (projectId: string, { pieceId, outputId, key }: ServerFile): string => `/api/projects/${projectId}/files/${pieceId}/${outputId}/picture.png?key=${key}`;
