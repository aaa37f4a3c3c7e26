import { Hand } from 'lucide-react';
import { useState } from 'react';
import type { Hand as HandMove } from '@vigilum/core/formats';
import { toast } from 'sonner';
import { post } from '../../data/api.ts';
import { sentenceOf } from '../../data/queries.ts';

/** The hands at the stand-in robot: what lies under its sensor. A real robot is moved by real hands. */
export function StandInHand({ robotId, surfaces }: { robotId: number; surfaces: readonly string[] }) {
  const [at, setAt] = useState('');
  const moves: { word: string; hand: HandMove }[] = [
    ...surfaces.map((surface) => ({ word: `over the ${surface}`, hand: { put: 'over' as const, surface } })),
    { word: 'paper to and fro', hand: { put: 'paper' } },
    { word: 'lift it', hand: { put: 'air' } },
  ];
  const move = async (word: string, hand: HandMove) => {
    try {
      await post(`/robots/${robotId}/hand`, hand);
      setAt(word);
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  return (
    <div role="group" aria-label="Move the stand-in robot" className="flex flex-wrap items-center gap-1.5">
      <span className="flex items-center gap-1.5 text-ink-2">
        <Hand size={18} aria-hidden="true" /> stand-in robot:
      </span>
      {moves.map(({ word, hand }) => (
        <button
          key={word}
          type="button"
          aria-pressed={at === word}
          className={`min-h-11 rounded-lg border px-3 ${at === word ? 'border-sea bg-sea-soft font-bold text-sea' : 'border-edge bg-sheet'}`}
          onClick={() => void move(word, hand)}
        >
          {word}
        </button>
      ))}
    </div>
  );
}
