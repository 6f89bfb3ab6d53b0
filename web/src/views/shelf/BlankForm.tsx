import { useState } from 'react';
import { toast } from 'sonner';
import { api, blankSpec, type BlankDocument, type BlankSpec } from '@bistre/contract';
import { checkProfile, nominalSize } from '@bistre/core';
import { BlankDrawing, nominalPath } from '../../drawing/BlankDrawing';
import { TurningView } from '../../drawing/round/WrapDrawing';
import type { PictureCells } from '../../drawing/round/pictures';
import { call, messageOf } from '../../data/api';
import { queryClient } from '../../data/queries';
import { Choice, MeasureField, Select, TextField } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { Modal } from '../../parts/Modal';
import { refusedField } from '../../parts/refused';
import { FRESH_ROUND, ROUND_ZONES, RoundFields } from './RoundFields';

const FRESH: BlankSpec = {
  shape: { kind: 'rectangle', length: 60, width: 25, cornerRadius: 0 },
  thickness: 1.5,
  catalogueTolerance: 0.3,
  holes: [],
  direction: { kind: 'none' },
  zones: [
    {
      id: 'face',
      name: 'face',
      x: 0,
      y: 0,
      width: 54,
      height: 21,
      margin: 1,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
    },
  ],
};

const ZONE_FIELDS = ['x', 'y', 'width', 'height', 'margin'] as const;
const ROUND_WORDS = { x: 'from rim', y: '', width: 'along', height: 'around', margin: 'margin' } as const;
const NO_STROKES = new Float32Array(0);
const NO_PICTURES: readonly PictureCells[] = [];

const Remove = ({ what, onClick }: { what: string; onClick: () => void }) => (
  <button type="button" className="pb-2 text-blue" aria-label={`Take out ${what}`} onClick={onClick}>
    ✕
  </button>
);

