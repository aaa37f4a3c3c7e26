import { styleTags, tags } from '@lezer/highlight';
import { parser } from './generated/parser.ts';

/** The grammar for editors: a whole text at once, with the roles that a theme colours. */
export const scriptLanguage = parser.configure({
  top: 'Script',
  props: [
    styleTags({
      Keyword: tags.keyword,
      Comment: tags.lineComment,
      Number: tags.number,
      'Unit/... Percent': tags.unit,
      Text: tags.string,
      'Name/...': tags.definition(tags.variableName),
      'NameRef/...': tags.variableName,
      'Kind/...': tags.typeName,
      'Socket/...': tags.labelName,
      'Compare Equals Plus Minus Star Slash': tags.operator,
    }),
  ],
});
