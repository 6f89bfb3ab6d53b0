import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import type { WorkedLine } from '@bistre/core';

/** Of readings that stand three in a row. */
export const ROW_SIZE = 'text-[16px] lg:text-[17px]';

export type Tone = 'plain' | 'inside' | 'attention' | 'out';
/** How a figure stands, by its colour and by a sign after it. */
const TONES: Readonly<Record<Tone, string>> = {
  plain: 'text-ink',
  inside: 'text-verdigris tone tone-inside',
  attention: 'text-ochre tone tone-attention',
  out: 'text-oxide tone tone-out',
};

/** The working behind a number: opened by the number itself, dotted under, or by a quiet word. */
export const Working = ({
  lines,
  title,
  figure,
}: {
  lines: readonly WorkedLine[];
  title: string;
  /** The number; the word where there is none. */
  figure?: string | undefined;
}) => (
  <Popover.Root>
    <Popover.Trigger
      className={figure === undefined ? 'link text-[13px]' : 'figure'}
      aria-label={figure === undefined ? `working of ${title}` : `${figure}, working of ${title}`}
    >
      {figure ?? 'working'}
    </Popover.Trigger>
    <Popover.Portal>
      <Popover.Content
        collisionPadding={12}
        sideOffset={4}
        className="z-50 max-h-[70dvh] w-[30rem] max-w-[94vw] overflow-auto border border-ink bg-sheet p-4"
        role="dialog"
        aria-label={`Working of ${title}`}
      >
        <p className="part-title border-0 pt-0">Working: {title}</p>
        <ol className="mt-2 space-y-3">
          {lines.map((line, i) => (
            <li key={i}>
              <p className="flex justify-between gap-4">
                <span>{line.label}</span>
                <b className="whitespace-nowrap">{line.result}</b>
              </p>
              <p className="text-[13px]">{line.formula}</p>
              <p className="text-[13px] text-soft">= {line.substituted}</p>
              <p className="text-[12px] text-soft italic">{line.basis}</p>
            </li>
          ))}
        </ol>
        <Popover.Arrow className="fill-ink" />
      </Popover.Content>
    </Popover.Portal>
  </Popover.Root>
);

/** A number to be read from an arm's length or two metres, with its working. */
export const Reading = ({
  label,
  value,
  unit,
  tone = 'plain',
  working,
  note,
  size = 'text-[27px]',
}: {
  label: string;
  value: string;
  unit?: string;
  tone?: Tone;
  working?: readonly WorkedLine[];
  note?: ReactNode;
  size?: string;
}) => (
  <div className="min-w-0">
    <p className="text-[13px] leading-tight text-soft">
      <span>{label}</span>
    </p>
    <p className={`${size} leading-tight font-bold ${TONES[tone]}`}>
      {working && working.length > 0 ? (
        <Working lines={working} title={label} figure={value} />
      ) : (
        <span className="whitespace-nowrap">{value}</span>
      )}
      {unit && <span className="ml-1 inline-block text-[15px] font-normal">{unit}</span>}
    </p>
    {note && <p className="text-[13px] text-soft">{note}</p>}
  </div>
);
