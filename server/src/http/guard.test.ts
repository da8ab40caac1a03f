import type { Request } from 'express';
import { describe, expect, test, vi } from 'vitest';
import { readSettings } from '../settings.ts';
import { guard, MARK } from './guard.ts';

const ask = (method: string, headers: Record<string, string>, origins: string[] = []) => {
  const next = vi.fn();
  try {
    guard(() => 4173, origins)({ method, headers } as unknown as Request, {} as never, next);
  } catch (error) {
    return (error as { status: number }).status;
  }
  return next.mock.calls.length === 1 ? 'let in' : 'lost';
};

const marked = { [MARK]: 'desk' };

describe('the guard', () => {
  test.each<[string, string, Record<string, string>, unknown]>([
    ['a reader by its name', 'GET', { host: 'localhost:4173' }, 'let in'],
    ['a reader by its number', 'GET', { host: '127.0.0.1:4173' }, 'let in'],
    ['a reader under another name', 'GET', { host: 'evil.example:4173' }, 403],
    ['a reader on another port', 'GET', { host: 'localhost:80' }, 403],
    ['a reader without a name', 'GET', {}, 403],
    [
      'a writer of our own page',
      'POST',
      { host: 'localhost:4173', origin: 'http://localhost:4173', ...marked },
      'let in',
    ],
    ['a writer without a page, such as a script', 'POST', { host: 'localhost:4173', ...marked }, 'let in'],
    ['a writer that does not say so', 'POST', { host: 'localhost:4173' }, 403],
    [
      'a writer that does not, of our own page',
      'PUT',
      { host: 'localhost:4173', origin: 'http://localhost:4173' },
      403,
    ],
    ['a page on another port', 'POST', { host: 'localhost:4173', 'sec-fetch-site': 'same-site', ...marked }, 403],
    [
      'one that comes from elsewhere',
      'POST',
      { host: 'localhost:4173', referer: 'http://evil.example/a', ...marked },
      403,
    ],
    [
      'one that comes from here',
      'POST',
      { host: 'localhost:4173', referer: 'http://localhost:4173/shots/a', ...marked },
      'let in',
    ],
    ['a writer from elsewhere', 'POST', { host: 'localhost:4173', origin: 'http://evil.example', ...marked }, 403],
    ['a writer that hides where it is from', 'DELETE', { host: 'localhost:4173', origin: 'null', ...marked }, 403],
    ['a form of another site', 'POST', { host: 'localhost:4173', 'sec-fetch-site': 'cross-site', ...marked }, 403],
  ])('answers %s rightly', (_, method, headers, answer) => {
    expect(ask(method, headers)).toBe(answer);
  });

  test('lets the origins in that it is told of', () => {
    const headers = {
      host: 'localhost:4173',
      origin: 'http://localhost:5173',
      'sec-fetch-site': 'cross-site',
      ...marked,
    };
    expect(ask('POST', headers)).toBe(403);
    expect(ask('POST', headers, ['http://localhost:5173'])).toBe('let in');
  });
});

describe('the settings', () => {
  test('have their usual values, and a wrong one is named', () => {
    const good = { VARRUP_DATABASE: 'postgres://varrup@127.0.0.1/x' };
    expect(readSettings(good)).toMatchObject({ port: 4173, origins: [], log: 'error' });
    expect(() => readSettings({ ...good, PORT: 'many' })).toThrow(/^PORT: /);
    expect(() => readSettings({})).toThrow(/VARRUP_DATABASE: /);
  });
});
