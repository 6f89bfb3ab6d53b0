import { useState } from 'react';
import { api } from '@bistre/contract';
import type { DriveSettings, FaceChoice } from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import { call, messageOf } from '../../data/api';
import { Choice, MeasureField, Select, Tick } from '../../parts/fields';
import { Modal } from '../../parts/Modal';
import { Finding } from '../../parts/Part';

/** What goes where on a round blank: art or names, in which zone, how often, how it meets itself. */
export const FacesDialog = ({ handle, onClose }: { handle: BatchHandle; onClose: () => void }) => {
  const { batch } = handle;
  const settings = batch.setup.drive;
  const { zones } = batch.blank.spec;
  const [problem, setProblem] = useState<string | null>(null);
  const update = (part: Partial<DriveSettings>): void =>
    handle.update('drive', { ...settings, ...part } as typeof settings);
  const change = (i: number, part: Partial<FaceChoice>): void =>
    update({ faces: settings.faces.map((f, k) => (k === i ? { ...f, ...part } : f)) as DriveSettings['faces'] });
  const readArt = async (i: number, file: File | undefined): Promise<void> => {
    if (!file) return;
    if (file.size > 5_000_000) {
      setProblem(`${file.name} is ${(file.size / 1e6).toFixed(1)} MB; at most 5 MB are read.`);
      return;
    }
    try {
      const read = await call(api.readOutline, { body: { name: file.name, text: await file.text() } });
      change(i, {
        content: {
          kind: 'art',
          name: file.name,
          contours: read.contours as FaceChoice['content'] extends infer C
            ? C extends { contours: infer K }
              ? K
              : never
            : never,
        },
      });
      setProblem(null);
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  return (
    <Modal
      open
      wide
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
      title="What goes where"
      note="Zones belong to the blank (Blank station). Angles count from its feature, to the right as it stands."
    >
      {settings.faces.length === 0 && <p className="mb-2 text-soft">Nothing is engraved yet. Add a face.</p>}
      {settings.faces.map((f, i) => (
        <div key={i} className="mb-3 border border-hairline p-3">
          <div className="grid grid-cols-[1.3fr_1.3fr_1.2fr_0.8fr_2rem] items-end gap-3 max-[800px]:grid-cols-2">
            <Select
              label="zone"
              value={f.zoneId}
              options={zones.map(
                (z) => [z.id, `${z.name}, ${(((z.angle ?? 0) * 180) / Math.PI).toFixed(0)}°`] as const,
              )}
              onChange={(zoneId) => change(i, { zoneId })}
            />
            <Select
              label="carries"
              value={f.content.kind}
              options={[
                ['lettering', 'names from the roster'],
                ['art', f.content.kind === 'art' ? f.content.name : 'art from a file'],
              ]}
              onChange={(kind) => {
                if (kind === 'lettering') change(i, { content: { kind: 'lettering' } });
                else document.getElementById(`art-${i}`)?.click();
              }}
            />
            <Select
              label="reads"
              value={f.reads}
              options={[
                ['around', 'around, rim up'],
                ['down', 'down, rim to base'],
              ]}
              onChange={(reads) => change(i, { reads: reads as FaceChoice['reads'] })}
            />
            <MeasureField
              kind="count"
              label="times round"
              value={f.repeats}
              min={1}
              max={24}
              onCommit={(repeats) => change(i, { repeats })}
            />
            <button
              className="pb-2 text-blue"
              aria-label={`Take out face ${i + 1}`}
              onClick={() => update({ faces: settings.faces.filter((_, k) => k !== i) })}
            >
              ✕
            </button>
          </div>
          <div className="flex flex-wrap items-center gap-5">
            <Tick
              label="all the way round, meeting itself"
              checked={f.wraps}
              onChange={(wraps) => change(i, { wraps })}
            />
            <label className="text-[13px] text-soft">
              art, SVG or DXF{' '}
              <input
                id={`art-${i}`}
                type="file"
                accept=".svg,.dxf"
                onChange={(e) => void readArt(i, e.target.files?.[0])}
              />
            </label>
          </div>
        </div>
      ))}
      <p>
        <button
          className="act"
          disabled={zones.length === 0}
          onClick={() =>
            update({
              faces: [
                ...settings.faces,
                { zoneId: zones[0]!.id, content: { kind: 'lettering' }, reads: 'around', repeats: 1, wraps: false },
              ],
            })
          }
        >
          Add a face
        </button>
      </p>
      <div className="mt-4 grid grid-cols-3 items-end gap-4 max-[800px]:grid-cols-1">
        <Choice
          label="Seam of art that goes all round"
          value={settings.seam.kind}
          options={[
            ['gapped', 'keep a gap'],
            ['seamless', 'seamless'],
          ]}
          onChange={(kind) => update({ seam: { ...settings.seam, kind } })}
        />
        {settings.seam.kind === 'gapped' && (
          <MeasureField
            label="gap"
            value={settings.seam.gap}
            min={0}
            max={500}
            onCommit={(gap) => update({ seam: { ...settings.seam, gap } })}
          />
        )}
        <Tick
          label="row scaling: each row by its own diameter"
          checked={settings.rowScaling}
          onChange={(rowScaling) => update({ rowScaling })}
        />
      </div>
      {problem && <Finding tone="out">{problem}</Finding>}
      <p className="mt-4 flex justify-end">
        <button className="act act-main" onClick={onClose}>
          Close
        </button>
      </p>
    </Modal>
  );
};
