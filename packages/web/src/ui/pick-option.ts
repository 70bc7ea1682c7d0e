/** One of a list: what it stands for, and what is read. */
export type PickOption = { value: string; title: string };
