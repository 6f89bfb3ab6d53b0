import { frozen, type BatchInput, type FixtureRevision, type WayId, type Ways } from './setup';
import { adopt, WAYS } from './ways';

/** A batch held in another way, or in the same with parts of its choice and findings replaced. */
export const inWay = <K extends WayId>(
  input: BatchInput,
  way: K,
  choice: Partial<Ways[K]['choice']> = {},
  found: Partial<Ways[K]['found']> = {},
): BatchInput => {
  const held = adopt(input.setup.held, WAYS[way]);
  return {
    ...input,
    setup: {
      ...input.setup,
      held: { ...held, choice: { ...held.choice, ...choice }, found: { ...held.found, ...found } } as typeof held,
    },
  };
};

/** The board of a batch as it was saved and cut. */
export const savedAs = (input: BatchInput, basis: FixtureRevision['basis']): FixtureRevision => ({
  id: 'f',
  fixtureId: 'f',
  name: 'B',
  revision: 1,
  ...frozen(input.setup),
  basis,
  savedAt: '2026-11-01T00:00:00Z',
  savedBy: 'test',
});
