import type { Request, Response } from 'express';

/** A cookie that a browser shows; null for none, or one that is none of ours. */
export function cookieOf(req: Request, wanted: string): string | null {
  for (const part of (req.headers.cookie ?? '').split(';')) {
    const [name, value] = part.trim().split('=');
    if (name === wanted && value && value.length <= 100) return value;
  }
  return null;
}

/** A cookie that scripts of pages cannot read and that other sites' pages do not send. */
export function setCookie(req: Request, name: string, value: string, lastsMs?: number): void {
  (req.res as Response).cookie(name, value, {
    httpOnly: true,
    sameSite: 'strict',
    secure: req.secure,
    path: '/',
    ...(lastsMs === undefined ? {} : { maxAge: lastsMs }),
  });
}
