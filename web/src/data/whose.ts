import { createContext, useContext } from 'react';
import type { Whose } from '@vigilum/contract/types';

/** The team and lesson for which a robot reads on this page; null on pages of the robot itself. */
export const WhoseContext = createContext<Whose | null>(null);
export const useWhose = (): Whose | null => useContext(WhoseContext);
