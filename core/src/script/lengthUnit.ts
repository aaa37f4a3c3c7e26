import type { Unit } from '../quantity/index.ts';
import type { Expr, SensorDeclaration } from './ast.ts';
import { kindOf } from './kinds.ts';
import { sensorsIn } from './walk.ts';

/**
 * The unit that a length takes where none is written, when it is compared with a bare number or shown: that of the distance sensor in
 * it, else the one that all distance sensors of the script share, else cm.
 */
export function lengthUnitOf(expr: Expr, sensors: readonly SensorDeclaration[]): 'mm' | 'cm' | 'in' {
  for (const sensor of sensorsIn(expr)) {
    const unit = sensors[sensor]?.unit;
    if (unit) return unit;
  }
  const shared = new Set(sensors.flatMap(({ unit }) => unit ?? []));
  return shared.size === 1 ? [...shared][0]! : 'cm';
}

/** The sign that a quantity is shown with: its sensor's unit, else the usual one of its kind; '' for plain numbers and yes or no. */
export function unitShown(expr: Expr, sensors: readonly SensorDeclaration[]): Unit | 'deg/s' | '' {
  if (expr.kind === 'sensor' && sensors[expr.index]?.kind === 'spin') return 'deg/s';
  switch (kindOf(expr)) {
    case 'length':
      return lengthUnitOf(expr, sensors);
    case 'angle':
      return 'deg';
    case 'time':
      return 's';
    case 'percent':
      return '%';
    case 'frequency':
      return 'Hz';
    default:
      return '';
  }
}
