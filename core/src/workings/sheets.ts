import { fewOf, show } from './words.ts';
import {
  echoMicroseconds,
  lagWay,
  overshoot,
  readAtTemperature,
  speedOfSound,
  spotTurnRate,
  spotTurnTravelMm,
  steeringMap,
  stoppingDistance,
  surelyMetSweepRate,
  surelySeenSpeed,
  thresholdForGap,
  wheelDegrees,
} from '../motion/index.ts';
import {
  brake,
  delay,
  diameter,
  limit,
  reaction,
  sample,
  speed,
  step,
  track,
  type Values,
} from './inputs.ts';
import { tuningSheets } from './tuningSheets.ts';
import type { Worksheet } from './worksheet.ts';

/** How the way of braking is worked out: the last part by τ, before it as fast as the wheels can. */
function brakingLine(v: Values): string {
  const gentle = (v.limit! * v.brake!) / 1000;
  const way = show(lagWay(v.speed!, v.brake! / 1000, v.limit));
  return v.speed! <= gentle
    ? `braking: ${show(v.speed)} × ${show(v.brake)} ms = ${way} mm`
    : `braking: (${show(v.speed)}² − ${show(gentle)}²) ÷ (2 × ${show(v.limit)}) + ${show(gentle)} × ${show(v.brake)} ms = ${way} mm, where ${show(gentle)} = ${show(v.limit)} × ${show(v.brake)} ms`;
}

const travel: Worksheet = {
  id: 'travel',
  title: 'Distance, turns, degrees, time',
  asks: 'How many wheel turns is that distance, and how long does it take?',
  formula: 'turns = distance ÷ (π × diameter) · degrees = 360 × turns · time = distance ÷ speed',
  source: 'geometry of the wheel',
  inputs: [
    { key: 'distance', label: 'distance', unit: 'mm', usual: 500, min: 0, max: 100_000 },
    diameter,
    speed,
  ],
  answer: (v) => {
    const degrees = wheelDegrees(v.distance!, v.diameter!);
    const round = Math.PI * v.diameter!;
    return {
      results: [
        { label: 'wheel turns', value: degrees / 360, unit: 'turns', digits: 2 },
        { label: 'wheel degrees', value: degrees, unit: 'deg', digits: 0 },
        { label: 'time at that speed', value: v.distance! / v.speed!, unit: 's', digits: 2 },
      ],
      lines: [
        `once round: π × ${show(v.diameter)} = ${show(round)} mm`,
        `${show(v.distance)} ÷ ${show(round)} = ${show(degrees / 360)} turns`,
        `360 × ${show(degrees / 360)} = ${show(degrees, 0)}°`,
        `${show(v.distance)} ÷ ${show(v.speed)} = ${show(v.distance! / v.speed!)} s`,
      ],
      remark: '',
    };
  },
};

const turn: Worksheet = {
  id: 'turn',
  title: 'Turn on the spot',
  asks: 'How many wheel degrees turn the robot by that angle?',
  formula: 'each wheel travels π × track × angle ÷ 360; wheel degrees = angle × track ÷ diameter',
  source: 'geometry of two wheels (Siegwart and Nourbakhsh 2004, section 3.2)',
  inputs: [
    { key: 'angle', label: 'angle of the robot', unit: 'deg', usual: 90, min: 0, max: 3600 },
    track,
    diameter,
  ],
  answer: (v) => {
    const each = spotTurnTravelMm(v.angle!, v.track!);
    const degrees = wheelDegrees(each, v.diameter!);
    return {
      results: [
        { label: 'each wheel, one ahead and one back', value: degrees, unit: 'deg', digits: 0 },
        { label: 'each wheel travels', value: each, unit: 'mm', digits: 1 },
        { label: 'with one wheel standing, the other', value: 2 * degrees, unit: 'deg', digits: 0 },
      ],
      lines: [
        `π × ${show(v.track)} × ${show(v.angle)} ÷ 360 = ${show(each)} mm`,
        `${show(v.angle)} × ${show(v.track)} ÷ ${show(v.diameter)} = ${show(degrees, 0)}°`,
      ],
      remark: '',
    };
  },
};

