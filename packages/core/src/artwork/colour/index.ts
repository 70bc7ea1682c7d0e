/** Colours as CSS writes them, read and printed in one form. Which layer has which colour is not known here. */
export * from './colours';
