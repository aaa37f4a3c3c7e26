import { bundleServer } from './serverBundle.mjs';
await bundleServer('/work/main/.cache/curve', { curve: 'server/bench/.curve.ts' });
