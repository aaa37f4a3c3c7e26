import { useQuery } from '@tanstack/react-query';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';

/** The phrasebooks of a kit. */
export const usePhrasebooks = (kit: string) =>
  useQuery({
    queryKey: keys.phrasebooks(kit),
    queryFn: () => api('GET /kits/:slug/phrasebooks', { slug: kit }),
  });
