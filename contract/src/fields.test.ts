import { z } from 'zod';
import { fieldAt, inRange, line, oneOf, schemaAt, wholeNumber, yesNo, type NumberField } from '.';

const shape = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('disc'), size: inRange('Diameter', 1, 50, 'mm') }),
  z.object({ kind: z.literal('bar'), size: inRange('Length', 100, 900, 'mm') }),
]);
const plaque = z.object({
  name: line('Name', 1, 24, { hint: 'as engraved' }),
  label: line('Label', 0, 40),
  shape,
  holes: z.array(z.object({ x: inRange('Hole x', -5, 5, 'mm') })).max(4),
  jog: z.tuple([inRange('Coarse', 1, 10, 'mm'), inRange('Fine', 0.01, 1, 'mm')]),
  power: inRange('Power', 0, 1, '', { reads: 'percent' }),
  turn: inRange('Angle', -Math.PI, Math.PI, 'rad'),
  passes: wholeNumber('Passes', 1, 50),
  floor: inRange('To the floor', 0, 300, 'mm', { empty: 'Empty: it stays.' }).nullable(),
  corner: oneOf('Corner', { 'front-left': 'front left', 'back-left': 'back left' }),
  face: oneOf('Face', { front: 'front', back: 'back' }, { empty: 'either' }).optional(),
  driven: z.union([z.literal(1), z.literal(2)]).meta({ label: 'Driven', options: [['1', 'one'], ['2', 'both']] }), // prettier-ignore
  arcs: yesNo('Arcs'),
  due: z.iso.datetime().meta({ label: 'Due' }).nullable(),
});
const both = plaque.and(z.object({ left: z.array(shape).readonly() }));
const value = { shape: { kind: 'bar', size: 300 }, left: [{ kind: 'disc', size: 20 }] };
const at = (path: string, of: unknown = value) => fieldAt(both, path, of);
const number = (path: string, of?: unknown) => at(path, of) as NumberField;

describe('a field as its contract says it', () => {
  it.each([
    ['holes.3.x', 'length', 'mm', 'Hole x'],
    ['jog.1', 'length', 'mm', 'Fine'],
    ['power', 'percent', '%', 'Power'],
    ['turn', 'angle', '°', 'Angle'],
    ['passes', 'count', '', 'Passes'],
  ])('%s is read as %s and shown in “%s”', (path, reads, unit, label) => {
    expect(at(path)).toMatchObject({ kind: 'number', reads, unit, label });
  });

  it.each([
    ['holes.0.x', -5.01, 'Hole x must be a number between -5 and 5 mm.'],
    ['power', 1.2, 'Power must be a number between 0 and 100 %.'],
    ['turn', 4, 'Angle must be a number between -180 and 180 °.'],
    ['passes', 51, 'Passes must be a whole number between 1 and 50.'],
    ['passes', 1.5, 'Passes must be a whole number between 1 and 50.'],
    ['name', '  ', 'Name is empty.'],
    ['name', 'x'.repeat(25), 'Name is longer than 24 characters.'],
  ])('%s refuses %p in the units of the page', (path, wrong, words) => {
    expect(at(path).problem(wrong)).toBe(words);
  });

  it('takes what stands on its limits', () => {
    for (const [path, edge] of [
      ['holes.0.x', 5],
      ['power', 1],
      ['turn', -Math.PI],
      ['passes', 50],
      ['jog.0', 10],
    ] as const)
      // prettier-ignore
      expect(at(path).problem(edge)).toBeNull();
  });

  it('has the limits of the case that was chosen', () => {
    expect(number('shape.size').label).toBe('Length');
    expect(number('shape.size').problem(20)).toMatch('between 100 and 900 mm');
    expect(number('left.0.size').label).toBe('Diameter');
    expect(number('left.0.size').problem(20)).toBeNull();
  });

  it('may be empty where nothing is a value, and says what that means', () => {
    expect([number('floor').empty, number('passes').empty]).toEqual(['Empty: it stays.', undefined]);
    expect(at('floor').problem(null)).toBeNull();
    expect(at('name')).toMatchObject({ mayBeEmpty: false, most: 24, hint: 'as engraved' });
    expect(at('label')).toMatchObject({ mayBeEmpty: true, most: 40 });
  });

  it('offers what may be chosen in words, and takes the value for the word', () => {
    expect(at('corner')).toMatchObject({
      options: [
        ['front-left', 'front left'],
        ['back-left', 'back left'],
      ],
    });
    const face = at('face');
    const driven = at('driven');
    if (face.kind !== 'choice' || driven.kind !== 'choice') throw new Error('both are chosen');
    expect(face.options.map(([v]) => v)).toEqual(['', 'front', 'back']);
    expect([face.options[0]![1], face.valueOf(''), face.valueOf('back')]).toEqual(['either', undefined, 'back']);
    expect([driven.valueOf('2'), driven.options[1]]).toEqual([2, ['2', 'both']]);
    expect([at('arcs').kind, at('due').kind, at('due').problem(null)]).toEqual(['tick', 'time', null]);
    expect(at('due').problem('next week')).not.toBeNull();
  });

  it.each(['depth', 'holes.first.x', 'shape.width', 'name.first', 'shape'])('there is no field %s', (path) => {
    expect(() => at(path)).toThrow(`The contract has no field ${path}`);
  });

  it('is the schema that the server parses with', () => {
    expect(schemaAt(both, 'jog.0', value)).toBe(plaque.shape.jog.def.items[0]);
  });
});
