/** What was typed before the list of commands was here, and whether Enter was pressed after it. */
export type Early = { typed: string; entered: boolean };
export const NOTHING_TYPED: Early = { typed: '', entered: false };
