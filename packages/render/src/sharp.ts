/** The reader of pictures, fetched when the first is read: it takes a tenth of a second, which a list of names need not wait for. */
export const sharp = async () => (await import('sharp')).default;
