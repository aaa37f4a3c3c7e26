// What browsers have and jsdom has not: the router reads its addresses by it.
import * as util from 'node:util';

globalThis.TextEncoder ??= util.TextEncoder;
globalThis.TextDecoder ??= util.TextDecoder;
