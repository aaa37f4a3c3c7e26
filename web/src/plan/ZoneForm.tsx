import type { YearPlan } from '@vigilum/contract/types';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { SelectField } from '../ui/fields.tsx';
import { planTouched } from './usePlan.ts';

/** Zones that this browser knows; where it does not tell, the school's own. */
const zonesHere = (own: string): string[] => [
  ...new Set([own, ...Intl.supportedValuesOf('timeZone'), 'UTC']),
];

/** The clock by which the school meets. */
export function ZoneForm({ plan }: { plan: YearPlan }) {
  const save = useChange(
    (zone: string) => api('PATCH /plan', { body: { zone } }),
    () => planTouched(),
  );
  return (
    <SelectField
      label="the school’s clock"
      value={plan.zone}
      disabled={save.isPending}
      choose={(zone) => save.mutate(zone)}
      options={zonesHere(plan.zone).map((zone) => ({ id: zone, name: zone }))}
    />
  );
}
