export * from './rows';
export * from './shifted';
