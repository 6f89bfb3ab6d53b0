import { useState } from 'react';
import { api, type Setup } from '@bistre/contract';
import { flatten, polygonArea, type LongArt, type LongKind, type LongSettings, type LongShape } from '@bistre/core';
import { call, messageOf } from '../../data/api';
import type { BatchHandle } from '../../data/use-batch';
import { Field, Fields, Select, usePart } from '../../parts/fields';
import { Finding } from '../../parts/Part';

/** Shapes are burned as their file draws them, until something else is said. */
const FILE = 'file';

/** The shape that encloses most: the piece’s own outline, when the file carries it. */
const outermost = ({ shapes }: LongArt): number => {
  const areas = shapes.map((s) => (s.contour.closed ? Math.abs(polygonArea(flatten(s.contour, 0.1))) : 0));
  return areas.indexOf(Math.max(...areas));
};

/** What the file makes of a shape: areas are filled, lines are lines, closed or not. */
const asDrawn = ({ contour, area = true }: Pick<LongShape, 'contour' | 'area'>): LongKind =>
  contour.closed && area ? 'fill' : 'line';

/** How the work gets under the head: through a front door only lengthwise. */
const LoadingFields = () => {
  const [loading] = usePart<LongSettings['loading']>('loading');
  const [, putFeed] = usePart<LongSettings['feed']>('feed');
  return (
    <>
      <div className="col-span-2">
        <Field at="loading" open then={(chosen) => chosen === 'front' && putFeed('y')} />
      </div>
      {loading !== 'front' && <Field at="feed" open />}
    </>
  );
};

/** The settings of work that is longer than the bed; within the choice that has them. */
export const LongFields = ({
  handle,
  fed = false,
}: {
  handle: BatchHandle;
  /** On a feeder: how it gets under the head is settled. */
  fed?: boolean;
}) => {
  const { art } = handle.batch.setup;
  const setArt = (next: LongArt): void => handle.update('art', next as Setup['art']);
  const [problem, setProblem] = useState<string | null>(null);
  const [notes, setNotes] = useState('');
  const read = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    try {
      const found = await call(api.readOutline, {
        body: { name: file.name, text: await file.text(), wanted: 'lines' },
      });
      setArt({
        name: file.name.slice(0, 120),
        shapes: found.contours.map((contour, i) => ({
          kind: asDrawn({ contour, area: found.areas[i] }),
          contour,
          area: found.areas[i],
        })),
      });
      setNotes(
        [
          `${found.width.toFixed(1)} × ${found.height.toFixed(1)} mm, ${found.contours.length} shapes.`,
          ...found.notes,
        ].join(' '),
      );
      setProblem(null);
    } catch (error) {
      setProblem(`${file.name}: ${messageOf(error)}`);
    }
  };
  const edge = art ? outermost(art) : -1;
  const closed = art?.shapes.filter((s, i) => s.contour.closed && i !== edge) ?? [];
  const closedKind = closed.every((s) => s.kind === asDrawn(s)) ? FILE : (closed[0]?.kind ?? FILE);
  const assign = (inside: LongKind | typeof FILE, outline: LongKind): void => {
    if (!art) return;
    setArt({
      ...art,
      shapes: art.shapes.map((s, i) => ({
        ...s,
        kind: i === edge ? outline : inside === FILE ? asDrawn(s) : s.contour.closed ? inside : 'line',
      })),
    });
  };
  const edgeKind = art?.shapes[edge]?.kind ?? 'fill';
  return (
    <>
      <div className="col-span-2 flex flex-wrap items-center gap-3">
        <label className="act cursor-pointer">
          {art ? 'Other art from a file' : 'Art from an SVG or DXF file'}
          <input
            type="file"
            accept=".svg,.dxf"
            className="sr-only"
            onChange={(e) => {
              void read(e.target.files?.[0]);
              e.target.value = '';
            }}
          />
        </label>
        <span className="text-soft">{art ? `${art.name}. ${notes}` : 'or only lettering from the roster'}</span>
      </div>
      {problem && (
        <div className="col-span-2">
          <Finding tone="out">{problem}</Finding>
        </div>
      )}
      {art && (
        <>
          <Select
            label="Closed shapes are"
            value={closedKind}
            options={[
              [FILE, 'as the file draws them'],
              ['fill', 'filled'],
              ['line', 'drawn as lines'],
              ['cut', 'cut'],
            ]}
            onChange={(kind) => assign(kind as LongKind | typeof FILE, edgeKind)}
          />
          <Select
            label="The outermost one is"
            value={edgeKind}
            options={[
              ['cut', 'cut: the piece’s outline'],
              ['line', 'drawn as a line'],
              ['fill', 'filled'],
            ]}
            onChange={(kind) => assign(closedKind, kind as LongKind)}
          />
        </>
      )}
      {!fed && <LoadingFields />}
      <Fields at="margin overlap markInset smallText" />
    </>
  );
};
