import { hostname, networkInterfaces } from 'node:os';

/** The addresses at which a server answers, and the names that pages may ask it by. */
export interface Addresses {
  /** Whether it answers other machines. */
  open: boolean;
  /** Names of this machine, beside numbers and localhost. */
  names: string[];
  /** Every address that works from where it answers, the one to give to tablets first. */
  urls: (port: number) => string[];
  /** The address for programs on this machine. */
  own: (port: number) => string;
}

const inBrackets = (host: string): string => (host.includes(':') ? `[${host}]` : host);
const EVERYWHERE = ['0.0.0.0', '::'];
const LOOPBACK = ['127.0.0.1', '::1', 'localhost'];

/** Addresses of this machine in its networks, IPv4 ones first; none that only holds on one link. */
function inNetworks(): string[] {
  const all = Object.values(networkInterfaces()).flatMap((list) => list ?? []);
  const good = all.filter(({ internal, address }) => !internal && !/^(fe80:|169\.254\.)/i.test(address));
  return [
    ...good.filter(({ family }) => family === 'IPv4'),
    ...good.filter(({ family }) => family === 'IPv6'),
  ].map(({ address }) => address);
}

/**
 * What HOST and ALLOWED_HOSTS come to. `host` is what the server binds to; `allowed` are further names, with commas or blanks between,
 * such as the name that a school's network gives this machine.
 */
export function addressesOf(host: string, allowed = '', found: () => string[] = inNetworks): Addresses {
  const open = EVERYWHERE.includes(host);
  const machine = hostname().toLowerCase();
  const own = machine.includes('.') ? [machine] : [machine, `${machine}.local`];
  const further = allowed
    .toLowerCase()
    .split(/[\s,]+/)
    .filter((name) => name !== '');
  // Names of this machine cannot be rebound from elsewhere: whoever gives them to another gives away that machine.
  const names = [...new Set([...further, ...(LOOPBACK.includes(host) ? [] : own)])];
  return {
    open,
    names,
    urls: (port) => {
      if (!open) return [`http://${inBrackets(host)}:${port}`];
      const hosts = [...found(), ...further];
      const outside = hosts.map((one) => `http://${inBrackets(one)}:${port}`);
      return [...outside, `http://127.0.0.1:${port}`];
    },
    own: (port) => `http://${open ? '127.0.0.1' : inBrackets(host)}:${port}`,
  };
}
