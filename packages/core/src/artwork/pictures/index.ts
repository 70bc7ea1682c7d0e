/** Bytes of pictures and fonts: their type, their size, their hash. Nothing here decodes a pixel. */
export * from './pictures';
