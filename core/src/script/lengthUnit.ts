import type { Expr, SensorDeclaration } from './ast.ts';
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
