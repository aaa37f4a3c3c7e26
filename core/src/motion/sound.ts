/** Speed of sound in dry air, m/s, at a temperature in °C: 331.3·√(1 + T/273.15) (textbook form; see ISO 9613-1). */
export const speedOfSound = (celsius: number): number => 331.3 * Math.sqrt(1 + celsius / 273.15);

/** Time of an echo there and back, µs, for a distance in mm. */
export const echoMicroseconds = (distanceMm: number, celsius: number): number =>
  (2000 * distanceMm) / speedOfSound(celsius);

/** What a sensor set for one temperature reads for a true distance at another, in the distance's unit. */
export const readAtTemperature = (distance: number, setFor: number, air: number): number =>
  (distance * speedOfSound(setFor)) / speedOfSound(air);