const stopping: Worksheet = {
  id: 'stopping',
  title: 'Stopping distance',
  asks: 'How far does the robot roll after it sees?',
  formula:
    'speed × (look + steps + command delay) + braking; braking = speed × τ, more where the wheels cannot lose speed so fast',
  source: 'integral of v·e^(−t/τ), before it v² ÷ 2a; a look may come at once or one period late',
  inputs: [speed, sample, step, delay, brake, limit],
  answer: (v) => {
    const d = stoppingDistance(v.speed!, reaction(v));
    return {
      results: [
        { label: 'on average', value: d.meanMm, unit: 'mm', digits: 0 },
        { label: 'at best', value: d.leastMm, unit: 'mm', digits: 0 },
        { label: 'at worst', value: d.mostMm, unit: 'mm', digits: 0 },
      ],
      lines: [
        brakingLine(v),
        `at best: ${show(v.speed)} × (${fewOf(v.step!, v.delay!)}) ms + braking = ${show(d.leastMm)} mm`,
        `a whole look and step later: + ${show(v.speed)} × (${fewOf(v.sample!, v.step!)}) ms = ${show(d.mostMm)} mm`,
      ],
      remark:
        v.speed! > (v.limit! * v.brake!) / 1000
          ? 'Half the speed more than halves it.'
          : 'Half the speed halves all of it.',
    };
  },
};

const gap: Worksheet = {
  id: 'gap',
  title: 'Threshold for a stop gap',
  asks: 'At which reading must the robot stop to keep that gap?',
  formula:
    'threshold = gap + recess of the sensor + longest stopping distance + sensor error + half a step of the reading',
  source: 'stopping distance as above, taken at its worst',
  inputs: [
    { key: 'gap', label: 'wanted gap', unit: 'mm', usual: 150, min: 0, max: 5000 },
    { key: 'recess', label: 'sensor’s face behind the front', unit: 'mm', usual: 0, min: -200, max: 500 },
    speed,
    sample,
    step,
    delay,
    brake,
    limit,
    { key: 'error', label: 'sensor error, at most', unit: 'mm', usual: 5, min: 0, max: 500 },
    { key: 'rounding', label: 'step of the reading', unit: 'mm', usual: 1, min: 0, max: 100 },
  ],
  answer: (v) => {
    const found = thresholdForGap(v.gap!, v.speed!, reaction(v), {
      errorMm: v.error!,
      stepMm: v.rounding!,
      recessMm: v.recess!,
    });
    return {
      results: [
        { label: 'set the threshold to', value: found.thresholdMm, unit: 'mm', digits: 0 },
        { label: 'the same in cm', value: found.thresholdMm / 10, unit: 'cm', digits: 1 },
        { label: 'the same in inches', value: found.thresholdMm / 25.4, unit: 'in', digits: 1 },
        { label: 'gap at most', value: found.mostGapMm, unit: 'mm', digits: 0 },
      ],
      lines: [
        brakingLine(v),
        `stopping distance at worst: ${show(found.stopping.mostMm)} mm`,
        `${show(v.gap)} + ${show(v.recess)} + ${show(found.stopping.mostMm)} + ${show(v.error)} + ${show(v.rounding! / 2)} = ${show(found.thresholdMm)} mm`,
        `earliest look: ${show(found.thresholdMm)} − ${show(v.recess)} − ${show(found.stopping.leastMm)} + ${show(v.error! + v.rounding! / 2)} = ${show(found.mostGapMm)} mm`,
      ],
      remark: '',
    };
  },
};

const seen: Worksheet = {
  id: 'line-speed',
  title: 'Greatest speed for a line',
  asks: 'How fast may the robot go and still be sure to see the line?',
  formula: 'speed = (line width + spot − overlap needed) ÷ time between two looks',
  source: 'one look must fall on the line, wherever the looks happen to lie',
  inputs: [
    { key: 'width', label: 'width of the line', unit: 'mm', usual: 18, min: 1, max: 1000 },
    sample,
    { key: 'spot', label: 'diameter of the sensor’s spot', unit: 'mm', usual: 8, min: 0, max: 100 },
    { key: 'overlap', label: 'overlap needed for the threshold', unit: 'mm', usual: 8, min: 0, max: 100 },
    { key: 'top', label: 'top speed of the robot', unit: 'mm/s', usual: 534, min: 1, max: 5000 },
  ],
  answer: (v) => {
    const usable = v.width! + v.spot! - v.overlap!;
    const most = usable > 0 ? surelySeenSpeed(usable, v.sample! / 1000) : null;
    const share = most === null ? null : Math.min(100, (100 * most) / v.top!);
    return {
      results: [
        { label: 'greatest speed', value: most, unit: 'mm/s', digits: 0 },
        { label: 'of its top speed', value: share, unit: '%', digits: 0 },
      ],
      lines: [
        `${show(v.width)} + ${show(v.spot)} − ${show(v.overlap)} = ${show(usable)} mm`,
        ...(most === null
          ? []
          : [`${show(usable)} ÷ ${show(v.sample! / 1000, 3)} s = ${show(most, 0)} mm/s`]),
      ],
      remark:
        most === null
          ? 'The spot never lies far enough on the line: lower the sensor or widen the line.'
          : share === 100
            ? 'It sees the line even at full speed.'
            : '',
    };
  },
};

