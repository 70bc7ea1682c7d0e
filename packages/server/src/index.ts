export * from './config';
export * from './server';
