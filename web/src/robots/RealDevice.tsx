import { Usb } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { writeToRobot } from '@vigilum/core/formats';
import { countOf } from '@vigilum/core/quantity';
import { toast } from 'sonner';
import type { Reply } from '@vigilum/contract/types';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { FindingCard } from '../ui/Finding.tsx';
import { lineSplitter, serialPorts, type SerialPort } from './serial.ts';
import { useRobotContext } from './RobotLayout.tsx';

const SPEEDS = [9600, 57_600, 115_200] as const;
/** Lines are handed on together, this often. */
const HAND_ON_MS = 120;
const MOST_LINES = 500;

type Fed = Reply<'POST /robots/:id/lines'>;

/** Reads a serial port of this machine and hands its lines on; says what came in. */
function useSerial(robotId: number, sockets: readonly string[]) {
  const [state, setState] = useState<'off' | 'opening' | 'on'>('off');
  const [fed, setFed] = useState<Fed>({ readings: 0, refused: 0, firstRefused: null });
  const [problem, setProblem] = useState<string | null>(null);
  const stop = useRef<(() => void) | null>(null);
  useEffect(() => () => stop.current?.(), []);

  const connect = async (baudRate: number) => {
    const ports = serialPorts();
    if (!ports) return;
    let port: SerialPort;
    try {
      port = await ports.requestPort();
    } catch {
      return; // Nothing was chosen.
    }
    setState('opening');
    try {
      await port.open({ baudRate });
    } catch {
      setState('off');
      toast.error('The port could not be opened. Is another program using it? Unplug, plug in, try again.');
      return;
    }
    setFed({ readings: 0, refused: 0, firstRefused: null });
    setProblem(null);
    setState('on');
    const reader = port.readable!.getReader();
    const lines = lineSplitter();
    const decoder = new TextDecoder();
    let waiting: string[] = [];
    let ended = false;
    const handOn = setInterval(() => {
      if (waiting.length === 0) return;
      const batch = waiting.slice(-MOST_LINES);
      waiting = [];
      api('POST /robots/:id/lines', { id: robotId, body: { lines: batch } }).then(
        (now) => {
          setProblem(null);
          setFed((was) => ({
            readings: was.readings + now.readings,
            refused: was.refused + now.refused,
            firstRefused: was.firstRefused ?? now.firstRefused,
          }));
        },
        (error: unknown) => setProblem(sentenceOf(error)),
      );
    }, HAND_ON_MS);
    stop.current = () => {
      ended = true;
      void reader.cancel().catch(() => undefined);
    };
    const ask = async () => {
      const writer = port.writable?.getWriter();
      if (!writer) return;
      const messages = [
        writeToRobot({ is: 'hello' }),
        ...sockets.map((socket) => writeToRobot({ is: 'stream', socket, on: true })),
      ];
      await writer.write(new TextEncoder().encode(`${messages.join('\n')}\n`)).catch(() => undefined);
      writer.releaseLock();
    };
    void ask();
    try {
      for (;;) {
        const { value, done } = await reader.read();
        if (done) break;
        waiting.push(...lines(decoder.decode(value, { stream: true })));
      }
    } catch {
      // The cable was pulled: told below.
    }
    clearInterval(handOn);
    reader.releaseLock();
    await port.close().catch(() => undefined);
    stop.current = null;
    setState('off');
    if (!ended) toast.error('The robot’s cable went silent. Plug it in and connect again.');
  };
  return { state, fed, problem, connect, disconnect: () => stop.current?.() };
}

/** Where readings can come from: the stand-in, a serial port of this machine, or a bridge over HTTP. */
export function RealDevice({ robotId, name }: { robotId: number; name: string }) {
  const { detail } = useRobotContext();
  const sockets = detail.build.fittings.map(({ socket }) => socket);
  const { state, fed, problem, connect, disconnect } = useSerial(robotId, sockets);
  const [speed, setSpeed] = useState<(typeof SPEEDS)[number]>(115_200);
  const able = serialPorts() !== null;
  return (
    <div className="flex flex-col gap-2">
      <p className="text-ink-2">
        {state === 'on'
          ? `${name} itself, by its cable: ${countOf(fed.readings, 'reading')} so far.`
          : detail.standIn
            ? `From the stand-in of ${name}, until a real device speaks.`
            : `From ${name} itself, as soon as it is connected.`}
      </p>
      {problem ? (
        <FindingCard
          tone="fault"
          says={problem}
          more="Check the speed, then the program on the robot (docs, Line protocol)."
        />
      ) : fed.refused > 0 ? (
        <FindingCard
          tone="risk"
          says={`${countOf(fed.refused, 'line')} not understood; the first was “${(fed.firstRefused ?? '').slice(0, 60)}”.`}
        />
      ) : null}
      {able ? (
        <div className="flex flex-wrap items-end gap-2">
          {state === 'off' ? (
            <>
              <Button icon={Usb} onClick={() => void connect(speed)}>
                Connect by cable
              </Button>
              <Labelled beside label="speed">
                <select
                  className="input w-28"
                  value={speed}
                  onChange={(event) => setSpeed(Number(event.target.value) as (typeof SPEEDS)[number])}
                >
                  {SPEEDS.map((baud) => (
                    <option key={baud} value={baud}>
                      {baud}
                    </option>
                  ))}
                </select>
              </Labelled>
            </>
          ) : (
            <Button disabled={state === 'opening'} onClick={disconnect}>
              {state === 'opening' ? 'Opening …' : 'Disconnect'}
            </Button>
          )}
        </div>
      ) : (
        <p className="text-ink-2">
          This browser has no serial port. A bridge can post lines to{' '}
          <code className="font-mono break-all">/api/robots/{robotId}/lines</code>.
        </p>
      )}
    </div>
  );
}
