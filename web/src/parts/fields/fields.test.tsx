import { act, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { z } from 'zod';
import { inRange, line, oneOf, yesNo } from '@bistre/contract';
import { DraftFields, Field, FieldList, firstError, LiveFields, useDraftForm, usePart, Within } from '.';

const schema = z
  .object({
    name: line('Name', 1, 12),
    size: z.object({ length: inRange('Length', 1, 500, 'mm'), radius: inRange('Corner radius', 0, 250, 'mm') }),
    floor: inRange('To the floor', 0, 300, 'mm', { empty: 'Empty: it stays.' }).nullable(),
    corner: oneOf('Zero corner', { 'front-left': 'front left', 'back-left': 'back left' }),
    arcs: yesNo('Arcs as G2 and G3'),
    rollers: z
      .array(inRange('Roller', 0, 100, 'mm'))
      .min(1)
      .max(3),
  })
  .refine((v) => v.size.radius <= v.size.length / 2, {
    path: ['size', 'radius'],
    message: 'The corner radius is more than half the length.',
  });
type Value = z.infer<typeof schema>;
const START: Value = {
  name: 'Tag',
  size: { length: 60, radius: 3 },
  floor: 90,
  corner: 'front-left',
  arcs: false,
  rollers: [10],
};

const All = () => (
  <>
    <Field at="name" />
    <Within at="size">
      <Field at="length" />
      <Field at="radius" />
    </Within>
    <Field at="floor" />
    <Field at="corner" />
    <Field at="corner" open label="Corner, open" />
    <Field at="arcs" />
    <FieldList
      at="rollers"
      one="roller"
      least={1}
      most={3}
      fresh={() => 50}
      row={(i) => <Field at="" label={`Roller ${i + 1}`} />}
    />
  </>
);

/** A live form over a value that the page keeps, as a station does. */
const Live = ({ seen }: { seen: (value: Value) => void }) => {
  const [value, setValue] = useState(START);
  return (
    <LiveFields
      schema={schema}
      value={value}
      onChange={(next) => {
        seen(next);
        setValue(next);
      }}
    >
      <All />
    </LiveFields>
  );
};
const live = () => {
  const seen = jest.fn((_value: Value) => undefined);
  render(<Live seen={seen} />);
  return { seen, user: userEvent.setup(), last: () => seen.mock.calls.at(-1)?.[0] };
};
const type = async (user: ReturnType<typeof userEvent.setup>, label: string, text: string): Promise<HTMLElement> => {
  const input = screen.getByLabelText(label);
  await user.clear(input);
  if (text) await user.type(input, text);
  return input;
};

describe('fields that take effect as they are typed', () => {
  it('hand on the whole value, in the unit that is stored', async () => {
    const { user, last } = live();
    await type(user, 'Length', '2 in');
    await waitFor(() => expect(last()).toEqual({ ...START, size: { length: 50.8, radius: 3 } }));
    expect(screen.getByText('50.80 mm = 2.0000 in')).toBeTruthy();
  });

  it('keep what they refuse, beside the reason, and hand nothing on', async () => {
    const { user, seen, last } = live();
    const input = await type(user, 'Length', '700');
    expect((input as HTMLInputElement).value).toBe('700');
    expect(input.getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByText('Length must be a number between 1 and 500 mm.')).toBeTruthy();
    // 7 and 70 were taken on the way; 700 was not.
    await waitFor(() => expect(last()?.size.length).toBe(70));
    expect(seen.mock.calls.some(([v]) => v.size.length === 700)).toBe(false);
  });

  it('say what is wrong beside others at the field that the contract names', async () => {
    const { user, seen, last } = live();
    await type(user, 'Length', '5');
    expect(await screen.findByText('The corner radius is more than half the length.')).toBeTruthy();
    expect(seen).not.toHaveBeenCalled();
    await type(user, 'Corner radius', '2');
    await waitFor(() => expect(last()?.size).toEqual({ length: 5, radius: 2 }));
    expect(screen.queryByText('The corner radius is more than half the length.')).toBeNull();
  });

  it('take nothing for a value where the contract has one for it, and the last value elsewhere', async () => {
    const { user, last } = live();
    await type(user, 'To the floor', '');
    await waitFor(() => expect(last()?.floor).toBeNull());
    expect(screen.getByText('Empty: it stays.')).toBeTruthy();
    const radius = await type(user, 'Corner radius', '');
    await user.tab();
    expect(screen.getByText('Empty: the last value is kept.')).toBeTruthy();
    expect(radius.getAttribute('aria-invalid')).toBe('true');
    expect(last()?.size.radius).toBe(3);
  });

  it('choose by key, by touch and by words', async () => {
    const { user, last } = live();
    await user.click(screen.getByLabelText('Zero corner'));
    await user.click(await screen.findByRole('option', { name: 'back left' }));
    await waitFor(() => expect(last()?.corner).toBe('back-left'));
    await user.click(screen.getByRole('radio', { name: 'front left' }));
    await waitFor(() => expect(last()?.corner).toBe('front-left'));
    await user.click(screen.getByLabelText('Arcs as G2 and G3'));
    await waitFor(() => expect(last()?.arcs).toBe(true));
    screen.getByLabelText('Arcs as G2 and G3').focus();
    await user.keyboard(' ');
    await waitFor(() => expect(last()?.arcs).toBe(false));
  });

  it('keep lists between their least and their most', async () => {
    const { user, last } = live();
    expect(screen.queryByLabelText('Take out roller 1')).toBeNull();
    await user.click(screen.getByText('add a roller'));
    await type(user, 'Roller 2', '77');
    await waitFor(() => expect(last()?.rollers).toEqual([10, 77]));
    await user.click(screen.getByText('add a roller'));
    expect(screen.queryByText('add a roller')).toBeNull();
    await user.click(screen.getByLabelText('Take out roller 1'));
    await waitFor(() => expect(last()?.rollers).toEqual([77, 50]));
    expect((screen.getByLabelText('Roller 1') as HTMLInputElement).value).toBe('77');
  });
});

describe('what is wrong where no field shows it', () => {
  it('does not hold back what is typed: the server names the place', async () => {
    const seen = jest.fn();
    render(
      <LiveFields schema={schema} value={{ ...START, name: '' }} onChange={seen}>
        <Field at="size.length" />
      </LiveFields>,
    );
    await type(userEvent.setup(), 'Length', '75');
    await waitFor(() => expect(seen).toHaveBeenLastCalledWith({ ...START, name: '', size: { length: 75, radius: 3 } }));
  });
});

describe('a field that another changed', () => {
  it('shows what is stored now, unless it is being typed in', async () => {
    const Shared = () => {
      const [value, setValue] = useState(START);
      return (
        <LiveFields schema={schema} value={value} onChange={setValue}>
          <Field at="size.length" />
          <button onClick={() => setValue({ ...value, size: { length: 44, radius: 3 } })}>another</button>
        </LiveFields>
      );
    };
    render(<Shared />);
    const user = userEvent.setup();
    await user.click(screen.getByText('another'));
    await waitFor(() => expect((screen.getByLabelText('Length') as HTMLInputElement).value).toBe('44'));
  });
});

describe('a form that is saved by a button', () => {
  const Draft = ({ saved, refused }: { saved: (v: Value) => void; refused: (why: string) => void }) => {
    const form = useDraftForm(schema, START);
    return (
      <>
        <DraftFields form={form} schema={schema}>
          <All />
          <Shown />
        </DraftFields>
        <button onClick={() => void form.handleSubmit(saved, (errors) => refused(firstError(errors)))()}>Save</button>
      </>
    );
  };
  const Shown = () => {
    const [size] = usePart<Value['size']>('size');
    return <output>{`${size.length} × ${size.radius}`}</output>;
  };

  it('shows what was typed at once, and saves it as the server takes it', async () => {
    const saved = jest.fn();
    render(<Draft saved={saved} refused={jest.fn()} />);
    const user = userEvent.setup();
    await type(user, 'Length', '80');
    await type(user, 'Name', ' Fob ');
    expect(screen.getByRole('status').textContent).toBe('80 × 3');
    await user.click(screen.getByText('Save'));
    await waitFor(() => expect(saved).toHaveBeenCalledTimes(1));
    expect(saved.mock.calls[0]![0]).toEqual({ ...START, name: 'Fob', size: { length: 80, radius: 3 } });
  });

  it('complains of nothing that nobody typed in yet', async () => {
    const Empty = () => {
      const form = useDraftForm(schema, { ...START, name: '' });
      return (
        <DraftFields form={form} schema={schema}>
          <All />
        </DraftFields>
      );
    };
    render(<Empty />);
    await type(userEvent.setup(), 'Length', '80');
    await new Promise((done) => setTimeout(done, 50));
    expect(screen.queryByText('Name is empty.')).toBeNull();
  });

  it('is not saved while the whole is wrong, and says what is', async () => {
    const saved = jest.fn();
    const refused = jest.fn();
    render(<Draft saved={saved} refused={refused} />);
    const user = userEvent.setup();
    await type(user, 'Corner radius', '40');
    await user.click(screen.getByText('Save'));
    await waitFor(() => expect(refused).toHaveBeenCalledWith('The corner radius is more than half the length.'));
    expect(saved).not.toHaveBeenCalled();
  });
});

describe('a value that comes back a while after it was handed on', () => {
  const places = z.object({
    used: z.array(z.object({ x: inRange('From the end', 0, 100, 'mm'), y: inRange('From the guide', 0, 100, 'mm') })),
    gap: inRange('Gap', 0, 100, 'mm'),
  });
  type Places = z.infer<typeof places>;
  const show = (after: number) => {
    const told: Places[] = [];
    let setFromOutside: (value: Places) => void = () => undefined;
    const Slow = () => {
      const [value, setValue] = useState<Places>({ used: [{ x: 1, y: 2 }], gap: 5 });
      setFromOutside = setValue;
      return (
        <LiveFields
          schema={places}
          value={value}
          onChange={(next) => {
            told.push(next);
            setTimeout(() => setValue(next), after);
          }}
        >
          <Field at="gap" />
          <FieldList
            at="used"
            one="place"
            fresh={() => ({ x: 40, y: 5 })}
            row={() => (
              <>
                <Field at="x" />
                <Field at="y" />
              </>
            )}
          />
        </LiveFields>
      );
    };
    render(<Slow />);
    return { told, user: userEvent.setup(), outside: (value: Places) => act(() => setFromOutside(value)) };
  };
  const gap = (): HTMLInputElement => screen.getByLabelText('Gap');

  it.each([0, 40])('loses nothing that is typed meanwhile: %d ms', async (after) => {
    const { told, user } = show(after);
    await user.clear(gap());
    await user.type(gap(), '12.345');
    await act(() => new Promise((done) => setTimeout(done, 4 * after + 20)));
    expect([gap().value, told.at(-1)!.gap]).toEqual(['12.345', 12.345]);
  });

  it.each([0, 40])('has a row that was taken out gone, now and after the next change: %d ms', async (after) => {
    const { told, user } = show(after);
    await user.click(screen.getByText('add a place'));
    await user.click(screen.getByLabelText('Take out place 2'));
    await user.click(screen.getByLabelText('Take out place 1'));
    await act(() => new Promise((done) => setTimeout(done, 4 * after + 20)));
    await user.type(gap(), '0');
    await act(() => new Promise((done) => setTimeout(done, 4 * after + 20)));
    expect(told.at(-1)).toStrictEqual({ used: [], gap: 50 });
    // What was handed on stays as it was then.
    expect(told[0]).toStrictEqual({ used: [{ x: 1, y: 2 }, { x: 40, y: 5 }], gap: 5 }); // prettier-ignore
    expect(screen.queryByLabelText('From the end')).toBeNull();
  });

  it('shows what somebody else changed it to', async () => {
    const { told, user, outside } = show(0);
    await user.type(gap(), '1');
    await waitFor(() => expect(told.at(-1)!.gap).toBe(51));
    // While it is typed in it keeps what is typed.
    await user.tab();
    outside({ used: [{ x: 7, y: 8 }], gap: 33 });
    await waitFor(() => expect(gap().value).toBe('33'));
    expect(screen.getByLabelText<HTMLInputElement>('From the guide').value).toBe('8');
  });
});
