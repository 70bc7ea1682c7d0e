import type { Layer } from '../document/records';

/** What a layer is called in tables and templates. */
export const nameAt = ({ name, tag }: Pick<Layer, 'name' | 'tag'>): string => name || tag;
