import Joi from 'joi';
import { facings, readingUnits, sensorKinds, type Kit, type RobotBuild } from '@vigilum/core/sensing';
import { byField, slug, socketName, within, words, wordsOrNone } from '../basics.ts';
import { oneOf } from '../shape.ts';

const mode = Joi.object({
  kind: oneOf(...sensorKinds).required(),
  unit: oneOf(...readingUnits).required(),
  min: within(-100_000, 100_000).required(),
  max: within(-100_000, 100_000).required(),
  step: within(0.0001, 10_000).required(),
  samplePeriodMs: within(1, 10_000).required(),
  noReading: within(-100_000, 100_000),
  raw: Joi.object({
    atMin: within(-1_000_000, 1_000_000).required(),
    atMax: within(-1_000_000, 1_000_000).required(),
  }),
  colours: Joi.array().items(words(30)).max(32),
});

const sensor = Joi.object({
  id: slug().required(),
  name: words(40).required(),
  modes: Joi.array().items(mode).min(1).max(11).required(),
  faces: oneOf(...facings),
  mountMm: Joi.object({ from: within(0, 500).required(), to: within(0, 500).required() }),
  mountAdvice: wordsOrNone(300),
});

/** A kit as it is stored, edited, and read from a file. */
export const kitSchema = Joi.object<Kit>({
  slug: slug().required(),
  name: words(80).required(),
  sockets: Joi.array()
    .items(
      Joi.object({
        name: socketName.required(),
        takes: oneOf('sensor', 'motor').required(),
        drives: wordsOrNone(40),
        label: wordsOrNone(40),
      }),
    )
    .min(1)
    .max(40)
    .required(),
  sensors: Joi.array().items(sensor).max(40).required(),
  drive: Joi.object({
    topDegPerS: within(10, 10_000).required(),
    tauDriveS: within(0.001, 5).required(),
    tauBrakeS: within(0.001, 5).required(),
    tauCoastS: within(0.001, 10).required(),
    commandDelayMs: within(0, 1000).required(),
    deadPercent: within(0, 30),
    accelLimitMmPerS2: within(100, 100_000),
    wallFriction: within(0, 2),
  }).required(),
  stepTimeMs: within(0.1, 1000).required(),
  atProgramEnd: byField('kind', { stop: {}, roll: { forMs: within(0, 60_000).required() } }).required(),
});

/** A robot's measures and what is plugged in where. */
export const buildSchema = Joi.object<RobotBuild>({
  wheelDiameterMm: within(5, 500).required(),
  trackMm: within(10, 1000).required(),
  lengthMm: within(20, 2000).required(),
  widthMm: within(20, 2000).required(),
  axleFromFrontMm: within(0, 2000).required(),
  fittings: Joi.array()
    .items(
      Joi.object({
        socket: socketName.required(),
        sensorId: slug().required(),
        mode: oneOf(...sensorKinds).required(),
        aheadMm: within(-1000, 1000).required(),
        rightMm: within(-1000, 1000).required(),
        heightMm: within(0, 500).required(),
        facing: oneOf(...facings),
        turret: socketName,
      }),
    )
    .max(20)
    .required(),
  quirks: Joi.array().items(words(120)).max(20),
}).meta({ named: 'build' });
