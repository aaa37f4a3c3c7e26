import {
  criticalOfFollower,
  pointsPerMm,
  speedForRoom,
  stoppingDistance,
  turnPerSteering,
} from '../motion/index.ts';
import { runsToReachWith, trialsToTell, wilson } from '../statistics/index.ts';
import { brake, delay, limit, reaction, sample, speed, step, track } from './inputs.ts';
import { show } from './words.ts';
import type { Worksheet } from './worksheet.ts';

const room: Worksheet = {
  id: 'room-speed',
  title: 'Greatest speed for a room',
  asks: 'How fast may it be and still stop within that room?',
  formula: 'longest stopping distance at the speed = room: v × (look + 2 × step + command) + braking',
  source: 'the stopping distance, turned round',
  inputs: [
    { key: 'room', label: 'room to stop in', unit: 'mm', usual: 30, min: 1, max: 5000 },
    sample,
    step,
    delay,
    brake,
    limit,
  ],
  answer: (v) => {
    const found = speedForRoom(v.room!, reaction(v));
    const { leastMm, mostMm } = stoppingDistance(found, reaction(v));
    return {
      results: [
        { label: 'greatest speed', value: found, unit: 'mm/s', digits: 0 },
        { label: 'it stops after at most', value: mostMm, unit: 'mm', digits: 1 },
        { label: 'and after at least', value: leastMm, unit: 'mm', digits: 1 },
      ],
      lines: [
        `late by at most ${show(v.sample)} + 2 × ${show(v.step)} + ${show(v.delay)} = ${show(v.sample! + 2 * v.step! + v.delay!)} ms`,
        `at ${show(found, 0)} mm/s it stops after ${show(leastMm, 1)} to ${show(mostMm, 1)} mm`,
      ],
      remark: '',
    };
  },
};

const runs: Worksheet = {
  id: 'runs',
  title: 'Runs for a bar',
  asks: 'How many runs must pass so that the pass rate surely lies above the bar?',
  formula: 'the lower end of the 95 % interval of (n − failed) of n lies above the bar',
  source: 'Wilson 1927; Newcombe 1998, method 3',
  inputs: [
    { key: 'bar', label: 'bar', unit: '%', usual: 85, min: 1, max: 99.5 },
    { key: 'failed', label: 'runs that may fail', unit: '', usual: 0, min: 0, max: 50 },
  ],
  answer: (v) => {
    const failed = Math.round(v.failed!);
    const n = runsToReachWith(v.bar! / 100, failed);
    const { low, high } = wilson(n - failed, n);
    return {
      results: [
        { label: 'runs', value: n, unit: '', digits: 0 },
        { label: 'pass rate, at least', value: 100 * low, unit: '%', digits: 1 },
        { label: 'pass rate, at most', value: 100 * high, unit: '%', digits: 1 },
      ],
      lines: [
        `${n - failed} of ${n}: from ${show(100 * low, 1)} to ${show(100 * high, 1)} %`,
        `${show(100 * low, 1)} % > ${show(v.bar, 1)} %`,
      ],
      remark: failed === 0 ? 'One failure more costs several runs: put a 1 there and look.' : '',
    };
  },
};

const wag: Worksheet = {
  id: 'gain',
  title: 'Gain that just does not wag',
  asks: 'Up to which gain does a robot follow an edge without swinging for good?',
  formula:
    'K·(v + L·s)·e^(−T·s) ÷ (s²·(1 + τ·s)) has the gain 1 where its phase is −180°; T = look ÷ 2 + round ÷ 2 + command',
  source: 'Nyquist 1932; half of it: Ziegler and Nichols 1942',
  inputs: [
    speed,
    { key: 'ahead', label: 'sensor ahead of the axle', unit: 'mm', usual: 80, min: 1, max: 500 },
    sample,
    { key: 'round', label: 'time of one round of the loop', unit: 'ms', usual: 10, min: 1, max: 2000 },
    delay,
    { key: 'lag', label: 'time constant of the motors τ', unit: 'ms', usual: 70, min: 0, max: 3000 },
    { key: 'contrast', label: 'points between line and floor', unit: '', usual: 50, min: 1, max: 100 },
    { key: 'radius', label: 'radius of the spot', unit: 'mm', usual: 4, min: 0.5, max: 30 },
    track,
  ],
  answer: (v) => {
    const late = (v.sample! / 2 + v.round! / 2 + v.delay!) / 1000;
    const slope = pointsPerMm(v.contrast!, v.radius!);
    const turn = turnPerSteering(v.speed!, v.track!);
    const found = criticalOfFollower({
      delayS: late,
      lagS: v.lag! / 1000,
      speedMmPerS: v.speed!,
      aheadMm: v.ahead!,
    });
    const gain = found && found.gain / (slope * turn);
    return {
      results: [
        { label: 'it just keeps swinging at gain', value: gain, unit: '', digits: 2 },
        { label: 'half of that: quiet', value: gain && gain / 2, unit: '', digits: 2 },
        { label: 'one swing takes', value: found && found.periodS, unit: 's', digits: 2 },
      ],
      lines: [
        `late by ${show(v.sample)} ÷ 2 + ${show(v.round)} ÷ 2 + ${show(v.delay)} = ${show(1000 * late, 1)} ms`,
        `slope: 2 × ${show(v.contrast)} ÷ (π × ${show(v.radius)}) = ${show(slope)} points per mm`,
        `turning: 2 × ${show(v.speed)} ÷ (100 × ${show(v.track)}) = ${show(turn, 4)} rad/s per % of steering`,
        ...(found
          ? [
              `K = ${show(found.gain, 3)} rad/s per mm; ${show(found.gain, 3)} ÷ (${show(slope)} × ${show(turn, 4)}) = ${show(gain)}`,
            ]
          : []),
      ],
      remark: found
        ? 'Steering is this many percent for each point off the threshold.'
        : 'No gain holds it at this speed: the sensor looks less far ahead than the loop is late. Drive more slowly, or mount it farther ahead.',
    };
  },
};

const tell: Worksheet = {
  id: 'trials',
  title: 'Trials to tell two values apart',
  asks: 'How often must each value be driven before a difference is more than scatter?',
  formula: 'n = 2 × ((1.96 + 0.84) × scatter ÷ difference)² + 1.96² ÷ 4, for each of the two',
  source: 'Guenther 1981; told in 8 of 10 cases, at 95 %',
  inputs: [
    { key: 'difference', label: 'difference that matters', unit: 'mm', usual: 5, min: 0.01, max: 10_000 },
    { key: 'scatter', label: 'scatter of one value (sd)', unit: 'mm', usual: 3, min: 0, max: 10_000 },
  ],
  answer: (v) => {
    const n = trialsToTell(v.difference!, v.scatter!);
    const ratio = v.scatter! / v.difference!;
    const exact = 2 * (2.8015852 * ratio) ** 2 + 0.96036;
    return {
      results: [
        { label: 'trials of each value', value: n, unit: '', digits: 0 },
        { label: 'together', value: 2 * n, unit: '', digits: 0 },
      ],
      lines: [
        `scatter ÷ difference = ${show(v.scatter)} ÷ ${show(v.difference)} = ${show(ratio)}`,
        `2 × (2.8 × ${show(ratio)})² + 0.96 = ${show(exact, 1)}; up to the next whole trial, two at least`,
      ],
      remark:
        n > 30
          ? 'So small a difference is not worth the trials: look for a larger effect.'
          : 'The unit does not matter, as long as both have the same one.',
    };
  },
};

/** Calculations that tuning asks for. */
export const tuningSheets: readonly Worksheet[] = [room, wag, runs, tell];
