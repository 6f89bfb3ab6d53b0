import { CAUTIONS } from './cautions';
import type { BatchInput } from './input';
import type { BatchReckoning } from './reckoned';
import type { Step } from './step';

/** A stand, from a board whose fit was tried. */
export const standSteps = ({ fixings: { stand, fit } }: BatchReckoning): Step[] =>
  stand && fit
    ? [
        {
          id: 'hold.fit-gauge',
          station: 'hold',
          part: 'check',
          title: 'Which slot of the fit gauge holds an offcut?',
          detail: 'The narrowest that it goes into by hand, and stays. Dots count them.',
          files: [['fit-gauge.svg', 'Fit gauge']],
          takes: { kind: 'fit' },
        },
        {
          id: 'hold.stand',
          station: 'hold',
          part: 'do',
          title: `Cut and push together the stand: ${stand.along} + ${stand.across} strips`,
          detail: `Slots ${fit.slot.toFixed(2)} mm for this board. Strips with slots up first, the others down onto them.`,
          files: [['stand.svg', 'Stand']],
          caution: CAUTIONS.burn,
        },
      ]
    : [];

/** Pins that hold the work down: gauge, a dozen on scrap, then where they go. */
export const pinSteps = (input: BatchInput, r: BatchReckoning): Step[] => {
  const { pins } = r.fixings;
  if (!pins) return [];
  return [
    ...(input.setup.beside.pins?.shank === null
      ? [
          {
            id: 'hold.pin-gauge',
            station: 'hold' as const,
            part: 'check' as const,
            title: 'Which shank of the pin gauge goes in by hand?',
            detail: 'The widest that goes into a cell and stays when you shake the strip. Dots count them.',
            files: [['pin-gauge.svg', 'Pin gauge']] as const,
            takes: { kind: 'shank' as const },
          },
        ]
      : []),
    {
      id: 'hold.pins',
      station: 'hold',
      part: 'do',
      title: `Cut ${Math.min(12, pins.onScrap)} pins on scrap`,
      detail: `Shank ${pins.shank.toFixed(2)} mm, ${pins.length.toFixed(1)} mm under the head.`,
      figure: { value: String(pins.places.length), unit: 'pins', label: 'are pushed in' },
      files: [
        ['pins.gcode', 'Pins, G-code'],
        ['pins.svg', 'SVG'],
      ],
      caution: CAUTIONS.burn,
    },
    {
      id: 'hold.pin-first',
      station: 'hold',
      part: 'check',
      title: 'Push the first pin in: is it too long?',
      detail:
        'Its hook must bear on the work. If the shank stands on what is under the bed before that, it is too long: measure how deep the bed is, correct it at the pins, and cut again.',
      figure: { value: pins.length.toFixed(1), unit: 'mm', label: 'under the head' },
    },
    {
      id: 'hold.pins-in',
      station: 'hold',
      part: 'do',
      title: 'Push the pins in where they are drawn',
      detail: `Into the nearest cell, hooks over the edge, heads flat. They stand ${pins.top.toFixed(1)} mm over the bed.`,
      caution: CAUTIONS.head,
    },
  ];
};

/** Which face is the better one, and what to keep clear of; asked before a load is laid. */
export const lookStep = (input: BatchInput, r: BatchReckoning): Step[] =>
  r.run.openLoad === null &&
  (r.run.done === 0 || input.firstApproved) &&
  (Boolean(r.own.lines) || input.setup.looks.pieces.length > 0)
    ? [
        {
          id: `run.look-${r.run.done}`,
          station: 'run',
          part: 'check',
          title: 'Look at the pieces: which face, any defects?',
          detail:
            'The better face goes up. Touch the picture where a knot or a dark streak lies: the art keeps clear of it.',
          takes: { kind: 'look' },
        },
      ]
    : [];
