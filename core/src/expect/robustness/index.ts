export { brokenSince, robustness } from './robustness.ts';
