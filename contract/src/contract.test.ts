import fc from 'fast-check';
import { z } from 'zod';
import { api, apiProblem, carriesVersion, FILES, line, rosterRow, type AnyEndpoint } from '.';

const calls = Object.entries(api) as [string, AnyEndpoint][];

describe('the calls', () => {
  it('are each a method and a path of their own', () => {
    const seen = calls.map(([, e]) => `${e.method} ${e.path}`);
    expect(new Set(seen).size).toBe(seen.length);
  });

  it.each(calls)('%s: what its path names is what its parameters are', (_name, { path, params }) => {
    const named = [...path.matchAll(/:(\w+)/g)].map((m) => m[1]!).sort();
    const taken = params instanceof z.ZodObject ? Object.keys(params.shape).sort() : [];
    expect(taken).toEqual(named);
  });

  it('that only read take no body, and that change something are no GET', () => {
    for (const [name, { method, body }] of calls)
      if (method === 'GET') expect([name, body.safeParse(undefined).success]).toEqual([name, true]);
  });

  it('that carry a version refuse one that cannot be', () => {
    const versioned = calls.filter(([, e]) => carriesVersion(e));
    expect(versioned.length).toBeGreaterThan(10);
    for (const [name, { body }] of versioned)
      for (const version of [-1, 1.5, 3e9, '1', null, undefined]) {
        const refused = body.safeParse({ section: 'close', value: { notes: '', keep: '' }, version });
        expect([name, refused.success]).toEqual([name, false]);
      }
    expect(carriesVersion(api.saveSection)).toBe(true);
    expect(carriesVersion(api.takeReading)).toBe(false);
    expect(carriesVersion(api.startLoad)).toBe(false);
  });

  it('name their files once', () => expect(new Set(FILES).size).toBe(FILES.length));
});

describe('a row of a roster', () => {
  const words = fc.string({ maxLength: 200 });
  const column = fc.oneof(fc.string({ maxLength: 100 }), fc.constantFrom('__proto__', 'constructor', 'toString', ''));
  const row = fc
    .uniqueArray(fc.tuple(column, words), { selector: ([c]) => c, maxLength: 40 })
    .map((entries) => Object.fromEntries(entries));

  it('comes back entry by entry, whatever its columns are called', () =>
    fc.assert(
      fc.property(row, (given) => {
        const read = rosterRow.parse(JSON.parse(JSON.stringify(given)));
        expect(Object.entries(read)).toEqual(Object.entries(given));
        expect(Object.getPrototypeOf({ ...read, x: 1 })).toBe(Object.prototype);
      }),
    ));

  it.each([
    ['a list', [], /columns and words/],
    ['a word', 'ANNA', /columns and words/],
    ['nothing', null, /columns and words/],
    ['a number in a cell', { name: 7 }, /name must be words/],
    ['a cell of 201 letters', { name: 'x'.repeat(201) }, /longer than 200/],
    ['a column of 101 letters', { ['x'.repeat(101)]: '' }, /longer than 100/],
    ['41 columns', Object.fromEntries(Array.from({ length: 41 }, (_, i) => [`c${i}`, ''])), /more than 40 columns/],
  ])('%s is refused by what is wrong', (_what, value, sentence) => {
    const read = rosterRow.safeParse(value);
    expect(!read.success && read.error.issues[0]!.message).toMatch(sentence);
  });
});

describe('a line of text', () => {
  it('is trimmed, and refused empty, too long, or with what cannot be printed', () => {
    const name = line('Name', 1, 10);
    expect(name.parse('  Heron ')).toBe('Heron');
    for (const [bad, sentence] of [
      ['  ', 'Name is empty.'],
      ['x'.repeat(11), 'Name is longer than 10 characters.'],
      ['a\u0007b', 'Name has a character that cannot be printed.'],
    ] as const)
      expect(name.safeParse(bad).error?.issues[0]!.message).toBe(sentence);
  });
});

it('a refusal says what is stored now, where another was quicker', () => {
  const said = { code: 'stale', message: 'Odile changed this.', now: { version: 4 } };
  expect(apiProblem.parse(said)).toEqual(said);
});
