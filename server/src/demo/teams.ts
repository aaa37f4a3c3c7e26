import type { MethodName } from '@vigilum/core/threshold';
import type { StandInCharacter } from '../devices/standInRobot.ts';

/** One team of the demo: how its robot differs, and how far it has come. Minutes count back from now. */
export interface DemoTeam {
  name: string;
  character?: Partial<StandInCharacter>;
  heightMm?: number;
  socket?: string;
  checkedMin?: number;
  readMin?: number;
  /** How the threshold was chosen; a number is one they chose themselves. */
  decide?: { method: MethodName | number; min: number; reason?: string };
  /** Read more than was asked: across the edge and one slow sweep, perhaps a red card as rival. */
  thorough?: 'edge' | 'edge and rival';
  /** Five quick looks at a surface, in this room light, 0–100. */
  looked?: { surface: string; roomLight: number; min: number };
  /** What is odd about the robot. */
  quirks?: string[];
  /** Its newest script, who saved it, and the versions before. */
  script?: { text: string; min: number; by?: string; earlier?: { text: string; min: number; by: string }[] };
  tried?: { times: number; min: number };
  provedMin?: number;
  /** What it wrote down, by the step that asks for it. */
  notes?: Record<string, string>;
  trials?: {
    pastMm: number;
    rested: boolean;
    tookS: number | null;
    note: string;
    min: number;
    /** What was changed before it. */
    changed?: string;
    /** The script version it ran; the newest when not said. */
    version?: number;
  }[];
}

const script = (...steps: string[]) => ['sensor floor is light on K3', ...steps, ''].join('\n');

/** The eight teams of 7 Kittiwake in the middle of Tide line. */
export const teams: DemoTeam[] = [
  {
    name: 'Gannet',
    checkedMin: 27,
    readMin: 25,
    thorough: 'edge',
    looked: { surface: 'quay boards', roomLight: 22, min: 12 },
    decide: { method: 'halfway', min: 22 },
    script: { text: script('drive 30 %', 'wait until floor < threshold', 'stop'), min: 17 },
    tried: { times: 2, min: 15 },
    provedMin: 14,
    notes: {
      predict: '15 mm. It only sees the line when the next look comes, and then it still has to brake.',
      reflect: 'More light moves both numbers up. Ours is in the middle, so it may move by 25 points.',
    },
    trials: [
      { pastMm: 15, rested: true, tookS: 2.9, note: 'start A', min: 10 },
      { pastMm: 17, rested: true, tookS: 3.0, note: 'start A again', min: 8 },
      { pastMm: 14, rested: true, tookS: 2.9, note: 'start B', min: 6 },
    ],
  },
  { name: 'Plover', character: { lightSd: 2.6 }, checkedMin: 24, readMin: 2, thorough: 'edge and rival' },
  {
    name: 'Curlew',
    character: { gain: 0.97, lightSd: 2.4 },
    checkedMin: 26,
    readMin: 23,
    decide: { method: 69, min: 20, reason: 'it is nearer to the boards' },
    script: { text: script('drive 30 %', 'wait until floor < threshold', 'stop'), min: 12 },
    tried: { times: 1, min: 9 },
    provedMin: 5,
    notes: { predict: '20 mm' },
  },
  {
    name: 'Fulmar',
    character: { gain: 0.95, headingDrift: 0.6 },
    quirks: ['heading creeps at rest'],
    checkedMin: 25,
    readMin: 22,
    decide: { method: 'fewest misreads', min: 19 },
    script: { text: script('drive 40 %', 'wait until floor < threshold'), min: 13 },
    tried: { times: 3, min: 7 },
    notes: { predict: 'about 3 cm, because 40 % is fast' },
  },
  {
    name: 'Dunlin',
    looked: { surface: 'tide line', roomLight: 92, min: 1 },
    quirks: ['left wheel is weak'],
    checkedMin: 26,
    readMin: 24,
    decide: { method: 'fewest misreads', min: 21 },
    script: {
      text: script('# slow, so that it sees the line', 'drive 25 %', 'wait until floor < threshold', 'stop'),
      min: 15,
      by: 'Ines',
      earlier: [
        { text: script('drive 60 %', 'wait until floor < 40'), min: 19, by: 'Tomo' },
        { text: script('drive 60 %', 'wait until floor < threshold', 'stop'), min: 17, by: 'Tomo' },
      ],
    },
    tried: { times: 1, min: 13 },
    provedMin: 11,
    notes: {
      predict: 'We said 5 mm. At 60 % it was 38.',
      reflect: 'Less than half the speed, a third of the way.',
    },
    trials: [
      { pastMm: 38, rested: true, tookS: 1.6, note: 'far too far', min: 16, changed: 'speed 60', version: 2 },
      { pastMm: 22, rested: true, tookS: 2.2, note: 'tried 40 by hand', min: 10, changed: 'speed 40' },
      { pastMm: 13, rested: true, tookS: 3.6, note: '', min: 3, changed: 'speed 25' },
    ],
  },
  { name: 'Avocet', socket: 'K4' },
  {
    name: 'Petrel',
    heightMm: 27,
    character: { darkSd: 2.1, lightSd: 2.5, roomLight: 45 },
    checkedMin: 23,
    readMin: 16,
    decide: { method: 'halfway', min: 11 },
    script: { text: script('drive 30 %'), min: 4 },
  },
  {
    name: 'Shag',
    character: { gain: 0.98 },
    checkedMin: 25,
    readMin: 21,
    decide: { method: 'halfway', min: 18 },
    script: { text: script('drive 100 %', 'wait until floor < threshold', 'stop'), min: 9 },
    tried: { times: 1, min: 7 },
    provedMin: 4,
    notes: { predict: 'right on the line' },
  },
];
