import { connect } from 'node:net';

/** Sends a request line as it is, with a small JSON body, and gives the status of the answer; 0 where the line was cut. */
export function askRaw(port: number, method: string, target: string, cookie: string): Promise<number> {
  const body = method === 'GET' || method === 'DELETE' ? '' : '{}';
  return new Promise((done) => {
    const socket = connect(port, '127.0.0.1', () =>
      socket.write(
        `${method} ${target} HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nCookie: ${cookie}\r\nContent-Type: application/json\r\nContent-Length: ${body.length}\r\n\r\n${body}`,
      ),
    );
    let said = '';
    const end = () => {
      socket.destroy();
      done(Number(/^HTTP\/1\.1 (\d+)/.exec(said)?.[1] ?? 0));
    };
    socket.on('data', (chunk) => {
      said += chunk.toString();
      if (said.includes('\r\n')) end();
    });
    socket.setTimeout(3000, end);
    socket.on('close', end);
    socket.on('error', end);
  });
}

/** Ways to write a path of the API so that a careless reader takes it for an address of `decoy`. */
export const strangeTargets = (path: string, decoy: string): string[] => [
  `http://${decoy}/api${path}`,
  `HTTP://${decoy}/api${path}`,
  `//${decoy}/api${path}`,
  `/\\${decoy}/api${path}`,
  `\\\\${decoy}/api${path}`,
  decoy,
  `/api//${decoy}${path}`,
  `/api/%2f%2f${decoy}${path}`,
  `/api${path}%0d%0aHost:%20${decoy}`,
  `/api${path}?u=http://${decoy}/`,
  `@${decoy}/api${path}`,
];
