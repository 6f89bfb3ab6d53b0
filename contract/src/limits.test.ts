import { z } from 'zod';
import { freshDrive, freshFeeder, freshMachine } from '@bistre/core';
import {
  fittingBlank,
  api,
  blankSpec,
  driveSpec,
  feederSpec,
  HAVE,
  held,
  machineProfile,
  offcutSpec,
  PARTS,
  readMarks,
  recipeSpec,
  setup,
  writeMarks,
} from '.';

interface Bound {
  readonly path: string;
  readonly schema: z.ZodNumber;
}

/** Every number under a schema that says how it is shown, whichever case of a union it stands in. */
const numbersOf = (schema: z.ZodType, path = ''): Bound[] => {
  const deeper = (inner: unknown, step = ''): Bound[] => numbersOf(inner as z.ZodType, `${path}${step}`);
  if (schema instanceof z.ZodNumber) return schema.meta() ? [{ path, schema }] : [];
  if (schema instanceof z.ZodNullable || schema instanceof z.ZodOptional || schema instanceof z.ZodReadonly)
    return deeper(schema.unwrap());
  if (schema instanceof z.ZodArray) return deeper(schema.element, '.0');
  if (schema instanceof z.ZodTuple) return schema.def.items.flatMap((item, i) => deeper(item, `.${i}`));
  if (schema instanceof z.ZodUnion) return schema.options.flatMap((o, i) => deeper(o, `|${i}`));
  if (schema instanceof z.ZodIntersection) return [...deeper(schema.def.left), ...deeper(schema.def.right)];
  if (schema instanceof z.ZodObject) return Object.entries(schema.shape).flatMap(([k, v]) => deeper(v, `.${k}`));
  return [];
};

const SCHEMAS: Readonly<Record<string, z.ZodType>> = {
  setup,
  held,
  blankSpec,
  machineProfile,
  recipeSpec,
  driveSpec,
  feederSpec,
  offcutSpec,
  ...Object.fromEntries(Object.entries(api).map(([name, { body }]) => [name, body])),
};
const NUMBERS = Object.entries(SCHEMAS).flatMap(([name, schema]) =>
  numbersOf(schema).map((b) => ({ ...b, path: name + b.path })),
);

describe('every number that is typed', () => {
  it('is found: a few hundred, each with a label', () => {
    expect(NUMBERS.length).toBeGreaterThan(300);
    expect(NUMBERS.filter(({ schema }) => !(schema.meta() as { label?: string }).label)).toEqual([]);
  });

  it('is taken on its limits and refused beyond them, in a sentence that names it with both', () => {
    for (const { path, schema } of NUMBERS) {
      const [low, high] = [schema.minValue!, schema.maxValue!];
      expect({ path, ok: Number.isFinite(low) && Number.isFinite(high) && low < high }).toEqual({ path, ok: true });
      const step = Math.max(1e-6, Math.abs(high - low) * 1e-6);
      for (const edge of [low, high])
        expect({ path, edge, taken: schema.safeParse(edge).success }).toMatchObject({ taken: true });
      for (const beyond of [low - step, high + step, Number.NaN, Number.POSITIVE_INFINITY, '1', null]) {
        const read = schema.safeParse(beyond);
        expect({ path, beyond, taken: read.success }).toMatchObject({ taken: false });
        expect(read.error!.issues[0]!.message).toMatch(
          /^.+ must be a (whole )?number( between -?[\d.]+ and [\d.]+.*)?\.$/,
        );
      }
    }
  });

  it('is whole where it counts', () => {
    const counted = NUMBERS.filter(({ schema }) => (schema.meta() as { reads?: string }).reads === 'count');
    expect(counted.length).toBeGreaterThan(20);
    for (const { path, schema } of counted) {
      const low = schema.minValue!;
      expect({ path, half: schema.safeParse(low + 0.5).success }).toEqual({ path, half: false });
      expect({ path, whole: schema.safeParse(low + 1).success }).toEqual({ path, whole: true });
    }
  });
});

