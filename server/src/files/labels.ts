import { counted, nth, type BatchInput, type BatchReckoning, type Ordinal } from '@bistre/core';
import { pageCode } from './code';
import { line, PAGE, PT, SOFT, start, type Doc } from './paper';

/** Labels to a sheet of A4, three by eight, 70 × 37 mm without a rim: the commonest stock [common practice]. */
const ACROSS = 3;
const LABEL = { width: 70, height: 37 };
const DOWN = Math.floor(PAGE.height / LABEL.height);
/** Kept clear along the edges, which printers do not reach, mm. */
const CLEAR = 4;
const CODE = 21;
/** From one line to the next, mm: a head and six of them fit. */
const LINE = 3.8;

/** What labels say beside what is reckoned. */
export interface LabelFacts {
  readonly title: string;
  readonly customer: string;
  readonly dueAt: string | null;
  readonly fixture: { readonly name: string; readonly revision: number; readonly address: string } | null;
  /** Of the batch’s own page. */
  readonly address: string;
}

interface Label {
  readonly head: string;
  readonly lines: readonly string[];
  readonly address: string;
}

/** The fixture’s own label: what it is, what it holds, and where its page is. */
const fixtureLabel = (input: BatchInput, r: BatchReckoning, { fixture }: LabelFacts): Label[] => {
  if (!fixture) return [];
  const { board } = r;
  return [
    {
      head: `${fixture.name} r${fixture.revision}`,
      lines: [
        input.blank.name,
        ...(board ? [`${counted(board.slots.length, 'place')}, ${counted(board.marks.length, 'mark')}`, `${board.width.toFixed(0)} × ${board.height.toFixed(0)} × ${Number(board.thickness.toFixed(2))} mm`] : []), // prettier-ignore
        input.machine.name,
      ],
      address: fixture.address,
    },
  ];
};

/** One box for each load: which pieces are in it, from whom to whom. */
const boxLabels = (input: BatchInput, r: BatchReckoning, facts: LabelFacts): Label[] => {
  const each = Math.max(1, r.board?.slots.length ?? 1);
  const boxes = Math.ceil(input.quantity / each);
  const nameOf = (o: Ordinal): string => Object.values(nth(input.roster, o) ?? {}).filter(Boolean).join(' · '); // prettier-ignore
  return Array.from({ length: boxes }, (_, i) => {
    const [from, to] = [i * each + 1, Math.min(input.quantity, (i + 1) * each)];
    const names = [nameOf(from), ...(to > from ? [nameOf(to)] : [])].filter(Boolean);
    return {
      head: facts.title,
      lines: [
        facts.customer,
        from === to ? `piece ${from} of ${input.quantity}` : `pieces ${from} to ${to} of ${input.quantity}`,
        names[0] ?? '',
        names[1] ? `to ${names[1]}` : '',
        `box ${i + 1} of ${boxes}`,
        facts.dueAt ? `due ${facts.dueAt}` : '',
      ].filter(Boolean),
      address: facts.address,
    };
  });
};

const print = (doc: Doc, { head, lines, address }: Label, x: number, y: number): void => {
  doc.lineWidth(0.2).strokeColor(SOFT).dash(1, { space: 2 }).rect(x * PT, y * PT, LABEL.width * PT, LABEL.height * PT).stroke().undash(); // prettier-ignore
  const width = LABEL.width - 2 * CLEAR - CODE;
  line(doc, x + CLEAR, y + CLEAR, head, { size: 10, bold: true, width });
  lines.forEach((words, i) => line(doc, x + CLEAR, y + CLEAR + 6 + i * LINE, words, { size: 7.5, width }));
  pageCode(doc, x + LABEL.width - CLEAR - CODE, y + (LABEL.height - CODE) / 2, CODE, address, '');
};

/** Labels of a batch: its fixture’s first, then one for the box of each load; as many sheets as they take. */
export const labelSheet = (input: BatchInput, r: BatchReckoning, facts: LabelFacts): Promise<Buffer> => {
  const { doc, done } = start(`${facts.title}: labels`);
  const labels = [...fixtureLabel(input, r, facts), ...boxLabels(input, r, facts)];
  labels.forEach((label, i) => {
    const at = i % (ACROSS * DOWN);
    if (i > 0 && at === 0) doc.addPage();
    print(doc, label, (at % ACROSS) * LABEL.width, Math.floor(at / ACROSS) * LABEL.height);
  });
  doc.end();
  return done;
};
