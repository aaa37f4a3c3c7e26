import { useQuery } from '@tanstack/react-query';
import type { Phrasebook } from '@vigilum/core/phrasebook';
import { get } from '../data/api.ts';

export interface StoredBook {
  id: number;
  book: Phrasebook;
}

/** The phrasebooks of a kit. */
export const usePhrasebooks = (kit: string) =>
  useQuery({
    queryKey: ['phrasebooks', kit],
    queryFn: () => get<{ phrasebooks: StoredBook[] }>(`/kits/${encodeURIComponent(kit)}/phrasebooks`),
  });
