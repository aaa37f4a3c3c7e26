import { describe, expect, it } from '@jest/globals';
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';

const root = join(import.meta.dirname, '../../..');

/** The sources below a folder, without tests and what is generated. */
function sources(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return ['generated', 'test'].includes(entry.name) ? [] : sources(path);
    return /\.tsx?$/.test(entry.name) && !entry.name.includes('.test.') ? [path] : [];
  });
}

/** Files that reach themselves by what they import, types included (Tarjan 1972, cited from memory). */
function circles(folder: string): string[][] {
  const files = new Map(
    sources(join(root, folder)).map((file) => [
      file,
      [...readFileSync(file, 'utf8').matchAll(/(?:import|export)[^;'"]*? from '(\.[^']+)'/g)].map((match) =>
        resolve(dirname(file), match[1]!),
      ),
    ]),
  );
  const [order, low, stack] = [new Map<string, number>(), new Map<string, number>(), [] as string[]];
  const found: string[][] = [];
  const visit = (file: string): void => {
    order.set(file, order.size);
    low.set(file, order.get(file)!);
    stack.push(file);
    for (const next of files.get(file) ?? []) {
      if (!files.has(next)) continue;
      if (!order.has(next)) {
        visit(next);
        low.set(file, Math.min(low.get(file)!, low.get(next)!));
      } else if (stack.includes(next)) low.set(file, Math.min(low.get(file)!, order.get(next)!));
    }
    if (low.get(file) !== order.get(file)) return;
    const circle = stack.splice(stack.indexOf(file)).map((one) => relative(root, one));
    if (circle.length > 1) found.push(circle);
  };
  for (const file of files.keys()) if (!order.has(file)) visit(file);
  return found;
}

describe('arrows between files', () => {
  it.each(['core/src', 'contract/src', 'server/src'])(
    'go round in no circle in %s, not even of types',
    (folder) => {
      expect(circles(folder)).toEqual([]);
    },
  );
});
