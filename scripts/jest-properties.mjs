/** Before each test file: properties are tried with the same seed every time, unless another is asked for. */
import fc from 'fast-check';

fc.configureGlobal({
  seed: process.env.PROPERTY_SEED === 'random' ? Date.now() : Number(process.env.PROPERTY_SEED ?? 1),
});
