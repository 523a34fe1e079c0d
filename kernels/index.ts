export * from './rows';
export * from './shifted';
export * from './convolution';
export * from './about';
export * from './taps';
export * from './mix';
export * from './cube';
