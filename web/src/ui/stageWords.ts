import type { StageName } from '@vigilum/core/classroom';

export const stageWords: Record<StageName, string> = {
  wire: 'Wire',
  read: 'Read',
  decide: 'Decide',
  script: 'Script',
  try: 'Try',
  prove: 'Prove',
  floor: 'Floor',
};