const sweep: Worksheet = {
  id: 'sweep',
  title: 'Greatest sweep rate',
  asks: 'How fast may the robot turn and still meet the target?',
  formula: 'rate = (2 × atan(width ÷ (2 × range)) + cone) ÷ (looks × time between two looks)',
  source: 'the target’s angle as seen from the robot must hold the looks wanted',
  inputs: [
    { key: 'width', label: 'width of the target', unit: 'mm', usual: 120, min: 1, max: 5000 },
    { key: 'range', label: 'range', unit: 'mm', usual: 600, min: 10, max: 10_000 },
    { ...sample, usual: 60 },
    { key: 'cone', label: 'opening of the sensor’s cone', unit: 'deg', usual: 0, min: 0, max: 90 },
    { key: 'looks', label: 'looks wanted on it', unit: '', usual: 2, min: 1, max: 20 },
  ],
  answer: (v) => {
    const rate = surelyMetSweepRate(v.width!, v.range!, v.sample! / 1000, {
      coneDeg: v.cone!,
      looks: v.looks!,
    });
    const angle = rate * v.looks! * (v.sample! / 1000);
    return {
      results: [
        { label: 'greatest rate', value: rate, unit: 'deg/s', digits: 0 },
        { label: 'a full look round takes at least', value: 360 / rate, unit: 's', digits: 1 },
      ],
      lines: [
        `target’s angle${v.cone! > 0 ? ' with the cone' : ''}: ${show(angle)}°`,
        `${show(angle)} ÷ (${show(v.looks)} × ${show(v.sample! / 1000, 3)} s) = ${show(rate, 0)}°/s`,
      ],
      remark: '',
    };
  },
};

const hot: Worksheet = {
  id: 'overshoot',
  title: 'Overshoot of a turn',
  asks: 'Where does a turn “until above” really end, and what cancels it?',
  formula: 'overshoot = turn rate × (half a look + step + command delay) + braking, as each wheel brakes',
  source: 'mean delay of a look, the way of braking of a wheel; an angle is 2 × way ÷ track',
  inputs: [
    { key: 'angle', label: 'wanted angle', unit: 'deg', usual: 90, min: 1, max: 3600 },
    { ...speed, label: 'wheel speed', usual: 534 },
    track,
    { ...sample, usual: 20 },
    step,
    delay,
    brake,
    limit,
  ],
  answer: (v) => {
    const rate = spotTurnRate(v.speed!, v.track!);
    const { overshootDeg, endsAtDeg, setDeg } = overshoot(v.angle!, rate, reaction(v), v.track!);
    return {
      results: [
        { label: 'it ends at', value: endsAtDeg, unit: 'deg', digits: 0 },
        { label: 'set the threshold to', value: setDeg, unit: 'deg', digits: 0 },
        { label: 'overshoot', value: overshootDeg, unit: 'deg', digits: 1 },
      ],
      lines: [
        `turn rate: 2 × ${show(v.speed)} ÷ ${show(v.track)} = ${show(rate, 0)}°/s`,
        brakingLine(v),
        `the same as an angle: 2 × that ÷ ${show(v.track)} = ${show(spotTurnRate(lagWay(v.speed!, v.brake! / 1000, v.limit), v.track!))}°`,
        `${show(rate, 0)} × (${fewOf(v.sample! / 2, v.step!, v.delay!)}) ms + that = ${show(overshootDeg)}°`,
        `${show(v.angle)} − ${show(overshootDeg)} = ${show(v.angle! - overshootDeg)}°`,
      ],
      remark:
        setDeg === null
          ? 'It is too fast for so small a turn: slow down.'
          : overshootDeg > 10
            ? 'A speed that falls with what is left of the turn lands on the mark without this.'
            : '',
    };
  },
};

