import { stoppingDistance, type Reaction } from './stopping.ts';

/** No classroom robot is faster, mm/s. */
const MOST = 10_000;

/**
 * The greatest speed, mm/s, at which a robot surely stops within a room, mm: the inverse of its longest stopping distance, by halving. 0
 * for no room.
 */
export function speedForRoom(roomMm: number, reaction: Reaction): number {
  if (!(roomMm > 0)) return 0;
  let [low, high] = [0, MOST];
  if (stoppingDistance(high, reaction).mostMm <= roomMm) return high;
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (stoppingDistance(middle, reaction).mostMm <= roomMm) low = middle;
    else high = middle;
  }
  return low;
}
