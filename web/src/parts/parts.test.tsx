import { act, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { MemoryRouter } from 'react-router';
import { reckonBatch, worked, type StationState } from '@bistre/core';
import { testAlphabets } from '../../../core/src/test-alphabets';
import { testBatch, testMachine } from '../../../core/src/test-batch';
import { create } from '../data/store';
import { DOCUMENTS } from '../testing/batch';
import { showPage } from '../testing/page';
import { ask, AskHost } from './ask';
import { BudgetLine } from './BudgetLine';
import { Select } from './fields';
import { useHotkey } from './hotkeys';
import { Reading } from './Reading';
import { refusedField } from './refused';
import { Rule } from './Rule';
import { Steps } from './Steps';
import { TableBox } from './TableBox';

describe('a key of the page', () => {
  const Page = ({ done }: { done: () => void }) => {
    const [value, setValue] = useState('rows');
    useHotkey('c', done);
    return (
      <>
        <input aria-label="name" />
        <div role="radio" aria-checked tabIndex={0} aria-label="radio" />
        <button>elsewhere</button>
        <Select
          label="Filled by"
          value={value}
          options={[
            ['rows', 'rows'],
            ['columns', 'columns'],
          ]}
          onChange={setValue}
        />
      </>
    );
  };
  it('works everywhere but where a key is typed or chooses', async () => {
    const done = jest.fn();
    render(<Page done={done} />);
    const user = userEvent.setup();
    await user.keyboard('c');
    screen.getByText('elsewhere').focus();
    await user.keyboard('c');
    expect(done).toHaveBeenCalledTimes(2);
    for (const name of ['name', 'radio', 'Filled by']) {
      screen.getByLabelText(name).focus();
      await user.keyboard('c');
    }
    expect(done).toHaveBeenCalledTimes(2);
  });

  it('waits while a list is open, in which the same letter chooses', async () => {
    const done = jest.fn();
    render(<Page done={done} />);
    const user = userEvent.setup();
    await user.click(screen.getByLabelText('Filled by'));
    await screen.findByRole('listbox');
    await user.keyboard('c{Enter}');
    await waitFor(() => expect(screen.getByLabelText('Filled by').textContent).toMatch('columns'));
    expect(done).not.toHaveBeenCalled();
  });

  it('leaves the browser’s own keys alone', () => {
    const done = jest.fn();
    render(<Page done={done} />);
    for (const held of ['ctrlKey', 'metaKey', 'altKey']) fireEvent.keyDown(document.body, { key: 'c', [held]: true });
    expect(done).not.toHaveBeenCalled();
  });
});

describe('the budget line', () => {
  const reckoned = (input = testBatch()) =>
    reckonBatch(input, {
      now: new Date('2026-11-20'),
      alphabets: testAlphabets,
      labels: 'readability',
      simulatedPieces: 2000,
    }).budget;
  const budget = reckoned();

  it('says the prediction, the tolerance, the yield and what to halve', () => {
    render(<BudgetLine budget={budget} />);
    const line = screen.getByLabelText('Placement budget').textContent;
    expect(line).toContain(`${budget.predicted.toFixed(2)} of 0.60 mm`);
    expect(line).toContain(`halve ${budget.largest.name}: ${budget.ifHalved.toFixed(2)}`);
    expect(line).toMatch(/\d % of pieces inside/);
  });

  it('is drawn to scale: parts end at the prediction, the mark stands at the tolerance', () => {
    render(<BudgetLine budget={budget} />);
    const svg = screen.getByRole('img', { name: /^Predicted/ });
    const end = Math.max(
      ...[...svg.querySelectorAll('rect')]
        .slice(1)
        .map((r) => Number(r.getAttribute('x')) + Number(r.getAttribute('width'))),
    );
    const mark = Number(svg.querySelector('line')!.getAttribute('x1'));
    // One and a bit of a thousandth is left between two parts.
    expect(Math.abs(end / mark - budget.predicted / 0.6)).toBeLessThan(0.003);
    expect(budget.sources.reduce((s, p) => s + p.share, 0)).toBeCloseTo(1, 6);
  });

  it('opens into every source with its working and what would halve it', async () => {
    render(<BudgetLine budget={budget} />);
    await userEvent.setup().click(screen.getByText('open ▴'));
    const dialog = await screen.findByRole('dialog');
    const rows = within(dialog).getAllByRole('row').slice(1);
    expect(rows).toHaveLength(budget.sources.length);
    budget.sources.forEach((source, i) => {
      const row = rows[i]!.textContent;
      for (const words of [
        source.name,
        source.u.toFixed(3),
        source.worst.toFixed(2),
        `${source.working.formula} = ${source.working.substituted}`,
        source.halve,
      ])
        expect(row).toContain(words);
    });
    expect(dialog.textContent).toContain('Rests on assumptions: walls as they are cut, the machine’s own axes.');
    // As many fills as there are sources: no two alike.
    const fills = rows.map((r) => r.querySelector('td svg > rect')!.getAttribute('fill'));
    expect(new Set(fills).size).toBe(budget.sources.length);
  });

  it('names what it rests on that nobody measured', async () => {
    // Kerf and axes were measured.
    const square = { side: 580, along: 580, across: 580, rising: 820.2, falling: 820.2, rule: 0.25, measuredAt: '2026-11-20T08:00:00.000Z' }; // prettier-ignore
    const machine = { ...testMachine, kerfMeasuredAt: square.measuredAt, square };
    const told = async (pointerOffset: typeof machine.pointerOffset): Promise<string> => {
      const page = render(<BudgetLine budget={reckoned(testBatch({ machine: { ...machine, pointerOffset } }))} />);
      await userEvent.setup().click(screen.getByText('open ▴'));
      const text = (await screen.findByRole('dialog')).textContent;
      page.unmount();
      return text;
    };
    expect(await told(null)).toContain('Rests on assumptions: pointer offset.');
    expect(await told(testMachine.pointerOffset)).not.toContain('Rests on assumptions');
  });
});

describe('the rule', () => {
  const states: StationState[] = [
    { id: 'blank', state: 'proved', waits: '' },
    { id: 'hold', state: 'out of date', waits: '' },
    { id: 'run', state: 'not started', waits: '' },
  ] as never;
  it('names each station with its state in words, and where one stands', () => {
    render(<Rule batchId="b" stations={states} current="hold" />, { wrapper: MemoryRouter });
    const links = screen.getAllByRole('link');
    expect(links.map((l) => l.textContent)).toEqual(['Blankproved', 'Holdout of date', 'Runnot started']);
    expect(links.map((l) => l.getAttribute('aria-current'))).toEqual([null, 'step', null]);
    expect(links.map((l) => l.getAttribute('href'))).toEqual(['/batches/b/blank', '/batches/b/hold', '/batches/b/run']);
    // States are told apart by form, not by colour alone.
    expect(new Set(links.map((l) => l.querySelector('path')!.getAttribute('d'))).size).toBe(3);
  });
});

describe('a reading', () => {
  it('shows its working line by line: formula, values, result, basis', async () => {
    const line = worked('circumference', 'π × D', 'π × 80', '251.33 mm', 'geometry');
    render(<Reading label="circumference" value="251.33" unit="mm" working={[line]} />);
    await userEvent.setup().click(screen.getByRole('button', { name: /, working of circumference$/ }));
    const shown = (await screen.findByRole('dialog')).textContent;
    for (const words of ['π × D', '= π × 80', '251.33 mm', 'geometry']) expect(shown).toContain(words);
  });
  it('tells how it stands by a sign as well as by its colour, and none where it only stands there', () => {
    const sign = (tone: 'plain' | 'inside' | 'attention' | 'out'): string => {
      const page = render(<Reading label="x" value="1.0" tone={tone} />);
      const found = [...page.container.querySelectorAll('.tone')].map((e) => /tone-\w+/.exec(e.className)![0]).join();
      page.unmount();
      return found;
    };
    expect((['plain', 'inside', 'attention', 'out'] as const).map(sign)).toEqual(['', 'tone-inside', 'tone-attention', 'tone-out']); // prettier-ignore
  });
  it('offers no working where there is none', () => {
    render(<Reading label="pieces" value="24" />);
    expect(screen.queryByText('working')).toBeNull();
  });
});

describe('steps', () => {
  const step = {
    id: 'focus',
    station: 'place',
    part: 'do',
    title: 'Focus on the board',
    detail: null,
    takes: null,
  } as const;
  it('show a tick at once and write it', async () => {
    const page = await showPage(DOCUMENTS.pockets, (handle) => (
      <Steps handle={handle} steps={[step as never]} station="place" part="do" />
    ));
    await userEvent.setup().click(screen.getByLabelText(/^Focus on the board/));
    expect(page.acts).toMatchObject([
      {
        method: 'PUT',
        path: expect.stringContaining('/ticks/'),
        input: { params: { step: 'focus' }, body: { done: true } },
      },
    ]);
  });
  it('say a caution once, however many steps carry it', async () => {
    const careful = ['a', 'b'].map((id) => ({ ...step, id, title: id, caution: 'The beam burns.' }));
    await showPage(DOCUMENTS.pockets, (handle) => (
      <Steps handle={handle} steps={careful as never} station="place" part="do" />
    ));
    expect(screen.getAllByText('The beam burns.')).toHaveLength(1);
  });
});

describe('a table that is pasted', () => {
  const read = (text: string) =>
    /^\d/.test(text)
      ? ({ ok: true, value: text.split(/\s+/).map(Number) } as const)
      : ({ ok: false, problem: { code: 'x', message: 'Line 1: “x” is not a number.' } } as const);
  const Box = ({ onRead }: { onRead: (v: number[]) => void }) => (
    <TableBox draft="t" label="A line each" example="1 2" read={read} onRead={onRead} />
  );
  it('is taken whole or named by line, and survives a reload', async () => {
    const onRead = jest.fn();
    const first = render(<Box onRead={onRead} />);
    const user = userEvent.setup();
    await user.type(screen.getByLabelText('A line each'), 'x 2');
    await user.click(screen.getByText('Take the table'));
    expect(screen.getByText('Line 1: “x” is not a number.')).toBeTruthy();
    first.unmount();
    render(<Box onRead={onRead} />);
    const box = screen.getByLabelText<HTMLTextAreaElement>('A line each');
    expect(box.value).toBe('x 2');
    await user.clear(box);
    await user.type(box, '1 2');
    await user.click(screen.getByText('Take the table'));
    expect(onRead).toHaveBeenCalledWith([1, 2]);
    expect(box.value).toBe('');
    expect(sessionStorage.getItem('bistre.table.t')).toBeNull();
  });
});

describe('a question', () => {
  it('is answered by its words; left alone it is a no', async () => {
    render(<AskHost />);
    const user = userEvent.setup();
    let answer: Promise<boolean>;
    act(() => {
      answer = ask('Take it back?', 'Another made it.', 'Take it back');
    });
    await user.click(await screen.findByText('Take it back'));
    expect(await answer!).toBe(true);
    act(() => {
      answer = ask('Again?', '', 'Yes');
    });
    await user.keyboard('{Escape}');
    expect(await answer!).toBe(false);
    // A second question takes the place of the first, which is a no.
    let second: Promise<boolean>;
    act(() => {
      answer = ask('One?', '', 'Yes');
      second = ask('Two?', '', 'Of course');
    });
    expect(await answer!).toBe(false);
    await user.click(await screen.findByText('Of course'));
    expect(await second!).toBe(true);
  });
});

describe('what several parts look at', () => {
  it('is the same for all of them, and changes with one', () => {
    const count = create(1);
    const Look = () => <i>{count.use()}</i>;
    render(
      <>
        <Look />
        <Look />
      </>,
    );
    act(() => count.set(2));
    expect(screen.getAllByText('2')).toHaveLength(2);
    expect(count.get()).toBe(2);
  });
});

describe('a form that refuses', () => {
  it('says which field first, once, and goes there', () => {
    const { container } = render(
      <form>
        <label htmlFor="a">Kerf</label>
        <input id="a" aria-invalid="false" />
        <label htmlFor="b">Nozzle gap</label>
        <input id="b" aria-invalid="true" aria-describedby="n" />
        <p id="n">Nozzle gap must be a number between 0 and 500 mm.</p>
      </form>,
    );
    expect(refusedField(container)).toBe('Nothing was saved. Nozzle gap must be a number between 0 and 500 mm.');
    expect(document.activeElement?.id).toBe('b');
    container.querySelector('#n')!.textContent = 'Empty: the last value is kept.';
    expect(refusedField(container)).toBe('Nothing was saved. Nozzle gap: Empty: the last value is kept.');
    container.querySelector('#b')!.setAttribute('aria-invalid', 'false');
    expect(refusedField(container)).toBeNull();
  });
});
