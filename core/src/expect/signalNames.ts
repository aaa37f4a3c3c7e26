/** Name of the signal that tells how far the watching sensor is past a landmark, mm. */
export const pastSignal = (landmark: string): string => `past ${landmark}`;
/** How far the watching sensor is off the followed edge, mm. */
export const offSignal = (track: string): string => `off ${track}`;
/** How deep the robot's axle is inside a zone, mm. */
export const inSignal = (zone: string): string => `in ${zone}`;
/** How deep the opponent's middle is inside a zone, mm. */
export const opponentInSignal = (zone: string): string => `opponent in ${zone}`;
/** Room between the robot's outline and a box, mm; far when the box is not there. */
export const nearSignal = (box: string): string => `room to ${box}`;
/** 1 while a box is there, else −1. */
export const thereSignal = (box: string): string => `${box} there`;
/** How long after a box had left the robot went on, s. */
export const goesOnSignal = (box: string): string => `goes on after ${box}`;
/** 1 while the display shows a text, else −1. */
export const showsSignal = (text: string): string => `shows ${text}`;
