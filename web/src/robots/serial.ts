/** The part of the browser's serial port that is used here (Web Serial, where the browser has it). */
export interface SerialPort {
  open(options: { baudRate: number }): Promise<void>;
  close(): Promise<void>;
  readable: ReadableStream<Uint8Array> | null;
  writable: WritableStream<Uint8Array> | null;
}

interface SerialPorts {
  requestPort(): Promise<SerialPort>;
}

/** The browser's serial ports; null where it has none. */
export const serialPorts = (): SerialPorts | null =>
  (navigator as Navigator & { serial?: SerialPorts }).serial ?? null;

/** Text that arrives in pieces, as whole lines; a line that never ends is cut off at `most` characters. */
export function lineSplitter(most = 400): (piece: string) => string[] {
  let rest = '';
  return (piece) => {
    const parts = (rest + piece).split(/\r\n|\n|\r/);
    rest = parts.pop()!;
    if (rest.length > most) rest = rest.slice(0, most);
    return parts.map((line) => line.slice(0, most)).filter((line) => line !== '');
  };
}
