/** An element after resolution: only allowed tags and attributes, no `use`, `symbol` or nested `svg`. */
export type CleanElement = {
  tag: string;
  name: string;
  /** The id it had in the file, for references; copies made from `use` have none. */
  id?: string;
  attrs: Record<string, string>;
  children: (CleanElement | string)[];
};
