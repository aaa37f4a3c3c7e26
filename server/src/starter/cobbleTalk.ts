import type { Phrasebook } from '@vigilum/core/phrasebook';

/** The text language of the Cobble: invented, as the kit is. It ships as an example of a phrasebook. */
export const cobbleTalk: Phrasebook = {
  name: 'Cobble talk',
  syntax: 'python',
  declares: [
    'sensor nose is touch on K1',
    'sensor front is distance on K2',
    'sensor floor is light on K3',
    'sensor gyro is heading on K5',
  ],
  phrases: [
    { pattern: 'move(ahead, $speed)', says: 'drive $speed %' },
    { pattern: 'move(back, $speed)', says: 'drive -$speed %' },
    { pattern: 'go(ahead, $speed, $far)', says: 'drive $speed % for $far cm' },
    { pattern: 'go(back, $speed, $far)', says: 'drive -$speed % for $far cm' },
    { pattern: 'wheels($left, $right)', says: 'wheels $left % and $right %' },
    { pattern: 'bend($amount, $speed)', says: 'steer $amount at $speed %' },
    { pattern: 'turn_right($angle)', says: 'turn right $angle deg' },
    { pattern: 'turn_left($angle)', says: 'turn left $angle deg' },
    { pattern: 'halt()', says: 'stop' },
    { pattern: 'pause($time)', says: 'wait $time s' },
    { pattern: 'ground()', says: 'floor' },
    { pattern: 'room_ahead()', says: 'front' },
    { pattern: 'touching()', says: 'nose is pressed' },
    { pattern: 'bearing()', says: 'gyro' },
    { pattern: 'bearing_zero()', says: 'zero heading' },
    { pattern: 'tell($what)', says: 'show $what' },
    { pattern: 'tell($what, $number)', says: 'show $what and $number' },
    { pattern: 'tone($pitch, $time)', says: 'beep $pitch Hz for $time s' },
    { pattern: 'wait_for_dark($level)', says: 'wait until floor < $level %' },
    { pattern: 'wait_for_light($level)', says: 'wait until floor > $level %' },
  ],
};
