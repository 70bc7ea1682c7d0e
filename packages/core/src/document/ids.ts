import { customAlphabet } from 'nanoid';

/** 12 letters and digits, the first a letter, so that an id is also a valid XML NCName. */
const first = customAlphabet('abcdefghijklmnopqrstuvwxyz', 1);
const rest = customAlphabet('abcdefghijklmnopqrstuvwxyz0123456789', 11);

/** A new record id: unique enough (56 bits) that two browsers may make them at the same time. */
export const newId = (): string => first() + rest();
