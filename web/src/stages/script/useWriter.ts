import { useState } from 'react';
import { keepWriter, writerName } from '../../script/writer.ts';

/** Who writes on this machine, in their own words: kept here, and saved with each version. */
export function useWriter(): [string, (name: string) => void] {
  const [name, setName] = useState(writerName);
  return [
    name,
    (next) => {
      setName(next);
      keepWriter(next);
    },
  ];
}
