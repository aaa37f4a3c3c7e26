import type { RobotBuild } from '@vigilum/core/sensing';
import type { StandInCharacter } from '../devices/standInRobot.ts';

/** A Cobble as it comes out of the box: bumper on K1, sounder on K2, floor eye on K3 at 12 mm, spin top on K5. */
export const cobbleBuild: RobotBuild = {
  wheelDiameterMm: 68,
  trackMm: 120,
  lengthMm: 190,
  widthMm: 150,
  axleFromFrontMm: 112,
  fittings: [
    {
      socket: 'K1',
      sensorId: 'bumper',
      mode: 'touch',
      aheadMm: 110,
      rightMm: 0,
      heightMm: 30,
      facing: 'ahead',
    },
    {
      socket: 'K2',
      sensorId: 'sounder',
      mode: 'distance',
      aheadMm: 104,
      rightMm: 0,
      heightMm: 60,
      facing: 'ahead',
    },
    {
      socket: 'K3',
      sensorId: 'floor-eye',
      mode: 'light',
      aheadMm: 80,
      rightMm: 0,
      heightMm: 12,
      facing: 'down',
    },
    { socket: 'K5', sensorId: 'spin-top', mode: 'heading', aheadMm: -20, rightMm: 0, heightMm: 70 },
  ],
};

/** A stand-in without quirks of its own. */
export const plainCharacter: StandInCharacter = { gain: 1, darkSd: 1.2, lightSd: 1.8, roomLight: 20 };