describe('what stands on the Shelf', () => {
  const problem = (schema: z.ZodType, value: unknown): [string, string] | null => {
    const read = schema.safeParse(value);
    return read.success ? null : [read.error.issues[0]!.path.join('.'), read.error.issues[0]!.message];
  };
  const tag = {
    shape: { kind: 'rectangle', length: 60, width: 25, cornerRadius: 3 },
    thickness: 1.5,
    catalogueTolerance: 0.3,
    holes: [],
    direction: { kind: 'none' },
    zones: [],
  };
  const cup = {
    ...tag.shape,
    kind: 'round',
    wall: 1,
    material: 'steel',
    filled: false,
    lid: true,
    capacity: null,
    feature: null,
  };

  it('is taken as a new one of each begins', () => {
    expect(problem(machineProfile, freshMachine)).toBeNull();
    expect(problem(driveSpec, { ...freshDrive, risers: [] })).toBeNull();
    expect(problem(feederSpec, freshFeeder)).toBeNull();
    expect(problem(blankSpec, tag)).toBeNull();
  });

  it.each([
    ['a corner rounder than the piece is wide', blankSpec, { ...tag, shape: { ...tag.shape, cornerRadius: 13 } }, 'shape.cornerRadius', /more than half the width/],
    ['a profile of one place', blankSpec, { ...tag, shape: { ...cup, profile: [{ at: 0, diameter: 80 }] } }, 'shape.profile', /rim and at the base/],
    ['a profile that runs back', blankSpec, { ...tag, shape: { ...cup, profile: [{ at: 0, diameter: 80 }, { at: 90, diameter: 80 }, { at: 40, diameter: 70 }] } }, 'shape.profile', /not beyond/],
    ['a form that nobody knows', blankSpec, { ...tag, shape: { kind: 'star' } }, 'shape.kind', /Invalid/],
    ['a window of 59 mm', feederSpec, { ...freshFeeder, window: { from: 100, to: 159 } }, 'window.to', /at least 60 mm/],
    ['a narrowest that is the widest', feederSpec, { ...freshFeeder, narrowest: freshFeeder.widest }, 'narrowest', /not narrower/],
    ['rails that carry less than none', feederSpec, { ...freshFeeder, longestOnRails: freshFeeder.longest - 1 }, 'longestOnRails', /less than without/],
    ['no roller', feederSpec, { ...freshFeeder, rollers: [] }, 'rollers', /where its rollers are/],
    ['wheels with one driven', driveSpec, { ...freshDrive, kind: 'wheel', driven: 1, bandThickness: 0, risers: [] }, 'driven', /Invalid/],
  ] as const)('%s is refused at its place', (_what, schema, value, path, words) => {
    const [at, message] = problem(schema, value)!;
    expect(at).toBe(path);
    expect(message).toMatch(words);
  }); // prettier-ignore
});

describe('marks of a batch’s parts', () => {
  it('come back as they were written, through headers that HTTP allows', () => {
    const marks = { roster: 'aB-_9', setup: 'x', pieces: '0'.repeat(16) };
    expect(readMarks(writeMarks(marks))).toEqual(marks);
    expect(writeMarks(marks)).toMatch(/^[\x21-\x7e ]*$/);
    expect([HAVE, PARTS].every((name) => /^[a-z-]+$/.test(name))).toBe(true);
  });
  it('that cannot be read are none, so that all is sent', () => {
    for (const header of [null, undefined, '', ' ', 'roster', '=a', 'a=', 'a=b=c', 'a b=c d'])
      expect(Object.keys(readMarks(header)).every((k) => k === 'b')).toBe(true);
  });
});

describe('a blank, as it is written', () => {
  const zone = { id: 'z', name: 'face', x: 0, y: 0, width: 54, height: 21, margin: 1, across: 'centre', down: 'middle', keepOuts: [] } as const; // prettier-ignore
  const flat = { thickness: 3, catalogueTolerance: 0.3, holes: [], direction: { kind: 'none' } as const };
  const said = (shape: object, change: object = {}): unknown[] => (fittingBlank.safeParse({ ...flat, shape, zones: [{ ...zone, ...change }] }).error?.issues ?? []).map((i) => [i.path.join('.'), i.message]); // prettier-ignore
  it('has no zone that is larger than itself, whatever its form', () => {
    const tag = { kind: 'rectangle', length: 60, width: 25, cornerRadius: 0 };
    expect(said(tag)).toEqual([]);
    expect(said(tag, { width: 60, height: 25 })).toEqual([]);
    expect(said(tag, { height: 26 })).toEqual([['zones.0.height', 'face is 26 mm high; the blank is 25 mm wide. Make the zone smaller, or the blank as large as it is.']]); // prettier-ignore
    expect(said({ kind: 'disc', diameter: 50 })).toEqual([['zones.0.width', expect.stringMatching(/face is 54 mm wide; the blank is 50 mm long/)]]); // prettier-ignore
    expect(said(tag, { inset: { x: 6, y: 4 } })).toEqual([]);
    expect(said(tag, { inset: { x: -1, y: 4 } })).toHaveLength(1);
  });
  it('of a round form has zones round it, which may be wider than it is thick', () => {
    const cup = { kind: 'round', profile: [{ at: 0, diameter: 40 }, { at: 100, diameter: 40 }], material: 'steel', wall: 1, mass: null, capacity: null, feature: null, fullness: 0 }; // prettier-ignore
    const wide = fittingBlank.safeParse({ ...flat, shape: cup, zones: [{ ...zone, height: 90 }] }).error?.issues ?? [];
    expect(wide.filter((i) => /zone smaller/.test(i.message))).toEqual([]);
  });
});
