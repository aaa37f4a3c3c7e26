import { formatNumber, found, refused, units, type Outcome, type Unit } from '../quantity/index.ts';
import { all, always, any, eventually, forShare, implies, not, type Formula } from './formula.ts';

/** Longest formula, and deepest nesting, that is read. */
const LONGEST = 1000;
const DEEPEST = 40;

type Window = [number, number | null];

const EXAMPLE = 'For example: always (speed < 200) and eventually[0, 5] "gap ahead" < 15 cm';

class Fault extends Error {}

/** A formula as text is cut into names, "quoted names", numbers and signs. */
const TOKEN = /\s*(?:"([^"\n]{1,60})"|([A-Za-z][\w-]*)|(\d+(?:\.\d+)?)|(->|<=|>=|[<>()[\],%-]))/y;

interface Token {
  text: string;
  is: 'quoted' | 'word' | 'number' | 'sign';
  at: number;
}

function cut(text: string): Token[] {
  const tokens: Token[] = [];
  TOKEN.lastIndex = 0;
  while (TOKEN.lastIndex < text.trimEnd().length) {
    const at = TOKEN.lastIndex;
    const match = TOKEN.exec(text);
    if (!match) throw new Fault(`“${text.slice(at).trim().slice(0, 12)}” is not understood.`);
    const [, quoted, word, number, sign] = match;
    tokens.push(
      quoted !== undefined
        ? { text: quoted, is: 'quoted', at }
        : word !== undefined
          ? { text: word, is: 'word', at }
          : number !== undefined
            ? { text: number, is: 'number', at }
            : { text: sign!, is: 'sign', at },
    );
  }
  return tokens;
}

class Reader {
  private i = 0;
  private depth = 0;
  private readonly tokens: Token[];
  constructor(tokens: Token[]) {
    this.tokens = tokens;
  }

  private get now(): Token | undefined {
    return this.tokens[this.i];
  }
  private takes(text: string): boolean {
    const token = this.now;
    if (!token || token.is === 'quoted' || token.text.toLowerCase() !== text) return false;
    this.i++;
    return true;
  }
  private needs(text: string): void {
    if (!this.takes(text))
      throw new Fault(`${this.now ? `Before “${this.now.text}”` : 'At the end'} a “${text}” is missing.`);
  }
  private number(): number {
    const minus = this.takes('-');
    const token = this.now;
    if (token?.is !== 'number')
      throw new Fault(`${token ? `“${token.text}” stands where` : 'At the end'} a number is missing.`);
    this.i++;
    return (minus ? -1 : 1) * Number(token.text);
  }

  whole(): Formula {
    const formula = this.implication();
    if (this.now) throw new Fault(`“${this.now.text}” does not belong here.`);
    return formula;
  }

  private implication(): Formula {
    if (++this.depth > DEEPEST) throw new Fault('It is nested too deeply.');
    const left = this.disjunction();
    const formula = this.takes('->') ? implies(left, this.implication()) : left;
    this.depth--;
    return formula;
  }
  private disjunction(): Formula {
    const parts = [this.conjunction()];
    while (this.takes('or')) parts.push(this.conjunction());
    return parts.length === 1 ? parts[0]! : any(...parts);
  }
  private conjunction(): Formula {
    const parts = [this.until()];
    while (this.takes('and')) parts.push(this.until());
    return parts.length === 1 ? parts[0]! : all(...parts);
  }
  private until(): Formula {
    const first = this.single();
    if (!this.takes('until')) return first;
    const window = this.window();
    return { is: 'until', window, first, then: this.single() };
  }
  private window(): Window {
    if (!this.takes('[')) return [0, null];
    const from = this.number();
    this.needs(',');
    const to = this.takes('end') ? null : this.number();
    this.needs(']');
    if (from < 0 || (to !== null && to < from))
      throw new Fault('A stretch of time must run forwards from 0 s or later.');
    return [from, to];
  }
  private single(): Formula {
    if (++this.depth > DEEPEST) throw new Fault('It is nested too deeply.');
    try {
      if (this.takes('not')) return not(this.single());
      if (this.takes('always')) {
        const window = this.window();
        return always(this.single(), window);
      }
      if (this.takes('eventually')) {
        const window = this.window();
        return eventually(this.single(), window);
      }
      if (this.takes('for')) {
        const percent = this.number();
        this.needs('%');
        if (percent < 0 || percent > 100) throw new Fault('A share of the time lies between 0 % and 100 %.');
        return forShare(percent / 100, this.single());
      }
      if (this.takes('(')) {
        const inner = this.implication();
        this.needs(')');
        return inner;
      }
      return this.comparison();
    } finally {
      this.depth--;
    }
  }
  private comparison(): Formula {
    const name = this.now;
    if (!name || (name.is !== 'word' && name.is !== 'quoted'))
      throw new Fault(`${name ? `“${name.text}” stands where` : 'At the end'} a signal is missing.`);
    this.i++;
    const op = (['<=', '>=', '<', '>'] as const).find((sign) => this.takes(sign));
    if (!op) throw new Fault(`After “${name.text}” a < or > is missing.`);
    const value = this.number();
    const unit = this.now;
    const known = unit && Object.hasOwn(units, unit.text) ? (unit.text as Unit) : undefined;
    if (known) this.i++;
    return {
      is: 'compare',
      signal: name.text,
      op: op[0] as '<' | '>',
      value,
      ...(known ? { unit: known } : {}),
    };
  }
}

/**
 * Reads a formula a person wrote: `always`, `eventually`, `until` with `[from, to]` in seconds (`end` for the end),
 * `for 95 %`, `not`, `and`, `or`, `->`, and comparisons of a signal with a number that may carry a unit. Signals of several
 * words stand in "quotation marks". Nothing is evaluated; a fault is one sentence.
 */
export function readFormula(text: string): Outcome<Formula> {
  if (text.length > LONGEST)
    return refused(`A formula has at most ${LONGEST} characters.`, 'Say it in parts.');
  try {
    const tokens = cut(text);
    if (tokens.length === 0) return refused('The formula is empty.', EXAMPLE);
    return found(new Reader(tokens).whole());
  } catch (fault) {
    if (!(fault instanceof Fault)) throw fault;
    return refused(fault.message, EXAMPLE);
  }
}

const name = (signal: string): string => (/^[A-Za-z][\w-]*$/.test(signal) ? signal : `"${signal}"`);
const stretch = ([from, to]: Window): string =>
  from === 0 && to === null ? '' : `[${formatNumber(from, 3)}, ${to === null ? 'end' : formatNumber(to, 3)}]`;

/** A formula as text that `readFormula` reads again. */
export function formulaText(formula: Formula): string {
  const inner = (of: Formula) => (of.is === 'compare' ? formulaText(of) : `(${formulaText(of)})`);
  switch (formula.is) {
    case 'compare':
      return `${name(formula.signal)} ${formula.op} ${formula.value}${formula.unit ? ` ${formula.unit}` : ''}`;
    case 'not':
      return `not ${inner(formula.of)}`;
    case 'and':
    case 'or':
      return formula.of.map(inner).join(` ${formula.is} `);
    case 'always':
    case 'eventually':
      return `${formula.is}${stretch(formula.window)} ${inner(formula.of)}`;
    case 'share':
      return `for ${formatNumber(formula.least * 100)} % ${inner(formula.of)}`;
    case 'until':
      return `${inner(formula.first)} until${stretch(formula.window)} ${inner(formula.then)}`;
  }
}
