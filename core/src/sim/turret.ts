import { sin, exp } from '../quantity/index.ts';
/** How fast a turret turns at 100 %, deg/s. */
const DEG_PER_S = 360;
/** The motor says it has arrived this long after it got there, ms. */
const ARRIVE_MS = 120;
/** After arriving it swings by a share of its way, so fast, and dies down with this time constant (house choice). */
const SWING_SHARE = 0.06;
const SWING_HZ = 3;
const SETTLE_S = 0.25;

/** A motor that turns a sensor. Angles in degrees, clockwise from ahead. */
export class Turret {
  wantedDeg = 0;
  private fromDeg = 0;
  private fromMs = 0;
  private takesMs = 0;

  /** Starts to turn at a share of its speed, %; says when the motor reports that it is there, ms. */
  turn(nowMs: number, toDeg: number, percent: number): number {
    if (!Number.isFinite(toDeg) || !Number.isFinite(percent)) return nowMs;
    this.fromDeg = this.angleAt(nowMs);
    this.fromMs = nowMs;
    this.wantedDeg = Math.max(-3600, Math.min(3600, toDeg));
    const rate = (DEG_PER_S * Math.max(1, Math.min(100, Math.abs(percent)))) / 100;
    this.takesMs = (1000 * Math.abs(this.wantedDeg - this.fromDeg)) / rate;
    return nowMs + this.takesMs + ARRIVE_MS;
  }

  /** Where it points at a time: on its way at an even rate, then swinging until it has settled. */
  angleAt(nowMs: number): number {
    const way = this.wantedDeg - this.fromDeg;
    const passed = nowMs - this.fromMs;
    if (way === 0) return this.wantedDeg;
    if (passed < this.takesMs) return this.fromDeg + (way * passed) / this.takesMs;
    const s = (passed - this.takesMs) / 1000;
    if (s > 8 * SETTLE_S) return this.wantedDeg;
    return this.wantedDeg + SWING_SHARE * way * exp(-s / SETTLE_S) * sin(2 * Math.PI * SWING_HZ * s);
  }
}
