import { sensorWords, type Kit, type SensorKind } from './kit.ts';

/** How a kit meets one need of a lesson. */
export interface Fit {
  kind: SensorKind;
  /** As asked, by a stand-in that loses something, or not at all. */
  way: 'as asked' | 'stands in' | 'missing';
  /** The part that does it and what it measures; null when missing. */
  by: { part: string; kind: SensorKind } | null;
  /** What is lost, and what to do about it; empty when nothing is. */
  loses: string;
}

/** What can stand in for what, the better one first, and what it costs (common practice). */
const standIns: Partial<Record<SensorKind, { kind: SensorKind; loses: string }[]>> = {
  distance: [
    {
      kind: 'proximity',
      loses:
        'No centimetres: its number falls with distance and depends on the colour in front. Read it at the wanted gap and use that.',
    },
    { kind: 'touch', loses: 'Nothing is seen before contact: the robot stops at the wall, not before it.' },
  ],
  proximity: [
    { kind: 'distance', loses: 'Blind closer than its shortest range, and it knows no beacon.' },
    { kind: 'touch', loses: 'Nothing is seen before contact.' },
  ],
  touch: [
    { kind: 'distance', loses: 'It answers before contact; set it to the shortest distance it reads.' },
    { kind: 'proximity', loses: 'It answers before contact, and later for dark things than for light ones.' },
  ],
  light: [
    { kind: 'rgb', loses: 'Three numbers instead of one: use the green one.' },
    {
      kind: 'colour',
      loses: 'Only names of colours: shades of one colour cannot be told apart, and no threshold is chosen.',
    },
  ],
  ambient: [
    { kind: 'light', loses: 'Its own lamp is on: hold it away from anything that sends the light back.' },
  ],
  colour: [
    { kind: 'rgb', loses: 'Names must be made from three numbers: read every colour first.' },
    { kind: 'light', loses: 'Only how bright it is: two colours as bright as each other look the same.' },
  ],
  rgb: [
    { kind: 'colour', loses: 'Only names: no shade between two colours.' },
    { kind: 'light', loses: 'One number for three: colours as bright as each other look the same.' },
  ],
  heading: [
    { kind: 'spin', loses: 'The program must add up the rate itself, and the error grows with time.' },
    { kind: 'wheel', loses: 'Turns are counted by the wheels: slip and pushes are not noticed.' },
  ],
  spin: [{ kind: 'heading', loses: 'The rate must be worked out from two headings and the time between.' }],
};

function partFor(kit: Kit, kind: SensorKind): string | null {
  if (kind === 'wheel') {
    return kit.sockets.some(({ takes, drives }) => takes === 'motor' && drives?.includes('wheel'))
      ? 'wheel motors'
      : null;
  }
  return kit.sensors.find(({ modes }) => modes.some((mode) => mode.kind === kind))?.name ?? null;
}

/** Whether a kit has what a lesson needs, what stands in where it has not, and what is lost by that. */
export function fitOf(kit: Kit, kind: SensorKind): Fit {
  const part = partFor(kit, kind);
  if (part) return { kind, way: 'as asked', by: { part, kind }, loses: '' };
  for (const other of standIns[kind] ?? []) {
    const by = partFor(kit, other.kind);
    if (by) return { kind, way: 'stands in', by: { part: by, kind: other.kind }, loses: other.loses };
  }
  return {
    kind,
    way: 'missing',
    by: null,
    loses: `${kit.name} has nothing that measures ${sensorWords[kind]} or could stand in for it.`,
  };
}
