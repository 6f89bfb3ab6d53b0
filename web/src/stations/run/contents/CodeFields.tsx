import { codeContent, serialContent } from '@bistre/contract';
import { SERIAL_FIELD, serialText } from '@bistre/core';
import { useAlphabets } from '../../../data/queries';
import { DraftFields, Field, LiveFields, useDraftForm } from '../../../parts/fields';
import type { Change, Of } from './parts';

/** Modules that a telephone still reads from a hand’s breadth, mm [common practice]. */
const LEAST_MODULE = 0.4;

/** A code: what it says, and whether it is burned dark or light. */
export const CodeFields = ({ content, onChange, known, module }: Change<Of<'code'>> & { module: number | undefined }) => {
  const { columns, setup } = known.handle.batch;
  const counted = (setup.contents ?? []).some((c) => c.kind === 'serial');
  const fields = [...columns, ...(counted ? [SERIAL_FIELD] : [])];
  return (
    <LiveFields schema={codeContent} value={content} onChange={onChange}>
      <div className="mt-1.5 grid grid-cols-[10rem_1fr] items-end gap-2">
        <Field at="symbology" />
        <Field at="text" />
      </div>
      {fields.length > 0 && (
        <p className="mt-1 text-[13px] text-soft">
          Put in:{' '}
          {fields.map((f) => (
            <button
              key={f}
              type="button"
              className="link mr-3"
              onClick={() => onChange({ ...content, text: `${content.text}{${f}}` })}
            >
              {`{${f}}`}
            </button>
          ))}
        </p>
      )}
      <Field at="reversed" />
      {module !== undefined && module < LEAST_MODULE && (
        <p className="text-[13px] font-bold text-ochre">
          Modules under {LEAST_MODULE} mm are hard to read with a telephone: make it wider, or its text shorter.
        </p>
      )}
    </LiveFields>
  );
}; // prettier-ignore

const counting = serialContent.pick({ prefix: true, digits: true, step: true, first: true });

/** The numbers of a serial, which are given when they are asked for and not while they are typed. */
export const GiveNumbers = ({ of, count, onGive, onLeave }: { of: Pick<Of<'serial'>, 'prefix' | 'digits' | 'step' | 'first'>; count: number; onGive: (so: Pick<Of<'serial'>, 'prefix' | 'digits' | 'step' | 'first'>) => void; onLeave: () => void }) => {
  const form = useDraftForm(counting, { prefix: of.prefix, digits: of.digits, step: of.step, first: of.first ?? null });
  const { prefix, digits, first } = form.watch();
  return (
    <form
      className="mt-1.5 border border-rim p-2"
      onSubmit={(event) => {
        event.stopPropagation();
        void form.handleSubmit(onGive)(event);
      }}
    >
      <DraftFields form={form} schema={counting}>
        <div className="grid grid-cols-4 items-start gap-2">
          <Field at="prefix" />
          <Field at="digits" />
          <Field at="first" placeholder="after the last" />
          <Field at="step" />
        </div>
      </DraftFields>
      <p className="mt-1 text-[13px] text-soft">
        They read {serialText({ prefix, digits: Number(digits) || 1 }, first ?? 1)}
        {first === null ? ' or whatever comes after the last that was given' : ''}. A number is given once in the shop: a
        scrapped blank takes its own with it.
      </p>
      <p className="mt-1 flex gap-3">
        <button className="act act-main">Give {count} numbers</button>
        <button type="button" className="link" onClick={onLeave}>
          leave it
        </button>
      </p>
    </form>
  );
}; // prettier-ignore

/** A serial number: how it is set, and which are given. */
export const SerialFields = ({ content, onChange, known }: Change<Of<'serial'>>) => {
  const { data: alphabets = [] } = useAlphabets();
  const given = known.handle.batch.serials.find((s) => s.contentId === content.id)?.numbers.filter((n) => n !== null) ?? []; // prettier-ignore
  return (
    <LiveFields schema={serialContent} value={content} onChange={onChange}>
      <p className="mt-1">
        {given.length === 0 ? (
          'No number is given yet.'
        ) : (
          <>
            <b>
              {serialText(content, Math.min(...given))} to {serialText(content, Math.max(...given))}
            </b>
            , {given.length} given.
          </>
        )}
      </p>
      <div className="mt-1.5 grid grid-cols-2 items-end gap-2">
        <Field at="alphabet" of={alphabets.map((a) => [a.id, a.name] as const)} />
        <Field at="capHeight" />
      </div>
    </LiveFields>
  );
};
