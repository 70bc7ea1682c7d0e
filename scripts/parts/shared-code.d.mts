export type BuiltChunk = {
  fileName: string;
  facadeModuleId: string | null;
  moduleIds: readonly string[];
  imports: readonly string[];
};
export function pagesOfModules(chunks: readonly BuiltChunk[]): ReadonlyMap<string, ReadonlySet<string>>;
export function sharedFile(id: string, pages: ReadonlySet<string> | undefined): string | null;
