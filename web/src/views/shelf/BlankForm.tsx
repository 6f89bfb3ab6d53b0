import { useEffect, type ReactNode } from 'react';
import { useWatch } from 'react-hook-form';
import { api, type BlankDocument, type BlankSpec } from '@bistre/contract';
import { checkProfile, followedBy, nominalSize } from '@bistre/core';
import { BlankDrawing, nominalPath } from '../../drawing/BlankDrawing';
import { TurningView } from '../../drawing/round/WrapDrawing';
import type { PictureCells } from '../../drawing/round/pictures';
import { useRecipes } from '../../data/queries';
import { Choice, DraftFields, Field, FieldList, Fields, Select, usePart, Within } from '../../parts/fields';
import { Modal } from '../../parts/Modal';
import { useThing } from './form';
import { followingZone, freshFlat, freshZone } from './fresh';
import { OutlineFile } from './OutlineFile';
import { FRESH_ROUND, ROUND_ZONES, RoundFields } from './RoundFields';

const FRESH = freshFlat([60, 25, 1.5], followingZone({ length: 60, width: 25 }, { x: 6, y: 4 }));
const NO_STROKES = new Float32Array(0);
const NO_PICTURES: readonly PictureCells[] = [];

type Shape = BlankSpec['shape'];
const freshShape = (kind: Shape['kind']): Shape => {
  switch (kind) {
    case 'rectangle':
      return { kind, length: 60, width: 25, cornerRadius: 0 };
    case 'disc':
      return { kind, diameter: 50 };
    case 'round':
      return FRESH_ROUND;
    case 'outline':
      return { kind, contours: [], source: '' };
  }
};

/** What it is made of, in the words of a recipe: one for another material is then held back. */
const MadeOf = () => {
  const [kept, put] = usePart<string | null | undefined>('spec.material');
  const { data: recipes = [] } = useRecipes();
  const of = kept ?? '';
  const all = [...new Set([...recipes.map((r) => r.spec.material), ...(of ? [of] : [])])].sort();
  return (
    <Select
      label="Made of"
      value={of}
      options={[['', 'not said'], ...all.map((m) => [m, m] as const)]}
      onChange={(m) => put(m || null)}
    />
  );
};

