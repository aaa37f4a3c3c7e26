import type { SyntaxNode } from '@lezer/common';
import { depthOf, partsOf, readNotation, type Failure } from '../../notation/index.ts';
import { found, refused, type Outcome } from '../../quantity/index.ts';

/** Longest rule or formula of a twist, and deepest nesting. */
const LONGEST = 200;
const DEEPEST = 40;

class Fault extends Error {}

type Values = Readonly<Record<string, number>>;
/** Works a formula out; a comparison gives 1 when it is true and 0 when it is not. */
export type Arithmetic = (values: Values) => number;

const functions: Record<string, (numbers: number[]) => number> = {
  min: (numbers) => Math.min(...numbers),
  max: (numbers) => Math.max(...numbers),
  round: ([number]) => Math.round(number!),
  floor: ([number]) => Math.floor(number!),
  abs: ([number]) => Math.abs(number!),
};

const operations: Record<string, (a: number, b: number) => number> = {
  '+': (a, b) => a + b,
  '-': (a, b) => a - b,
  '*': (a, b) => a * b,
  '/': (a, b) => a / b,
  '<': (a, b) => Number(a < b),
  '<=': (a, b) => Number(a <= b),
  '>': (a, b) => Number(a > b),
  '>=': (a, b) => Number(a >= b),
  '=': (a, b) => Number(a === b),
  '<>': (a, b) => Number(a !== b),
};

/** Turns what the grammar read into a closure; a name that is no parameter is a fault. */
class Builder {
  private readonly text: string;
  private readonly names: ReadonlySet<string>;
  constructor(text: string, names: ReadonlySet<string>) {
    this.text = text;
    this.names = names;
  }

  private textOf(node: SyntaxNode): string {
    return this.text.slice(node.from, node.to);
  }

  arithmetic(node: SyntaxNode): Arithmetic {
    const parts = partsOf(node);
    switch (node.name) {
      case 'Arithmetic':
      case 'Bracket':
        return this.arithmetic(parts[0]!);
      case 'Number': {
        const number = Number(this.textOf(node));
        return () => number;
      }
      case 'Name':
        return this.parameter(this.textOf(node));
      case 'Call':
        return this.call(parts);
      case 'Negative': {
        const of = this.arithmetic(parts.at(-1)!);
        return (values) => -of(values);
      }
      case 'Both': {
        const all = parts.map((part) => this.arithmetic(part));
        return (values) => Number(all.every((holds) => holds(values)));
      }
      default: {
        const [first, second] = [this.arithmetic(parts[0]!), this.arithmetic(parts[2]!)];
        const operation = operations[this.textOf(parts[1]!)]!;
        return (values) => operation(first(values), second(values));
      }
    }
  }

  private parameter(name: string): Arithmetic {
    if (this.names.has(name)) return (values) => values[name]!;
    const known = this.names.size > 0 ? ` (there is ${[...this.names].join(', ')})` : '';
    throw new Fault(`there is no parameter “${name}”${known}`);
  }

  private call([callee, given]: SyntaxNode[]): Arithmetic {
    const name = this.textOf(callee!);
    const call = Object.hasOwn(functions, name) ? functions[name] : undefined;
    if (!call)
      throw new Fault(`there is no “${name}” to work with (there is ${Object.keys(functions).join(', ')})`);
    const numbers = partsOf(given!).map((part) => this.arithmetic(part));
    return (values) => call(numbers.map((number) => number(values)));
  }
}

function saying({ at, missing, unknown }: Failure): string {
  if (unknown) return `“${unknown.slice(0, 12)}” is not understood`;
  if (!missing) return `“${at}” does not belong there`;
  if (missing !== 'a number') return `${missing} is missing`;
  return at ? `“${at}” stands where a number is missing` : 'it ends too early';
}

/**
 * Reads a formula over the parameters of a twist: + − × ÷ as + - * /, brackets, min max round floor abs,
 * comparisons < <= > >= = <> and `and`. Nothing is evaluated as code; length and depth are bounded.
 *
 * @example readArithmetic('10 * gap + 5', new Set(['gap']))
 */
export function readArithmetic(text: string, names: ReadonlySet<string>): Outcome<Arithmetic> {
  const refuse = (why: string): Outcome<Arithmetic> =>
    refused(`“${text.slice(0, 40)}” cannot be worked out: ${why}.`, '');
  if (text.length > LONGEST) return refuse(`it is longer than ${LONGEST} characters`);
  const read = readNotation(text, 'Arithmetic');
  if (!read.ok) return refuse(saying(read.failure));
  if (depthOf(read.value) > DEEPEST) return refuse('it is nested too deeply');
  try {
    return found(new Builder(text, names).arithmetic(read.value));
  } catch (caught) {
    if (!(caught instanceof Fault)) throw caught;
    return refuse(caught.message);
  }
}
