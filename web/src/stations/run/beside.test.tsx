import { screen, within } from '@testing-library/react';
import { loadedPieces, testBatch } from '../../../../core/src/test-batch';
import { EXAMPLES } from '../../../../core/src/test-ways';
import { aimed } from '../../testing/aim';
import { documentOf } from '../../testing/batch';
import { showStation } from '../../testing/station';

/** Done pieces with what was measured on them. */
const done = (dx: readonly number[], dy: readonly number[]) => loadedPieces(dx.map((_, i) => i + 1)).map((p, i) => ({ ...p, state: 'done' as const, dx: dx[i]!, dy: dy[i]!, yaw: 0 })); // prettier-ignore
const table = () => within(screen.getByText('the budget beside what the pieces say').closest('details')!);

describe('the budget beside what the pieces say', () => {
  it('names the sources that show alike in all, and those that show from piece to piece', async () => {
    await showStation(documentOf(aimed(testBatch({ firstApproved: true, pieces: done([0.1, -0.1, 0.05, -0.05], [0, 0.1, -0.1, 0]) }))), 'run'); // prettier-ignore
    const rows = table().getAllByRole('row').slice(1).map((row) => row.textContent); // prettier-ignore
    expect(rows[0]).toMatch(/^shift of all.*pointer/);
    expect(rows[1]).toMatch(/^spread.*float/);
    expect(rows[0]).toContain('as expected');
    expect(rows[1]).toMatch(/surely between 0\.\d+ and \d\.\d+/);
  });

  it('says what to look at where all are off alike, or scatter, by more than it knows', async () => {
    await showStation(documentOf(aimed(testBatch({ firstApproved: true, pieces: done([5, 1, 5, 1, 5, 1], [1, 5, 1, 5, 1, 5]) }))), 'run'); // prettier-ignore
    const text = screen.getByText('the budget beside what the pieces say').closest('details')!.textContent;
    expect(text).toContain('All pieces are off alike by more than marks and pointer explain: look first at');
    expect(text).toContain('Something scatters that the budget does not know, or knows as smaller: look first at');
  });

  it('of one piece has no spread', async () => {
    await showStation(documentOf(aimed(testBatch({ firstApproved: true, pieces: done([0.1], [0]) }))), 'run');
    expect(table().getAllByRole('row').at(-1)!.textContent).toContain('one piece has none');
  });
});

describe('the one-sided rim of a print', () => {
  it('is told by the side on which it is narrow, and by what would move it', async () => {
    await showStation(documentOf(aimed({ ...EXAMPLES.sheet, firstApproved: true, pieces: done([0.45, 0.45, 0.45], [0, 0, 0]) })), 'run'); // prettier-ignore
    expect(document.body.textContent).toContain('As the sheet lies the rim is 0.45 mm narrower at the left than drawn and as much wider at the right.'); // prettier-ignore
    expect(document.body.textContent).toContain('moving the cut makes both sides alike');
  });

  it('is nothing of work that is engraved', async () => {
    await showStation(documentOf(aimed(testBatch({ firstApproved: true, pieces: done([0.45, 0.45], [0, 0]) }))), 'run');
    expect(document.body.textContent).not.toContain('the rim is');
  });
});