/** Zones that follow their blank’s size do so as it is typed. */
const useFollowing = (spec: BlankSpec, put: (spec: BlankSpec) => void): void => {
  const { shape, zones } = spec;
  const size = shape.kind === 'round' || (shape.kind === 'outline' && shape.contours.length === 0) ? null : nominalSize(shape); // prettier-ignore
  useEffect(() => {
    if (!size) return;
    const next = followedBy(zones, size);
    if (next.some((z, i) => z.width !== zones[i]!.width || z.height !== zones[i]!.height)) put({ ...spec, zones: [...next] }); // prettier-ignore
    // Only another size moves them.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [size?.length, size?.width]);
};

/** The form of the blank, and its numbers. */
const ShapeFields = () => {
  const [spec, put] = usePart<BlankSpec>('spec');
  const { shape, zones } = spec;
  const change = (kind: Shape['kind']): void => {
    const turned = (kind === 'round') !== (shape.kind === 'round');
    put({ ...spec, shape: freshShape(kind), zones: turned ? (kind === 'round' ? ROUND_ZONES : FRESH.zones) : zones });
  };
  useFollowing(spec, put);
  return (
    <>
      <Choice
        label="Shape"
        value={shape.kind}
        options={[
          ['rectangle', 'rectangle'],
          ['disc', 'disc'],
          ['outline', 'from a file'],
          ['round', 'round'],
        ]}
        onChange={change}
      />
      <Within at="spec.shape">
        {shape.kind === 'rectangle' && (
          <div className="grid grid-cols-3 gap-2">
            <Fields at="length width cornerRadius" />
          </div>
        )}
        {shape.kind === 'disc' && <Field at="diameter" />}
        {shape.kind === 'round' && <RoundFields />}
      </Within>
      {shape.kind === 'outline' && <OutlineFile />}
      <div className="grid grid-cols-2 gap-2">
        {shape.kind !== 'round' && <Field at="spec.thickness" />}
        <Field at="spec.catalogueTolerance" />
      </div>
      <MadeOf />
    </>
  );
};

/** What tells the ends of a flat blank apart. */
const DirectionFields = () => {
  const [direction, put] = usePart<BlankSpec['direction']>('spec.direction');
  return (
    <>
      <Select
        label="Which end is which, by"
        value={direction.kind}
        options={[
          ['none', 'nothing: the ends are alike'],
          ['hole', 'the first hole'],
          ['clipped-corner', 'a clipped corner, back right'],
        ]}
        onChange={(kind) => put(kind === 'clipped-corner' ? { kind, size: 5 } : { kind: kind as 'none' | 'hole' })}
      />
      {direction.kind === 'clipped-corner' && <Field at="spec.direction.size" />}
    </>
  );
};

/** The blank as it is described so far. */
const Drawn = () => {
  const [spec] = usePart<BlankSpec>('spec');
  const { shape } = spec;
  if (shape.kind === 'round')
    return checkProfile(shape.profile).ok ? (
      <TurningView pictures={NO_PICTURES} shape={shape} strokes={NO_STROKES} label="The blank as described" />
    ) : null;
  return shape.kind === 'outline' && shape.contours.length === 0 ? (
    <p className="p-4 text-soft">Choose the file of the outline.</p>
  ) : (
    <BlankDrawing spec={spec} path={nominalPath(spec)} />
  );
};

/** Places of a zone: on a flat blank from its middle, on a round one from the rim and round from the feature. */
const ZonePlaces = ({ round }: { round: boolean }) =>
  round ? (
    <>
      <Field at="angle" />
      <Field at="x" label="From rim" />
      <Field at="width" label="Along" />
      <Field at="height" label="Around" />
      <Field at="margin" />
    </>
  ) : (
    <>
      <Fixing at="x" />
      <Fixing at="y" />
      <Fixing at="width" />
      <Fixing at="height" />
      <Field at="margin" />
    </>
  );

/** A number of a zone that stays where it was put: from then on the zone follows its blank no more. */
const Fixing = ({ at }: { at: string }) => {
  const [inset, put] = usePart<BlankSpec['zones'][number]['inset']>('inset');
  return <Field at={at} hint={inset ? 'follows the blank' : undefined} then={() => inset && put(null)} />;
};

/** Where art may go, and where within that it may not. */
const ZoneFields = () => {
  const [shape] = usePart<Shape>('spec.shape');
  const round = shape.kind === 'round';
  return (
    <FieldList
      at="spec.zones"
      one="zone"
      most={20}
      fresh={(all: readonly BlankSpec['zones'][number][]) => ({
        ...freshZone(20, 10),
        id: `zone-${Date.now().toString(36)}`,
        name: `zone ${all.length + 1}`,
        x: round ? nominalSize(shape).length / 2 : 0,
      })}
      className="mb-2 grid grid-cols-[1fr_2.75rem] items-start gap-2"
      row={() => (
        <div>
          <div className="grid grid-cols-6 items-start gap-2 max-[800px]:grid-cols-3">
            <Field at="name" />
            <ZonePlaces round={round} />
            <Field at="across" />
            <Field at="down" />
            {!round && <Field at="side" />}
          </div>
          <div className="ml-6">
            <FieldList
              at="keepOuts"
              one="keep-out"
              most={20}
              fresh={() => ({ x: 0, y: 0, width: 5, height: 5 })}
              className="grid grid-cols-[1fr_1fr_1fr_1fr_2.75rem] items-start gap-2"
              row={() =>
                (['x', 'y', 'width', 'height'] as const).map((f) => (
                  <Field key={f} at={f} label={`Keep-out ${f}, from the zone’s middle`} />
                ))
              }
            />
          </div>
        </div>
      )}
    />
  );
};

const HoleFields = () => (
  <>
    <h3 className="part-title mt-4">Holes</h3>
    <FieldList
      at="spec.holes"
      one="hole"
      most={50}
      fresh={() => ({ x: 0, y: 0, diameter: 4 })}
      row={() => (
        <>
          <Fields at="x y diameter" />
        </>
      )}
    />
  </>
);

/** Shape, holes, direction and zones of a blank, drawn beside as they are typed. */
export const BlankForm = ({
  blank,
  onClose,
  below,
}: {
  blank: BlankDocument | null;
  onClose: () => void;
  /** What is known of it beside its description. */
  below?: ReactNode;
}) => {
  const { name = '', spec = FRESH } = blank ?? {};
  const schema = api.createBlank.body;
  const calls = { create: api.createBlank, save: api.saveBlank };
  const { form, submit, findings, busy, leave } = useThing({
    thing: blank,
    start: { name, spec },
    schema,
    calls,
    onSaved: onClose,
  });
  const round = useWatch({ control: form.control, name: 'spec.shape.kind' }) === 'round';
  return (
    <Modal
      open
      wide
      onOpenChange={(open) => {
        if (!open) leave();
      }}
      title={blank ? blank.name : 'New blank'}
      note={
        round
          ? 'Places are counted from the rim; angles to the right of the feature, rim up.'
          : 'x runs along the length, from the middle of the piece; y away from you.'
      }
    >
      <DraftFields form={form} schema={schema}>
        <div className="grid grid-cols-2 gap-5 max-[800px]:grid-cols-1">
          <div className="space-y-3">
            <Field at="name" />
            <ShapeFields />
            {!round && <DirectionFields />}
          </div>
          <div className="h-72 border border-hairline">
            <Drawn />
          </div>
        </div>
        {!round && <HoleFields />}
        <h3 className="part-title mt-4">Zones</h3>
        <ZoneFields />
      </DraftFields>
      <div className="mt-3">{findings}</div>
      <p className="mt-4 flex justify-end gap-3">
        <button className="act" onClick={leave}>
          Leave it
        </button>
        <button
          className="act act-main"
          disabled={busy}
          onClick={(event) => submit(event.currentTarget.closest('[role="dialog"]')!)}
        >
          Save
        </button>
      </p>
      {below}
    </Modal>
  );
};
