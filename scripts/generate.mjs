import { grammars, makeParser } from './grammars.mjs';

for (const grammar of grammars) makeParser(grammar);
