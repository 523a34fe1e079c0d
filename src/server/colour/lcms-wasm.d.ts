declare module 'lcms-wasm' {
  const lcms: import('@/core/colour/lcms').LcmsPackage;
  export = lcms;
}
