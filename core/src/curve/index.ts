export { bezierParameter } from './bezier.ts';
export { type CompiledCurve, compileCurve, writeControlPoints } from './compile.ts';
export * from './handles.ts';
export * from './key.ts';
export { type CompiledOrientation, compileOrientation, orientationAt } from './orientation.ts';
export * from './reshape.ts';
export * from './sample.ts';
