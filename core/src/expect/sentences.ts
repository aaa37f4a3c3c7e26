/** Something that happens at a moment, or a state that begins: a signal that goes above or below a value. */
export type Happening =
  | { is: 'pressed'; socket: string }
  | { is: 'reads'; socket: string; op: '<' | '>'; value: number }
  | { is: 'past'; landmark: string }
  | { is: 'in zone'; zone: string }
  | { is: 'box there'; box: string }
  | { is: 'moves' | 'stands' | 'reverses' };

/** A sentence about what the robot shall do, that can be checked on a trace. Lengths in mm, times in s, angles in degrees. */
export type Expectation =
  | { kind: 'stops past'; landmark: string; withinMm: number }
  | { kind: 'ends with gap'; gapMm: number; toleranceMm: number }
  | { kind: 'backs off by'; byMm: number; toleranceMm: number }
  | { kind: 'comes to rest' }
  | { kind: 'done within'; seconds: number }
  | { kind: 'still running'; seconds: number }
  | { kind: 'never touches' }
  | { kind: 'never over the edge' }
  | { kind: 'shows'; text: string }
  | { kind: 'shows in order'; texts: string[] }
  | { kind: 'counts'; count: number; tolerance: number }
  | { kind: 'net turn'; deg: number; toleranceDeg: number }
  | { kind: 'holds bearing'; deg: number; withinDeg: number; fromS: number; share: number }
  | { kind: 'stays on track'; track: string; withinMm: number; share: number }
  | { kind: 'visits'; zones: string[] }
  | { kind: 'ends in'; zone: string }
  | { kind: 'waits for'; box: string; withinS: number }
  | { kind: 'keeps clear'; roomMm: number }
  | { kind: 'bumps'; atLeast: number }
  | { kind: 'backs off after bumps'; atLeastMm: number }
  | { kind: 'soon after'; seconds: number; when: Happening; then: Happening }
  | { kind: 'stands until'; seconds: number }
  | { kind: 'travels'; atLeastMm: number }
  | { kind: 'no faster'; mmPerS: number }
  | { kind: 'does not roll on'; withinMm: number }
  | { kind: 'pushes out'; zone: string }
  | { kind: 'formula'; says: string; formula: string };

export type ExpectationKind = Expectation['kind'];

/** What came of one expectation on one trace. */
export interface Judgement {
  verdict: 'holds' | 'broken' | 'cannot tell';
  /** How much to spare (negative: broken by), in `unit`; null when it cannot be told. */
  margin: number | null;
  unit: string;
  says: string;
}