/** Shape, holes, direction and zones of a blank, drawn beside as they are typed. */
export const BlankForm = ({ blank, onClose }: { blank: BlankDocument | null; onClose: () => void }) => {
  const [name, setName] = useState(blank?.name ?? '');
  const [spec, setSpec] = useState<BlankSpec>(blank?.spec ?? FRESH);
  const [problem, setProblem] = useState<string | null>(null);
  const [note, setNote] = useState<string | null>(null);
  const set = (part: Partial<BlankSpec>): void => setSpec({ ...spec, ...part });
  const { shape } = spec;
  const readFile = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    if (file.size > 5_000_000) {
      setProblem(
        `${file.name} is ${(file.size / 1e6).toFixed(1)} MB; at most 5 MB are read. Keep only the outline in it.`,
      );
      return;
    }
    try {
      const read = await call(api.readOutline, { body: { name: file.name, text: await file.text() } });
      set({ shape: { kind: 'outline', contours: read.contours, source: file.name } });
      setProblem(null);
      setNote(
        `${read.width.toFixed(2)} × ${read.height.toFixed(2)} mm. ${read.unit === 'unstated' || read.unit === 'px' ? 'Is that the real size? ' : ''}${read.notes.join(' ')}`,
      );
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  const scale = (k: number): void => {
    if (shape.kind === 'outline')
      set({
        shape: {
          ...shape,
          contours: shape.contours.map((c) => ({
            ...c,
            vertices: c.vertices.map((v) => ({ ...v, x: v.x * k, y: v.y * k })),
          })),
        },
      });
  };
  const save = async (): Promise<void> => {
    const checked = blankSpec.safeParse(spec);
    if (!checked.success) {
      setProblem(checked.error.issues[0]!.message);
      return;
    }
    try {
      if (blank)
        await call(api.saveBlank, {
          params: { id: blank.id },
          body: { name, spec: checked.data, version: blank.version },
        });
      else await call(api.createBlank, { body: { name, spec: checked.data } });
      await queryClient.invalidateQueries();
      toast('Saved.');
      onClose();
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  const zone = (i: number, part: Partial<BlankSpec['zones'][number]>): void =>
    set({ zones: spec.zones.map((z, k) => (k === i ? { ...z, ...part } : z)) });
  return (
    <Modal
      open
      wide
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
      title={blank ? blank.name : 'New blank'}
      note={
        shape.kind === 'round'
          ? 'Places are counted from the rim; angles to the right of the feature, rim up.'
          : 'x runs along the length, from the middle of the piece; y away from you.'
      }
    >
      <div className="grid grid-cols-2 gap-5 max-[800px]:grid-cols-1">
        <div className="space-y-3">
          <TextField label="Name" value={name} most={80} onCommit={setName} />
          <Choice
            label="Shape"
            value={shape.kind}
            options={[
              ['rectangle', 'rectangle'],
              ['disc', 'disc'],
              ['outline', 'from a file'],
              ['round', 'round'],
            ]}
            onChange={(kind) =>
              set({
                ...((kind === 'round') === (shape.kind === 'round')
                  ? {}
                  : { zones: kind === 'round' ? ROUND_ZONES : FRESH.zones }),
                shape:
                  kind === 'rectangle'
                    ? { kind, length: 60, width: 25, cornerRadius: 0 }
                    : kind === 'disc'
                      ? { kind, diameter: 50 }
                      : kind === 'round'
                        ? FRESH_ROUND
                        : { kind, contours: [], source: '' },
              })
            }
          />
          {shape.kind === 'rectangle' && (
            <div className="grid grid-cols-3 gap-2">
              <MeasureField
                label="length"
                value={shape.length}
                min={0.5}
                max={5000}
                onCommit={(length) => set({ shape: { ...shape, length } })}
              />
              <MeasureField
                label="width"
                value={shape.width}
                min={0.5}
                max={5000}
                onCommit={(width) => set({ shape: { ...shape, width } })}
              />
              <MeasureField
                label="corner radius"
                value={shape.cornerRadius}
                min={0}
                max={2500}
                onCommit={(cornerRadius) => set({ shape: { ...shape, cornerRadius } })}
              />
            </div>
          )}
          {shape.kind === 'disc' && (
            <MeasureField
              label="diameter"
              value={shape.diameter}
              min={0.5}
              max={5000}
              onCommit={(diameter) => set({ shape: { kind: 'disc', diameter } })}
            />
          )}
          {shape.kind === 'round' && <RoundFields shape={shape} onChange={(next) => set({ shape: next })} />}
          {shape.kind === 'outline' && (
            <div>
              <label className="text-[13px] text-soft">
                SVG or DXF with a closed outline
                <input
                  type="file"
                  accept=".svg,.dxf"
                  className="block"
                  onChange={(e) => void readFile(e.target.files?.[0])}
                />
              </label>
              {note && (
                <p className="text-[13px]">
                  {note}{' '}
                  <button type="button" className="link" onClick={() => scale(25.4)}>
                    it was inches
                  </button>{' '}
                  <button type="button" className="link" onClick={() => scale(1 / 25.4)}>
                    it was millimetres read as inches
                  </button>
                </p>
              )}
            </div>
          )}
          <div className="grid grid-cols-2 gap-2">
            {shape.kind !== 'round' && (
              <MeasureField
                label="thickness"
                value={spec.thickness}
                min={0.05}
                max={500}
                onCommit={(thickness) => set({ thickness })}
              />
            )}
            <MeasureField
              label="catalogue tolerance, ±"
              value={spec.catalogueTolerance}
              min={0}
              max={20}
              onCommit={(catalogueTolerance) => set({ catalogueTolerance })}
            />
          </div>
          {shape.kind !== 'round' && (
            <Select
              label="Which end is which, by"
              value={spec.direction.kind}
              options={[
                ['none', 'nothing: the ends are alike'],
                ['hole', 'the first hole'],
                ['clipped-corner', 'a clipped corner, back right'],
              ]}
              onChange={(kind) =>
                set({ direction: kind === 'clipped-corner' ? { kind, size: 5 } : { kind: kind as 'none' | 'hole' } })
              }
            />
          )}
          {spec.direction.kind === 'clipped-corner' && (
            <MeasureField
              label="legs of the clipped corner"
              value={spec.direction.size}
              min={0.5}
              max={500}
              onCommit={(size) => set({ direction: { kind: 'clipped-corner', size } })}
            />
          )}
        </div>
        <div className="h-72 border border-hairline">
          {shape.kind === 'round' ? (
            checkProfile(shape.profile).ok ? (
              <TurningView pictures={NO_PICTURES} shape={shape} strokes={NO_STROKES} label="The blank as described" />
            ) : null
          ) : shape.kind === 'outline' && shape.contours.length === 0 ? (
            <p className="p-4 text-soft">Choose the file of the outline.</p>
          ) : (
            <BlankDrawing spec={spec} path={nominalPath(spec)} />
          )}
        </div>
      </div>
      {shape.kind !== 'round' && <h3 className="part-title mt-4">Holes</h3>}
      {spec.holes.map((h, i) => (
        <div key={i} className="grid grid-cols-[1fr_1fr_1fr_2rem] items-end gap-2">
          {(['x', 'y', 'diameter'] as const).map((k) => (
            <MeasureField
              key={k}
              label={k}
              value={h[k]}
              {...(k === 'diameter' ? { min: 0.1, max: 1000 } : {})}
              onCommit={(v) => set({ holes: spec.holes.map((o, n) => (n === i ? { ...o, [k]: v } : o)) })}
            />
          ))}
          <Remove what={`hole ${i + 1}`} onClick={() => set({ holes: spec.holes.filter((_, n) => n !== i) })} />
        </div>
      ))}
      <button
        type="button"
        className="link mt-1"
        hidden={shape.kind === 'round'}
        onClick={() => set({ holes: [...spec.holes, { x: 0, y: 0, diameter: 4 }] })}
      >
        add a hole
      </button>
      <h3 className="part-title mt-4">Zones</h3>
      {spec.zones.map((z, i) => (
        <div key={z.id} className="mb-2">
          <div className="grid grid-cols-[1.2fr_repeat(5,1fr)_1.2fr_1.2fr_1.1fr_2rem] items-end gap-2 max-[800px]:grid-cols-3">
            <TextField label="zone" value={z.name} most={60} onCommit={(v) => zone(i, { name: v })} />
            {shape.kind === 'round' && (
              <MeasureField
                kind="number"
                unit="°"
                label="angle"
                digits={1}
                value={((z.angle ?? 0) * 180) / Math.PI}
                min={-360}
                max={360}
                onCommit={(deg) => zone(i, { angle: (deg * Math.PI) / 180 })}
              />
            )}
            {ZONE_FIELDS.filter((k) => shape.kind !== 'round' || k !== 'y').map((k) => (
              <MeasureField
                key={k}
                label={shape.kind === 'round' ? ROUND_WORDS[k] : k}
                value={z[k]}
                {...(k === 'width' || k === 'height'
                  ? { min: 0.5, max: 5000 }
                  : k === 'margin'
                    ? { min: 0, max: 500 }
                    : {})}
                onCommit={(v) => zone(i, { [k]: v })}
              />
            ))}
            <Select
              label="across"
              value={z.across}
              options={[
                ['left', 'left'],
                ['centre', 'centre'],
                ['right', 'right'],
              ]}
              onChange={(v) => zone(i, { across: v as 'left' })}
            />
            <Select
              label="down"
              value={z.down}
              options={[
                ['top', 'top'],
                ['middle', 'middle'],
                ['bottom', 'bottom'],
              ]}
              onChange={(v) => zone(i, { down: v as 'top' })}
            />
            {shape.kind !== 'round' && (
              <Select
                label="face"
                value={z.side ?? ''}
                options={[
                  ['', 'either'],
                  ['front', 'front'],
                  ['back', 'back'],
                ]}
                onChange={(side) => zone(i, { side: side === '' ? undefined : (side as 'front') })}
              />
            )}
            <Remove what={`zone ${z.name}`} onClick={() => set({ zones: spec.zones.filter((_, n) => n !== i) })} />
          </div>
          {z.keepOuts.map((k, n) => (
            <div key={n} className="ml-6 grid grid-cols-[1fr_1fr_1fr_1fr_2rem] items-end gap-2">
              {(['x', 'y', 'width', 'height'] as const).map((f) => (
                <MeasureField
                  key={f}
                  label={`keep-out ${f}, from the zone’s middle`}
                  value={k[f]}
                  onCommit={(v) => zone(i, { keepOuts: z.keepOuts.map((o, m) => (m === n ? { ...o, [f]: v } : o)) })}
                />
              ))}
              <Remove
                what={`keep-out ${n + 1}`}
                onClick={() => zone(i, { keepOuts: z.keepOuts.filter((_, m) => m !== n) })}
              />
            </div>
          ))}
          <button
            type="button"
            className="link ml-6"
            onClick={() => zone(i, { keepOuts: [...z.keepOuts, { x: 0, y: 0, width: 5, height: 5 }] })}
          >
            add a keep-out
          </button>
        </div>
      ))}
      <button
        type="button"
        className="link"
        onClick={() =>
          set({
            zones: [
              ...spec.zones,
              {
                id: `zone-${Date.now().toString(36)}`,
                name: `zone ${spec.zones.length + 1}`,
                x: shape.kind === 'round' ? nominalSize(shape).length / 2 : 0,
                y: 0,
                width: 20,
                height: 10,
                margin: 1,
                across: 'centre',
                down: 'middle',
                keepOuts: [],
              },
            ],
          })
        }
      >
        add a zone
      </button>
      {problem && (
        <div className="mt-3">
          <Finding tone="out">{problem}</Finding>
        </div>
      )}
      <p className="mt-4 flex justify-end gap-3">
        <button className="act" onClick={onClose}>
          Leave it
        </button>
        <button
          className="act act-main"
          onClick={(event) => {
            const wrong = refusedField(event.currentTarget.closest('[role="dialog"]')!);
            setProblem(wrong);
            if (wrong === null) void save();
          }}
        >
          Save
        </button>
      </p>
    </Modal>
  );
};
