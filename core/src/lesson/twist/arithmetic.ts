import { found, refused, type Outcome } from '../../quantity/index.ts';

/** Longest rule or formula of a twist, and deepest nesting. */
const LONGEST = 200;
const DEEPEST = 30;

class Fault extends Error {}

type Values = Readonly<Record<string, number>>;
/** Works a formula out; a comparison gives 1 when it is true and 0 when it is not. */
export type Arithmetic = (values: Values) => number;

const TOKEN = /\s*(?:(\d+(?:\.\d+)?)|([A-Za-z][A-Za-z0-9_]*)|(<=|>=|<>|[-+*/()<>=,]))/y;

const functions: Record<string, (numbers: number[]) => number> = {
  min: (numbers) => Math.min(...numbers),
  max: (numbers) => Math.max(...numbers),
  round: ([number]) => Math.round(number!),
  floor: ([number]) => Math.floor(number!),
  abs: ([number]) => Math.abs(number!),
};

const comparisons: Record<string, (a: number, b: number) => boolean> = {
  '<': (a, b) => a < b,
  '<=': (a, b) => a <= b,
  '>': (a, b) => a > b,
  '>=': (a, b) => a >= b,
  '=': (a, b) => a === b,
  '<>': (a, b) => a !== b,
};

function tokensOf(text: string): string[] {
  if (text.length > LONGEST) throw new Fault(`it is longer than ${LONGEST} characters`);
  const tokens: string[] = [];
  TOKEN.lastIndex = 0;
  while (TOKEN.lastIndex < text.trimEnd().length) {
    const at = TOKEN.lastIndex;
    const match = TOKEN.exec(text);
    if (!match) throw new Fault(`“${text.slice(at).trim().slice(0, 12)}” is not understood`);
    tokens.push(match[0].trim());
  }
  return tokens;
}

class Reader {
  private i = 0;
  private depth = 0;
  private readonly tokens: string[];
  private readonly names: ReadonlySet<string>;
  constructor(tokens: string[], names: ReadonlySet<string>) {
    this.tokens = tokens;
    this.names = names;
  }

  private takes(token: string): boolean {
    if (this.tokens[this.i] !== token) return false;
    this.i++;
    return true;
  }
  private needs(token: string): void {
    if (!this.takes(token)) throw new Fault(`a “${token}” is missing`);
  }

  whole(): Arithmetic {
    const read = this.conjunction();
    if (this.i < this.tokens.length) throw new Fault(`“${this.tokens[this.i]}” does not belong there`);
    return read;
  }

  private conjunction(): Arithmetic {
    let read = this.comparison();
    while (this.takes('and')) {
      const [first, second] = [read, this.comparison()];
      read = (values) => (first(values) && second(values) ? 1 : 0);
    }
    return read;
  }

  private comparison(): Arithmetic {
    const left = this.sum();
    const compare = comparisons[this.tokens[this.i] ?? ''];
    if (!compare) return left;
    this.i++;
    const right = this.sum();
    return (values) => (compare(left(values), right(values)) ? 1 : 0);
  }

  private sum(): Arithmetic {
    let read = this.product();
    for (;;) {
      const [first, plus] = [read, this.takes('+')];
      if (!plus && !this.takes('-')) return read;
      const second = this.product();
      read = plus ? (values) => first(values) + second(values) : (values) => first(values) - second(values);
    }
  }

  private product(): Arithmetic {
    let read = this.single();
    for (;;) {
      const [first, times] = [read, this.takes('*')];
      if (!times && !this.takes('/')) return read;
      const second = this.single();
      read = times ? (values) => first(values) * second(values) : (values) => first(values) / second(values);
    }
  }

  private single(): Arithmetic {
    if (++this.depth > DEEPEST) throw new Fault('it is nested too deeply');
    try {
      if (this.takes('-')) {
        const of = this.single();
        return (values) => -of(values);
      }
      if (this.takes('(')) {
        const inside = this.conjunction();
        this.needs(')');
        return inside;
      }
      const token = this.tokens[this.i++];
      if (token === undefined) throw new Fault('it ends too early');
      if (/^\d/.test(token)) {
        const number = Number(token);
        return () => number;
      }
      const call = Object.hasOwn(functions, token) ? functions[token] : undefined;
      if (call && this.takes('(')) {
        const numbers = [this.sum()];
        while (this.takes(',')) numbers.push(this.sum());
        this.needs(')');
        return (values) => call(numbers.map((number) => number(values)));
      }
      if (this.names.has(token)) return (values) => values[token]!;
      throw new Fault(
        /^[A-Za-z]/.test(token)
          ? `there is no parameter “${token}”${this.names.size > 0 ? ` (there is ${[...this.names].join(', ')})` : ''}`
          : `“${token}” stands where a number is missing`,
      );
    } finally {
      this.depth--;
    }
  }
}

/**
 * Reads a formula over the parameters of a twist: + − × ÷ as + - * /, brackets, min max round floor abs,
 * comparisons < <= > >= = <> and `and`. Nothing is evaluated as code; length and depth are bounded.
 *
 * @example readArithmetic('10 * gap + 5', new Set(['gap']))
 */
export function readArithmetic(text: string, names: ReadonlySet<string>): Outcome<Arithmetic> {
  try {
    return found(new Reader(tokensOf(text), names).whole());
  } catch (caught) {
    if (!(caught instanceof Fault)) throw caught;
    return refused(`“${text.slice(0, 40)}” cannot be worked out: ${caught.message}.`, '');
  }
}