const steering: Worksheet = {
  id: 'steering',
  title: 'Steering map',
  asks: 'Which straight line turns a reading into steering?',
  formula: 'm = (y₂ − y₁) ÷ (x₂ − x₁) · b = y₁ − m × x₁ · steering = m × reading + b',
  source: 'the line through two points',
  inputs: [
    { key: 'x1', label: 'first reading', unit: '%', usual: 0, min: -1000, max: 1000 },
    { key: 'y1', label: 'steering wanted there', unit: '', usual: 30, min: -100, max: 100 },
    { key: 'x2', label: 'second reading', unit: '%', usual: 100, min: -1000, max: 1000 },
    { key: 'y2', label: 'steering wanted there', unit: '', usual: -30, min: -100, max: 100 },
    { key: 'x', label: 'reading to try', unit: '%', usual: 40, min: -1000, max: 1000 },
  ],
  answer: (v) => {
    const map = steeringMap(v.x1!, v.y1!, v.x2!, v.y2!);
    const at = map && map.slope * v.x! + map.intercept;
    return {
      results: [
        { label: 'slope m', value: map?.slope ?? null, unit: '', digits: 3 },
        { label: 'intercept b', value: map?.intercept ?? null, unit: '', digits: 2 },
        { label: 'straight on at', value: map?.zeroAt ?? null, unit: '%', digits: 1 },
        { label: 'steering for the reading to try', value: at, unit: '', digits: 1 },
      ],
      lines: map
        ? [
            `m = (${show(v.y2)} − ${show(v.y1)}) ÷ (${show(v.x2)} − ${show(v.x1)}) = ${show(map.slope, 3)}`,
            `b = ${show(v.y1)} − ${show(map.slope, 3)} × ${show(v.x1)} = ${show(map.intercept)}`,
            `${show(map.slope, 3)} × ${show(v.x)} + ${show(map.intercept)} = ${show(at)}`,
          ]
        : [],
      remark: map
        ? `The same as gain ${show(Math.abs(map.slope), 3)} with target ${show(map.zeroAt)}.`
        : 'Both readings are the same: a line needs two different ones.',
    };
  },
};

const sound: Worksheet = {
  id: 'sound',
  title: 'Sound path',
  asks: 'How long is the echo on its way, and what does the temperature do?',
  formula: 'c = 331.3 × √(1 + T ÷ 273.15) · time = 2 × distance ÷ c',
  source: 'textbook form; within 0.2 m/s of the handbook table for dry air',
  inputs: [
    { key: 'distance', label: 'true distance', unit: 'mm', usual: 1000, min: 1, max: 10_000 },
    { key: 'air', label: 'temperature of the air', unit: '°C', usual: 30, min: -40, max: 60 },
    { key: 'set', label: 'temperature the sensor is set for', unit: '°C', usual: 20, min: -40, max: 60 },
  ],
  answer: (v) => {
    const c = speedOfSound(v.air!);
    const time = echoMicroseconds(v.distance!, v.air!);
    const read = readAtTemperature(v.distance!, v.set!, v.air!);
    return {
      results: [
        { label: 'the sensor says', value: read / 10, unit: 'cm', digits: 1 },
        { label: 'echo time', value: time, unit: 'µs', digits: 0 },
        { label: 'speed of sound', value: c, unit: 'm/s', digits: 1 },
        { label: 'error', value: (100 * (read - v.distance!)) / v.distance!, unit: '%', digits: 2 },
      ],
      lines: [
        `c = 331.3 × √(1 + ${show(v.air)} ÷ 273.15) = ${show(c)} m/s`,
        `2 × ${show(v.distance! / 1000, 3)} m ÷ ${show(c)} = ${show(time, 0)} µs`,
        `set for ${show(v.set)} °C it takes that for ${show(read, 0)} mm`,
      ],
      remark: '',
    };
  },
};

/** Every calculation that is offered, in the order of the work. */
export const worksheets: readonly Worksheet[] = [
  travel,
  turn,
  stopping,
  gap,
  seen,
  sweep,
  hot,
  steering,
  ...tuningSheets,
  sound,
];
