import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useNavigate } from 'react-router';
import type { BatchRow } from '@bistre/contract';
import { STATION_NAMES, type StationId } from '@bistre/core';
import { useBatches, useFixtures } from '../data/queries';

const PLACES: readonly (readonly [string, string])[] = [
  ['Board', '/'],
  ['Log', '/log'],
  ['Shelf: blanks', '/shelf/blanks'],
  ['Shelf: fixtures', '/shelf/fixtures'],
  ['Shelf: drives', '/shelf/drives'],
  ['Shelf: feeders', '/shelf/feeders'],
  ['Shelf: machines', '/shelf/machines'],
  ['Shelf: recipes', '/shelf/recipes'],
];
/** The stations of a batch, by its own route, and its bench view. */
const stationsOf = ({ route }: BatchRow): (readonly [string, string])[] => [
  ...route.map((id) => [id, STATION_NAMES[id as StationId] ?? id] as const),
  ['bench', 'bench view'],
];
const item =
  'flex min-h-11 cursor-pointer items-center px-3 data-[selected=true]:bg-blue data-[selected=true]:text-on-blue';

/** Goes anywhere by a few letters. */
export const Palette = ({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) => {
  const navigate = useNavigate();
  const { data: batches = [] } = useBatches();
  const { data: fixtures = [] } = useFixtures();
  const go = (to: string): void => {
    onOpenChange(false);
    void navigate(to);
  };
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-24 z-50 w-[92vw] max-w-xl -translate-x-1/2 border border-ink bg-sheet"
        >
          <Dialog.Title className="sr-only">Find</Dialog.Title>
          <Command label="Find">
            <Command.Input
              autoFocus
              placeholder="Find a batch, a station, the Shelf …"
              className="h-12 w-full border-b border-hairline bg-transparent px-3 text-base outline-none"
            />
            <Command.List className="max-h-80 overflow-auto py-1">
              <Command.Empty className="p-3 text-soft">Nothing of that name.</Command.Empty>
              {fixtures.map((f) => (
                <Command.Item
                  key={f.id}
                  value={`fixture ${f.name} ${f.id}`}
                  className={item}
                  onSelect={() => go(`/shelf/fixtures/${f.id}`)}
                >
                  Fixture {f.name}, for {f.blankName}
                </Command.Item>
              ))}
              {batches.flatMap((b) =>
                stationsOf(b).map(([id, word]) => (
                  <Command.Item
                    key={b.id + id}
                    value={`${b.name} ${word} ${b.id}`}
                    className={item}
                    onSelect={() => go(`/batches/${b.id}/${id}`)}
                  >
                    {b.name}: {word}
                  </Command.Item>
                )),
              )}
              {PLACES.map(([name, to]) => (
                <Command.Item key={to} value={name} className={item} onSelect={() => go(to)}>
                  {name}
                </Command.Item>
              ))}
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
};
