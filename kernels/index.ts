export * from './rows';
export * from './shifted';
export * from './convolution';
