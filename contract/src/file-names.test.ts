import fc from 'fast-check';
import { FILES } from './api';
import { fileNameOf, fileOf } from './file-names';

const AT = new Date(2026, 10, 30, 14, 5);

describe('names of files', () => {
  it('say the batch, what it is, and when it was written', () => {
    expect(fileNameOf('Boat tags', 'load.gcode', AT)).toBe('boat-tags-load-20261130-1405.gcode');
    expect(fileNameOf('Gänsehäute & Möwen, 2. Los', 'load-card.pdf', AT)).toBe('gansehaute-mowen-2-los-load-card-20261130-1405.pdf'); // prettier-ignore
    expect(fileNameOf('日本', 'roster.csv', AT)).toBe('batch-roster-20261130-1405.csv');
  });

  it('of one file stand in the order in which they were written, whatever the month', () => {
    const times = [new Date(2026, 0, 9, 9, 5), new Date(2026, 0, 9, 10, 4), new Date(2026, 8, 30), new Date(2026, 10, 1), new Date(2027, 0, 1)]; // prettier-ignore
    const names = times.map((at) => fileNameOf('Boat tags', 'load.gcode', at));
    expect([...names].sort()).toEqual(names);
  });

  it('are read back as the file they are of, each of them, whatever the batch is called', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), fc.constantFrom(...FILES), (batch, file) => {
        const name = fileNameOf(batch, file, AT);
        expect(name).toMatch(/^[a-z0-9-]+\.[a-z]+$/);
        expect(fileOf(name)).toBe(file);
      }),
    );
  });

  it('that are none of a batch’s are of none', () => {
    for (const name of ['load.gcode', 'boat-tags-load.gcode', 'boat-tags-hull-20261130-1405.gcode', ''])
      expect(fileOf(name)).toBeNull();
  });
});
