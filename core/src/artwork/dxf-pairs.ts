import { fail, ok, type Result } from '../result';

/** One group of a DXF: a code and its value [DXF reference: group codes]. */
export interface Pair {
  readonly code: number;
  readonly value: string;
  readonly line: number;
}

/** What stands between two groups of code 0. */
export interface Entity {
  readonly type: string;
  readonly line: number;
  readonly pairs: readonly Pair[];
}

/** The first value of a group code as a number. */
export const valueOf = (e: Pick<Entity, 'pairs'>, code: number, otherwise = 0): number => {
  const found = e.pairs.find((p) => p.code === code);
  return found ? Number(found.value) : otherwise;
};

/** The first value of a group code as it stands. */
export const wordOf = (e: Pick<Entity, 'pairs'>, code: number): string | undefined => e.pairs.find((p) => p.code === code)?.value; // prettier-ignore

/** Groups of a text DXF; a line that is no group code, or a file cut short, is named. */
export const readPairs = (text: string): Result<readonly Pair[]> => {
  const rows = text.split(/\r\n|\n|\r/);
  const pairs: Pair[] = [];
  for (let i = 0; i + 1 < rows.length; i += 2) {
    const code = Number(rows[i]!.trim());
    if (!Number.isInteger(code))
      return fail('unreadable-dxf', `Line ${i + 1}: “${rows[i]!.trim().slice(0, 30)}” is not a DXF group code.`, `line ${i + 1}`); // prettier-ignore
    pairs.push({ code, value: rows[i + 1]!.trim(), line: i + 1 });
  }
  if (!pairs.some((p) => p.code === 0 && p.value === 'EOF'))
    return fail('truncated-dxf', `The file ends at line ${rows.length} before its end mark. It is cut short; save it again.`, `line ${rows.length}`); // prettier-ignore
  return ok(pairs);
};

/** The entities of a section, in order; none where the file has no such section. */
export const sectionOf = (pairs: readonly Pair[], name: string): readonly Entity[] | null => {
  const start = pairs.findIndex((p, i) => p.code === 2 && p.value === name && pairs[i - 1]?.value === 'SECTION');
  if (start < 0) return null;
  const out: Entity[] = [];
  for (let i = start + 1; i < pairs.length;) {
    const head = pairs[i]!;
    if (head.code === 0 && head.value === 'ENDSEC') break;
    let end = i + 1;
    while (end < pairs.length && pairs[end]!.code !== 0) end += 1;
    if (head.code === 0) out.push({ type: head.value, line: head.line, pairs: pairs.slice(i + 1, end) });
    i = end;
  }
  return out;
};
