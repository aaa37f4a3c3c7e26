export { syntaxes, type Syntax } from './foreign.ts';
export { phraseFaults, PHRASEBOOK_LIMIT, type Phrase, type Phrasebook, type PhraseFault } from './phrases.ts';
export { carryOver, type CarriedOver, type NotCarried } from './carryOver.ts';
