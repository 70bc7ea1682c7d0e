/** Raise when bytes change for the same composed file, so that old renders are not taken for new ones. */
export const RENDERER_VERSION = 9;
