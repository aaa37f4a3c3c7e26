import Joi from 'joi';
import { facings, readingUnits, sensorKinds, type Kit, type RobotBuild } from '@vigilum/core/sensing';
import { socketName } from '../http/validate.ts';

const name = (longest: number) => Joi.string().trim().min(1).max(longest);
const id = Joi.string().pattern(/^[a-z0-9-]{1,40}$/, 'lower-case letters, digits and dashes');
const amount = (least: number, most: number) => Joi.number().min(least).max(most);

const mode = Joi.object({
  kind: Joi.valid(...sensorKinds).required(),
  unit: Joi.valid(...readingUnits).required(),
  min: amount(-100_000, 100_000).required(),
  max: amount(-100_000, 100_000).required(),
  step: amount(0.0001, 10_000).required(),
  samplePeriodMs: amount(1, 10_000).required(),
  noReading: amount(-100_000, 100_000),
  colours: Joi.array().items(name(30)).max(32),
});

const sensor = Joi.object({
  id: id.required(),
  name: name(40).required(),
  modes: Joi.array().items(mode).min(1).max(11).required(),
  faces: Joi.valid(...facings),
  mountMm: Joi.object({ from: amount(0, 500).required(), to: amount(0, 500).required() }),
  mountAdvice: Joi.string().max(300).allow(''),
});

/** A kit as it is stored, edited, and read from a file. docs/schemas/kit.schema.json says the same to the world. */
export const kitSchema = Joi.object<Kit>({
  slug: id.required(),
  name: name(80).required(),
  sockets: Joi.array()
    .items(
      Joi.object({
        name: socketName.required(),
        takes: Joi.valid('sensor', 'motor').required(),
        drives: Joi.string().max(40).allow(''),
        label: Joi.string().max(40).allow(''),
      }),
    )
    .min(1)
    .max(40)
    .required(),
  sensors: Joi.array().items(sensor).max(40).required(),
  drive: Joi.object({
    topDegPerS: amount(10, 10_000).required(),
    tauDriveS: amount(0.001, 5).required(),
    tauBrakeS: amount(0.001, 5).required(),
    tauCoastS: amount(0.001, 10).required(),
    commandDelayMs: amount(0, 1000).required(),
  }).required(),
  stepTimeMs: amount(0.1, 1000).required(),
  atProgramEnd: Joi.alternatives()
    .try(
      Joi.object({ kind: Joi.valid('stop').required() }),
      Joi.object({ kind: Joi.valid('roll').required(), forMs: amount(0, 60_000).required() }),
    )
    .required(),
});

/** A robot's measures and what is plugged in where. */
export const buildSchema = Joi.object<RobotBuild>({
  wheelDiameterMm: amount(5, 500).required(),
  trackMm: amount(10, 1000).required(),
  lengthMm: amount(20, 2000).required(),
  widthMm: amount(20, 2000).required(),
  axleFromFrontMm: amount(0, 2000).required(),
  fittings: Joi.array()
    .items(
      Joi.object({
        socket: socketName.required(),
        sensorId: id.required(),
        mode: Joi.valid(...sensorKinds).required(),
        aheadMm: amount(-1000, 1000).required(),
        rightMm: amount(-1000, 1000).required(),
        heightMm: amount(0, 500).required(),
        facing: Joi.valid(...facings),
        turret: socketName,
      }),
    )
    .max(20)
    .required(),
  quirks: Joi.array().items(name(120)).max(20),
});
