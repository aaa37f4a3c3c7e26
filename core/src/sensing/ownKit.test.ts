import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { fullKit } from '../test/index.ts';
import {
  buildFaults,
  cannotSimulate,
  kitFaults,
  kitLike,
  partsBeside,
  usualBuild,
  usualParts,
  type Kit,
  type KitWish,
} from './index.ts';

const template: Kit = {
  ...fullKit,
  sockets: [
    ...fullKit.sockets.filter(({ takes }) => takes === 'sensor'),
    { name: 'ML', takes: 'motor', drives: 'left wheel' },
    { name: 'MR', takes: 'motor', drives: 'right wheel' },
    { name: 'MX', takes: 'motor' },
  ],
};
const wish = (change: Partial<KitWish> = {}): KitWish => ({
  slug: 'heron',
  name: 'Heron',
  parts: usualParts.slice(0, 6),
  sockets: 'S1, S2 S3;S4  S5 S6',
  ...change,
});

describe('a kit that is the same as another, but', () => {
  it('takes motors and times from the other, sensors and sockets from the cupboard', () => {
    const made = kitLike(template, wish());
    expect(made.ok && made.value).toMatchObject({ slug: 'heron', name: 'Heron', drive: template.drive });
    if (!made.ok) return;
    expect(made.value.sockets.map(({ name }) => name)).toEqual([
      ...['S1', 'S2', 'S3', 'S4', 'S5', 'S6'],
      ...['ML', 'MR', 'MX'],
    ]);
    expect(made.value.sensors.map(({ id }) => id)).toEqual(usualParts.slice(0, 6).map(({ id }) => id));
  });

  it.each<[string, Partial<KitWish>, RegExp]>([
    ['no name', { name: '  ' }, /needs a name/],
    ['no sensor', { parts: [] }, /measures nothing/],
    ['no socket', { sockets: ' , ; ' }, /needs sockets/],
    ['sockets that are numbers', { sockets: '1 2 3' }, /cannot write the socket “1”.*S1/],
    ['one socket twice', { sockets: 'S1 s1' }, /Two sockets are called s1/],
    ['a socket that a motor has', { sockets: 'S1 ml' }, /Two sockets are called/],
    ['one part twice', { parts: [usualParts[0]!, usualParts[0]!] }, /two sensors have the id/i],
  ])('is refused with %s, and says what', (_, change, says) => {
    const made = kitLike(template, wish(change));
    expect(made.ok ? '' : made.says).toMatch(says);
  });

  it('is offered the usual sensors that the other kit has no like of', () => {
    expect(partsBeside({ ...template, sensors: [] })).toEqual(usualParts);
    expect(partsBeside({ ...template, sensors: [...usualParts] })).toEqual([]);
  });
});

describe('a robot as it is first put together', () => {
  const kits = fc
    .record({
      parts: fc.shuffledSubarray([...usualParts], { minLength: 1 }),
      sockets: fc.integer({ min: 1, max: 8 }),
      stem: fc.constantFrom('S', 'K', 'in_', 'Port'),
    })
    .map(({ parts, sockets, stem }) => {
      const names = Array.from({ length: sockets }, (_, i) => `${stem}${i + 1}`).join(' ');
      const made = kitLike(template, wish({ parts, sockets: names }));
      if (!made.ok) throw new Error(made.says);
      return made.value;
    });

  it('has no fault and can be simulated, whatever the kit', () => {
    fc.assert(
      fc.property(kits, (kit) => {
        const build = usualBuild(kit);
        expect([kitFaults(kit), buildFaults(kit, build), cannotSimulate(kit, build)]).toEqual([[], [], null]);
        // No two parts sit in one place.
        const places = build.fittings.map(
          ({ aheadMm, rightMm, heightMm }) => `${aheadMm} ${rightMm} ${heightMm}`,
        );
        const looking = build.fittings.filter(({ mode }) => mode !== 'heading').length;
        expect(new Set(places).size).toBeGreaterThanOrEqual(looking);
      }),
      { numRuns: 300 },
    );
  });
});
